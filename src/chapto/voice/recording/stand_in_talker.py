"""The stand-in talker: plays a written session, talking with a made voice and using the picture meanwhile.

A session is text. A line is said, after a silence; what stands in braces is done where it stands. The picture:
`{play 0.5}`, `{stop}`, `{back 5}`, `{ahead 10}`, `{go 84.2}`, `{camera Far wall}`, `{fro 2}` (the last two seconds to
and fro). The keys and time: `{wrong}`, `{chapter}`, `{again 4}` (what was said in the last four seconds is said again),
`{wait 2}`. The pointer: `{press 0.4 0.5}`, `{draw 0.6 0.5}`, `{release}`. A line that begins with `2>` is said by
somebody else, at a microphone of their own. Lines that begin with # are left out.
"""

from __future__ import annotations

import re
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from chapto.document.script import words_of
from chapto.document.talks import Act, Acted, Done, Moved, Pointed, SaidWord, Span, to_and_fro
from chapto.errors import ChaptoError
from chapto.programme.placed import Caption
from chapto.publish.captions import to_webvtt
from chapto.store.fault_log import record_fault
from chapto.voice.recording.microphone import RATE, Hear, Lost, Prompt
from chapto.voice.recording.stand_in_speech import Sound, read_line, room

_MOVES = ("play", "stop", "back", "ahead", "go", "fro", "camera")
_DO = re.compile(r"\{([^{}]*)\}")
CUE = 8
"""Words of a caption."""
BLOCK = RATE // 50
SILENCE = 0.45
"""Seconds between two lines."""
SECOND, CROSSTALK = "2>", np.float32(0.2)
"""What a line of the second person begins with, and how loud each is at the other's microphone: −14 dB."""
EARLY = 0.06
"""Seconds before a word in which something is done at it."""


class SessionError(ChaptoError):
    """A written session that makes no sense."""


@dataclass(frozen=True)
class Performance:
    """A session as it is played: the sound (n,) float32 at 48 kHz, or (n, 2) where two talk, what was `done`, and the
    words with their seconds."""

    samples: Sound
    done: Done
    said: tuple[SaidWord, ...]

    @property
    def seconds(self) -> Fraction:
        """How long it lasts."""
        return Fraction(len(self.samples), RATE)

    def captions(self) -> str:
        """Its words as a caption file that a machine made, in WebVTT."""
        cues = [self.said[i : i + CUE] for i in range(0, len(self.said), CUE)]
        return to_webvtt(tuple(Caption(c[0].start, c[-1].end, " ".join(w.text for w in c)) for c in cues))


