"""What can go wrong on the shelf."""

from __future__ import annotations

from chapto.errors import ChaptoError


class ShelfError(ChaptoError):
    """Something on the shelf that can't be read, kept or done; its text says so in a sentence."""
