"""The command line. Exit status 0, 1 (the work failed: one sentence on stderr) or 2 (wrong use)."""

from __future__ import annotations

import argparse
import io
import json
import os
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from chapto import __version__
from chapto.cli import following, publishing, rendering, shelf, voice
from chapto.cli.own_stdout import own_stdout
from chapto.cli.said import free_project, known, say, told
from chapto.errors import ChaptoError

COMMANDS = ("demo", "new", "render", "inspect", "log", "align", "take", "talked", "listen", "publish", "review",
            "shelf", "track", "schema", "pictures")  # fmt: skip


def main(arguments: list[str] | None = None) -> int:
    """Run `chapto`; returns the exit status."""
    if arguments is None:
        own_stdout()
    given = list(sys.argv[1:] if arguments is None else arguments)
    if not given or (given[0] not in COMMANDS and not given[0].startswith("-")):
        given = ["open", *given]
    options = _parser().parse_args(given)
    work: Callable[[argparse.Namespace], int] = options.work
    for stream in (sys.stdout, sys.stderr):
        # A file's name may hold bytes that are no text.
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="backslashreplace")
    try:
        return work(options)
    except ChaptoError as error:
        print(error, file=sys.stderr)
    except KeyboardInterrupt:
        print("Stopped.", file=sys.stderr)
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    except Exception as error:
        from chapto.store.fault_log import record_fault

        print(record_fault(error, f"“chapto {given[0]}”"), file=sys.stderr)
    return 1


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="chapto",
        description="Turns grappling footage into narrated breakdown videos. “chapto FILE” opens a breakdown.",
    )
    parser.add_argument("--version", action="version", version=f"chapto {__version__}")
    commands = parser.add_subparsers(required=True, metavar="command")

    opened = commands.add_parser("open", help="open the application, on a breakdown if one is named")
    opened.add_argument("file", nargs="?", type=Path)
    opened.set_defaults(work=_open)

    demo = commands.add_parser("demo", help="open the demo breakdown (without a display: render it, take pictures)")
    demo.add_argument("--fresh", action="store_true", help="begin the demo anew")
    demo.add_argument("--folder", type=Path, default=Path("build/demo"), help="where results go without a display")
    demo.add_argument("--lines", type=int, default=720, help="how high the rendered picture is, 720 by default")
    _may_replace(demo)
    demo.set_defaults(work=_demo)

    new = commands.add_parser("new", help="make a breakdown from videos")
    new.add_argument("videos", nargs="+", type=Path, metavar="VIDEO")
    new.add_argument("-o", "--output", required=True, type=Path, metavar="FILE")
    new.add_argument("--form", metavar="FORM", help="lay it out: own roll, match study, half-speed, guest, …")
    new.set_defaults(work=_new)

    rendering.add_to(commands)
    publishing.add_to(commands)
    shelf.add_to(commands)

    inspect = commands.add_parser("inspect", help="print the compiled programme")
    inspect.add_argument("file", type=Path)
    inspect.add_argument("--json", action="store_true", help="as JSON")
    inspect.set_defaults(work=_inspect)

    review = commands.add_parser("review", help="say what a viewer would stumble over")
    review.add_argument("file", type=Path)
    review.add_argument("--json", action="store_true", help="as JSON")
    review.add_argument("--strict", action="store_true", help="exit status 1 where something must be mended")
    review.add_argument(
        "--quick", action="store_true", help="without listening to the sound and looking at the picture"
    )
    review.add_argument("--html", type=Path, metavar="FILE", help="write it as a page")
    review.add_argument("--force", action="store_true", help="replace a page of that name")
    review.set_defaults(work=_review)

    log = commands.add_parser("log", help="write the log as CSV or WebVTT metadata, or read one in")
    log.add_argument("file", type=Path)
    log.add_argument("-o", "--output", type=Path, metavar="OUT", help="a .csv or .vtt file (the screen by default)")
    _may_replace(log)
    log.add_argument("--read", type=Path, metavar="CSV", help="take the log from this file instead")
    log.set_defaults(work=_log)

    align = commands.add_parser("align", help="find the words of a text in a recording")
    align.add_argument("sound", type=Path)
    align.add_argument("text", type=Path, help="the words, as plain text")
    align.add_argument("--json", action="store_true")
    align.set_defaults(work=voice.align)

    take = commands.add_parser("take", help="bring a recording into a breakdown as a narrator's take")
    take.add_argument("file", type=Path)
    take.add_argument("sound", type=Path)
    subject = take.add_mutually_exclusive_group()
    subject.add_argument("--beat", metavar="ID")
    subject.add_argument("--section", metavar="ID")
    subject.add_argument("--whole", action="store_true")
    take.set_defaults(work=voice.take)

    talked = commands.add_parser("talked", help="make a breakdown of a take in which somebody talks while watching")
    talked.add_argument("videos", nargs="+", type=Path, metavar="VIDEO")
    talked.add_argument("--sound", required=True, type=Path, metavar="TAKE", help="the recording of the voice")
    talked.add_argument("--events", required=True, type=Path, metavar="EVENTS", help="what was done meanwhile")
    talked.add_argument("--captions", type=Path, metavar="FILE", help="the words said, as .srt, .vtt or text")
    talked.add_argument("--two", nargs=2, metavar="NAME", help="two people talk: on the left and on the right channel")
    talked.add_argument("--as-it-was", action="store_true", help="without tidying")
    talked.add_argument("-o", "--output", required=True, type=Path, metavar="FILE")
    talked.set_defaults(work=voice.talked)

    listen = commands.add_parser("listen", help="write down what is said in a recording that has no script")
    listen.add_argument("sound", type=Path)
    listen.add_argument("--json", action="store_true")
    listen.set_defaults(work=voice.listen)

    track = commands.add_parser("track", help="follow a point through a video")
    track.add_argument("video", type=Path)
    track.add_argument(
        "--key", action="append", required=True, metavar="T,X,Y", dest="keys",
        help="second of the file and place, 0 to 1 of the picture; “T,X,Y,hidden” hides it from there on",
    )  # fmt: skip
    track.add_argument("--sticks", choices=["body", "mat", "still"], default="body")
    track.add_argument("--start", metavar="T", help="from this second on (the first key by default)")
    track.add_argument("--end", metavar="T", help="to this second (the last key, or five seconds after the only one)")
    track.add_argument("--json", action="store_true", help="as JSON, a row a picture")
    track.set_defaults(work=following.track)

    schema = commands.add_parser("schema", help="print the JSON Schema of .chapto files")
    schema.set_defaults(work=_schema)

    pictures = commands.add_parser("pictures", help="save a picture of each stage, from the demo")
    pictures.add_argument("folder", type=Path)
    _may_replace(pictures)
    pictures.set_defaults(work=_pictures)
    return parser


