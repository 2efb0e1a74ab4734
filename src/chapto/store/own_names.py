"""Names that the user keeps for what the lexicon knows under others: written into a file of their own."""

from __future__ import annotations

from chapto.lexicon.lexicon import Lexicon, Position, Technique
from chapto.store.errors import StoreError
from chapto.store.user_files import lexicon_file, rows_to_change, write_rows

LONGEST = 60
"""Letters of a name."""


def keep_name(lexicon: Lexicon, item: Position | Technique, name: str) -> None:
    """Write `name` down as another name of `item`; what stands in the file besides stays.

    `StoreError` where it is the name of something else already, is no name, or the file can't be read or written.
    """
    name = " ".join(name.split()).casefold()
    if not 2 <= len(name) <= LONGEST:
        raise StoreError(f"A name has 2 to {LONGEST} letters.")
    for other in (*lexicon.techniques.values(), *lexicon.positions.values()):
        if name in (n.casefold() for n in other.names()):
            if other is item:
                return
            raise StoreError(f"“{name}” is a name of {other.en} already.")
    rows = rows_to_change(lexicon_file())
    table = rows.setdefault("positions", {}) if isinstance(item, Position) else rows.setdefault("techniques", {})
    table = table if isinstance(item, Position) else table.setdefault(item.family, {})
    table[item.id] = {**table.get(item.id, {}), "alias": [*item.alias, name]}
    write_rows(lexicon_file(), rows)
