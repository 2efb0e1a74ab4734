"""The picture or the word left free."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from chapto.document import edit_script
from chapto.programme.ways.way import MOVED, UNTIE, Trouble, Try


def let_go(t: Trouble) -> Iterator[Try]:
    """The beat's treatment left to the fit, or the word untied."""
    if t.beat.treatment is not None:
        yield Try(
            "fit", "Let the fit decide here", partial(edit_script.treat, beat_id=t.beat.id, treatment=None), MOVED
        )
    if any(tie.word == t.lack.word for tie in t.beat.ties):
        untie = partial(edit_script.untie_word, beat_id=t.beat.id, word=t.lack.word)
        yield Try("untie", f"Untie “{t.word_text}”", untie, UNTIE)
