"""House styles that the user makes: written into a file of their own, like the shipped ones."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

import msgspec
import tomli_w
from msgspec.structs import replace

from chapto.document.mattime import encode_hook
from chapto.pacing.styles import HouseStyle, PacingError, all_styles, house_styles, read_styles, users_file


def own_styles() -> dict[str, HouseStyle]:
    """The user's own styles by name."""
    return {name: style for name, style in all_styles().items() if name not in house_styles()}


def make_own(like: str) -> str:
    """Write a copy of the style called `like` as a new one of the user's own; its name."""
    found = all_styles()
    base, number = found[like], 1
    while (name := f"own {number}") in found:
        number += 1
    keep_own(name, replace(base, title=f"My {base.title[:1].lower()}{base.title[1:]}"))
    return name


def keep_own(name: str, style: HouseStyle) -> None:
    """Write a style of the user's own; `PacingError` when it makes no sense or the file can't be written."""
    _write({**own_styles(), name: style})


def drop_own(name: str) -> None:
    """Take a style of the user's own out of the file."""
    _write({k: style for k, style in own_styles().items() if k != name})


def _write(styles: dict[str, HouseStyle]) -> None:
    """Through a file beside it, which is read back before it takes the old one's place."""
    path = users_file()
    beside = path.with_name(path.name + ".new")
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        beside.write_text(tomli_w.dumps({name: _row(style) for name, style in styles.items()}), "utf-8")
        read_styles(beside)
        os.replace(beside, path)
    except OSError as error:
        raise PacingError(f"Your own house styles can't be written to “{path}”: {error.strerror}.") from None
    finally:
        Path(beside).unlink(missing_ok=True)


def _row(style: HouseStyle) -> dict[str, Any]:
    row: dict[str, Any] = msgspec.to_builtins(style, enc_hook=encode_hook)
    return row
