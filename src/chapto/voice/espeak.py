"""The espeak-ng library through ctypes: speech samples and the start of every word."""

from __future__ import annotations

import ctypes
import threading
from dataclasses import dataclass
from typing import Any

import espeakng_loader
import numpy as np
from numpy.typing import NDArray

from chapto.errors import ChaptoError

_RETRIEVAL, _UTF8, _RATE, _WORD, _LIST_END, _IPA = 1, 1, 1, 1, 0, 2
SLOWEST, FASTEST = 80, 450
HASTE = 1.19
"""So many times faster than its nominal rate the voice speaks, its own pauses counted; measured over the demo's script
at 150 to 260 words a minute, within 3 %."""


class VoiceError(ChaptoError):
    """A voice or a sound device that can't be used."""


class _EventId(ctypes.Union):
    _fields_ = [("number", ctypes.c_int), ("name", ctypes.c_char_p), ("string", ctypes.c_char * 8)]


class _Event(ctypes.Structure):
    _fields_ = [
        ("type", ctypes.c_int),
        ("unique_identifier", ctypes.c_uint),
        ("text_position", ctypes.c_int),
        ("length", ctypes.c_int),
        ("audio_position", ctypes.c_int),
        ("sample", ctypes.c_int),
        ("user_data", ctypes.c_void_p),
        ("id", _EventId),
    ]


_Callback = ctypes.CFUNCTYPE(ctypes.c_int, ctypes.POINTER(ctypes.c_short), ctypes.c_int, ctypes.POINTER(_Event))


@dataclass(frozen=True)
class RawSpeech:
    """`samples` (n,) int16 at `rate` Hz; `words` lists (character position from 0, start in milliseconds)."""

    samples: NDArray[np.int16]
    rate: int
    words: tuple[tuple[int, int], ...]


class _Library:
    """espeak-ng keeps one global voice, so there is one of these and it is used under a lock."""

    def __init__(self) -> None:
        self._lib: Any = ctypes.CDLL(espeakng_loader.get_library_path())
        data = str(espeakng_loader.get_data_path()).encode()
        self.rate = self._lib.espeak_Initialize(_RETRIEVAL, 200, data, 0)
        if self.rate <= 0:
            raise VoiceError("The guide voice can't start: its voice data is missing. Install Chapto again.")
        self._blocks: list[NDArray[np.int16]] = []
        self._words: list[tuple[int, int]] = []
        self._callback = _Callback(self._take)
        self._lib.espeak_SetSynthCallback(self._callback)

    def _take(self, wave: Any, count: int, events: Any) -> int:
        if wave and count > 0:
            self._blocks.append(np.ctypeslib.as_array(wave, shape=(count,)).copy())
        i = 0
        while events[i].type != _LIST_END:
            if events[i].type == _WORD:
                self._words.append((events[i].text_position - 1, events[i].audio_position))
            i += 1
        return 0

    def say(self, text: str, voice: str, pace: int) -> RawSpeech:
        if self._lib.espeak_SetVoiceByName(voice.encode()) != 0:
            raise VoiceError(f"There is no guide voice “{voice}”; try en, en-us or en+f3.")
        self._lib.espeak_SetParameter(_RATE, max(SLOWEST, min(round(pace / HASTE), FASTEST)), 0)
        self._blocks, self._words = [], []
        data = text.encode() + b"\0"
        self._lib.espeak_Synth(data, len(data), 0, 1, 0, _UTF8, None, None)
        self._lib.espeak_Synchronize()
        samples = np.concatenate(self._blocks) if self._blocks else np.zeros(0, np.int16)
        return RawSpeech(samples, self.rate, tuple(self._words))

    def phonemes(self, text: str, voice: str) -> str:
        self._lib.espeak_SetVoiceByName(voice.encode())
        self._lib.espeak_TextToPhonemes.restype = ctypes.c_char_p
        rest = ctypes.c_char_p(text.encode())
        found = []
        while rest.value:
            found.append(self._lib.espeak_TextToPhonemes(ctypes.byref(rest), _UTF8, _IPA).decode())
        return " ".join(found)


_lock = threading.Lock()
_library: list[_Library] = []


def say(text: str, voice: str, pace: int) -> RawSpeech:
    """Speech of `text` by espeak-ng voice `voice` at about `pace` words a minute. Safe from any thread."""
    with _lock:
        return _the_library().say(text, voice, pace)


def phonemes(text: str, voice: str = "en-us") -> str:
    """How `text` is said, in the International Phonetic Alphabet. Safe from any thread."""
    with _lock:
        return _the_library().phonemes(text, voice)


def _the_library() -> _Library:
    if not _library:
        _library.append(_Library())
    return _library[0]
