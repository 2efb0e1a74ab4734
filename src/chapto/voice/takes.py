"""Takes as the narrators' voices: for every beat that a chosen take holds, its sound and when each word is said."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import partial
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.document.script import words_of
from chapto.document.takes import Take
from chapto.document.takes_by_beat import beats_of, takes_by_beat
from chapto.errors import Cancelled, ChaptoError
from chapto.pacing.styles import HouseStyle
from chapto.store.fingerprint import find_media
from chapto.voice.finding.comparing import FoundWord, Said
from chapto.voice.finding.words_found import WordsFound
from chapto.voice.guide import Samples, Speech
from chapto.voice.take_sound import LaterSound
from chapto.voice.take_words import known_words, take_words
from chapto.voice.taken_line import TakenLine, taken_line


@dataclass(frozen=True)
class Spoken:
    """What takes give: speeches and how they were taken, by beat id.

    `troubles` has a sentence for each beat or take that the guide voice has to speak. `pending` are takes (by id) whose
    words were not looked for. `sounds` have to be made ready before all of it can be heard.
    """

    speeches: Mapping[str, Speech] = field(default_factory=dict)
    lines: Mapping[str, TakenLine] = field(default_factory=dict)
    troubles: tuple[str, ...] = ()
    pending: tuple[str, ...] = ()
    sounds: tuple[LaterSound, ...] = ()


def speak_takes(
    b: Breakdown,
    project: Path | None,
    style: HouseStyle | None = None,
    *,
    only_known: bool = False,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Spoken:
    """Every beat of `b` that a chosen take holds, spoken by it, as fast as `style` allows.

    With `only_known` those takes alone are heard whose words have been found before. Raises `Cancelled` when stopped.
    """
    speeches: dict[str, Speech] = {}
    lines: dict[str, TakenLine] = {}
    troubles: list[str] = []
    pending: list[str] = []
    sounds: list[LaterSound] = []
    by_beat = takes_by_beat(b)
    needed = {t.id for t in by_beat.values()}
    takes = [t for t in b.takes if t.id in needed]
    for number, take in enumerate(takes):
        if cancelled():
            raise Cancelled
        wanted = {beat for beat, counts in by_beat.items() if counts is take}
        try:
            path = _place(take, project)
            if only_known:
                taken = known_lines(b, take)
            else:
                taken = lines_of_take(
                    b, take, path, progress=partial(_part, progress, number, len(takes)), cancelled=cancelled
                )
        except Cancelled:
            raise
        except ChaptoError as error:
            troubles.append(f"The guide voice speaks instead of a recording: {error}")
            continue
        if taken is None:
            pending.append(take.id)
            continue
        sound = LaterSound(path, take)
        sounds.append(sound)
        for beat, line in taken.items():
            if beat not in wanted:
                continue
            if line is None:
                troubles.append(
                    f"“{_opening(b, beat)}” is not in the take “{Path(take.path).name}”; the guide voice speaks it."
                )
            else:
                if style is not None and take.tempo != 1:
                    line = replace(line, tempo=float(style.tempo(take.tempo)))
                lines[beat] = line
                speeches[beat] = Speech(line.line, partial(_heard, line, sound, float(take.gain), take.channel))
    return Spoken(speeches, lines, tuple(troubles), tuple(pending), tuple(sounds))


_places: dict[tuple[str, str, Path | None], tuple[Path, tuple[int, int]]] = {}
"""Where takes were found, with size and time of change: they are asked for after every edit."""


def _place(take: Take, project: Path | None) -> Path:
    """Where a take is; its content is looked at again only where the file is another. Raises as `find_media` does."""
    asked = (take.path, take.fingerprint, project)
    with contextlib.suppress(OSError, KeyError):
        path, mark = _places[asked]
        if _mark(path) == mark:
            return path
    path = find_media(take.path, take.fingerprint, project, what="take")
    with contextlib.suppress(OSError):
        _places[asked] = path, _mark(path)
    return path


def _mark(path: Path) -> tuple[int, int]:
    found = path.stat()
    return found.st_size, found.st_mtime_ns


def _heard(line: TakenLine, sound: LaterSound, gain: float, channel: int) -> Samples:
    return line.sound(sound.get(), gain=gain, channel=channel)


def lines_of_take(
    b: Breakdown,
    take: Take,
    path: Path,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> dict[str, TakenLine | None]:
    """How the take at `path` says each beat that it is a recording of, by beat id; None where it does not.

    Raises `MediaError` when the take can't be read and `Cancelled` when stopped.
    """
    if (edged := _edged(b, take)) is not None:
        return _lines(b, take, edged)
    found = take_words(
        path, take.fingerprint, _words(b, take), start=take.start, end=take.until, channel=take.channel,
        progress=progress, cancelled=cancelled,
    )  # fmt: skip
    return _lines(b, take, found)


def known_lines(b: Breakdown, take: Take) -> dict[str, TakenLine | None] | None:
    """What `lines_of_take` would give, if the words have been found before; else None."""
    if (edged := _edged(b, take)) is not None:
        return _lines(b, take, edged)
    found = known_words(take.fingerprint, _words(b, take), start=take.start, end=take.until, channel=take.channel)
    return None if found is None else _lines(b, take, found)


def _edged(b: Breakdown, take: Take) -> WordsFound | None:
    """Its words where each of them has edges already: nothing has to be looked for."""
    edges = {(e.beat, e.word): (float(e.start), float(e.end)) for e in take.edges}
    spans = [edges.get((beat.id, i)) for beat in beats_of(b, take) for i in range(len(words_of(beat.text)))]
    if None in spans:
        return None
    return WordsFound(tuple(FoundWord(Said.AS_WRITTEN, span) for span in spans), (), ())


def _words(b: Breakdown, take: Take) -> list[str]:
    return [w for beat in beats_of(b, take) for w in words_of(beat.text)]


def _lines(b: Breakdown, take: Take, all_found: WordsFound) -> dict[str, TakenLine | None]:
    beats, found = beats_of(b, take), all_found.words
    lines: dict[str, TakenLine | None] = {}
    at = 0
    for beat in beats:
        n = len(words_of(beat.text))
        before = max((w.span[1] for w in found[:at] if w.span), default=float(take.start))
        after = min((w.span[0] for w in found[at + n :] if w.span), default=float(take.until))
        last = beat is beats[-1]
        added = tuple(
            replace(x, before=x.before - at)
            for x in all_found.added
            if at <= x.before < at + n or (last and x.before == at + n)
        )
        lines[beat.id] = taken_line(beat, take, found[at : at + n], added, (before, after))
        at += n
    return lines


def _part(progress: Callable[[float], None], number: int, of: int, share: float) -> None:
    progress((number + share) / of)


def _opening(b: Breakdown, beat_id: str) -> str:
    return " ".join(words_of(b.find_beat(beat_id)[1].text)[:5]) + "…"
