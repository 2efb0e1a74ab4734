"""The demo breakdown: what Ilka made of the bout between Wren Adeyo and Moss Tarrant."""

from __future__ import annotations

import os
import re
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

from chapto.demo.drawn import with_marks
from chapto.demo.script import EARLIER_ROLL, SCRIPT
from chapto.demo.shots import BOUT, SPARRING, Shot
from chapto.document.bout import Exchange, Moment, MomentKind, Outcome, Round
from chapto.document.bout_rules import PositionSpan, RefereeCall, Result, Ruling
from chapto.document.breakdown import Breakdown, Label
from chapto.document.checks import checked
from chapto.document.clearance import Agreement, Clearance, Person
from chapto.document.condition import Condition, ConditionKind
from chapto.document.footage import Footage
from chapto.document.people import Athlete, Narrator, Side
from chapto.document.photos import Photo
from chapto.document.reviewing import Waiver
from chapto.document.script import Beat, Section, Stamp, Tie
from chapto.store.fingerprint import fingerprint

FOOTAGE, PHOTOS = Path(__file__).parent / "footage", Path(__file__).parent / "photos"
PICTURES = {"first-try.jpg": "First try, by the mat", "second-try.jpg": "Second try, by the mat"}
K = MomentKind
MOMENTS: dict[str, tuple[str, K, str]] = {
    "level": ("32.9", K.HIPS, "hips drop under Moss's hands"),
    "leg": ("34.4", K.GRIP, "both hands behind the knee"),
    "fall": ("38.3", K.BASE, "Moss's base is gone"),
    "cut": ("85.8", K.KNEE_LINE, "knee on the thigh, shin not across"),
    "frame": ("87.2", K.FRAME, "far arm frames on the collarbone"),
    "back": ("89.4", K.SLIP, "half guard again"),
    "under": ("104.3", K.GRIP, "underhook before the knee moves"),
    "knee": ("105.7", K.KNEE_LINE, "knee to the mat"),
    "past": ("109.0", K.FINISH, "hips clear of the legs"),
    "half": ("138.0", K.KNEE_LINE, "her shin is between his legs"),
    "knees": ("140.6", K.GRIP, "Moss has the underhook"),
    "over": ("144.9", K.BASE, "no post on that side"),
    "swept": ("146.8", K.FINISH, "Wren on her back"),
    "ashi": ("175.6", K.KNEE_LINE, "his knee line is past her hips"),
    "free": ("189.0", K.BASE, "knee free, foot back"),
    "drag": ("192.8", K.GRIP, "his arm across her body"),
    "belt": ("203.8", K.GRIP, "one arm over, one under"),
    "hooks": ("208.6", K.HIPS, "hooks inside the thighs"),
    "arm": ("223.4", K.GRIP, "forearm under the chin"),
    "tap": ("229.9", K.FINISH, "the tap"),
}
LABELS = {"frame": "Frame on the collarbone", "under": "Underhook"}
"""Labels of Ilka's own; the names of the techniques come from the log."""

EXCHANGES: dict[str, tuple[str, str, str, Side, Outcome]] = {
    "entry": ("30.6", "41.4", "single leg takedown", Side.FIRST, Outcome.LANDED),
    "first try": ("83.6", "91", "knee slide", Side.FIRST, Outcome.STOPPED),
    "second try": ("102.8", "112.4", "knee slide", Side.FIRST, Outcome.LANDED),
    "sweep": ("135.4", "149", "underhook sweep", Side.SECOND, Outcome.LANDED),
    "leg lock": ("172.4", "191", "outside heel hook", Side.FIRST, Outcome.STOPPED),
    "back": ("191", "212", "arm drag to the back", Side.FIRST, Outcome.LANDED),
    "finish": ("221.6", "233.4", "rear naked choke", Side.FIRST, Outcome.LANDED),
}

TRACK = """
4 standing - | 11 clinch - | 32.8 in-on-the-leg 1 | 38.3 scramble - | 40.4 closed-guard 1 | 66.5 half-guard 1
109.2 side-control 1 | 128 knee-on-belly 1 | 137.4 half-guard 1 | 140.2 dogfight 1 | 145.6 scramble -
147 open-guard 2 | 173.2 outside-ashi 1 | 188.6 open-guard 2 | 190.8 seated-guard 2 | 193 scramble -
195 turtle 1 | 207 back-one-hook 1 | 208.6 back-control 1 | 231.6 end
600 closed-guard 1 | 604.6 half-guard 1 | 620.8 side-control 1 | 629.4 knee-on-belly 1 | 637.4 side-control 1 | 640 end
"""
"""Who was where: mat second, position, and who had its upper or attacking part (1 Wren, 2 Moss)."""
REFEREE = ((44, 1, 2, "takedown"), (112.6, 1, 3, "pass"), (131.4, 1, 2, "knee on belly"), (150.4, 2, 2, "sweep"),
           (211.8, 1, 4, "back control"))  # fmt: skip

