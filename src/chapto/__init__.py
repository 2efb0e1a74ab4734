"""Chapto turns grappling footage into narrated breakdown videos."""

__version__ = "0.1.0"
