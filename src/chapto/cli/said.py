"""What commands say beside what they do."""

from __future__ import annotations

import os
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from chapto.errors import ChaptoError

if TYPE_CHECKING:
    from chapto.programme.knowledge import Knowledge
    from chapto.render.production import Production


def known() -> Knowledge:
    """What ships with the user's own laid over it; what is wrong with that is said."""
    from chapto.store.user_files import users_knowledge

    found = users_knowledge()
    for trouble in found.troubles:
        say(trouble)
    return found


def told(production: Production) -> Production:
    """The same, after what is wrong with its takes and marks was said."""
    for trouble in production.troubles:
        say(trouble)
    for unplaced in production.programme.unplaced:
        say(unplaced.sentence)
    return production


def say(sentence: str) -> None:
    """A sentence on the error stream."""
    print(f"chapto: {sentence}", file=sys.stderr)


def free_project(target: Path) -> Path:
    """Where a new breakdown may be made; `ChaptoError` says why it may not."""
    if target.suffix != ".chapto":
        raise ChaptoError(f"“{target.name}” should end in .chapto.")
    if not target.parent.is_dir():
        raise ChaptoError(f"The folder “{target.parent}” is not there.")
    if os.path.lexists(target):
        raise ChaptoError(f"“{target}” is there already; choose another name.")
    return target
