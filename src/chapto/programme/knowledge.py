"""What the compiler and its readers know besides the document: names, house styles and rule sets, handed in."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache

from chapto.lexicon.lexicon import Lexicon, shipped_lexicon
from chapto.matlog.rules import RuleSet, shipped_rules
from chapto.pacing.styles import HouseStyle, house_styles


@dataclass(frozen=True)
class Knowledge:
    """Everything by its name. `troubles` are sentences about what could not be taken from the user's own files."""

    lexicon: Lexicon
    styles: Mapping[str, HouseStyle]
    rules: Mapping[str, RuleSet]
    troubles: tuple[str, ...] = field(default=())


@lru_cache(maxsize=1)
def shipped_knowledge() -> Knowledge:
    """What comes with Chapto."""
    return Knowledge(shipped_lexicon(), house_styles(), shipped_rules())
