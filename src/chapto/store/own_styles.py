"""House styles that the user makes: written into a file of their own, like the shipped ones."""

from __future__ import annotations

from typing import Any

import msgspec
import tomli_w
from msgspec.structs import replace

from chapto.document.mattime import encode_hook
from chapto.pacing.styles import HouseStyle, house_styles, styles_of
from chapto.store.atomic import write_atomically
from chapto.store.errors import StoreError, plain_reason
from chapto.store.user_files import own_rows, styles_file, users_knowledge


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
    _write({**_rows(), name: row})


def drop_own(name: str) -> None:
    """Take a style of the user's own out of the file."""
    _write({k: row for k, row in _rows().items() if k != name})


def _rows() -> dict[str, Any]:
    """What stands in the file; one that can't be read is never written over."""
    troubles: list[str] = []
    rows = own_rows(styles_file(), troubles)
    if troubles:
        raise StoreError(f"{troubles[0]} Put it right or away first; nothing was changed.")
    return rows


def _write(rows: dict[str, Any]) -> None:
    path = styles_file()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StoreError(f"Your own house styles can't be written to “{path}”: {plain_reason(error)}.") from None
    write_atomically(path, tomli_w.dumps(rows).encode())
