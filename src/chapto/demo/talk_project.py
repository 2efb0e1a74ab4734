"""The second demo breakdown: the Tuesday round, talked through by the stand-in. `python -m chapto.demo.talk_project`
plays the session anew, finds its words and ships both."""

from __future__ import annotations

import os
import sys
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import msgspec
import numpy as np
from msgspec.structs import replace

from chapto.demo.story import demo_breakdown
from chapto.demo.working_copy import put_copy
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.clearance import Agreement
from chapto.document.mattime import decode_hook, encode_hook
from chapto.document.talks import Talk
from chapto.media.sound import FootageSound
from chapto.programme.knowledge import shipped_knowledge
from chapto.store.fingerprint import fingerprint
from chapto.voice.bringing_in import write_flac
from chapto.voice.new_talk import put_talk
from chapto.voice.recording.stand_in import VOICES
from chapto.voice.recording.stand_in_talker import Performance, perform
from chapto.voice.talk_words import words_of_talk

FOLDER = Path(__file__).parent / "talk"
SESSION, SOUND, TALK = FOLDER / "tuesday.txt", FOLDER / "tuesday.flac", FOLDER / "tuesday.json"
NAME = "tuesday-round.chapto"


def talk_project(*, fresh: bool = False, folder: Path | None = None) -> Path:
    """The path of the project; written where it is not there yet, or when `fresh`, as `demo_project` does."""
    return put_copy(NAME, talked_breakdown, fresh=fresh, folder=folder)


def talked_breakdown(project_folder: Path) -> Breakdown:
    """The round with its talk laid out, by paths relative to `project_folder`."""
    talk = msgspec.json.decode(TALK.read_bytes(), type=Talk, dec_hook=decode_hook)
    talk = replace(talk, path=os.path.relpath(SOUND, project_folder))
    return checked(put_talk(_round(project_folder), talk, shipped_knowledge()))


def _round(project_folder: Path) -> Breakdown:
    """The demo's Tuesday round by itself, from mat second 0 on."""
    whole = demo_breakdown(project_folder, marks=False)
    filmed = replace(whole.footage[-1], id="f1", offset=Fraction(0))
    mats = replace(whole.rounds[-1], id="r1", start=Fraction(0), end=filmed.duration)
    return Breakdown(
        title="One arm, on a Tuesday", part="Tidewrack Grappling", first=whole.first, second=whole.second,
        narrators=whole.narrators[:1], footage=(filmed,), rounds=(mats,), format=whole.format,
        people=tuple(p for p in whole.people if p.agreement is Agreement.AGREED and p.id in filmed.seen),
    )  # fmt: skip


def as_sound(played: Performance) -> FootageSound:
    """What is heard of a session, as a recording has it."""
    heard = np.round(played.samples * 32767).astype(np.int16)
    return FootageSound(heard if heard.ndim == 2 else np.stack([heard, heard], axis=1))


def make_talk(folder: Path) -> None:
    """Play the session into `folder`, with the words of its captions found in the sound."""
    played = perform(SESSION.read_text("utf-8"), voice=VOICES[0])
    sound = folder / SOUND.name
    write_flac(sound, as_sound(played))
    captions = folder / "said.vtt"
    captions.write_text(played.captions(), "utf-8")
    said = words_of_talk(sound, fingerprint(sound), captions)
    captions.unlink()
    talk = Talk(
        id="k1", path=SOUND.name, fingerprint=fingerprint(sound), seconds=played.seconds, done=played.done, said=said
    )  # fmt: skip
    body = msgspec.json.encode(talk, enc_hook=encode_hook)
    (folder / TALK.name).write_bytes(msgspec.json.format(body, indent=0) + b"\n")


if __name__ == "__main__":
    with TemporaryDirectory() as cache:
        os.environ["XDG_CACHE_HOME"] = cache
        make_talk(FOLDER)
    sys.exit(0)
