"""Footage: the files of this breakdown."""
