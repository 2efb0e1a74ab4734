"""The lexicon with what a user added in a file of their own."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

from platformdirs import user_config_path

from chapto.lexicon.lexicon import Lexicon, LexiconError, read_lexicon, shipped_lexicon


def users_file() -> Path:
    """Where a user's own names are kept: `lexicon.toml` in the XDG config folder."""
    return user_config_path("chapto") / "lexicon.toml"


def users_lexicon(say: Callable[[str], object]) -> Lexicon:
    """The shipped lexicon with the user's own file laid over it; what is wrong with that file is said in a sentence,
    and the shipped one serves."""
    if not os.path.exists(users_file()):
        return shipped_lexicon()
    try:
        return read_lexicon(users_file())
    except LexiconError as error:
        say(str(error))
        return shipped_lexicon()
