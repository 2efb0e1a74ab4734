"""Commands that work on recordings."""

from __future__ import annotations

import argparse
import json
from pathlib import Path

from chapto.cli.said import free_project, known, say
from chapto.errors import ChaptoError


def align(options: argparse.Namespace) -> int:
    """`chapto align`."""
    from chapto.document.script import words_of
    from chapto.store.fingerprint import fingerprint
    from chapto.voice.report import as_data, as_text
    from chapto.voice.take_words import take_words

    words = words_of(_text(options.text))
    if not words:
        raise ChaptoError(f"“{options.text}” holds no words.")
    found = take_words(options.sound, fingerprint(options.sound), words)
    print(json.dumps(as_data(words, found), indent=1, ensure_ascii=False) if options.json else as_text(words, found))
    return 0


def take(options: argparse.Namespace) -> int:
    """`chapto take`."""
    from chapto.document.edit_takes import add_take
    from chapto.document.script import words_of
    from chapto.document.takes import TakeOf
    from chapto.document.takes_by_beat import beats_of
    from chapto.store.session import Session
    from chapto.voice.bringing_in import bring_in
    from chapto.voice.report import summary
    from chapto.voice.take_words import take_words

    of, subject = TakeOf.NOTHING, options.beat or options.section or ""
    if subject or options.whole:
        of = TakeOf.BEAT if options.beat else TakeOf.SECTION if options.section else TakeOf.WHOLE
    session = Session.open(options.file)
    try:
        known = {x.id for x in session.breakdown.script} | {x.id for _, x in session.breakdown.beats()}
        if subject and subject not in known:
            raise ChaptoError(f"There is no {of} “{subject}” in this breakdown.")
        brought = bring_in(options.sound, options.file)
        session.edit(
            "bring in a take",
            lambda b: add_take(
                b, path=brought.path, fingerprint=brought.fingerprint, seconds=brought.seconds, of=of, subject=subject
            ),
        )
        take = session.breakdown.takes[-1]
        words = [w for beat in beats_of(session.breakdown, take) for w in words_of(beat.text)]
        if said := session.save():
            say(said)
    finally:
        session.close()
    print(f"Brought in as {brought.path}, {float(brought.seconds):.1f} s.")
    if words:
        found = take_words(options.file.parent / brought.path, brought.fingerprint, words, end=take.until)
        print(summary(words, found))
    return 0


def talked(options: argparse.Namespace) -> int:
    """`chapto talked`."""
    from msgspec.structs import replace

    from chapto.document.checks import checked
    from chapto.document.edit_breakdown import add_narrator
    from chapto.publish.talks.events_file import read_events
    from chapto.render.new import new_breakdown
    from chapto.store.session import Session
    from chapto.voice.new_talk import new_talk, put_talk

    target, done, names = free_project(options.output), read_events(options.events), known()
    b = replace(new_breakdown(options.videos, target.parent), script=(), exchanges=())
    if options.two:
        first, second = options.two
        b = add_narrator(replace(b, narrators=(replace(b.narrators[0], name=first),)), second)
    talk = new_talk(
        target, options.sound, done, names, options.captions, voices=[n.id for n in b.narrators] if options.two else []
    )  # fmt: skip
    made = checked(put_talk(b, replace(talk, tidied=not options.as_it_was), names))
    Session.create(made, target).close()
    beats = sum(1 for _ in made.beats())
    print(f"Made {target}: {len(made.script)} sections with {beats} beats, of {float(talk.seconds):.0f} s of talk.")
    return 0


def listen(options: argparse.Namespace) -> int:
    """`chapto listen`."""
    from chapto.lexicon.spelling import Spelling
    from chapto.store.fingerprint import fingerprint
    from chapto.voice.listening.listen import listen
    from chapto.voice.report import phrases_as_data, phrases_as_text
    from chapto.voice.take_words import sound_to_hear

    sound = sound_to_hear(options.sound, fingerprint(options.sound))
    found = listen(sound, Spelling(known().lexicon))
    if options.json:
        print(json.dumps({"phrases": phrases_as_data(found)}, indent=1, ensure_ascii=False))
    else:
        print(phrases_as_text(found))
    return 0


def _text(path: Path) -> str:
    try:
        return path.read_text("utf-8")
    except (OSError, UnicodeDecodeError) as error:
        reason = error.strerror if isinstance(error, OSError) else "it is no UTF-8 text"
        raise ChaptoError(f"“{path}” can't be read: {reason}.") from None
