"""`chapto shelf`: finding, what is covered, adding folders, and taking everything out in open formats."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING, Any

from chapto.cli.said import known, say

if TYPE_CHECKING:
    from chapto.shelf.search import Found
    from chapto.shelf.shelf import Shelf


def add_to(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add the command and its own commands."""
    shelf = commands.add_parser("shelf", help="find earlier examples, see what is covered, over all breakdowns")
    shelf.add_argument("--at", type=Path, metavar="FOLDER", help="a shelf elsewhere than the user's own")
    acts = shelf.add_subparsers(required=True, metavar="act")
    search = acts.add_parser("search", help="find exchanges: “knee slide stopped by frame, after half guard”")
    search.add_argument("words", nargs="+")
    search.add_argument("--most", type=int, default=20, metavar="N")
    search.add_argument("--json", action="store_true")
    search.set_defaults(work=_search)
    covered = acts.add_parser("coverage", help="positions, ways between them and techniques: seen and explained")
    covered.add_argument("--json", action="store_true")
    covered.set_defaults(work=_coverage)
    add = acts.add_parser("add", help="put all breakdowns of a folder on the shelf, now and later")
    add.add_argument("folder", type=Path)
    add.set_defaults(work=_add)
    export = acts.add_parser("export", help="everything as CSV, JSON Lines and iCalendar")
    export.add_argument("-o", "--output", required=True, type=Path, metavar="FOLDER")
    export.add_argument("--force", action="store_true", help="replace files of these names")
    export.set_defaults(work=_export)
    forget = acts.add_parser("forget", help="let nothing on the shelf name a person any more")
    forget.add_argument("person")
    forget.set_defaults(work=_forget)


def _opened(options: argparse.Namespace) -> Shelf:
    from chapto.media.filmed_on import filmed_on
    from chapto.shelf.home import shelf_of
    from chapto.shelf.shelf import Shelf

    folder = options.at if options.at is not None else shelf_of(None)
    return Shelf(folder, known().lexicon, filmed=filmed_on)


def _refreshed(shelf: Shelf) -> None:
    found = shelf.refresh()
    for trouble in found.troubles:
        say(trouble)


def _search(options: argparse.Namespace) -> int:
    with _opened(options) as shelf:
        _refreshed(shelf)
        query = shelf.understood(" ".join(options.words), date.today())
        found = shelf.search.find(query, most=max(options.most, 1))
        if options.json:
            asked = {"filters": [asdict(f) for f in query.filters], "words": query.words}
            print(json.dumps({"asked": asked, "found": [_row(f) for f in found]}, indent=1, ensure_ascii=False))
        else:
            for f in found:
                print(f"{f.day}  {f.title}: {f.called or f.said} ({'; '.join(f.why)})\n  {f.path}#{f.key}")
            if not found:
                print("Nothing on the shelf fits.")
    return 0


def _row(f: Found) -> dict[str, Any]:
    return {k: str(v) if isinstance(v, Path) else v for k, v in asdict(f).items() if k != "id"}


def _coverage(options: argparse.Namespace) -> int:
    with _opened(options) as shelf:
        _refreshed(shelf)
        found = shelf.coverage()
        if options.json:
            print(json.dumps({**asdict(found), "gaps": found.gaps()}, indent=1, ensure_ascii=False))
            return 0
        for t in found.techniques:
            e = t.ended
            print(f"{t.name}: tried {t.seen}, explained {t.explained}; landed {e.landed}, stopped {e.stopped}")
        for sentence in found.gaps():
            print(sentence)
    return 0


def _add(options: argparse.Namespace) -> int:
    from chapto.shelf.edit_book import add_folder

    with _opened(options) as shelf:
        shelf.change(lambda book: add_folder(book, options.folder))
        found = shelf.refresh()
        print(f"{found.read} breakdowns were read.")
        for trouble in found.troubles:
            say(trouble)
    return 0


def _export(options: argparse.Namespace) -> int:
    with _opened(options) as shelf:
        _refreshed(shelf)
        for place in shelf.export(options.output, replacing=options.force):
            print(place)
    return 0


def _forget(options: argparse.Namespace) -> int:
    with _opened(options) as shelf:
        count = shelf.forget_person(options.person)
        print(f"Nothing on the shelf names {options.person} any more; {count} breakdowns still do.")
    return 0
