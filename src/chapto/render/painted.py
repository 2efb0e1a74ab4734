"""What is painted over the pictures of a programme and where it lies, with what it should keep clear of: heads that are
marked, and boards of the footage."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.document.joints import Joint
from chapto.errors import Cancelled
from chapto.media.boards import Boxes, find_boards
from chapto.paint.lettering import told
from chapto.paint.mark_places import Shown
from chapto.paint.overlay import Overlay
from chapto.paint.photos import Photos
from chapto.programme.caption_places import Box
from chapto.programme.programme import Programme
from chapto.review.measured import Lying

EVERY = 6
"""Frames between two looks."""
LEAST = 0.01
"""Share of the picture's sides that a board takes at least: of less nothing is read."""
BOARD = "board"
BOARDS = 0.8
"""Share of the work that finding boards is, the first time."""
Heads = tuple[tuple[int, float, float], ...]


@dataclass
class Painted:
    """Something painted over some frames, with the height of its letters in pixels."""

    lying: Lying
    high: float
    frames: list[int] = field(default_factory=list)


def painted_over(
    b: Breakdown,
    programme: Programme,
    places: dict[str, Path],
    photos: Photos | None = None,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> tuple[list[Painted], Heads, tuple[Lying, ...]]:
    """Everything with letters on it, the heads that are marked, and the boards on the screen.

    Raises `MediaError` where footage can't be read and `Cancelled` when stopped.
    """
    size = b.format.width, b.format.height
    overlay = Overlay(b, programme, size, photos)
    boards = _boards(b, programme, places, lambda share: progress(BOARDS * share), cancelled)
    letters, plates = _Spans(), _Spans()
    heads: list[tuple[int, float, float]] = []
    for frame in range(0, programme.frames, EVERY):
        if cancelled():
            raise Cancelled
        if frame % 48 == 0:
            progress(BOARDS + (1 - BOARDS) * frame / programme.frames)
        for box in overlay.boxes(frame):
            words = told(box.image)
            if words is not None:
                key = f"{box.key.split('/')[0]}/{words[0]}"
                w, h = box.image.width(), box.image.height()
                shares = box.x / size[0], box.y / size[1], (box.x + w) / size[0], (box.y + h) / size[1]
                letters.add(Lying(key, frame, frame + 1, shares), words[1])
        letters.end(frame)
        for shown in overlay.marks.pictures(frame):
            heads += [(frame, x / size[0], y / size[1]) for x, y in _heads(b, programme, overlay, shown)]
            for box_of_file in boards.get(shown.footage.id, ()):
                seen = _seen(shown, box_of_file, size)
                if seen is not None:
                    plates.add(Lying(BOARD, frame, frame + 1, seen, letters=False), 0.0)
        plates.end(frame)
    return letters.all(), tuple(heads), tuple(x.lying for x in plates.all())


def _boards(
    b: Breakdown,
    programme: Programme,
    places: dict[str, Path],
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> dict[str, Boxes]:
    """The boards in each file that is shown, by its id."""
    files = [c for c in b.footage if c.id in programme.files_shown and c.id in places]
    found: dict[str, Boxes] = {}
    for c in files:
        so_far = partial(_part, progress, len(found), len(files))
        found[c.id] = find_boards(places[c.id], c.fingerprint, progress=so_far, cancelled=cancelled)
    return found


def _part(progress: Callable[[float], None], done: int, of: int, share: float) -> None:
    progress((done + share) / of)


class _Spans:
    """What lies at one place in one look after another is one thing."""

    def __init__(self) -> None:
        self._open: dict[tuple[str, Box], Painted] = {}
        self._ended: list[Painted] = []

    def add(self, lying: Lying, high: float) -> None:
        at = lying.key, lying.box
        known = self._open.get(at)
        if known is None:
            self._open[at] = Painted(lying, high, [lying.start])
            return
        known.lying = Lying(lying.key, known.lying.start, lying.end, lying.box, lying.letters)
        known.frames.append(lying.start)

    def end(self, frame: int) -> None:
        """A look is over: what was not in it has gone."""
        gone = [at for at, x in self._open.items() if x.frames[-1] != frame]
        self._ended += [self._open.pop(at) for at in gone]

    def all(self) -> list[Painted]:
        return [*self._ended, *self._open.values()]


def _heads(b: Breakdown, programme: Programme, overlay: Overlay, shown: Shown) -> Iterator[tuple[float, float]]:
    """Where heads are, in pixels: those that are followed, and those of figures."""
    for a in b.anchors:
        if a.joint is not Joint.HEAD or a.footage != shown.footage.id or a.id not in programme.readings.tracks:
            continue
        if a.keys[0].mat <= shown.mat <= a.keys[-1].mat:
            place = programme.readings.tracks[a.id].place(shown.seconds)
            if place is not None and not place.hidden and place.doubt < 1:
                at = shown.lens.point(place.x, place.y)
                yield at.x(), at.y()
    for figure in b.figures:
        if figure.footage == shown.footage.id:
            head = overlay.marks.joints(figure, shown).get(Joint.HEAD)
            if head is not None:
                yield head.x(), head.y()


def _seen(shown: Shown, board: Box, size: tuple[int, int]) -> Box | None:
    """Where a board of the file lies on the screen, as shares; None where it is outside, or too small."""
    corners = [shown.lens.point(x, y) for x in board[::2] for y in board[1::2]]
    area = shown.lens.seen()
    left, right = max(min(c.x() for c in corners), area.left()), min(max(c.x() for c in corners), area.right())
    top, foot = max(min(c.y() for c in corners), area.top()), min(max(c.y() for c in corners), area.bottom())
    found = left / size[0], top / size[1], right / size[0], foot / size[1]
    return found if found[2] - found[0] > LEAST and found[3] - found[1] > LEAST else None
