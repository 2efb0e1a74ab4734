"""Voices and sound devices."""
