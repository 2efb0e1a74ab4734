"""`chapto publish`: everything that goes out, made in one folder, and sent if that is wanted."""

from __future__ import annotations

import argparse
import sys
from datetime import datetime
from pathlib import Path

from chapto.cli.said import known, told
from chapto.errors import ChaptoError


def add_to(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add the command."""
    publish = commands.add_parser(
        "publish", help="make everything that goes out: video, captions, thumbnail, shorts, …"
    )
    publish.add_argument("file", type=Path)
    publish.add_argument("-o", "--output", type=Path, metavar="FOLDER", help="NAME-package beside it by default")
    publish.add_argument("--kind", choices=["mp4", "mkv", "webm"], default="mp4", help="container of the video")
    publish.add_argument("--send", action="store_true", help="send it to the simulated site, and write that down")
    publish.add_argument("--title", help="what it is called there; the breakdown's title by default")
    publish.add_argument("--on", metavar="TIME", help="let it be seen from then on, like 2026-12-24T18:00")
    publish.add_argument("--quiet", action="store_true", help="no progress")
    publish.set_defaults(work=publish_command)


def publish_command(options: argparse.Namespace) -> int:
    """Make the package, and send it."""
    from chapto.publish.roles import default_package
    from chapto.render.package.make import Progress, check_folder, make_package
    from chapto.render.package.parts import PARTS
    from chapto.render.production import produce
    from chapto.render.worker import PieceWorkers
    from chapto.store.session import Session
    from chapto.voice.guide import GuideVoice

    folder = options.output or default_package(options.file)
    when = _time(options.on) if options.on else None
    check_folder(folder)
    breakdown = Session.look(options.file).breakdown
    guide, shown = GuideVoice(), [-1]
    production = told(produce(breakdown, guide, known(), project=options.file))

    def progress(p: Progress) -> None:
        if not options.quiet and p.part < len(PARTS) and p.part != shown[0]:
            shown[0] = p.part
            print(f"{p.whole:4.0%}  {PARTS[p.part].name}", file=sys.stderr, flush=True)

    with PieceWorkers() as workers:
        manifest = make_package(
            production, options.file, folder, guide, suffix=f".{options.kind}", workers=workers, told=progress,
            say=lambda sentence: print(sentence, file=sys.stderr),
        )  # fmt: skip
    for file in manifest.files:
        print(folder / file.path)
    if options.send:
        _send(options, folder, when)
    return 0


def _send(options: argparse.Namespace, folder: Path, when: datetime | None) -> None:
    from chapto.document.edit_publishing import note_published
    from chapto.publish.site.stand_in import StandInSite, site_folder
    from chapto.publish.site.upload import draft_of, send
    from chapto.store.session import Session

    session = Session.open(options.file)
    try:
        if session.read_only:
            raise ChaptoError(f"“{options.file.name}” is open elsewhere; send it from there.")
        draft = draft_of(folder, options.title or session.breakdown.title, when)
        published = send(StandInSite(site_folder()), folder, draft)
        session.edit("write down what went out", lambda b: note_published(b, published))
        session.save()
    finally:
        session.close()
    print(published.address)


def _time(text: str) -> datetime:
    try:
        return datetime.fromisoformat(text).astimezone()
    except ValueError:
        raise ChaptoError(f"“{text}” is no time; write it like 2026-12-24T18:00.") from None
