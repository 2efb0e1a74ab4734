"""`chapto render`: the video, with what stands beside it."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from chapto.cli.said import known, told

if TYPE_CHECKING:
    from chapto.render.many_machines import ManyMachines


def add_to(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """Add the command."""
    render = commands.add_parser("render", help="make the video, with captions and chapter list beside it")
    render.add_argument("file", type=Path)
    render.add_argument("-o", "--output", type=Path, metavar="OUT", help="NAME-breakdown.mp4 beside it by default")
    render.add_argument("--force", action="store_true", help="replace files of those names (never footage)")
    render.add_argument("--preview", action="store_true", help="small and soon, from quick pictures of the footage")
    render.add_argument("--quiet", action="store_true", help="no progress")
    render.add_argument("--workers", metavar="ADDRESS", help="render on many machines, like tcp://studio:8786")
    render.add_argument(
        "--shared", action="append", default=[], type=Path, metavar="FOLDER", help="all machines see it"
    )
    render.set_defaults(work=render_command)


def render_command(options: argparse.Namespace) -> int:
    """Make the video."""
    from chapto.publish.package import default_video
    from chapto.render.many_machines import ManyMachines

    target = options.output or default_video(options.file)
    workers = ManyMachines(options.workers, options.shared) if options.workers else None
    for path in rendered(
        options.file, target, quiet=options.quiet, replacing=options.force, preview=options.preview, workers=workers
    ):
        print(path)
    return 0


def rendered(
    project: Path,
    target: Path,
    *,
    quiet: bool,
    replacing: bool,
    preview: bool = False,
    workers: ManyMachines | None = None,
) -> list[Path]:
    """Render a breakdown; the files made."""
    from chapto.publish.package import places_of
    from chapto.render.production import produce, render_production
    from chapto.render.worker import PieceWorkers
    from chapto.store.outputs import OutputGate
    from chapto.store.session import Session
    from chapto.voice.guide import GuideVoice

    breakdown = Session.look(project).breakdown
    OutputGate(breakdown, project, replacing=replacing).check(*places_of(target))
    production = told(produce(breakdown, GuideVoice(), known(), project=project))
    shown = -1

    def progress(share: float) -> None:
        nonlocal shown
        if not quiet and int(share * 20) > shown:
            shown = int(share * 20)
            print(f"rendering {target.name}: {share:.0%}", file=sys.stderr, flush=True)

    with workers if workers is not None else PieceWorkers() as encoders:
        return list(
            render_production(
                production,
                project,
                target,
                replacing=replacing,
                preview=preview,
                workers=encoders,
                progress=progress,
            )
        )
