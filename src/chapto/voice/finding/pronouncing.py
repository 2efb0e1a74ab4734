"""How words are said, as the acoustic model wants it: ARPAbet phones from its dictionary, else from espeak-ng.

The dictionary is the CMU Pronouncing Dictionary that the recogniser ships.
"""

from __future__ import annotations

import re
from functools import lru_cache
from pathlib import Path

from chapto.document.script import MARKS
from chapto.voice.espeak import phonemes

_IPA = {
    "tʃ": "CH", "dʒ": "JH", "aɪ": "AY", "aʊ": "AW", "eɪ": "EY", "oʊ": "OW", "ɔɪ": "OY", "əʊ": "OW",
    "ɪə": "IH R", "eə": "EH R", "ʊə": "UH R", "ɑː": "AA", "ɔː": "AO", "ɜː": "ER", "uː": "UW", "iː": "IY", "n̩": "AH N",
    "l̩": "AH L", "oː": "AO", "æ": "AE", "ɐ": "AH", "ə": "AH", "ʌ": "AH", "ɛ": "EH", "ɪ": "IH", "i": "IY", "ᵻ": "IH",
    "ʊ": "UH", "u": "UW", "ɔ": "AO", "ɒ": "AA", "ɑ": "AA", "a": "AA", "e": "EH", "o": "OW", "ɚ": "ER", "ɝ": "ER",
    "ɾ": "T", "ɹ": "R", "r": "R", "ŋ": "NG", "ʃ": "SH", "ʒ": "ZH", "θ": "TH", "ð": "DH", "ɡ": "G", "g": "G", "j": "Y",
    "h": "HH", "x": "K", "b": "B", "d": "D", "f": "F", "k": "K", "l": "L", "m": "M", "n": "N", "p": "P", "s": "S",
    "t": "T", "v": "V", "w": "W", "z": "Z",
}  # fmt: skip
"""Signs of the International Phonetic Alphabet, as espeak-ng writes them, to ARPAbet."""
WEAK = frozenset({"he", "him", "his", "her", "has", "have", "had"})
"""Words that lose their h in connected speech (common practice of phonetics)."""
_LONGEST_FIRST = re.compile("|".join(sorted(map(re.escape, _IPA), key=len, reverse=True)))
_VARIANT = re.compile(r"\(\d+\)$")


def spoken_form(word: str) -> str:
    """What is said of a written word: small letters without the marks round it; empty for a mark that stands alone."""
    return word.strip(MARKS).casefold().replace("’", "'")


class Dictionary:
    """Pronunciations by spoken form, looked up when asked for. `path` is a file in the CMU dictionary's format."""

    def __init__(self, path: Path) -> None:
        self._known: dict[str, list[str]] = {}
        for line in path.read_text("utf-8").splitlines():
            word, phones = line.split(None, 1)
            self._known.setdefault(_VARIANT.sub("", word), []).append(phones)

    def phones(self, form: str) -> tuple[str, ...]:
        """Every way to say `form`, each a line of ARPAbet phones; by its parts or by rule where it is not listed."""
        known = self._known.get(form) or [self._made_up(form)]
        weak = [k.removeprefix("HH ") for k in known] if form in WEAK else []
        said = [*known, *weak]
        return tuple(dict.fromkeys([*said, *map(without_r, said)]))

    def _made_up(self, form: str) -> str:
        parts = [p for p in re.split(r"[-/ ]", form) if p]
        if len(parts) > 1 and all(p in self._known for p in parts):
            return " ".join(self._known[p][0] for p in parts)
        return from_ipa(phonemes(form))


@lru_cache(maxsize=1)
def shipped_dictionary() -> Dictionary:
    """The dictionary that the recogniser ships."""
    from pocketsphinx import get_model_path

    return Dictionary(Path(get_model_path("en-us/cmudict-en-us.dict")))


def from_ipa(text: str) -> str:
    """ARPAbet phones of an IPA transcription; stress and length are left out, as the acoustic model has neither."""
    return " ".join(_IPA[m[0]] for m in _LONGEST_FIRST.finditer(text)) or "AH"


def without_r(phones: str) -> str:
    """The same word as most people in England, Australia and South Africa say it: no r but before a vowel.

    The model's ER is coloured by r; without, it comes nearest to AH (common practice).
    """
    sounds = phones.split()
    return " ".join(
        "AH" if sound == "ER" else sound
        for sound, after in zip(sounds, [*sounds[1:], ""], strict=True)
        if sound != "R" or after[:1] in tuple("AEIOU")
    )
