"""Sound encoded in pieces: heard, it is as if it had been encoded as one; and what did not change is not made again."""

from __future__ import annotations

import hashlib
from pathlib import Path
from typing import Any, cast

import av
import numpy as np
import pytest
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.sound import RATE
from chapto.render import piece_cache, sound_pieces
from chapto.render.encodings import AAC, OPUS
from chapto.render.mix import Mix
from chapto.render.sound_pieces import LONG, encoded, joins, packets_in_pieces

SECONDS = 42


@pytest.fixture
def own_cache(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "cache"))
    return tmp_path / "cache"


class Heard:
    """Something like speech over a gym: tones that come and go, over noise."""

    def __init__(self, *, other_from: float = SECONDS, other_to: float = SECONDS) -> None:
        t = np.arange(SECONDS * RATE) / RATE
        speech = np.sin(2 * np.pi * (180 + 60 * np.sin(2.3 * t)) * t) * np.clip(np.sin(5.1 * t), 0, 1)
        noise = np.random.default_rng(3).normal(size=len(t)) * 0.02
        other = (t >= other_from) & (t < other_to)
        speech[other] = np.sin(2 * np.pi * 440 * t[other])
        self.samples = np.stack([0.4 * speech + noise, 0.36 * speech + np.roll(noise, 77)], axis=1).astype(np.float32)
        self.length = len(t)

    def read(self, first: int, count: int) -> NDArray[np.float32]:
        return self.samples[first : first + count]


def packets(heard: Heard) -> list[bytes]:
    return list(packets_in_pieces(cast(Mix, heard), AAC, lambda: False))


def decoded(found: list[bytes]) -> NDArray[np.float32]:
    maker = cast(Any, av.CodecContext.create("aac", "w"))
    maker.sample_rate, maker.layout, maker.format = RATE, "stereo", "fltp"
    maker.open()
    reader = cast(Any, av.CodecContext.create("aac", "r"))
    reader.extradata = maker.extradata
    return np.concatenate([f.to_ndarray() for p in found for f in reader.decode(av.Packet(p))], axis=1)[:, AAC.frame :]


def nearness(heard: Heard, sound: NDArray[np.float32], first: int, end: int) -> float:
    """Decibels from the sound to what coding added."""
    wanted, got = heard.samples[first:end].T, sound[:, first:end]
    return float(10 * np.log10(np.square(wanted).mean() / np.square(wanted - got).mean()))


def test_joints_are_as_near_to_the_sound_as_everything_else(own_cache: Path) -> None:
    heard = Heard()
    pieces, whole = packets(heard), encoded(heard.samples, AAC)
    assert len(pieces) == len(whole)
    one, other = decoded(pieces), decoded(whole)
    joints = range(LONG * AAC.frame, heard.length - AAC.frame, LONG * AAC.frame)
    assert len(joints) >= 4
    for joint in joints:
        span = joint - AAC.frame, joint + AAC.frame
        assert nearness(heard, one, *span) > nearness(heard, other, *span) - 3
    last = heard.length - 2 * AAC.frame
    assert nearness(heard, one, 0, last) > nearness(heard, other, 0, last) - 0.5


def test_only_what_is_heard_otherwise_is_encoded_again(own_cache: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    before = packets(Heard())
    made: list[int] = []

    def counted(samples: NDArray[np.float32], code: object) -> list[bytes]:
        made.append(len(samples))
        return encoded(samples, AAC)

    monkeypatch.setattr(sound_pieces, "encoded", counted)
    assert packets(Heard()) == before and not made
    changed = packets(Heard(other_from=25, other_to=27))
    assert len(made) == 1 and changed != before
    assert hashlib.sha256(b"".join(changed[:LONG])).digest() == hashlib.sha256(b"".join(before[:LONG])).digest()


def test_a_piece_that_was_spoilt_is_made_anew(own_cache: Path) -> None:
    before = packets(Heard())
    for place in (own_cache / "chapto" / piece_cache.SOUND.folder).glob("*.packets"):
        place.write_bytes(b"\xc1nonsense")
    assert packets(Heard()) == before


def test_it_can_be_stopped_and_only_codes_that_join_are_cut() -> None:
    with pytest.raises(Cancelled):
        list(packets_in_pieces(cast(Mix, Heard()), AAC, lambda: True))
    assert joins(AAC) and not joins(OPUS)
