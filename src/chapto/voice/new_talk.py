"""A recording of a talk-through made into a part of a breakdown."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, new_id
from chapto.document.talks import Done, Talk
from chapto.lexicon.spelling import Spelling
from chapto.media.sound import RATE, load_sound
from chapto.programme.knowledge import Knowledge
from chapto.publish.talks.lay_out import lay_out
from chapto.voice.bringing_in import bring_in
from chapto.voice.louder_channel import louder_channels
from chapto.voice.talk_words import words_of_talk
from chapto.voice.written_down import captions_of

STYLE = "talk-through"


def new_talk(
    project: Path,
    source: Path,
    done: Done,
    known: Knowledge,
    captions: Path | None = None,
    *,
    reaction: Fraction = Fraction(0),
    voices: Sequence[str] = (),
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Talk:
    """Bring the recording `source` in beside `project` and find its words: in `captions`, in the caption file that lies
    beside it, or by recognition. Two people on two channels are told apart where their narrators are given as `voices`
    (by id). It gets its id when it is put in. Raises as `bring_in` and `words_of_talk` do."""
    brought = bring_in(source, project, cancelled=cancelled)
    said = words_of_talk(
        project.parent / brought.path, brought.fingerprint, captions or captions_of(source), Spelling(known.lexicon),
        progress=progress, cancelled=cancelled,
    )  # fmt: skip
    if len(voices) == 2:
        sound = load_sound(project.parent / brought.path, brought.fingerprint, cancelled=cancelled)
        whole = sound.read(0, len(sound))
        who = louder_channels(whole, RATE, [(float(w.start), float(w.end)) for w in said])
        said = tuple(replace(w, voice=v) for w, v in zip(said, who, strict=True))
    return Talk(
        id="", path=brought.path, fingerprint=brought.fingerprint, seconds=brought.seconds, done=done,
        said=tuple(w for w in said if w.end <= brought.seconds), reaction=reaction,
        voices=tuple(voices),
    )  # fmt: skip


def put_talk(b: Breakdown, talk: Talk, known: Knowledge) -> Breakdown:
    """`b` with a talk put in and laid out at the end of its script. An empty script makes room; then the house style of
    the whole is that of the talk too."""
    talk = talk if talk.id else replace(talk, id=new_id(b, "w"))
    if not any(x.text.strip() for _, x in b.beats()):
        b = replace(b, script=(), style=STYLE)
    made = replace(b, talks=(*(t for t in b.talks if t.id != talk.id), talk), guide_only=False)
    return lay_out(made, talk.id, known.lexicon, known.styles[STYLE])


def lay_again(b: Breakdown, talk_id: str, known: Knowledge, **changes: object) -> Breakdown:
    """`b` with fields of a talk changed (whether it is `tidied`, what is brought `back`) and the talk laid out anew."""
    talks = tuple(replace(t, **changes) if t.id == talk_id else t for t in b.talks)
    return lay_out(replace(b, talks=talks), talk_id, known.lexicon, known.styles[STYLE])
