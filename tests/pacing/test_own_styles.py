"""House styles of the user's own: written, read back, and survived when broken."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from chapto.pacing.own_styles import drop_own, keep_own, make_own, own_styles
from chapto.pacing.styles import all_styles, house_styles, trouble_with_own, users_file


def test_one_is_made_changed_and_dropped() -> None:
    name = make_own("run-through")
    try:
        assert replace(own_styles()[name], title=house_styles()["run-through"].title) == house_styles()["run-through"]
        keep_own(name, replace(own_styles()[name], longest_hold=Fraction(7, 2)))
        assert own_styles()[name].longest_hold == Fraction(7, 2) and trouble_with_own() == ""
    finally:
        drop_own(name)
    assert name not in all_styles()


def test_a_broken_file_is_told_in_a_sentence_and_the_shipped_styles_serve() -> None:
    path = users_file()
    path.parent.mkdir(parents=True, exist_ok=True)
    before = path.read_text("utf-8") if path.exists() else None
    try:
        path.write_text("[[[ not a style", "utf-8")
        assert all_styles() == house_styles()
        assert trouble_with_own().startswith("The house styles in “styles.toml” can't be read")
    finally:
        path.write_text(before, "utf-8") if before is not None else path.unlink()