class StandInTalker:
    """A `Microphone` that hears a session by a `clock`: its seconds may pass faster than time does."""

    def __init__(self, performance: Performance, *, clock: Callable[[], float] = time.monotonic) -> None:
        self.channels = performance.samples.ndim
        self.performance, self.clock = performance, clock
        self._stop = threading.Event()
        self._thread: threading.Thread | None = None

    def prompt(self, lines: Sequence[Prompt]) -> None:
        """It says what stands in its session."""

    def start(self, hear: Hear, lost: Lost) -> None:
        """Begin to talk."""
        self._stop.clear()
        self._thread = threading.Thread(target=self._run, args=(hear, lost), name="stand-in talker", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Fall silent."""
        self._stop.set()
        if self._thread is not None:
            self._thread.join()
            self._thread = None

    def _run(self, hear: Hear, lost: Lost) -> None:
        # The first block is there at once, so that the clock of who hears begins where the session does.
        samples, began, at = self.performance.samples, self.clock() - BLOCK / RATE, 0
        try:
            while not self._stop.is_set():
                due = round((self.clock() - began) * RATE)
                while at + BLOCK <= due and not self._stop.is_set():
                    block = samples[at : at + BLOCK]
                    heard = np.zeros((BLOCK, self.channels), np.int16)
                    heard[: len(block)] = (np.clip(block, -1, 1) * 32767).reshape(len(block), -1)
                    hear(heard)
                    at += BLOCK
                self._stop.wait(BLOCK / RATE / 4)
        except Exception as error:
            lost(record_fault(error, "The stand-in talker"))


def perform(session: str, *, voice: str, other: str = "", start: Fraction = Fraction(0)) -> Performance:
    """Play a session said by `voice`, and by the `other` where two talk, whose picture stands at mat second `start` in
    the beginning. The same session is always played the same. `SessionError` says in a sentence what makes no sense."""
    playing = _Playing(start)
    for line in session.splitlines():
        if line.strip() and not line.lstrip().startswith("#"):
            if line.lstrip().startswith(SECOND):
                playing.line(line.lstrip().removeprefix(SECOND), other or voice, 2)
            else:
                playing.line(line, voice, 1)
    playing.wait(0.6)
    return playing.over()


class _Playing:
    def __init__(self, start: Fraction) -> None:
        self._now, self._mat, self._rate, self._speed, self._camera = 0.0, float(start), 0.0, 1.0, ""
        self._fro: Span | None = None
        self._sound: list[tuple[float, Sound, int]] = []
        self._moved: list[Moved] = []
        self._pointed: list[Pointed] = []
        self._acts: list[Acted] = []
        self._said: list[SaidWord] = []
        self._move()

    def line(self, line: str, voice: str, channel: int) -> None:
        """Say a line at a microphone, doing what stands in it at its words."""
        parts = _DO.split(line)
        text = " ".join(part.strip() for part in parts[::2] if part.strip())
        self.wait(SILENCE if text else 0.0)
        if not text:
            for done in parts[1::2]:
                self._do(done)
            return
        read = read_line(text, voice=voice, attempt=1)
        begun = self._now
        self._sound.append((begun, read.samples, channel))
        for word, (start, end) in zip(words_of(text), read.words, strict=True):
            self._said.append(SaidWord(text=word, start=_ms(begun + start), end=_ms(begun + end)))
        count = 0
        for part, done in _pairs(parts):
            count += len(words_of(part))
            at = read.words[count][0] if count < len(read.words) else len(read.samples) / RATE
            if done:
                self.wait(max(begun + at - EARLY - self._now, 0.0))
                self._do(done)
        self.wait(max(begun + len(read.samples) / RATE - self._now, 0.0))

    def wait(self, seconds: float) -> None:
        """Time passes, and the picture runs if it does."""
        self._now += seconds
        self._mat += self._rate * seconds

    def _do(self, done: str) -> None:
        name, *given = done.split(maxsplit=1)
        rest = given[0] if given else ""
        if self._fro is not None and name in _MOVES:
            self._mat = to_and_fro(self._mat, (float(self._fro[0]), float(self._fro[1])))
            self._fro = self._fro if name == "camera" else None
        match name:
            case "play":
                self._rate = self._speed = _number(done, rest or "1")
                self._move()
            case "stop":
                self._rate = 0.0
                self._move()
            case "back" | "ahead":
                by = _number(done, rest)
                self._mat = max(self._mat + (by if name == "ahead" else -by), 0.0)
                self._move()
            case "go":
                self._mat = _number(done, rest)
                self._move()
            case "fro":
                high = _ms(max(self._mat, 1.0))
                low = max(high - _ms(_number(done, rest or "2")), Fraction(0))
                self._mat, self._fro, self._rate = float(low), (low, high), self._speed
                self._move()
            case "again":
                since = _ms(max(self._now - _number(done, rest), 0.0))
                self._acts.append(Acted(at=_ms(self._now), act=Act.AGAIN, since=since))
            case "camera":
                self._camera = rest
                self._move()
            case "wait":
                self.wait(_number(done, rest))
            case "wrong" | "chapter":
                self._acts.append(Acted(at=_ms(self._now), act=Act(name)))
            case "press" | "draw":
                x, y = (_number(done, part) for part in rest.split())
                self._pointed.append(Pointed(at=_ms(self._now), x=x, y=y))
            case "release":
                last = self._pointed[-1] if self._pointed else Pointed(at=_ms(self._now), x=0.5, y=0.5)
                self._pointed.append(Pointed(at=_ms(self._now), x=last.x, y=last.y, pressed=False))
            case _:
                raise SessionError(f"“{{{done}}}” is nothing that can be done.")

    def _move(self) -> None:
        rate = _ms(self._rate or self._speed)
        made = Moved(
            at=_ms(self._now), mat=_ms(self._mat), camera=self._camera, rate=rate, playing=self._rate > 0,
            fro=self._fro,
        )  # fmt: skip
        self._moved.append(made)

    def over(self) -> Performance:
        """Everything together, in a quiet room."""
        count = round(self._now * RATE)
        both = np.stack([room(count, np.random.default_rng(seed)) for seed in (7, 8)], axis=1)
        for at, sound, channel in self._sound:
            first = round(at * RATE)
            part = sound[: max(count - first, 0)]
            both[first : first + len(part), channel - 1] += part
            both[first : first + len(part), 2 - channel] += part * CROSSTALK
        samples = both if any(channel == 2 for *_, channel in self._sound) else both[:, 0]
        done = Done(picture=tuple(self._moved), pointer=tuple(self._pointed), acts=tuple(self._acts))
        return Performance(np.asarray(np.clip(samples, -1, 1), dtype=np.float32), done, tuple(self._said))


def _pairs(parts: list[str]) -> Iterator[tuple[str, str]]:
    """Words, and what is done behind them."""
    return zip(parts[::2], [*parts[1::2], ""], strict=True)


def _number(done: str, text: str) -> float:
    try:
        return float(text)
    except ValueError:
        raise SessionError(f"“{{{done}}}” lacks a number.") from None


def _ms(seconds: float) -> Fraction:
    return Fraction(round(seconds * 1000), 1000)
