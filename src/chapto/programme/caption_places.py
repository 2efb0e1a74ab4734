"""Where captions stand that a viewer switches on: at the foot, or above while letters are there.

A player draws them, not Chapto. W3C WebVTT has its defaults: letters of 5 % of the picture's height, centred, in rows
from the foot up; `line` puts a cue elsewhere.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator

from chapto.document.people import Side
from chapto.programme.placed import Caption
from chapto.programme.programme import Programme

ABOVE, UNDER_CONTROL = 14, 26
"""Per cent of the picture's height at which what does not stand at the foot begins: under the score, or under the strip
of control where there is one."""
LETTER = 0.05
"""Height of a caption's letters (W3C WebVTT: 5 % of the picture's height)."""
ROW = 1.2
"""Height of a row by that of its letters: what browsers take where nothing else is said (common practice)."""
MARGIN = 0.05
"""What players leave free at the foot at most (common practice)."""
ADVANCE = 0.52
"""Width of a letter by its height, as the mean of a line in a plain face (common practice)."""
EDGE = 0.05
"""Where letters of the picture begin, left and right (EBU R 95)."""

Box = tuple[float, float, float, float]


def raised_captions(programme: Programme, aspect: float, *, control: bool = False) -> dict[int, int]:
    """The numbers of captions that would lie over a line of care, a label or a name at the foot. With each stands at
    how many per cent of the picture's height it begins instead. The picture is `aspect` times as wide as high;
    `control` says whether the strip of control is shown."""
    letters = sorted(_at_the_foot(programme, aspect))
    starts = [x[0] for x in letters]
    longest = max((end - start for start, end, _, _ in letters), default=0)
    line = UNDER_CONTROL if control else ABOVE
    found = {}
    for number, caption in enumerate(programme.captions):
        start, end = (float(at * programme.fps) for at in (caption.start, caption.end))
        meanwhile = letters[bisect_left(starts, start - longest) : bisect_left(starts, end)]
        if meanwhile:
            left, _, right, _ = caption_zone(caption, aspect)
            if any(z > start and x < right and y > left for _, z, x, y in meanwhile):
                found[number] = line
    return found


def caption_zone(caption: Caption, aspect: float, line: int | None = None) -> Box:
    """Left, top, right and foot of a caption as shares of the picture's sides, at the foot or from `line` per cent on;
    at the foot with what players leave free there."""
    rows = caption.text.split("\n")
    wide = (max(map(len, rows)) + 1) * ADVANCE * LETTER / aspect
    high = len(rows) * ROW * LETTER
    left, right = max(0.5 - wide / 2, 0.0), min(0.5 + wide / 2, 1.0)
    if line is not None:
        return left, line / 100, right, line / 100 + high
    return left, 1 - MARGIN - high, right, 1.0


def _at_the_foot(programme: Programme, aspect: float) -> Iterator[tuple[int, int, float, float]]:
    """(from frame, to frame, left, right) of letters there, the sides as shares: at least as wide as they are."""
    for care in programme.cautions:
        yield care.start, care.end, 0.0, 1.0
    for label in programme.labels:
        yield label.start, label.end, EDGE, EDGE + (0.08 + 0.024 * len(label.text)) / aspect
    for name in programme.names:
        wide = (0.11 + max(0.03 * len(name.name), 0.024 * len(name.under))) / aspect
        if name.side is Side.SECOND:
            yield name.start, name.end, 1 - EDGE - wide, 1 - EDGE
        else:
            yield name.start, name.end, EDGE, EDGE + wide
