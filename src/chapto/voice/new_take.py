"""A finished recording made into a take: kept as FLAC beside the project, with its words found."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown
from chapto.document.edit_takes import add_take, change_take
from chapto.document.takes import Take, TakeOf
from chapto.media.opening import MediaError
from chapto.store.outputs import free_name
from chapto.voice.bringing_in import BroughtIn, bring_in
from chapto.voice.taken_line import TakenLine
from chapto.voice.takes import lines_of_take


@dataclass(frozen=True)
class Subject:
    """What is recorded: a beat or section by id, or the whole; of one narrator (by id) or all, on a channel or both."""

    of: TakeOf
    id: str = ""
    narrator: str = ""
    channel: int = 0


@dataclass(frozen=True)
class NewTake:
    """A recording beside the project that no document refers to yet, and how it says each beat it is of.

    `recording` is the WAV that it was made from, where Chapto recorded it; it can go once a document holds the take.
    """

    subject: Subject
    brought: BroughtIn
    lines: Mapping[str, TakenLine | None]
    recording: Path | None = None
    like: Take | None = None
    """An earlier take whose gain, tempo and cleaning it has."""

    def let_recording_go(self) -> None:
        """A document holds the take now: its WAV is needed no more."""
        if self.recording is not None:
            self.recording.unlink(missing_ok=True)

    def added(self, b: Breakdown) -> Breakdown:
        """`b` with it put in, and chosen."""
        s, file = self.subject, self.brought
        made = add_take(
            b, path=file.path, fingerprint=file.fingerprint, seconds=file.seconds, of=s.of, subject=s.id,
            narrator=s.narrator, channel=s.channel,
        )  # fmt: skip
        old = self.like
        if old is None:
            return made
        return change_take(made, made.takes[-1].id, gain=old.gain, tempo=old.tempo, cleaned=old.cleaned)

    def put_aside(self, b: Breakdown) -> Breakdown:
        """`b` with it put in, and not chosen."""
        made = self.added(b).takes[-1]
        return replace(b, takes=(*b.takes, replace(made, chosen=False)))

    def as_take(self, b: Breakdown) -> Take:
        """What it would be in `b`."""
        return self.added(b).takes[-1]


def new_take(
    b: Breakdown,
    project: Path,
    source: Path,
    subject: Subject,
    *,
    recorded: bool,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> NewTake:
    """Bring `source` in as a take of `subject` in `b`, the breakdown of `project`, and find its words.

    Of a file that Chapto `recorded` itself, and in which nothing is heard, the name is changed, so that it is not
    offered again. Raises `MediaError`, `StoreError` and `Cancelled` as `bring_in` and `lines_of_take` do.
    """
    try:
        brought = bring_in(source, project, cancelled=cancelled)
    except MediaError:
        if recorded:
            source.rename(free_name(source.with_name(f"unused-{source.name}")))
        raise
    unfound = NewTake(subject, brought, {})
    with_it = unfound.added(b)
    path = project.parent / brought.path
    lines = lines_of_take(with_it, with_it.takes[-1], path, progress=progress, cancelled=cancelled)
    return NewTake(subject, brought, lines, source if recorded else None)
