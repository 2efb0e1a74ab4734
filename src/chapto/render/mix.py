"""The sound of the programme: the voice on its words, the gym under it."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping
from fractions import Fraction
from functools import lru_cache
from itertools import accumulate

import numpy as np
from numpy.typing import NDArray

from chapto.clock.passage import Passage
from chapto.document.breakdown import Breakdown
from chapto.media.limiter import MARGIN, limited
from chapto.media.sound import RATE, FootageSound
from chapto.media.stretch import stretched
from chapto.pacing.fitted import Phrase
from chapto.programme.programme import Programme

Samples = NDArray[np.float32]

DUCKED = 10 ** (-22 / 20)
"""Gain of the gym while someone speaks: at least 20 dB down, as WCAG 1.4.7 asks of background sound."""
RAMP = 0.150
MUSIC_RAMP = 0.4
STAY_DOWN = 0.8
"""Seconds of silence in the voice up to which the gym stays down."""
CUT_FADE = 0.006
SEAM = round(0.005 * RATE)
"""Samples by which two phrases overlap, on either side, where only the tempo changes."""
KEPT = 32
"""Phrases whose sound is kept ready."""
PEAK = 10 ** (-1.7 / 20)
"""Of full scale: EBU R 128 allows −1 dBTP at most, and encoders add up to half a decibel."""


class Mix:
    """Reads any stretch of a programme's sound. `speeches` holds each beat's samples, (n,) float32 at 48 kHz;
    `sounds` each file's, by footage id. All of it is made `gain` decibels louder. It is `length` samples long;
    `sections` are the first samples of the script's sections, beginning with 0."""

    def __init__(
        self,
        b: Breakdown,
        programme: Programme,
        speeches: Mapping[str, Samples],
        sounds: Mapping[str, FootageSound],
        *,
        gain: float = 0.0,
    ) -> None:
        self._phrase = lru_cache(maxsize=KEPT)(self._voice)
        self._gains = {m.id: m.gain for m in b.music}
        self._louder = np.float32(10 ** (gain / 20))
        self._b, self._programme, self._speeches, self._sounds = b, programme, speeches, sounds
        self.length = round(programme.seconds * RATE)
        starts = {round(x.start / programme.fps * RATE) for x in programme.sections}
        self.sections = tuple(sorted({0, *(s for s in starts if s < self.length)}))
        self._spoken = _merged(programme.voice)
        self._spoken_until = [end for _, end in self._spoken]
        self._said = sorted(
            (round(x.at * RATE), round(x.until * RATE) + SEAM, i) for i, x in enumerate(programme.voice)
        )
        self._said_until = list(accumulate((end for _, end, _ in self._said), max))
        fps = programme.fps
        self._shown = [(round(x.watch_in / fps * RATE), round(x.watch_out / fps * RATE)) for x in programme.passages]
        self._shown_until = [end for _, end in self._shown]

    def read(self, first: int, count: int) -> Samples:
        """`count` stereo samples from watch sample `first` on: (count, 2) float32, true peak at most `PEAK`."""
        return limited(self.unlimited(first - MARGIN, count + 2 * MARGIN), limit=PEAK)

    def unlimited(self, first: int, count: int) -> Samples:
        """The same before its peaks are brought down."""
        return self._added(first, count) * self._louder

    def _added(self, first: int, count: int) -> Samples:
        """Voice and gym as they are."""
        under = self._gym(first, count) + self._music(first, count)
        out: Samples = under * self._gain(first, count)[:, None]
        for start, _, i in self._said[bisect_right(self._said_until, first) :]:
            if start - 2 * SEAM >= first + count:
                break
            early, sound = self._phrase(i)
            _add(out, first, sound, start - early)
        return out

    def _voice(self, i: int) -> tuple[int, Samples]:
        """The sound of phrase number `i` at its tempo, without a click at its edges, and by how many samples it begins
        before its place: where the voice runs on into the next phrase, the one goes over into the other."""
        voice = self._programme.voice
        phrase = voice[i]
        if phrase.beat not in self._speeches or not phrase.heard:
            return 0, np.zeros(0, np.float32)
        whole = self._speeches[phrase.beat]
        a, b = round(phrase.voice_in * RATE), min(round(phrase.voice_out * RATE), len(whole))
        before = min(SEAM, a) if i and voice[i - 1].runs_on_in(phrase) else 0
        after = min(SEAM, len(whole) - b) if i + 1 < len(voice) and phrase.runs_on_in(voice[i + 1]) else 0
        tempo = float(phrase.tempo)
        sound = stretched(whole[a - before : b + after], tempo).copy()
        fades = [2 * round(pad / tempo) if pad else round(CUT_FADE * RATE) for pad in (before, after)]
        n, m = (min(fade, len(sound) // 2) for fade in fades)
        sound[:n] *= np.linspace(0, 1, n, dtype=np.float32)
        sound[len(sound) - m :] *= np.linspace(1, 0, m, dtype=np.float32)
        return round(before / tempo), sound

    def _gain(self, first: int, count: int) -> Samples:
        """Gain of the gym for each sample: 1, or `DUCKED` while someone speaks, with straight ramps between."""
        gain = np.ones(count, np.float32)
        if not count:
            return gain
        t = (first + np.arange(count)) / RATE
        for start, end in self._spoken[bisect_right(self._spoken_until, t[0] - RAMP) :]:
            if start - RAMP >= t[-1]:
                break
            if end + RAMP > t[0]:
                dip = np.interp(t, [start - RAMP, start, end, end + RAMP], [1, DUCKED, DUCKED, 1])
                np.minimum(gain, dip.astype(np.float32), out=gain)
        return gain

    def _music(self, first: int, count: int) -> Samples:
        """Music where it is wanted, from where it would be had it played from the start, over and over."""
        out = np.zeros((count, 2), np.float32)
        for placed in self._programme.music:
            start, end = round(placed.start * RATE), round(placed.end * RATE)
            sound = self._sounds.get(placed.music)
            a, b = max(start, first), min(end, first + count)
            if sound is None or a >= b or not len(sound):
                continue
            fade = _edges(a - start, b - start, end - start, MUSIC_RAMP, MUSIC_RAMP)
            level = np.float32(10 ** (float(self._gains[placed.music]) / 20))
            out[a - first : b - first] += _round(sound, a, b - a) * fade[:, None] * level
        return out

    def _gym(self, first: int, count: int) -> Samples:
        """Sound of the footage where it runs at its own speed; silence elsewhere, with ramps at the edges."""
        out = np.zeros((count, 2), np.float32)
        passages = self._programme.passages
        for i in range(bisect_right(self._shown_until, first), len(passages)):
            p, (start, end) = passages[i], self._shown[i]
            if start >= first + count:
                break
            if p.rate != 1 or p.footage not in self._sounds:
                continue
            a, b = max(start, first), min(end, first + count)
            footage = self._b.camera(p.footage)
            source = round(footage.media_time(p.mat_in) * RATE) + a - start
            sound = self._sounds[p.footage].read(source, b - a)
            fade_in = 0.0 if i and _runs_on(passages[i - 1], p) else RAMP
            fade_out = 0.0 if i + 1 < len(passages) and _runs_on(p, passages[i + 1]) else RAMP
            out[a - first : b - first] = sound * _edges(a - start, b - start, end - start, fade_in, fade_out)[:, None]
        return out


def _round(sound: FootageSound, first: int, count: int) -> Samples:
    """`count` samples of a sound that begins anew whenever it is over."""
    parts, at = [], first
    while at < first + count:
        inside = at % len(sound)
        n = min(len(sound) - inside, first + count - at)
        parts.append(sound.read(inside, n))
        at += n
    return np.concatenate(parts)


def _runs_on(before: Passage, after: Passage) -> bool:
    """Whether the sound goes on without a seam from one passage into the next."""
    same = before.footage == after.footage and before.rate == after.rate == 1
    return same and abs(before.mat_out - after.mat_in) < Fraction(1, 20)


def _edges(a: int, b: int, length: int, fade_in: float, fade_out: float) -> Samples:
    t = np.arange(a, b) / RATE
    gain = np.ones(b - a)
    if fade_in:
        gain = np.minimum(gain, t / fade_in)
    if fade_out:
        gain = np.minimum(gain, (length / RATE - t) / fade_out)
    return np.clip(gain, 0, 1).astype(np.float32)


def _add(out: Samples, first: int, sound: Samples, at: int) -> None:
    a, b = max(at, first), min(at + len(sound), first + len(out))
    if a < b:
        out[a - first : b - first] += sound[a - at : b - at, None]


def _merged(voice: tuple[Phrase, ...]) -> list[tuple[float, float]]:
    """Stretches of watch seconds in which someone speaks, short silences included."""
    spans: list[tuple[float, float]] = []
    for start, end in sorted((float(p.at), float(p.until)) for p in voice if p.heard):
        if spans and start - spans[-1][1] <= STAY_DOWN:
            spans[-1] = (spans[-1][0], max(end, spans[-1][1]))
        else:
            spans.append((start, end))
    return spans
