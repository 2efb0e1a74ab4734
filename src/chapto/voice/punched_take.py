"""From a few words read again to a new take of their beat."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from chapto.document.breakdown import Breakdown, by_id
from chapto.document.script import words_of
from chapto.media.sound import load_sound
from chapto.store.errors import StoreError, plain_reason
from chapto.store.fingerprint import find_media, fingerprint
from chapto.voice.espeak import VoiceError
from chapto.voice.new_take import NewTake, Subject, new_take
from chapto.voice.punch_in import Punch, joined
from chapto.voice.recording.unfinished import new_recording
from chapto.voice.take_words import take_words
from chapto.voice.takes import lines_of_take


def punched_take(
    b: Breakdown,
    project: Path,
    recording: Path,
    subject: Subject,
    punch: Punch,
    *,
    cancelled: Callable[[], bool] = lambda: False,
) -> NewTake:
    """The earlier take of a beat with the words of `punch` out of `recording`, as a take of its own.

    Raises `VoiceError` where it does not hold them (the recording stays then), else as `new_take` does.
    """
    old = by_id(b.takes, punch.take, "take")
    path = find_media(old.path, old.fingerprint, project, what="take")
    line = lines_of_take(b, old, path, cancelled=cancelled)[punch.beat]
    if line is None:
        raise VoiceError("That take does not hold this line; record the whole line.")
    words = words_of(b.find_beat(punch.beat)[1].text)[punch.first : punch.end]
    key = fingerprint(recording)
    found = take_words(recording, key, words, cancelled=cancelled)
    sounds = load_sound(path, old.fingerprint, cancelled=cancelled), load_sound(recording, key, cancelled=cancelled)
    try:
        target = new_recording(project, punch.beat)
        joined(sounds[0], line, sounds[1], found, punch, target)
        made = new_take(b, project, target, subject, recorded=True, cancelled=cancelled)
        # All that was read is in the new file.
        recording.unlink(missing_ok=True)
    except OSError as error:
        raise StoreError(f"The words could not be joined to the take: {plain_reason(error)}.") from None
    return replace(made, like=old)
