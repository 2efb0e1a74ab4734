"""What can go wrong on the shelf."""

from __future__ import annotations

from chapto.errors import ChaptoError


class ShelfError(ChaptoError):
    """Something on the shelf that can't be read, kept or done; its text says so in a sentence."""


class DamagedBook(ShelfError):
    """What the creator decided about the shelf can't be read. It is never written over: it has to be put aside."""
