"""The user's own names, house styles and rules: each entry judged alone, none lost, what is wrong said."""

from __future__ import annotations

import json
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import msgspec
import pytest
from msgspec.structs import replace

from chapto.matlog.ledger import ledger
from chapto.pacing.styles import Weights, house_styles
from chapto.programme.compile import compile_programme
from chapto.programme.knowledge import shipped_knowledge
from chapto.store.errors import StoreError
from chapto.store.own_names import keep_name
from chapto.store.own_styles import drop_own, keep_own, make_own, own_styles
from chapto.store.user_files import lexicon_file, rules_file, styles_file, users_knowledge
from tests.document.samples import small
from tests.matlog.bouts import bout


@pytest.fixture(autouse=True)
def no_files_left() -> Iterator[None]:
    files = (styles_file(), rules_file(), lexicon_file())
    files[0].parent.mkdir(parents=True, exist_ok=True)
    yield
    for file in files:
        file.unlink(missing_ok=True)


def test_without_files_it_is_what_ships() -> None:
    known = users_knowledge()
    assert known.styles == house_styles() and known.troubles == ()
    assert known.lexicon is shipped_knowledge().lexicon


def test_a_style_is_made_changed_and_dropped() -> None:
    name = make_own("run-through")
    assert replace(own_styles()[name], title=house_styles()["run-through"].title) == house_styles()["run-through"]
    keep_own(name, replace(own_styles()[name], longest_hold=Fraction(7, 2)))
    assert own_styles()[name].longest_hold == Fraction(7, 2) and users_knowledge().troubles == ()
    drop_own(name)
    assert name not in users_knowledge().styles


def test_one_entry_that_makes_no_sense_costs_no_other(tmp_path: Path) -> None:
    styles_file().write_text(
        '[good]\nlike = "run-through"\ntitle = "Good"\nlongest_hold = "2"\n'
        '[bad]\nlike = "run-through"\nbase_rate = "7"\n[odd]\nlike = "nowhere"\ntitle = "Odd"\n'
    )
    known = users_knowledge()
    assert (
        known.styles["good"].longest_hold == 2 and known.styles["good"].breath == house_styles()["run-through"].breath
    )
    assert "bad" not in known.styles and "odd" not in known.styles
    assert len(known.troubles) == 2 and all("“styles.toml”" in t for t in known.troubles)


@pytest.mark.parametrize("field", Weights.__struct_fields__)
def test_a_weight_that_is_new_in_chapto_loses_nobody_their_style(field: str) -> None:
    weights = {k: v for k, v in msgspec.to_builtins(house_styles()["run-through"].weights).items() if k != field}
    rows = ", ".join(f"{k} = {json.dumps(v)}" for k, v in weights.items())
    styles_file().write_text(f'[mine]\nlike = "half-speed study"\ntitle = "Mine"\nweights = {{ {rows} }}\n')
    mine = users_knowledge().styles["mine"]
    assert getattr(mine.weights, field) == getattr(house_styles()["half-speed study"].weights, field)
    assert mine.title == "Mine"


@pytest.mark.parametrize("text", ["[[[ not a style", "\x00", "mine = 3\n"])
def test_a_broken_file_is_said_served_around_and_never_written_over(text: str) -> None:
    styles_file().write_text(text)
    known = users_knowledge()
    assert {k: known.styles[k] for k in house_styles()} == house_styles() and len(known.troubles) == 1
    if "mine" not in text:
        with pytest.raises(StoreError, match="nothing was changed"):
            make_own("run-through")
        assert styles_file().read_text() == text


def test_a_users_own_rules_are_used_and_ones_that_make_no_sense_are_said() -> None:
    rules_file().write_text('[mine]\nlike = "positional"\ntitle = "Mine"\nhold = 2\npoints = { takedown = 1 }\n')
    known = users_knowledge()
    assert ledger(bout("st - 8, leg 1 1, cg 1 2.5"), known.lexicon, known.rules["mine"]).derived_score() == (1, 0)
    for text in ('[x]\ntitle = "X"\nhold = 3\npoints = { backflip = 9 }\n', "[x\n", "[x]\ntitle = 3\n"):
        rules_file().write_text(text)
        assert "x" not in users_knowledge().rules and len(users_knowledge().troubles) == 1


def test_a_users_own_names_add_and_replace_each_judged_alone() -> None:
    lexicon_file().write_text(
        '[techniques.pass]\nmarsh-pass = { en = "marsh pass", from = ["open-guard"], to = "mount" }\n'
        'x = { en = "x", to = "the moon" }\nknee-slide = { like = "knee-slide", alias = ["reed slide"] }\ny = 3\n'
    )
    known = users_knowledge()
    assert known.lexicon.technique_named("Marsh Pass").to == "mount"  # type: ignore[union-attr]
    assert known.lexicon.technique_named("reed slide").id == "knee-slide"  # type: ignore[union-attr]
    assert known.lexicon.technique_named("x") is None and len(known.troubles) == 2


def test_the_compiler_reads_no_disk_and_gives_the_same_whatever_stands_there(tmp_path: Path) -> None:
    b = replace(small(), style="run-through")
    before = compile_programme(b, {})
    styles_file().write_text('[run-through]\nlike = "stop-and-talk"\ntitle = "Mine"\n')
    assert compile_programme(b, {}) == before
    assert compile_programme(b, {}, users_knowledge()) != before


def test_a_name_of_ones_own_is_kept_beside_the_others_and_known_from_then_on() -> None:
    lexicon_file().write_text('[techniques.pass]\nmarsh-pass = { en = "marsh pass", from = ["open-guard"] }\n')
    known = users_knowledge().lexicon
    slide = known.techniques["knee-slide"]
    keep_name(known, slide, "  Reed   Slide ")
    keep_name(users_knowledge().lexicon, users_knowledge().lexicon.techniques["knee-slide"], "eel slide")
    keep_name(users_knowledge().lexicon, users_knowledge().lexicon.positions["mount"], "on the chest")
    after = users_knowledge()
    assert after.troubles == () and after.lexicon.technique_named("marsh pass") is not None
    names = after.lexicon.techniques["knee-slide"].names()
    assert set(slide.names()) < set(names) and {"reed slide", "eel slide"} < set(names)
    assert "on the chest" in after.lexicon.positions["mount"].names()


def test_a_name_that_is_taken_or_a_file_that_cannot_be_read_changes_nothing() -> None:
    known = users_knowledge().lexicon
    for name, said in (("arm bar", "is a name of arm bar already"), ("x", "2 to 60 letters"), ("y" * 99, "2 to 60")):
        with pytest.raises(StoreError, match=said):
            keep_name(known, known.techniques["knee-slide"], name)
    assert not lexicon_file().exists()
    lexicon_file().write_text("[broken\n")
    with pytest.raises(StoreError, match="nothing was changed"):
        keep_name(known, known.techniques["knee-slide"], "reed slide")
    assert lexicon_file().read_text() == "[broken\n"
