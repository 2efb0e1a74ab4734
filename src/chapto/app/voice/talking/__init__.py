"""Talking while watching: the take, and what became of it."""
