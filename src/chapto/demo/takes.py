"""The takes of the demo: every line of its script read by the stand-in microphone. `python -m chapto.demo.takes` makes
them anew, which takes a minute, with what was found in them."""

from __future__ import annotations

import json
import os
import shutil
import sys
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np

from chapto.demo.story import demo_breakdown
from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.edit_takes import add_take, cut_out, set_edge
from chapto.document.script import Beat, words_of
from chapto.document.takes import TakeOf, WordEdge
from chapto.media.cache import cache_file
from chapto.media.sound import RATE, FootageSound, load_sound
from chapto.store.fingerprint import fingerprint
from chapto.voice.bringing_in import write_flac
from chapto.voice.fillers import cuts_for
from chapto.voice.recording.stand_in import VOICES
from chapto.voice.recording.stand_in_speech import ReadLine, read_line, room
from chapto.voice.take_words import words_file
from chapto.voice.taken_line import TakenLine
from chapto.voice.takes import lines_of_take

TAKES = Path(__file__).parent / "takes"
TABLE = TAKES / "takes.json"
BEFORE, AFTER = 0.9, 0.5
"""Seconds of the room before and after what is read."""
ATTEMPTS = 10
OFF = 0.03
"""Seconds from which on the start of a tied word is put right by hand."""


def with_takes(b: Breakdown, project_folder: Path) -> Breakdown:
    """The demo `b` with a take of every line, by paths relative to `project_folder`."""
    for row in json.loads(TABLE.read_text("utf-8")):
        path = TAKES / row["file"]
        b = add_take(
            b, path=os.path.relpath(path, project_folder), fingerprint=fingerprint(path),
            seconds=Fraction(row["samples"], RATE), of=TakeOf.BEAT, subject=row["beat"],
        )  # fmt: skip
        for start, end in row["cuts"]:
            b = cut_out(b, b.takes[-1].id, Fraction(start), Fraction(end))
        for word, start, end in row["edges"]:
            edge = WordEdge(beat=row["beat"], word=word, start=Fraction(start), end=Fraction(end))
            b = set_edge(b, b.takes[-1].id, edge)
    return checked(b)


def know_words() -> None:
    """Put what was found in the takes where it is looked for, so that nobody waits for it. What has not been found by
    the method of today is left out by its name alone."""
    for shipped in TAKES.glob("*.words"):
        place = cache_file("words", shipped.stem, ".json")
        if not place.exists():
            place.parent.mkdir(parents=True, exist_ok=True)
            part = place.with_suffix(f".{os.getpid()}.part")
            shutil.copyfile(shipped, part)
            part.replace(place)


def make_takes(folder: Path) -> None:
    """Read every line anew into `folder`; what is found otherwise is read again, a few times."""
    folder.mkdir(exist_ok=True)
    for old in folder.iterdir():
        old.unlink()
    b = demo_breakdown(folder)
    rows = []
    for _, beat in b.beats():
        if words_of(beat.text):
            best = _read(b, beat, folder, 0)
            for attempt in range(1, ATTEMPTS):
                if best.left:
                    best = min(best, _read(b, beat, folder, attempt), key=lambda r: r.left)
            for part in (".flac", ".words"):
                best.path.with_suffix(part).rename(folder / f"{best.words if part == '.words' else beat.id}{part}")
            rows.append(
                {"beat": beat.id, "file": f"{beat.id}.flac", "attempt": best.attempt, "samples": best.samples,
                 "cuts": best.cuts, "edges": best.edges}
            )  # fmt: skip
            print(f"{beat.id}: {best.samples / RATE:.1f} s, {best.left} left, {len(best.cuts)} cuts")
    for spare in folder.glob("try-*"):
        spare.unlink()
    lines = ",\n".join(json.dumps(row) for row in rows)
    (folder / TABLE.name).write_text(f"[\n{lines}\n]\n", "utf-8")


@dataclass(frozen=True)
class _Reading:
    """One `attempt` at a line: its file, what its words are called in the cache, and the differences left."""

    path: Path
    attempt: int
    words: str
    samples: int
    cuts: list[list[str]]
    edges: list[tuple[int, str, str]]
    left: int


def _read(b: Breakdown, beat: Beat, folder: Path, attempt: int) -> _Reading:
    place = [n.id for n in b.narrators].index(b.narrator(beat).id)
    path = folder / f"try-{beat.id}-{attempt}.flac"
    read = read_line(beat.text, voice=VOICES[place], attempt=attempt)
    sound = _sound(read)
    write_flac(path, sound)
    taken = add_take(
        b, path=path.name, fingerprint=fingerprint(path), seconds=Fraction(len(sound), RATE),
        of=TakeOf.BEAT, subject=beat.id,
    )  # fmt: skip
    take, words = taken.takes[-1], words_of(beat.text)
    line = lines_of_take(taken, take, path)[beat.id]
    if line is None:
        raise SystemExit(f"“{beat.text}” is not found in its own take.")
    cuts = [c for c in cuts_for(line, words, load_sound(path, take.fingerprint)) if c[0] > line.start]
    for start, end in cuts:
        taken = cut_out(taken, take.id, Fraction(f"{start:.3f}"), Fraction(f"{end:.3f}"))
    cut = lines_of_take(taken, taken.takes[-1], path)[beat.id]
    found = words_file(take.fingerprint, words, start=take.start, end=take.until)
    shutil.copyfile(found, path.with_suffix(".words"))
    texts = [[f"{a:.3f}", f"{z:.3f}"] for a, z in cuts]
    edges = _put_right(beat, line, read)
    return _Reading(path, attempt, found.stem, len(sound), texts, edges, cut.differences if cut else len(words))


def _put_right(beat: Beat, line: TakenLine, read: ReadLine) -> list[tuple[int, str, str]]:
    """The edges of tied words that were found too far off, put right as a creator does by hand."""
    edges = []
    for tie in beat.ties:
        start, end = (BEFORE + second for second in read.words[tie.word])
        if abs(line.spans[tie.word][0] - start) > OFF:
            edges.append((tie.word, f"{start:.3f}", f"{end:.3f}"))
    return edges


def _sound(read: ReadLine) -> FootageSound:
    heard = np.concatenate([np.zeros(round(BEFORE * RATE)), read.samples, np.zeros(round(AFTER * RATE))])
    heard = heard + room(len(heard), np.random.default_rng(len(heard)))
    mono = np.round(np.clip(heard, -1, 1) * 32767).astype(np.int16)
    return FootageSound(np.stack([mono, mono], axis=1))


if __name__ == "__main__":
    with TemporaryDirectory() as cache:
        os.environ["XDG_CACHE_HOME"] = cache
        make_takes(TAKES)
    sys.exit(0)
