"""What keys do with the beat that is written, as a whole: where it stands, who says it, what it is for."""

from __future__ import annotations

from functools import partial

from chapto.app.studio import Studio
from chapto.app.write.script import Script
from chapto.document import edit_script
from chapto.document.script import BeatKind


class BeatActs:
    """Works on the beat in which the caret of `script` is."""

    def __init__(self, studio: Studio, script: Script) -> None:
        self._studio, self._script = studio, script

    def move(self, by: int) -> None:
        """Up or down, into the next section at the edge."""
        beat = self._script.current
        if beat in self._script.cards:
            self._studio.edit("move the beat", lambda b: edit_script.move_beat(b, beat, by))
            self._script.choose(beat)

    def move_section(self, by: int) -> None:
        """Its section up or down."""
        section = self._script.current_section()
        if section:
            self._studio.edit("move the section", lambda b: edit_script.move_section(b, section, by))
            self._script.choose(self._script.current)

    def next_narrator(self) -> None:
        """The next narrator says it."""
        b, beat = self._studio.breakdown, self._script.current
        if beat not in self._script.cards or len(b.narrators) < 2:
            return
        order = [n.id for n in b.narrators]
        after = order[(order.index(b.narrator(b.find_beat(beat)[1]).id) + 1) % len(order)]
        self._studio.edit("change who says it", lambda b: edit_script.set_narrator(b, beat, after))

    def next_kind(self) -> None:
        """It is for something else."""
        beat = self._script.current
        if beat in self._script.cards:
            kinds, now = list(BeatKind), self._studio.breakdown.find_beat(beat)[1].kind
            kind = kinds[(kinds.index(now) + 1) % len(kinds)]
            change = partial(edit_script.change_beat_kind, beat_id=beat, kind=kind)
            self._studio.edit("change the kind", change)
