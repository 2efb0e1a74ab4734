"""The word of the script that waits for an earlier example, and what is looked for then. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass

from chapto.document.breakdown import Breakdown
from chapto.document.script import words_of
from chapto.lexicon.lexicon import Lexicon, Technique
from chapto.review.texts import names_in
from chapto.shelf.query import Asks, Filter, Query


@dataclass(frozen=True)
class Waiting:
    """Word `word` of `beat`; `said` is the word with those round it, `query` what is looked for."""

    beat: str
    word: int
    said: str
    query: Query


def waiting_at(b: Breakdown, beat_id: str, word: int, lexicon: Lexicon) -> Waiting:
    """What is looked for at a word: the technique or position that is named there, else the nearest named in the beat,
    else the technique of the exchange that is told."""
    section, beat = b.find_beat(beat_id)
    words = words_of(beat.text)
    found = sorted(
        names_in(lexicon, beat.text), key=lambda n: 0 if n.first <= word < n.end else abs(n.first - word) + 1
    )
    near = " ".join(words[max(word - 2, 0) : word + 4])
    if found:
        item = found[0].item
        asks = Asks.TECHNIQUE if isinstance(item, Technique) else Asks.POSITION
        return Waiting(beat_id, word, near, Query((Filter(asks, item.id, item.en),)))
    exchange = next((x for x in b.exchanges if x.id == section.exchange), None)
    known = lexicon.technique_named(exchange.technique) if exchange is not None else None
    if known is not None:
        return Waiting(beat_id, word, near, Query((Filter(Asks.TECHNIQUE, known.id, known.en),)))
    return Waiting(beat_id, word, near, Query())
