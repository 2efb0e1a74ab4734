"""What is found in a file's sound is found once, and kept."""

from __future__ import annotations

import numpy as np
import pytest

from chapto.demo.generate import FOOTAGE
from chapto.errors import Cancelled
from chapto.media import loud_and_tones as module
from chapto.media.cache import cache_file
from chapto.media.loud_and_tones import LOUDNESS_HERTZ, VERSION, LoudAndTones, loud_and_tones
from chapto.media.sound import RATE, FootageSound, load_sound


def kept_at(key: str) -> str:
    return str(cache_file("readings", f"{key}-sound-{VERSION}", ".npz"))


def same(a: LoudAndTones, b: LoudAndTones) -> bool:
    return a.signals == b.signals and np.array_equal(a.loudness, b.loudness)


@pytest.fixture(scope="module")
def bout() -> FootageSound:
    return load_sound(FOOTAGE / "table-side-1.mp4", "loud-and-tones")


def test_the_loudness_is_the_root_mean_square_ten_times_a_second(bout: FootageSound) -> None:
    found = loud_and_tones(bout, "rms")
    step = RATE // LOUDNESS_HERTZ
    assert found.loudness.shape == (len(bout) // step,) and found.loudness.dtype == np.float32
    for i in (0, 17, len(found.loudness) - 1):
        part = bout.read(i * step, step).astype(float).mean(axis=1)
        assert found.loudness[i] == pytest.approx(np.sqrt((part**2).mean()), rel=1e-4, abs=1e-7)
    assert found.signals and all(0 <= s.start < s.end <= len(bout) / RATE for s in found.signals)


def test_the_second_time_it_is_read_and_not_found_again(bout: FootageSound, monkeypatch: pytest.MonkeyPatch) -> None:
    first = loud_and_tones(bout, "twice")
    with monkeypatch.context() as m:
        m.setattr(module, "find_signals", lambda *_, **__: pytest.fail("looked for again"))
        assert same(loud_and_tones(bout, "twice"), first)


@pytest.mark.parametrize("damage", [b"", b"not an archive", None])
def test_what_is_damaged_or_of_another_sound_is_found_again(bout: FootageSound, damage: bytes | None) -> None:
    first = loud_and_tones(bout, "damaged")
    with open(kept_at("damaged"), "r+b") as file:
        if damage is None:
            file.truncate(200)
        else:
            file.truncate(0)
            file.write(damage)
    assert same(loud_and_tones(bout, "damaged"), first)
    np.savez(kept_at("damaged"), loudness=first.loudness[:-3], tones=np.zeros((1, 3)))
    assert same(loud_and_tones(bout, "damaged"), first)
    np.savez(kept_at("damaged"), loudness=first.loudness, tones=np.full((1, 3), np.nan))
    assert same(loud_and_tones(bout, "damaged"), first)


def test_it_can_be_stopped_and_nothing_half_is_kept(bout: FootageSound) -> None:
    with pytest.raises(Cancelled):
        loud_and_tones(bout, "stopped", cancelled=lambda: True)
    assert not cache_file("readings", f"stopped-sound-{VERSION}", ".npz").exists()
