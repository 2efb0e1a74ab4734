"""What the free recogniser makes of the guide voice saying every name of the lexicon: `python -m bench.heard_names`
writes `tests/talk/heard-names.txt` anew, a line a name: the name, a bar, what was heard in its place."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
from scipy.signal import resample_poly

from chapto.lexicon.lexicon import shipped_lexicon
from chapto.voice.espeak import say
from chapto.voice.finding.phrases import RATE
from chapto.voice.listening.listen import _model, _written
from chapto.voice.listening.model import model_folder

FILE = Path(__file__).parent.parent / "tests" / "talk" / "heard-names.txt"
VOICES = ("en-us", "en-us+f3", "en-us+m3")
SAID = "Next comes, {}. That is all."
HEARD = re.compile(r"\bcome\w*[,.:;]?\s+(.+?)[,.;:!?]*\s+(?:that|that's|thats|and that)\b[^.]*\ball\b", re.IGNORECASE)


def main() -> None:
    """Say and hear them all, each with the next of three voices."""
    lexicon = shipped_lexicon()
    names = sorted({n for x in (*lexicon.techniques.values(), *lexicon.positions.values()) for n in x.names()})
    model = _model(str(model_folder()))
    lines = []
    for i, name in enumerate(names):
        spoken = say(SAID.format(name), VOICES[i % len(VOICES)], 150)
        sound = resample_poly(spoken.samples.astype(np.float32), RATE, spoken.rate)
        text = _written(model, np.clip(sound, -32768, 32767).astype(np.int16))
        found = HEARD.search(text)
        if found is not None:
            lines.append(f"{name} | {found[1].strip(' ,.')}")
    FILE.write_text("\n".join(lines) + "\n", "utf-8")
    print(f"{len(lines)} of {len(names)} names heard in their places")


if __name__ == "__main__":
    main()
