"""Promises over all breakdowns: which are open, which were kept or let go, and what may keep them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from pathlib import Path

from chapto.shelf.book import Book, Ended, Settled, read_book
from chapto.shelf.database import Database
from chapto.shelf.errors import ShelfError
from chapto.shelf.home import shelf_of
from chapto.shelf.indexed import Promise
from chapto.shelf.series import part_number, subject_of
from chapto.shelf.words_found import tokens

Later = tuple[str, str, str, str, str]
"""Title, part, day, the address it is out at, and path."""
REQUEST = "request"
SAID = {
    "link": "a link",
    "part": "another video",
    "earlier": "an earlier video",
    "question": "an answer",
    REQUEST: "asked for",
}
"""What each kind of promise promises."""


@dataclass(frozen=True)
class OnShelf:
    """A promise, or a request, with where it was made: a breakdown and its title, and the day. `address` is where that
    went out, `place` the key of the place it was said over. `settled` is what became of it."""

    key: str
    kind: str
    quote: str
    sentence: str
    path: str
    title: str
    day: str
    beat: str = ""
    word: int = 0
    address: str = ""
    place: str = ""
    settled: Settled | None = None

    @property
    def is_open(self) -> bool:
        """Whether it is still to be kept."""
        return self.settled is None


def promises(database: Database, book: Book) -> tuple[OnShelf, ...]:
    """All of them, the open ones first, each group with the oldest first."""
    settled = {(s.key, s.path): s for s in book.settled}
    found = []
    for r in database.rows(
        "SELECT promise.*, path, title, day, (SELECT address FROM out WHERE out.breakdown = breakdown.id "
        "AND withdrawn = '' ORDER BY at DESC LIMIT 1) AS address FROM promise "
        "JOIN breakdown ON breakdown.id = promise.breakdown"
    ):
        p = Promise(kind=r["kind"], quote=r["quote"], sentence=r["sentence"], beat=r["beat"], word=r["word"])
        found.append(
            OnShelf(
                p.key, p.kind, p.quote, p.sentence, r["path"], r["title"], r["day"], p.beat, p.word, r["address"] or "",
                r["place"], settled.get((p.key, r["path"])),
            )
        )  # fmt: skip
    titles = {r["path"]: r["title"] for r in database.rows("SELECT path, title FROM breakdown")}
    found += [
        OnShelf(
            q.id, REQUEST, q.text, q.text, q.path, titles.get(q.path, ""), q.day, settled=settled.get((q.id, q.path))
        )
        for q in book.requests
    ]
    return tuple(sorted(found, key=lambda p: (not p.is_open, p.day, p.path, p.key)))


def settled_in(book: Book, project: Path | None) -> Mapping[str, Settled]:
    """What became of the promises of one breakdown, by key: what review and the description ask for."""
    return {s.key: s for s in book.settled if project is not None and s.path == str(Path(project).absolute())}


def settled_of(project: Path | None) -> Mapping[str, Settled]:
    """The same, read from the shelf a breakdown stands on; nothing where that can't be read."""
    if project is None:
        return {}
    try:
        return settled_in(read_book(shelf_of(project)), project)
    except ShelfError:
        return {}


def kept_lines(settled: Mapping[str, Settled]) -> tuple[str, ...]:
    """A line for each promise that was kept and says where: “Part two”: the words that were written down."""
    return tuple(
        f"“{key.split('/', 2)[-1].capitalize()}”: {s.words}"
        for key, s in settled.items()
        if s.how is Ended.KEPT and s.words
    )


def likely_keepers(one: OnShelf, later: Iterable[Later], *, most: int = 3) -> list[tuple[str, str]]:
    """Breakdowns made later that may keep a promise: titles with the addresses they are out at. The next part of its
    series comes first, then those that share most words with what was promised."""
    subject, number = subject_of(one.title), part_number(one.title)
    asked = {t for t in tokens(f"{one.sentence} {one.title}") if len(t) > 3}
    rows = []
    for title, part, day, address, path in later:
        if path == one.path:
            continue
        next_part = number is not None and subject_of(title) == subject and part_number(title) == number + 1
        shared = len(asked & set(tokens(f"{title} {part}")))
        if next_part or shared:
            rows.append((not next_part, -shared, day, title, address))
    return [(title, address) for *_, title, address in sorted(rows)[:most]]
