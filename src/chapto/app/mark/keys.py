"""The keys of the Mark stage, wherever in it the keyboard is."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from typing import Protocol

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent

from chapto.app.mark.acts import MarkActs
from chapto.app.mark.canvas import Canvas
from chapto.app.mark.kind_tiles import KEYS
from chapto.app.mark.putting_down import PuttingDown
from chapto.app.mark.slip_line import SlipLine
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Mark

Key, Mod = Qt.Key, Qt.KeyboardModifier
SHOWN = (
    ("Up  Down", "the tied or marked word before, after"),
    ("M", "put down the mark that the word's moment wants"),
    ("G F D L K E W S", "grip, frame, force, level, knee line, base, weight, step"),
    ("A P O I C T X", "gap, path, spotlight, window, closer, ghost, cover"),
    ("J  Y", "put down a figure, copy one to this picture"),
    ("Arrows", "move the cross or the chosen point by a pixel, with Shift by ten"),
    ("Return", "put down, end the run; write on the slip"),
    ("Backspace  Esc", "take the last point back, leave"),
    ("Tab  Shift+Tab", "the point after, before"),
    (",  .", "the key before, after"),
    ("H", "hidden from here on, or seen again"),
    ("Delete", "take the key, the mark, the figure away"),
    ("1  U  R", "whose it is, how long it stays, how it stands"),
    ("+ −  [ ]", "larger or smaller, magnified more or less"),
    ("Q  Shift+Q", "what was measured: on the slip, into the script"),
    ("N  Shift+N  Alt+N", "a cover begins here, ends here, is over the whole file"),
)


class Hand(Protocol):
    """What the keys work on: the page of the stage."""

    anchor: str
    putting: PuttingDown
    acts: MarkActs
    canvas: Canvas
    slip: SlipLine

    @property
    def chosen(self) -> Mark | None: ...
    def nudge(self, dx: int, dy: int) -> None: ...
    def step_word(self, by: int) -> None: ...
    def step_point(self, by: int) -> None: ...
    def step_key(self, by: int) -> None: ...
    def hide(self) -> None: ...
    def remove(self) -> None: ...
    def write_slip(self) -> None: ...
    def let_go(self) -> None: ...
    def play(self) -> None: ...
    def mat_of(self, mark: Mark) -> Fraction | None: ...


class MarkKeys:
    """Sends each key where it belongs; a press that means nothing here is not taken."""

    def __init__(self, page: Hand) -> None:
        self._page = page

    def press(self, event: QKeyEvent) -> bool:
        """Do what a key stands for; whether it stands for anything."""
        if event.modifiers() & (Mod.ControlModifier | Mod.MetaModifier):
            return False
        run = self._in_run(event) if self._page.putting.run is not None else None
        if run is not None:
            return run
        act = self._act(event)
        if act is None:
            return False
        act()
        return True

    def _in_run(self, event: QKeyEvent) -> bool | None:
        """A key while points are put down; None for one that means the same as always."""
        page, run = self._page, self._page.putting.run
        if run is None:
            return None
        cross = page.canvas.cross
        moves = {Key.Key_Left: (-1, 0), Key.Key_Right: (1, 0), Key.Key_Up: (0, -1), Key.Key_Down: (0, 1)}
        key = Key(event.key())
        if key in moves:
            by = 10 if event.modifiers() & Mod.ShiftModifier else 1
            page.nudge(moves[key][0] * by, moves[key][1] * by)
        elif key in (Key.Key_Return, Key.Key_Enter) and (event.modifiers() & Mod.ShiftModifier or run.is_full):
            page.putting.end(keep=True)
        elif key in (Key.Key_Return, Key.Key_Enter):
            if run.may_end and run.kind is not None and not self._cross_moved():
                page.putting.end(keep=True)
            elif cross is not None:
                self._last = cross.x(), cross.y()
                page.putting.put_down(cross)
        elif key == Key.Key_Escape:
            page.putting.end()
        elif key == Key.Key_Backspace:
            page.putting.change(run.without_last())
        elif key == Key.Key_S and run.kind is None:
            page.putting.change(run.skip())
        elif key == Key.Key_G and run.kind is None:
            page.putting.change(run.rest())
        elif key == Key.Key_1:
            page.putting.next_side()
        elif key == Key.Key_Tab:
            return True
        else:
            return None
        return True

    _last: tuple[float, float] | None = None

    def _cross_moved(self) -> bool:
        """Whether the cross stands elsewhere than at the point put down last: then Return puts another one down."""
        cross = self._page.canvas.cross
        return cross is not None and self._last != (cross.x(), cross.y())

    def _act(self, event: QKeyEvent) -> Callable[[], object] | None:
        page, key = self._page, Key(event.key())
        shift, alt = bool(event.modifiers() & Mod.ShiftModifier), bool(event.modifiers() & Mod.AltModifier)
        by = 10 if shift else 1
        if page.anchor and page.putting.run is None:
            moves = {Key.Key_Left: (-by, 0), Key.Key_Right: (by, 0), Key.Key_Up: (0, -by), Key.Key_Down: (0, by)}
            if key in moves:
                return lambda: page.nudge(*moves[key])
            if key == Key.Key_Space:
                return page.play
        if alt and key != Key.Key_N:
            return None
        acts: dict[Qt.Key, Callable[[], object]] = {
            Key.Key_Up: lambda: page.step_word(-1),
            Key.Key_Down: lambda: page.step_word(1),
            Key.Key_M: page.putting.begin_proposed,
            Key.Key_J: page.putting.begin_figure,
            Key.Key_Y: page.putting.copy_figure,
            Key.Key_Tab: lambda: page.step_point(1),
            Key.Key_Backtab: lambda: page.step_point(-1),
            Key.Key_Comma: lambda: page.step_key(-1),
            Key.Key_Period: lambda: page.step_key(1),
            Key.Key_H: page.hide,
            Key.Key_Delete: page.remove,
            Key.Key_Return: page.write_slip,
            Key.Key_Enter: page.write_slip,
            Key.Key_Escape: page.let_go,
        }
        if key in acts:
            return acts[key]
        if page.chosen is not None and (act := self._of_mark(key, shift, alt)) is not None:
            return act
        kind: MarkKind | None = KEYS.get(event.text().upper()) if not shift else None
        return (lambda: page.putting.begin(kind)) if kind is not None else None

    def _of_mark(self, key: Qt.Key, shift: bool, alt: bool) -> Callable[[], object] | None:
        page, mark = self._page, self._page.chosen
        if mark is None:
            return None
        acts = page.acts
        mat = page.mat_of(mark)
        found: dict[Qt.Key, Callable[[], object]] = {
            Key.Key_1: lambda: acts.next_owner(mark),
            Key.Key_U: lambda: acts.next_until(mark),
            Key.Key_R: lambda: acts.next_state(mark),
            Key.Key_Plus: lambda: acts.larger(mark, 1),
            Key.Key_Equal: lambda: acts.larger(mark, 1),
            Key.Key_Minus: lambda: acts.larger(mark, -1),
            Key.Key_BracketRight: lambda: acts.nearer(mark, 1),
            Key.Key_BracketLeft: lambda: acts.nearer(mark, -1),
            Key.Key_Q: page.slip.into_script if shift else page.slip.show_fact,
        }
        if mark.kind is MarkKind.COVER:
            start, end = (None if shift or alt else mat), (mat if shift and not alt else None)
            found[Key.Key_N] = lambda: acts.span(mark, start, end)
        return found.get(key)
