"""A recording that came before its script: what is said in it becomes beats, and it speaks them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.document.edit_script import add_section
from chapto.document.edit_takes import add_take
from chapto.document.takes import TakeOf
from chapto.lexicon.spelling import Spelling
from chapto.publish.scripts.parts import ImportedSection
from chapto.publish.scripts.plain_text import parts_of
from chapto.publish.scripts.put_in import put_parts
from chapto.publish.scripts.read import read_script
from chapto.voice.bringing_in import BroughtIn, bring_in
from chapto.voice.listening.listen import HeardPhrase, listen
from chapto.voice.take_words import sound_to_hear

CAPTIONS = (".srt", ".vtt")
BEAT = 28
"""Words after which the next pause begins a new beat."""
PAUSE = 0.9
"""Seconds of silence that begin a new beat in any case."""


@dataclass(frozen=True)
class WrittenDown:
    """What is said in a recording that has been brought in."""

    brought: BroughtIn
    parts: tuple[ImportedSection, ...]

    def put_into(self, b: Breakdown, section_id: str) -> Breakdown:
        """`b` with the words as a section of their own, and the recording as its take. It comes behind the section with
        that id, at the end where it is empty."""
        place = next((i + 1 for i, s in enumerate(b.script) if s.id == section_id), None)
        known = {s.id for s in b.script}
        made = add_section(b, title="", at=place)
        new = next(s.id for s in made.script if s.id not in known)
        made = put_parts(made, new, "", self.parts)
        file = self.brought
        return add_take(
            made, path=file.path, fingerprint=file.fingerprint, seconds=file.seconds, of=TakeOf.SECTION, subject=new
        )


def captions_of(source: Path) -> Path | None:
    """The caption file that lies beside a recording under its name."""
    return next((p for e in CAPTIONS if (p := source.with_suffix(e)).is_file()), None)


def written_down(
    source: Path,
    project: Path,
    spelling: Spelling,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> WrittenDown:
    """Bring `source` in, with the words of the caption file beside it, or else with what is recognised.

    Raises `ListenError` where recognition is not installed and `ScriptFileError` where the caption file can't be read;
    else as `bring_in` does.
    """
    captions = captions_of(source)
    brought = bring_in(source, project, cancelled=cancelled)
    if captions is not None:
        return WrittenDown(brought, read_script(captions))
    sound = sound_to_hear(project.parent / brought.path, brought.fingerprint, cancelled=cancelled)
    return WrittenDown(brought, parts_said(listen(sound, spelling, progress=progress, cancelled=cancelled)))


def parts_said(phrases: Sequence[HeardPhrase]) -> tuple[ImportedSection, ...]:
    """Beats of what was said: a new one after a long pause, or at the next pause once it is long enough."""
    beats: list[list[str]] = []
    count, until = 0, float("-inf")
    for phrase in phrases:
        gap = phrase.words[0].start - until
        if not beats or gap > PAUSE or count >= BEAT:
            beats.append([])
            count = 0
        beats[-1].append(phrase.text)
        count += len(phrase.words)
        until = phrase.words[-1].end
    return parts_of("\n\n".join(" ".join(beat) for beat in beats))
