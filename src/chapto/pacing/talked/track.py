"""What stood on the screen at each second of a take, without the hunting for a place."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, replace

from chapto.document.talks import Moved, to_and_fro

JUMP, STEP = 0.12, 0.01
"""Mat seconds from which a picture that runs, or stands, was moved; less is the clock of the player."""
HUNT = 2.0
"""Seconds within which one move follows another where somebody looks for a place."""
LATE = 1.0
"""Seconds that a picture stands where it was stopped too late, before it is put right."""
SLACK = 0.05
"""Seconds by which a move and a phrase may overlap."""
BLINK = 0.2
"""Seconds: a picture that stands, or runs, for less was not meant to."""


@dataclass(frozen=True, slots=True)
class Spell:
    """Seconds `start ≤ t < end` of a take in which the picture goes on evenly: from mat second `mat` on at `rate` (0:
    it stands), seen from `camera`; `fro` where it goes to and fro between two mat seconds. It `came` by a move that
    began at that second; `start` where there was none."""

    start: float
    end: float
    mat: float
    rate: float
    camera: str
    came: float
    fro: tuple[float, float] | None = None

    def mat_at(self, second: float) -> float:
        """The mat second on the screen; before the spell the picture it begins with."""
        mat = self.mat + self.rate * (min(max(second, self.start), self.end) - self.start)
        return mat if self.fro is None else to_and_fro(mat, self.fro)

    @property
    def mat_end(self) -> float:
        """The mat second at which it ends."""
        return self.mat_at(self.end)


class Track:
    """The spells of a take of `seconds`, in order and without a gap but for the hunting between them. Where one of the
    `phrases` (half-open seconds) is said from beginning to end, nobody was looking for a place."""

    def __init__(self, moved: Sequence[Moved], seconds: float, phrases: Sequence[tuple[float, float]] = ()) -> None:
        self.spells = tuple(_without_blinks(_settled(_raw(moved, seconds), phrases)))
        self._starts = [s.start for s in self.spells]

    def at(self, second: float) -> Spell:
        """The spell that is on the screen, or that a move under way leads to."""
        i = max(bisect_right(self._starts, second) - 1, 0)
        spell = self.spells[i]
        if second >= spell.end and i + 1 < len(self.spells):
            return self.spells[i + 1]
        return spell

    def after(self, spell: Spell) -> Spell | None:
        """The spell behind another."""
        i = self.spells.index(spell) + 1
        return self.spells[i] if i < len(self.spells) else None


def _raw(moved: Sequence[Moved], seconds: float) -> list[Spell]:
    """One spell for each thing that was done; of several at the same time the last counts."""
    rows = [m for i, m in enumerate(moved) if i + 1 == len(moved) or moved[i + 1].at > m.at]
    rows = [m for m in rows if m.at < seconds] or list(rows[:1])
    found: list[Spell] = []
    for i, m in enumerate(rows):
        start = float(m.at) if i else 0.0
        end = float(rows[i + 1].at) if i + 1 < len(rows) else max(seconds, start)
        mat, rate = float(m.mat), float(m.speed)
        before = found[-1] if found else None
        is_move = before is not None and abs(mat - before.mat_end) > (JUMP if before.rate else STEP)
        if before is not None and not is_move and before.rate:
            # The player's clock is the better one while it runs.
            mat = before.mat_end if abs(mat - before.mat_end) < STEP else mat
        fro = (float(m.fro[0]), float(m.fro[1])) if m.fro is not None and rate else None
        found.append(Spell(start, end, mat, rate, m.camera, start if is_move else -1.0, fro))
    return found or [Spell(0.0, seconds, 0.0, 0.0, "", -1.0)]


def _settled(raw: list[Spell], phrases: Sequence[tuple[float, float]]) -> list[Spell]:
    """Several moves in a row are one, from where the first began to where the last one led. Stopping belongs to the
    moves that follow it at once: it was late."""
    found: list[Spell] = []
    last_move = -1.0
    for spell in raw:
        if spell.came < 0:
            found.append(replace(spell, came=spell.start))
            continue
        came = spell.came
        if 0 <= spell.came - last_move < HUNT and last_move >= 0 and not _told(phrases, last_move, spell.came):
            # What was shown since the move before was on the way only.
            while found and found[-1].end > last_move and len(found) > 1:
                came = min(came, found.pop().came)
        elif len(found) > 1 and _was_late(found[-1], phrases):
            came = found.pop().start
        last_move = spell.came
        found.append(replace(spell, came=came))
    return found


def _told(phrases: Sequence[tuple[float, float]], start: float, end: float) -> bool:
    """Whether something was said from beginning to end between two seconds."""
    return any(start <= a + SLACK and z <= end + SLACK for a, z in phrases)


def _was_late(spell: Spell, phrases: Sequence[tuple[float, float]]) -> bool:
    """Whether a picture that is moved after it was only stopped too late."""
    return not spell.rate and spell.end - spell.start < LATE and not _told(phrases, spell.start, spell.end)


def _without_blinks(spells: list[Spell]) -> list[Spell]:
    """Spells too short to be meant go on as the one before, and ones that go on the same are one."""
    found: list[Spell] = []
    for spell in spells:
        before = found[-1] if found else None
        goes_on = before is not None and spell.came == spell.start and before.end == spell.start
        if before is not None and goes_on and spell.camera == before.camera:
            same = abs(spell.mat - before.mat_end) <= JUMP and (spell.rate, spell.fro) == (before.rate, before.fro)
            if same or spell.end - spell.start < BLINK:
                found[-1] = replace(before, end=spell.end)
                continue
        found.append(spell)
    return found
