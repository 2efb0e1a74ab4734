"""House styles that the user makes: written into a file of their own, like the shipped ones."""

from __future__ import annotations

from typing import Any

import msgspec
from msgspec.structs import replace

from chapto.document.mattime import encode_hook
from chapto.pacing.styles import HouseStyle, house_styles, styles_of
from chapto.store.user_files import rows_to_change, styles_file, users_knowledge, write_rows


def own_styles() -> dict[str, HouseStyle]:
    """The user's own styles by name."""
    return {name: style for name, style in users_knowledge().styles.items() if name not in house_styles()}


def make_own(like: str) -> str:
    """Write a copy of the style called `like` as a new one of the user's own; its name."""
    found = users_knowledge().styles
    base, number = found[like], 1
    while (name := f"own {number}") in found:
        number += 1
    keep_own(name, replace(base, title=f"My {base.title[:1].lower()}{base.title[1:]}"))
    return name


def keep_own(name: str, style: HouseStyle) -> None:
    """Write a style of the user's own; `PacingError` when it makes no sense, `StoreError` when the file can't be
    written. What stands there besides, even what can't be used, stays."""
    row: dict[str, Any] = msgspec.to_builtins(style, enc_hook=encode_hook)
    styles_of({name: row})
    write_rows(styles_file(), {**rows_to_change(styles_file()), name: row})


def drop_own(name: str) -> None:
    """Take a style of the user's own out of the file."""
    rows = rows_to_change(styles_file())
    write_rows(styles_file(), {k: row for k, row in rows.items() if k != name})
