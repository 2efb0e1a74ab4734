"""How much louder a programme is made is worked out once for the same sound, and anew for any other."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction as F
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace as changed

from chapto.document import edit_footage, edit_script
from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled
from chapto.media.sound import RATE, FootageSound
from chapto.render import known_gain as module
from chapto.render.known_gain import known_gain
from chapto.render.loudness import gain_for
from chapto.render.mix import Mix
from chapto.render.new import new_breakdown
from chapto.render.production import Production, produce
from chapto.render.sounds import Sounds, sound_digest
from chapto.voice.guide import GuideVoice, SpeechSounds
from tests.media.clips import Clip, make


@pytest.fixture(autouse=True)
def own_cache(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "cache"))


@pytest.fixture
def b(tmp_path: Path) -> Breakdown:
    b = new_breakdown([make(tmp_path / "clip.mp4", Clip(frames=150))], tmp_path)
    if not list(b.beats()):
        b = edit_script.add_beat(b, b.script[0].id)
    return edit_script.rewrite(b, next(x.id for _, x in b.beats()), "Take the base away first, then finish.")


def made_of(b: Breakdown, guide: GuideVoice) -> tuple[Production, Sounds]:
    made = produce(b, guide)
    gym = np.random.default_rng(5).normal(0, 900, (5 * RATE, 2)).astype(np.int16)
    return made, Sounds(SpeechSounds(made.speeches), {b.footage[0].id: FootageSound(gym)})


def gain_of(made: Production, sounds: Sounds) -> float:
    return known_gain(made.breakdown, made.programme, sounds)


def test_the_second_time_nothing_is_mixed(b: Breakdown, guide: GuideVoice, monkeypatch: pytest.MonkeyPatch) -> None:
    made, sounds = made_of(b, guide)
    mixes = lambda gain: Mix(made.breakdown, made.programme, sounds.speeches, sounds.files, gain=gain)  # noqa: E731
    first = gain_of(made, sounds)
    assert first == gain_for(mixes, float(b.format.loudness)) != 0
    monkeypatch.setattr(module, "gain_for", lambda *_, **__: pytest.fail("measured again"))
    assert gain_of(made, sounds) == first


def quieter(b: Breakdown) -> Breakdown:
    return changed(b, format=changed(b.format, loudness=F(-20)))


def said_otherwise(b: Breakdown) -> Breakdown:
    return edit_script.rewrite(b, next(x.id for _, x in b.beats()), "Take the arm away first, then finish.")


def moved(b: Breakdown) -> Breakdown:
    return edit_footage.change_footage(b, b.footage[0].id, offset=F(1, 2))


def another_file(b: Breakdown) -> Breakdown:
    return edit_footage.change_footage(b, b.footage[0].id, fingerprint="another")


@pytest.mark.parametrize("change", [quieter, said_otherwise, moved, another_file])
def test_whatever_is_heard_otherwise_is_another_sound(
    b: Breakdown, guide: GuideVoice, change: Callable[[Breakdown], Breakdown]
) -> None:
    one, other = made_of(b, guide), made_of(change(b), guide)
    assert sound_digest(one[0].breakdown, one[0].programme, one[1]) != sound_digest(
        other[0].breakdown, other[0].programme, other[1]
    )


def test_what_is_only_seen_changes_nothing_of_the_sound(b: Breakdown, guide: GuideVoice) -> None:
    one, other = made_of(b, guide), made_of(changed(b, title="Another title", control_strip=not b.control_strip), guide)
    assert sound_digest(one[0].breakdown, one[0].programme, one[1]) == sound_digest(
        other[0].breakdown, other[0].programme, other[1]
    )


@pytest.mark.parametrize("damage", [np.nan, 1e9, np.zeros(3)], ids=["no number", "too much", "many"])
def test_what_is_damaged_is_worked_out_again(b: Breakdown, guide: GuideVoice, tmp_path: Path, damage: float) -> None:
    made, sounds = made_of(b, guide)
    first = gain_of(made, sounds)
    (place,) = (tmp_path / "cache" / "chapto" / "soundtracks").glob("*-gain.npz")
    np.savez(place, gain=damage)
    assert gain_of(made, sounds) == first
    place.write_bytes(b"no archive")
    assert gain_of(made, sounds) == first


def test_it_can_be_stopped_and_keeps_nothing(b: Breakdown, guide: GuideVoice, tmp_path: Path) -> None:
    made, sounds = made_of(b, guide)
    with pytest.raises(Cancelled):
        known_gain(made.breakdown, made.programme, sounds, cancelled=lambda: True)
    assert not list((tmp_path / "cache" / "chapto" / "soundtracks").glob("*"))
