"""What a new take changed: length and ties of the programme before and after, in one sentence."""

from __future__ import annotations

from chapto.app.studio import Studio
from chapto.programme.programme import Programme, TieState


class ChangedFit:
    """After `begin`, the next programme is compared with the one there was, and the foot says what is other."""

    def __init__(self, studio: Studio) -> None:
        self._studio = studio
        self._before: Programme | None = None
        studio.compiled.connect(self._compiled)

    def begin(self) -> None:
        """Remember the programme as it is."""
        self._before = self._studio.programme

    def _compiled(self) -> None:
        before, self._before = self._before, None
        if before is not None:
            self._studio.message.emit(difference(before, self._studio.programme))


def difference(before: Programme, after: Programme) -> str:
    """What is other, as a sentence."""
    longer = float(after.seconds - before.seconds)
    parts = [
        "as long as before" if abs(longer) < 0.05 else f"{abs(longer):.1f} s {'longer' if longer > 0 else 'shorter'}"
    ]
    late = _late(after)
    parts.append("every word meets" if not late else "one word late" if late == 1 else f"{late} words late")
    if late < _late(before):
        parts.append(f"{_late(before) - late} less than before")
    sentence = ", ".join(parts)
    return f"{sentence[0].upper()}{sentence[1:]}."


def _late(p: Programme) -> int:
    return sum(t.state is not TieState.MET for t in p.ties)