def _may_replace(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--force", action="store_true", help="replace files of those names (never footage)")


def _open(options: argparse.Namespace) -> int:
    from chapto.app.start import has_display, run

    if not has_display() and "QT_QPA_PLATFORM" not in os.environ:
        raise ChaptoError("There is no display to open a window on; “chapto render” and “chapto inspect” need none.")
    return run(options.file.absolute() if options.file else None)


def _demo(options: argparse.Namespace) -> int:
    from chapto.app.start import has_display, run
    from chapto.demo.shelf import shelved
    from chapto.demo.working_copy import claim_results, demo_project

    if has_display():
        return run(shelved(demo_project(fresh=options.fresh)))
    folder: Path = options.folder
    print(f"There is no display here, so the demo is rendered instead, into {folder.resolve()}.", flush=True)
    replacing = options.force or claim_results(folder)
    project = demo_project(fresh=True, folder=folder, lines=options.lines)
    made = rendering.rendered(project, folder / "two-knee-slides.mp4", quiet=False, replacing=replacing)
    made += _pictures_into(folder / "stages", replacing=replacing)
    print("Made:", *(f"  {p}" for p in made), sep="\n")
    return 0


def _new(options: argparse.Namespace) -> int:
    from chapto.document.checks import checked
    from chapto.document.forms import lay_out
    from chapto.render.new import new_breakdown
    from chapto.store.session import Session

    target = free_project(options.output)
    made = new_breakdown(options.videos, target.parent)
    if options.form:
        made = checked(lay_out(made, options.form))
    Session.create(made, target).close()
    print(f"Made {target} from {len(made.footage)} video{'s' if len(made.footage) != 1 else ''}.")
    return 0


def _inspect(options: argparse.Namespace) -> int:
    from chapto.publish.inspect import inspected, listed
    from chapto.render.production import produce
    from chapto.store.session import Session
    from chapto.voice.guide import GuideVoice

    breakdown = Session.look(options.file).breakdown
    production = told(produce(breakdown, GuideVoice(), known(), project=options.file))
    found = inspected(production.breakdown, production.programme)
    print(json.dumps(found, indent=1, ensure_ascii=False) if options.json else listed(found))
    return 0


def _review(options: argparse.Namespace) -> int:
    from chapto.render.measuring import Measured, measure
    from chapto.render.production import produce
    from chapto.review.as_data import as_data
    from chapto.review.finding import Weight
    from chapto.review.own_limits import users_limits
    from chapto.review.report_html import report_html
    from chapto.review.report_text import report_text
    from chapto.review.review import review
    from chapto.review.reviewed import NOT_HEARD, NOT_WATCHED
    from chapto.store.outputs import OutputGate
    from chapto.store.session import Session
    from chapto.voice.guide import GuideVoice

    breakdown = Session.look(options.file).breakdown
    gate = OutputGate(breakdown, options.file, replacing=options.force)
    if options.html is not None:
        gate.check(options.html)
    production = told(produce(breakdown, GuideVoice(), known(), project=options.file))
    limits, troubles = users_limits()
    for trouble in troubles:
        print(trouble, file=sys.stderr)
    if options.quick:
        measured = Measured(NOT_HEARD, NOT_WATCHED)
    else:
        print("Looking at the picture and listening to the sound; --quick leaves that out.", file=sys.stderr)
        measured = measure(production, options.file)
    voices = {k: s.line for k, s in production.speeches.items()}
    found = review(
        breakdown, production.programme, limits, voices=voices, heard=measured.heard, watched=measured.watched,
        settled=frozenset(production.settled),
    )  # fmt: skip
    if options.html is not None:
        gate.write(options.html, report_html(found, breakdown.title).encode())
    print(json.dumps(as_data(found), indent=1, ensure_ascii=False) if options.json else report_text(found))
    return 1 if options.strict and found.count(Weight.MUST) else 0


def _log(options: argparse.Namespace) -> int:
    from chapto.publish.log_csv import LogFileError, from_csv, to_csv, to_webvtt_metadata
    from chapto.store.outputs import OutputGate
    from chapto.store.session import Session

    if options.read is not None:
        try:
            text = options.read.read_text("utf-8")
        except (OSError, UnicodeDecodeError) as error:
            reason = error.strerror if isinstance(error, OSError) else "it is no UTF-8 text"
            raise LogFileError(f"“{options.read}” can't be read: {reason}.") from None
        session = Session.open(options.file)
        found = from_csv(session.breakdown, text, known().lexicon)
        session.edit("read a log", lambda _: found.breakdown)
        if said := session.save():
            say(said)
        session.close()
        print(*found.unclear, sep="\n", end="\n" if found.unclear else "", file=sys.stderr)
        return 0
    breakdown = Session.look(options.file).breakdown
    as_vtt = options.output is not None and options.output.suffix == ".vtt"
    text = to_webvtt_metadata(breakdown) if as_vtt else to_csv(breakdown)
    if options.output is None:
        print(text, end="")
    else:
        OutputGate(breakdown, options.file, replacing=options.force).write(options.output, text.encode())
    return 0


def _schema(options: argparse.Namespace) -> int:
    from chapto.store.schema import json_schema

    print(json_schema(), end="")
    return 0


def _pictures(options: argparse.Namespace) -> int:
    for path in _pictures_into(options.folder, replacing=options.force):
        print(path)
    return 0


def _pictures_into(folder: Path, *, replacing: bool) -> list[Path]:
    """Pictures are always taken offscreen, from a fresh copy of the demo that is thrown away."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from chapto.app.collecting import Collecting
    from chapto.app.pictures import take_pictures
    from chapto.app.start import application
    from chapto.demo.shelf import shelved
    from chapto.demo.working_copy import demo_project
    from chapto.store.session import Session

    Collecting(application())
    with tempfile.TemporaryDirectory() as scratch:
        # What is opened and left here is nobody's but the pictures'.
        os.environ["XDG_STATE_HOME"] = scratch
        project = shelved(demo_project(fresh=True, folder=Path(scratch)))
        return take_pictures(Session.open(project), folder, replacing=replacing)