PEOPLE = (
    Person(
        id="p1",
        name="Wren Adeyo",
        part="marigold sleeves",
        agreement=Agreement.AGREED,
        how="in person, 12 January",
        minor=False,
    ),
    Person(
        id="p2",
        name="Moss Tarrant",
        part="lagoon sleeves",
        agreement=Agreement.AGREED,
        how="by message, 13 January",
        minor=False,
    ),
    Person(
        id="p3", name="Sunna Vale", part="referee", agreement=Agreement.ASKED, how="wrote on 14 January", minor=False
    ),
)
CONDITIONS = (
    Condition(id="c1", footage="f3", kind=ConditionKind.BLOCKED, start=Fraction("0.5"), end=Fraction("20.7")),
    Condition(id="c2", footage="f3", kind=ConditionKind.FOGGED, start=Fraction("41.7"), end=Fraction("53.6")),
)
"""What Ilka decided already about the far wall's picture, in seconds of its file."""
CAMERAS = {"table-side-1": "Table side", "table-side-2": "Table side", "far-wall": "Far wall"}
RIGHTS = {
    "Table side": Clearance(
        owner="Ilka", agreement=Agreement.AGREED, how="own camera", credit="Camera: Ilka", music=False, commentary=False,
        thumbnail=True, hurt=False, organiser="Saltmarsh Winter Open", organiser_agreed=True, scope="this video",
    ),
    "Far wall": Clearance(owner="Saltmarsh Winter Open", agreement=Agreement.ASKED, how="wrote on 14 January",
                          credit="Second camera: Saltmarsh Winter Open", hurt=False),
    "Tuesday round": Clearance(owner="Tidewrack Grappling", agreement=Agreement.AGREED, how="the club's own, 20 January",
                               credit="Sparring: Tidewrack Grappling", music=False, commentary=False,
                               thumbnail=False, hurt=False),
}  # fmt: skip

ABOUT = """The same knee slides twice: the first time it is stopped, the second time it is past. What changed is one arm.
With Wren Adeyo and Moss Tarrant, told by Ilka and Bram."""
WAIVERS = (
    *(
        Waiver(
            check="rights", item=f"f{i}", quote="Sunna Vale has not answered.",
            reason="She answers by Friday; nothing is published before.",
        )
        for i in (1, 2, 3)
    ),
    Waiver(check="captions read", quote="all", reason="Captions are word for word, at the pace of the talk."),
)  # fmt: skip
"""What Ilka decided about what a review finds."""

_TIED = re.compile(r"^(.*?)@(\w+)(\W*)$")


def demo_breakdown(project_folder: Path, *, marks: bool = False) -> Breakdown:
    """The demo document, with its footage by paths relative to `project_folder`, and with Ilka's `marks`."""
    moments = {name: f"m{i}" for i, name in enumerate(MOMENTS, 1)}
    exchanges = {name: f"x{i}" for i, name in enumerate(EXCHANGES, 1)}
    bare = Breakdown(
        title="Two knee slides",
        part="Saltmarsh Winter Open, mat 2",
        about=ABOUT,
        first=Athlete(name="Wren Adeyo", kit="marigold sleeves", kit_colour="#E3A33A"),
        second=Athlete(name="Moss Tarrant", kit="lagoon sleeves", kit_colour="#3AA6B5"),
        narrators=(
            Narrator(id="n1", name="Ilka", guide_voice="en+f3", pace=190),
            Narrator(id="n2", name="Bram", guide_voice="en+m3", pace=180),
        ),
        footage=_footage(project_folder),
        photos=_photos(project_folder),
        people=PEOPLE,
        conditions=CONDITIONS,
        rounds=(
            Round(id="r1", name="Bout", start=Fraction(4), end=Fraction("231.6")),
            Round(id="r2", name="Tuesday round", start=Fraction(EARLIER_ROLL), end=Fraction(EARLIER_ROLL + 40)),
        ),
        positions=_track(TRACK),
        ruling=Ruling(
            points=tuple(
                RefereeCall(
                    id=f"g{i}", at=Fraction(str(at)), side=SIDES[str(side)] or Side.FIRST, points=points, note=note
                )
                for i, (at, side, points, note) in enumerate(REFEREE, 1)
            ),
            result=Result(winner=Side.FIRST, how="submission"),
        ),
        exchanges=tuple(
            Exchange(id=exchanges[name], start=Fraction(a), end=Fraction(z), technique=t, by=by, outcome=outcome)
            for name, (a, z, t, by, outcome) in EXCHANGES.items()
        ),
        moments=tuple(
            Moment(id=moments[name], at=Fraction(at), kind=kind, note=note)
            for name, (at, kind, note) in MOMENTS.items()
        ),
        script=_script(exchanges, moments),
        score_strip=True,
        waivers=WAIVERS,
        labels=tuple(
            Label(id=f"l{i}", moment=moments[name], text=text) for i, (name, text) in enumerate(LABELS.items(), 1)
        ),
    )
    return checked(with_marks(bare) if marks else bare)


