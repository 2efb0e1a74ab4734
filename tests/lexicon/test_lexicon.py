"""The names of the sport, and finding them by a few letters or by ear."""

from __future__ import annotations

import random

import pytest

from chapto.document.bout import MomentKind, Outcome
from chapto.document.script import BeatKind
from chapto.lexicon.find import Finder
from chapto.lexicon.lexicon import School, shipped_lexicon
from chapto.lexicon.trade_words import trade_word

LEXICON = shipped_lexicon()
TECHNIQUES = Finder(LEXICON.techniques.values())
SOUND_CHANGES = (
    ("ee", "ea"), ("ck", "k"), ("th", "t"), ("oo", "u"), ("ar", "ah"), ("er", "a"), ("igh", "ie"), ("s", "z"),
    ("c", "k"), ("ou", "oo"), ("g", "j"), ("ll", "l"), ("ss", "s"), ("tt", "t"), ("kn", "n"), ("a", "e"),
    ("i", "e"), ("o", "u"), ("v", "b"), ("ph", "f"), ("wr", "r"), ("y", "i"),
)  # fmt: skip
BY_HAND = {
    "barambolo": "berimbolo", "hill hook": "outside-heel-hook", "kamura": "kimura", "nee slide": "knee-slide",
    "gilateen": "guillotine", "sissor sweep": "scissor-sweep", "a rear naked joke": "rear-strangle",
    "armbar": "arm-bar", "oosoto gari": "outer-reap", "uchi matta": "inner-thigh-throw", "tomo ay nage": "circle-throw",
    "toriandoh": "toreando", "omo plata": "omoplata", "anakonda": "anaconda", "toe hould": "toe-hold",
    "nebar": "knee-bar", "under hook sweep": "underhook-sweep", "wizer": "overhook", "dubble leg": "double-leg",
    "singel leg": "single-leg", "cross ashy": "cross-entry", "hip bumb": "hip-bump", "sit owt": "sit-out",
}  # fmt: skip


def misheard(name: str, rng: random.Random) -> str:
    """One or two sound changes, and often a slip of the fingers."""
    for _ in range(rng.choice([1, 2])):
        usable = [c for c in SOUND_CHANGES if c[0] in name]
        if usable:
            name = name.replace(*rng.choice(usable), 1)
    i = rng.randrange(1, len(name) - 2)
    return rng.choice(
        [name, name[:i] + name[i + 1 :], name[:i] + name[i + 1] + name[i] + name[i + 2 :], name.replace(" ", "", 1)]
    )


def test_there_are_enough_names_and_each_belongs_somewhere() -> None:
    assert len(LEXICON.positions) >= 25 and len(LEXICON.techniques) >= 220
    families = {t.family for t in LEXICON.techniques.values()}
    assert families >= {
        "takedown",
        "pull",
        "pass",
        "sweep",
        "escape",
        "strangle",
        "armlock",
        "leglock",
        "grip",
        "frame",
    }
    assert sum(bool(t.ja) for t in LEXICON.techniques.values()) >= 40


def test_no_two_techniques_share_a_right_name() -> None:
    names = [n.casefold() for t in LEXICON.techniques.values() for n in t.names()]
    assert len(names) == len(set(names))


def test_schools_give_their_name_or_the_english_one() -> None:
    bar = LEXICON.techniques["arm-bar"]
    assert [bar.name(s) for s in School] == ["arm bar", "juji gatame", "arm bar"]


def test_every_finish_carries_a_caution_that_defers_to_coach_event_and_law() -> None:
    for t in LEXICON.techniques.values():
        if t.family in ("strangle", "armlock", "leglock"):
            assert t.risk and all(LEXICON.caution(risk) for risk in t.risk), t.en
    assert "qualified coach" in LEXICON.always and "event" in LEXICON.always and "allow" in LEXICON.always
    assert LEXICON.techniques["inside-heel-hook"].risk == ("rotational knee",)
    assert LEXICON.techniques["flying-arm-bar"].risk == ("throw", "fast joint lock")
    assert LEXICON.caution("") == ""


def test_a_caution_on_the_picture_is_read_at_a_glance() -> None:
    """At most fourteen words (common practice): two lines."""
    assert max(len(text.split()) for text in LEXICON.risks.values()) <= 14


def test_no_position_has_the_name_of_a_technique() -> None:
    """Getting into a position is called that: “enter the truck”."""
    does = {n.casefold() for t in LEXICON.techniques.values() for n in t.names()}
    assert does & {n.casefold() for p in LEXICON.positions.values() for n in p.names()} == set()


@pytest.mark.parametrize("asked", ["kn sl", "sl kn", "knee sl", "KNEE SLICE"])
def test_a_few_letters_of_its_words_in_any_order_find_it(asked: str) -> None:
    assert TECHNIQUES.find(asked)[0].item.id == "knee-slide"


def test_of_200_misspelled_or_misheard_names_95_in_100_are_first_or_second() -> None:
    rng = random.Random(5)
    asked = dict(BY_HAND)
    for t in rng.sample(sorted(LEXICON.techniques.values(), key=lambda t: t.id), 200 - len(BY_HAND)):
        asked[misheard(t.en, rng)] = t.id
    right = [name for name, wanted in asked.items() if wanted in [f.item.id for f in TECHNIQUES.find(name, most=2)]]
    assert len(asked) >= 195
    assert len(right) >= 0.95 * len(asked), set(asked) - set(right)


def test_the_recent_one_comes_first_among_equals_and_is_offered_before_anything_is_typed() -> None:
    equal = [f.item.id for f in TECHNIQUES.find("guard pull")]
    assert equal[0] == "guard-pull"
    assert [f.item.id for f in TECHNIQUES.find("", recent=["toe-hold", "arm-bar"])] == ["toe-hold", "arm-bar"]
    plain = [f.item.id for f in TECHNIQUES.find("foot sw", most=6)]
    assert TECHNIQUES.find("foot sw", most=6, recent=[plain[1]])[0].item.id in plain[:2]


def test_a_name_is_taken_without_asking_only_when_it_is_clear() -> None:
    assert TECHNIQUES.sure("knee slice").id == "knee-slide"  # type: ignore[union-attr]
    assert TECHNIQUES.sure("choke") is None and TECHNIQUES.sure("zzz") is None


@pytest.mark.parametrize("asked", ["stack", "heel hook", "cross ashi", "toe", "mount escape"])
def test_what_could_mean_several_things_or_another_thing_is_asked(asked: str) -> None:
    assert TECHNIQUES.sure(asked) is None


@pytest.mark.parametrize(
    ("asked", "meant"),
    [("singel leg", "single-leg"), ("nee slide", "knee-slide"), ("inside heel hook", "inside-heel-hook"),
     ("anaconda chok", "anaconda"), ("barambolo", "berimbolo"), ("rear naked choke", "rear-strangle")],
)  # fmt: skip
def test_what_is_clear_is_taken_without_asking(asked: str, meant: str) -> None:
    found = TECHNIQUES.sure(asked)
    assert found is not None and found.id == meant


def test_the_trades_own_words_are_on_the_screen_and_files_keep_theirs() -> None:
    kinds = (*Outcome, *MomentKind, *BeatKind)
    assert {trade_word(k) for k in (Outcome.STOPPED, Outcome.HALF)} == {"defended", "partly"}
    assert trade_word(MomentKind.SLIP) == trade_word(BeatKind.SLIP) == "mistake"
    for kind in (Outcome, MomentKind, BeatKind):
        assert len({trade_word(k) for k in kind}) == len(kind)
    assert all(trade_word(k) for k in kinds)
