"""The keys of the lacing: everything the pointer does there."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Protocol

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent

from chapto.app.axis import Axis
from chapto.app.lacing.drags import Drag, EdgeDrag, Edit, LaceDrag, PinDrag, SectionDrag
from chapto.app.lacing.hits import Hits
from chapto.app.lacing.model import LacingModel

KEYS = (
    ("+  −  0  PageUp", "lacing: closer, wider, whole, along"),
    (", .   [ ]   ( )", "lacing: next tie, edge of a band, moment"),
    ("Alt+Left  Alt+Right", "pull at what is grabbed there"),
    ("Delete", "untie it, or give it back to the fit"),
)


class KeyedLacing(Protocol):
    """What the keys need of the lacing. `grabbed` is what they pull at."""

    axis: Axis
    model: LacingModel
    grabbed: Drag | None

    def width(self) -> int: ...

    def zoom(self, factor: float) -> None: ...

    def show_all(self) -> None: ...

    def refresh(self) -> None: ...

    def hits(self) -> Hits: ...

    def grab_for_keys(self, drag: Drag | None) -> None: ...

    def place_of_playhead(self) -> float: ...

    def make(self, edit: Edit | None, *, merge: str = "") -> bool: ...

    def untie(self, beat: str, word: int) -> None: ...


class LacingKeys:
    """Keeps what the keys have grabbed: a tie, the edge of a band, or a moment."""

    def __init__(self, lacing: KeyedLacing) -> None:
        self._lacing = lacing

    def pressed(self, event: QKeyEvent) -> bool:
        """Whether the key means something here, and did it."""
        lacing = self._lacing
        alt = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        acts: dict[int, Callable[[], object]] = {
            Qt.Key.Key_Plus: lambda: lacing.zoom(1.4),
            Qt.Key.Key_Equal: lambda: lacing.zoom(1.4),
            Qt.Key.Key_Minus: lambda: lacing.zoom(1 / 1.4),
            Qt.Key.Key_0: lacing.show_all,
            Qt.Key.Key_PageUp: lambda: lacing.axis.pan(-lacing.width() * 0.8),
            Qt.Key.Key_PageDown: lambda: lacing.axis.pan(lacing.width() * 0.8),
            Qt.Key.Key_Comma: lambda: self._next(self._laces(), -1),
            Qt.Key.Key_Period: lambda: self._next(self._laces(), 1),
            Qt.Key.Key_BracketLeft: lambda: self._next(self._edges(), -1),
            Qt.Key.Key_BracketRight: lambda: self._next(self._edges(), 1),
            Qt.Key.Key_ParenLeft: lambda: self._next(self._pins(), -1),
            Qt.Key.Key_ParenRight: lambda: self._next(self._pins(), 1),
            Qt.Key.Key_Delete: self._let_go,
        }
        if alt:
            acts = {Qt.Key.Key_Left: lambda: self._pull(-1), Qt.Key.Key_Right: lambda: self._pull(1)}
        act = acts.get(event.key())
        if act is None:
            return False
        act()
        lacing.refresh()
        return True

    def take_up_again(self) -> None:
        """Grab the same thing after the programme was compiled anew; nothing if it is gone."""
        grabbed = self._lacing.grabbed
        same: list[Drag] = []
        match grabbed:
            case LaceDrag(_, lace):
                same = [d for d in self._laces() if d.lace.moment == lace.moment and d.lace.beat == lace.beat]
            case EdgeDrag(_, _, band):
                same = [d for d in self._edges() if (d.band.beat, d.band.word) == (band.beat, band.word)]
                same = [d for d in same if isinstance(d, EdgeDrag) and abs(d.band.mat_in - band.mat_in) < 0.02] or same
            case PinDrag(_, pin):
                same = [d for d in self._pins() if d.pin.moment == pin.moment]
        if grabbed is not None:
            self._lacing.grabbed = same[0] if same else None

    def _laces(self) -> list[LaceDrag]:
        return [LaceDrag(self._lacing.model, lace) for lace in self._lacing.model.laces]

    def _edges(self) -> list[EdgeDrag]:
        b = self._lacing.hits().b
        return [EdgeDrag(self._lacing.model, b, band) for band in self._lacing.model.bands if EdgeDrag.can(b, band)]

    def _pins(self) -> list[PinDrag]:
        pins = sorted(self._lacing.model.pins, key=lambda p: p.place)
        return [PinDrag(self._lacing.model, pin) for pin in pins]

    def _next(self, drags: Sequence[Drag], by: int) -> None:
        """Grab the next of a kind after what is grabbed, or after the playhead."""
        if not drags:
            return
        grabbed = self._lacing.grabbed
        if grabbed is not None and type(grabbed) is type(drags[0]):
            now = next((i for i, d in enumerate(drags) if abs(d.place - grabbed.place) < 1e-6), -1)
            self._lacing.grab_for_keys(drags[min(max(now + by, 0), len(drags) - 1)])
            return
        at = self._lacing.place_of_playhead()
        after = [d for d in drags if d.place >= at - 1e-6] if by > 0 else [d for d in drags if d.place <= at + 1e-6]
        self._lacing.grab_for_keys((after[0] if by > 0 else after[-1]) if after else drags[-1 if by > 0 else 0])

    def _pull(self, by: int) -> None:
        grabbed = self._lacing.grabbed
        if isinstance(grabbed, LaceDrag):
            self._lacing.make(grabbed.to_word(max(grabbed.lace.word + by, 0)))
        elif isinstance(grabbed, SectionDrag) or grabbed is None:
            return
        else:
            self._lacing.make(grabbed.edit(grabbed.place + by * grabbed.step), merge=f"pull {type(grabbed).__name__}")

    def _let_go(self) -> None:
        grabbed = self._lacing.grabbed
        if isinstance(grabbed, LaceDrag):
            self._lacing.untie(grabbed.lace.beat, grabbed.lace.word)
        elif isinstance(grabbed, EdgeDrag):
            self._lacing.make(grabbed.freed())