SIDES = {"1": Side.FIRST, "2": Side.SECOND, "-": None}


def _track(text: str) -> tuple[PositionSpan, ...]:
    """Spans from `second position side` marks; each lasts to the next, and `end` ends a round."""
    marks = [m.split() for line in text.strip().splitlines() for m in line.split("|")]
    return tuple(
        PositionSpan(start=Fraction(a[0]), end=Fraction(z[0]), position=a[1], top=SIDES[a[2]])
        for a, z in pairwise(marks)
        if a[1] != "end"
    )


def _footage(project_folder: Path) -> tuple[Footage, ...]:
    names = {"table-side-1": "Table side", "table-side-2": "Table side, later", "far-wall": "Far wall"}
    return tuple(
        _one(f"f{i}", names.get(shot.name, "Tuesday round"), shot, shift, project_folder)
        for i, (shot, shift) in enumerate([*((s, 0) for s in BOUT), *((s, EARLIER_ROLL) for s in SPARRING)], 1)
    )


def _photos(project_folder: Path) -> tuple[Photo, ...]:
    return tuple(
        Photo(
            id=f"o{i}", name=name, path=os.path.relpath(PHOTOS / file, project_folder),
            fingerprint=fingerprint(PHOTOS / file), width=1200, height=800, clearance=RIGHTS["Table side"],
            seen=("p1", "p2"),
        )
        for i, (file, name) in enumerate(PICTURES.items(), 1)
    )  # fmt: skip


def _one(footage_id: str, name: str, shot: Shot, shift: int, project_folder: Path) -> Footage:
    path = FOOTAGE / f"{shot.name}.mp4"
    return Footage(
        id=footage_id,
        name=name,
        path=os.path.relpath(path, project_folder),
        fingerprint=fingerprint(path),
        aspect=Fraction(shot.camera.width, shot.camera.height),
        lines=shot.camera.height,
        duration=Fraction(str(shot.seconds)),
        fps=Fraction(shot.fps),
        offset=Fraction(str(shot.mat_in)) + shift,
        drift=Fraction(str(shot.drift)),
        camera=CAMERAS.get(shot.name, ""),
        clearance=RIGHTS[CAMERAS.get(shot.name, name)],
        seen=("p1", "p2", "p3") if shot in BOUT else ("p1", "p2"),
    )


def _script(exchanges: dict[str, str], moments: dict[str, str]) -> tuple[Section, ...]:
    sections, number = [], 0
    count = 0
    for talk in SCRIPT:
        count += not talk.id
        beats = []
        for said in talk.lines:
            number += not said.id
            text, ties = _untied(said.words, moments)
            beats.append(
                Beat(
                    id=said.id or f"b{number}", text=text, kind=said.kind, narrator=said.narrator, ties=ties,
                    treatment=said.treatment, stamps=(Stamp(word=0, at=Fraction(said.at)),) if said.at else (),
                )
            )  # fmt: skip
        sections.append(
            Section(
                id=talk.id or f"s{count}", title=talk.title, exchange=exchanges.get(talk.exchange, ""), part=talk.part,
                show_first=talk.show_first, once_more=talk.once_more,
                more_camera=talk.more_camera, as_filmed=talk.as_filmed,
                skips=tuple((Fraction(a), Fraction(z)) for a, z in talk.skips), beats=tuple(beats),
            )
        )  # fmt: skip
    return tuple(sections)


def _untied(marked: str, moments: dict[str, str]) -> tuple[str, tuple[Tie, ...]]:
    words, ties = [], []
    for i, word in enumerate(marked.split()):
        found = _TIED.match(word)
        if found:
            ties.append(Tie(word=i, moment=moments[found[2]]))
        words.append(found[1] + found[3] if found else word)
    return " ".join(words), tuple(ties)
