"""Words recognised without a script: the share of wrong ones, clean and under gym noise, and how fast it goes.

`python -m bench.listening` on the five read sentences in `tests/voice/speech`. Aims: word error at most 0.06 clean and
0.13 at 10 dB.
"""

from __future__ import annotations

import time

from rapidfuzz.distance import Levenshtein
from tests.voice.test_words_found import READINGS, noisy, reading

from chapto.voice.finding.phrases import RATE
from chapto.voice.finding.pronouncing import spoken_form
from chapto.voice.listening.listen import listen

SHORT_FORMS = {"mr": "mister", "mrs": "missus"}


def plain(text: str) -> list[str]:
    forms = (spoken_form(w) for part in text.replace("-", " ").split() for w in [part])
    return [SHORT_FORMS.get(f, f) for f in forms if f]


def main() -> None:
    for decibels in (None, 20.0, 10.0):
        wrong = said = 0
        seconds = spent = 0.0
        for name in READINGS:
            sound, words, _ = reading(name)
            heard_sound = sound if decibels is None else noisy(sound, decibels)
            before = time.process_time()
            found = listen(heard_sound)
            spent += time.process_time() - before
            seconds += len(sound) / RATE
            heard, wanted = plain(" ".join(p.text for p in found)), plain(" ".join(words))
            wrong += Levenshtein.distance(wanted, heard)
            said += len(wanted)
        kind = "clean" if decibels is None else f"{decibels:g} dB"
        print(f"{kind}: word error {wrong / said:.3f} of {said} words, {seconds / spent:.1f} × as fast as spoken (CPU)")


if __name__ == "__main__":
    main()
