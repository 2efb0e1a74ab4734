"""Promises over all breakdowns: which are open, which were kept or let go, and what may keep them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from chapto.shelf.book import Book, Settled
from chapto.shelf.database import Database
from chapto.shelf.indexed import Promise

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
    went out. `settled` is what became of it."""

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
                settled.get((p.key, r["path"])),
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
