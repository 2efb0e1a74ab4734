"""Words found in a recording: what of changed scripts is noticed, what is wrongly blamed, and how fast it goes.

`python -m bench.words_found [DECIBELS]` keeps the sound and changes the script by one word at a time: exchanged, put in
or taken out, at starts, ends and in the middle. Sound: the five read sentences in `tests/voice/speech` and the demo's
script by the guide voice, under pink noise so far below them. Aims: 0.95 noticed and 0.01 blamed at 20 dB and better;
20 times as fast as it is spoken.
"""

from __future__ import annotations

import random
import re
import sys
import time

import numpy as np
from scipy.io import wavfile
from scipy.signal import resample_poly
from tests.voice.test_words_found import SPEECH, noisy

from chapto.demo.script import SCRIPT
from chapto.voice.espeak import say
from chapto.voice.finding.comparing import Said
from chapto.voice.finding.phrases import RATE
from chapto.voice.finding.pronouncing import spoken_form
from chapto.voice.finding.words_found import find_words

OTHER = [
    "guard",
    "pressure",
    "collar",
    "table",
    "window",
    "bridge",
    "slowly",
    "another",
    "seven",
    "marble",
    "river",
    "yellow",
    "because",
    "winter",
]


def lines(decibels: float) -> list[tuple[str, list[str], np.ndarray]]:
    recordings = sorted(SPEECH.glob("*.wav"))
    found = [("read", p.with_suffix(".txt").read_text().split(), wavfile.read(p)[1]) for p in recordings]
    for talk in SCRIPT[2:8]:
        for line in talk.lines:
            words = re.sub(r"@\w+", "", line.words).split()
            raw = say(" ".join(words), "en-us+f3" if line.narrator == "n1" else "en-us+m3", 185)
            found.append(("guide voice", words, np.pad(resample_poly(raw.samples.astype(float), RATE, raw.rate), 6000)))
    return [(kind, words, noisy(sound, decibels)) for kind, words, sound in found]


def main() -> None:
    decibels = float(sys.argv[1]) if len(sys.argv) > 1 else 20.0
    rng = random.Random(1)
    noticed: dict[tuple[str, str], list[bool]] = {}
    blamed = said = 0
    seconds = spent = 0.0
    for kind, words, sound in lines(decibels):
        before = time.process_time()
        plain = find_words(sound, words)
        spent += time.process_time() - before
        seconds += len(sound) / RATE
        blamed += len(words) - plain.as_written + len(plain.added)
        said += len(words)
        for change in ("exchanged", "put in", "taken out"):
            k = rng.choice([0, len(words) - 1, rng.randrange(len(words))])
            new = rng.choice([o for o in OTHER if o not in map(spoken_form, words)])
            written = [*words[:k], *([] if change == "taken out" else [new]), *words[k + (change != "put in") :]]
            found = find_words(sound, written)
            odd = [w.state is not Said.AS_WRITTEN for w in found.words]
            near = any(odd[max(k - 1, 0) : k + 1]) or any(abs(a.before - k) <= 1 for a in found.added)
            noticed.setdefault((kind, change), []).append(near if change == "taken out" else odd[k])
    for (kind, change), seen in sorted(noticed.items()):
        print(f"{kind}, {change}: {sum(seen)} of {len(seen)} noticed")
    every = [x for seen in noticed.values() for x in seen]
    print(f"{decibels:g} dB: {np.mean(every):.2f} noticed, {blamed / said:.3f} blamed, {seconds / spent:.1f} × as fast")


if __name__ == "__main__":
    main()
