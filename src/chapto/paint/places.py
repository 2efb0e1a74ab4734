"""Where pictures lie in the frame when there are two: a small one at the right, or each in its half."""

from __future__ import annotations

from chapto.programme.programme import PlacedInset

Place = tuple[int, int, int, int]
"""Left, top, width, height in pixels, all even."""
SMALL, SMALL_TOP = 0.34, 0.46
"""Share of the frame's sides a small picture takes, and of its height above it: clear of labels, cautions and score."""
SAFE = 0.05
"""Lettering stays inside the middle 90 % of width and height (EBU R 95, SMPTE ST 2046-1)."""


def even(value: float) -> int:
    """The nearest even whole number."""
    return round(value / 2) * 2


def first_place(size: tuple[int, int], inset: PlacedInset | None) -> Place:
    """Where the first picture lies in a frame of `size` (width, height)."""
    width, height = size
    return (0, 0, even(width / 2 - 1), height) if inset is not None and inset.beside else (0, 0, width, height)


def second_place(size: tuple[int, int], inset: PlacedInset) -> Place:
    """Where the second picture lies."""
    width, height = size
    if inset.beside:
        left = even(width / 2 + 1)
        return left, 0, width - left, height
    wide, high = even(width * SMALL), even(height * SMALL)
    return even(width * (1 - SAFE)) - wide, even(height * SMALL_TOP), wide, high


NARROW = 1.25
"""Letters of a picture that is higher than wide are those of one `NARROW` times as high as it is wide."""


def lettered(size: tuple[int, int]) -> tuple[int, int]:
    """The size of picture by which letters and marks are as large as they are: in a narrow one they would not fit
    otherwise."""
    return size[0], min(size[1], even(size[0] * NARROW))
