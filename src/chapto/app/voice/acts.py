"""What can be done with the take that is looked at: every act is one edit."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import reduce

from chapto.app.studio import Studio
from chapto.app.voice.line_takes import Looked
from chapto.app.voice.strip_model import pulled
from chapto.document.breakdown import Breakdown
from chapto.document.edit_script import rewrite
from chapto.document.edit_takes import change_take, choose_take, cut_out, remove_take, set_edge, take_back_cut
from chapto.document.script import words_of
from chapto.document.takes import Take, WordEdge
from chapto.voice.as_said import text_as_said
from chapto.voice.fillers import cut_of

NUDGE = 0.01
"""Seconds by which a key moves an edge."""


class TakeActs:
    """Acts on what `looked` gives, when they are asked for."""

    def __init__(self, studio: Studio, looked: Callable[[], Looked]) -> None:
        self._studio, self._looked = studio, looked

    def choose(self, take_id: str) -> None:
        """Use another take of the line."""
        self._studio.edit("use another take", lambda b: choose_take(b, take_id))

    def use_or_not(self) -> None:
        """The take is used, or the guide voice speaks instead."""
        if (take := self._stored()) is not None:
            if take.chosen:
                self._edit("leave the take unused", lambda b: change_take(b, take.id, chosen=False))
            else:
                self.choose(take.id)

    def clean_or_not(self) -> None:
        """Noise is taken out of the take, or it is heard as it was recorded."""
        if (take := self._stored()) is not None:
            what = "hear the take as recorded" if take.cleaned else "clean the take"
            self._edit(what, lambda b: change_take(b, take.id, cleaned=not take.cleaned))

    def louder(self, decibels: int) -> None:
        """The take is heard louder or more quietly."""
        if (take := self._stored()) is not None:
            gain = take.gain + decibels
            self._edit("make the take louder" if decibels > 0 else "make the take quieter",
                       lambda b: change_take(b, take.id, gain=gain), merge=f"gain {take.id}")  # fmt: skip

    def hurry(self, percent: int) -> None:
        """The take is heard quicker or slower, as far as the house style allows; its pitch stays."""
        take = self._stored()
        if take is None:
            return
        studio = self._studio
        known, b = studio.known, studio.breakdown
        style = known.styles.get(b.style)
        wished = take.tempo + Fraction(percent, 100)
        tempo = style.tempo(wished) if style else wished
        if tempo == take.tempo:
            limit = "hurries" if percent > 0 else "lingers"
            studio.message.emit(f"It {limit} as much as the house style allows.")
            return
        what = "let the voice hurry" if percent > 0 else "let the voice linger"
        self._edit(what, lambda b: change_take(b, take.id, tempo=tempo), merge=f"tempo {take.id}")

    def mark(self) -> None:
        """The line is to be read again, or not."""
        if (take := self._stored()) is not None:
            what = "need not read it again" if take.again else "mark it to be read again"
            self._edit(what, lambda b: change_take(b, take.id, again=not take.again))

    def remove(self) -> None:
        """Take the take out of the breakdown; its file stays where it is."""
        if (take := self._stored()) is not None:
            self._edit("take the recording out", lambda b: remove_take(b, take.id))

    def take_text(self, word: int) -> None:
        """What was said becomes what is written: of a word, or of the whole line where none is chosen."""
        looked = self._looked()
        line = looked.line
        if line is None:
            return
        words = words_of(self._studio.breakdown.find_beat(looked.beat)[1].text)
        text = text_as_said(words, line, word if 0 <= word < len(words) and _differs(looked, word) else None)
        if text.split() == list(words):
            self._studio.message.emit("It was said as it is written, as far as it was understood.")
        else:
            self._edit("write what was said", lambda b: rewrite(b, looked.beat, text))

    def cut_fillers(self) -> None:
        """Fillers and repeated starts are heard no more."""
        looked, take = self._looked(), self._stored()
        if take is None or not looked.fillers:
            self._studio.message.emit("There is no filler in it that could be cut.")
            return

        def change(b: Breakdown) -> Breakdown:
            return reduce(
                lambda so_far, cut: cut_out(so_far, take.id, _exact(cut[0]), _exact(cut[1])), looked.fillers, b
            )

        self._edit("cut the fillers", change)

    def cut_added(self, word: int) -> None:
        """What was said besides, next before a word, is heard no more."""
        looked, take, line = self._looked(), self._stored(), self._looked().line
        if take is None or line is None or looked.sound is None:
            return
        added = next((x for x in line.added if x.before == word), None) or next(iter(line.added), None)
        if added is None:
            self._studio.message.emit("Nothing was said besides.")
            return
        start, end = cut_of(line, added, looked.sound)
        self._edit(f"cut “{added.heard}”", lambda b: cut_out(b, take.id, _exact(start), _exact(end)))

    def take_back_cut(self, word: int) -> None:
        """What was cut out nearest to a word is heard again."""
        take, strip = self._stored(), self._looked().strip
        if take is None or strip is None:
            return
        if not take.cuts:
            self._studio.message.emit("Nothing has been cut out of it.")
            return
        near = strip.words[word].start if 0 <= word < len(strip.words) else strip.start
        start, _ = min(take.cuts, key=lambda cut: abs(float(cut[0] + cut[1]) / 2 - near))
        self._edit("hear again what was cut", lambda b: take_back_cut(b, take.id, start))

    def pull(self, word: int, start: float, end: float) -> None:
        """Put the edges of a word where they belong."""
        looked, take = self._looked(), self._stored()
        if take is None or looked.strip is None or not 0 <= word < len(looked.strip.words):
            return
        a, z = pulled(looked.strip.words, word, start, end)
        edge = WordEdge(beat=looked.beat, word=word, start=a, end=z)
        self._edit("put the word's edges right", lambda b: set_edge(b, take.id, edge), merge=f"edge {take.id} {word}")

    def nudge(self, word: int, start: float = 0.0, end: float = 0.0) -> None:
        """Move the edges of a word by seconds."""
        strip = self._looked().strip
        if strip is not None and 0 <= word < len(strip.words):
            now = strip.words[word]
            self.pull(word, now.start + start, now.end + end)

    def _stored(self) -> Take | None:
        """The take that is looked at, if the document holds it."""
        take = self._looked().take
        found = take and next((t for t in self._studio.breakdown.takes if t.id == take.id), None)
        if found is None:
            kept = (
                "Keep the recording first (Return)."
                if take
                else "There is no recording of this line yet; R records it."
            )
            self._studio.message.emit(kept)
        return found

    def _edit(self, what: str, change: Callable[[Breakdown], Breakdown], *, merge: str = "") -> None:
        self._studio.edit(what, change, merge=merge)


def _differs(looked: Looked, word: int) -> bool:
    line = looked.line
    assert line is not None
    return not line.found[word].said_as_written or any(x.before == word for x in line.added)


def _exact(seconds: float) -> Fraction:
    return Fraction(round(seconds * 1000), 1000)
