"""What is best done next: the first of these checks that finds something, in the order of the work."""

from __future__ import annotations

from collections.abc import Callable

from chapto.clock.timecode import clock_text
from chapto.document.begin_script import without_picture
from chapto.document.bout import MomentKind
from chapto.document.clearance_checks import open_points
from chapto.document.covering import to_cover
from chapto.document.edit_footage import lies_as_brought_in
from chapto.document.footage import cameras_of
from chapto.document.music_checks import music_open
from chapto.document.photo_checks import photos_open
from chapto.document.placeholders import placeholders
from chapto.document.script import words_of
from chapto.document.takes_by_beat import takes_by_beat
from chapto.pacing.fitted import Lack, Shortfall
from chapto.programme.programme import TieState
from chapto.review.work import ONE_CAMERA, ONE_CLOCK, RIGHTS, SPREAD, NextStep, Situation, Stage

Check = Callable[[Situation], NextStep | None]


def no_footage(s: Situation) -> NextStep | None:
    """Without footage there is nothing to do."""
    found = "Bring in a video: press here, or drop it on the window."
    return None if s.b.footage else NextStep(found, Stage.FOOTAGE)


def missing_footage(s: Situation) -> NextStep | None:
    """A file that is not where it was."""
    return NextStep(s.missing[0], Stage.FOOTAGE) if s.missing else None


def one_recorder(s: Situation) -> NextStep | None:
    """Files that a recorder cut from one another are of one camera."""
    if not s.recorders:
        return None
    row = s.recorders[0]
    names = f"“{s.b.camera(row[0]).name}” to “{s.b.camera(row[-1]).name}”"
    said = f"{names} follow one another in name and time: press here to have them as one camera."
    return NextStep(said, Stage.FOOTAGE, footage=row[0], item=ONE_CAMERA)


def not_on_one_clock(s: Situation) -> NextStep | None:
    """Several files that stand one after another as they came in."""
    if s.clocked or s.b.exchanges or len(cameras_of(s.b.footage)) < 2 or not lies_as_brought_in(s.b.footage):
        return None
    said = f"{len(s.b.footage)} files stand one after another: press here to bring them onto one clock, by their sound."
    return NextStep(said, Stage.FOOTAGE, item=ONE_CLOCK)


def no_names(s: Situation) -> NextStep | None:
    """A name that would be missing in the video."""
    if not s.programme.frames:
        return None
    found = next(placeholders(s.b), None)
    stage = Stage.LOG if found and "of the two" in found else Stage.FOOTAGE if found and "footage" in found else None
    return NextStep(f"{_met(s)} {found}", stage or Stage.WRITE) if found else None


def undecided_footage(s: Situation) -> NextStep | None:
    """What was found in the footage is judged before the log is begun."""
    if s.b.exchanges or not s.undecided:
        return None
    stretches = "1 stretch" if s.undecided == 1 else f"{s.undecided} stretches"
    return NextStep(f"Something was found in {stretches} of your footage: take it or throw it away.", Stage.FOOTAGE)


def empty_log(s: Situation) -> NextStep | None:
    """Nothing logged."""
    if s.b.exchanges:
        return None
    return NextStep("Watch the footage and log the first exchange worth explaining.", Stage.LOG)


def empty_script(s: Situation) -> NextStep | None:
    """Nothing written."""
    if any(beat.text.strip() for _, beat in s.b.beats()):
        return None
    return NextStep("Write what happened in the first exchange.", Stage.WRITE)


def no_picture(s: Situation) -> NextStep | None:
    """Words that nobody sees anything under, although exchanges are logged that nobody talks about."""
    bare = {section.id for section in without_picture(s.b)}
    told = {section.exchange for section in s.b.script}
    free = sum(x.id not in told for x in s.b.exchanges)
    if not bare or not free or not s.programme.frames:
        return None
    seconds = sum(p.end - p.start for p in s.programme.sections if p.section in bare) / s.programme.fps
    if seconds < LONG_CARD:
        return None
    whole, part = clock_text(s.programme.seconds), clock_text(seconds)
    said = f"{part} of {whole} have no picture: press here to spread the words over the exchanges, in order."
    return NextStep(said, Stage.WRITE, item=SPREAD)


LONG_CARD = 20
"""Seconds of words over a card from which something to look at is missed."""
DULL = (Lack.SILENT, Lack.LENGTH, Lack.STILL, Lack.SOFT)
"""What can wait until words and picture meet."""


def shortfall(s: Situation) -> NextStep | None:
    """What the fit could not do."""
    return _lacking(s, next((x for x in s.programme.shortfalls if x.lack not in DULL), None))


def dull(s: Situation) -> NextStep | None:
    """What fits and is not good to watch."""
    return _lacking(s, next((x for x in s.programme.shortfalls if x.lack in DULL), None))


def _lacking(s: Situation, first: Shortfall | None) -> NextStep | None:
    p = s.programme
    if first is None:
        return None
    word = next((t.text for t in p.ties if (t.beat, t.word) == (first.beat, first.word)), "")
    named = f"At “{word.strip('.,;:!?')}”: " if word else ""
    sentence = named + first.sentence[0].lower() + first.sentence[1:] if named else first.sentence
    return NextStep(sentence, Stage.WRITE, first.beat, first.word)


def broken_tie(s: Situation) -> NextStep | None:
    """A word that does not meet its moment."""
    t = next((t for t in s.programme.ties if t.state is not TieState.MET), None)
    if t is None:
        return None
    return NextStep(f"“{t.text.strip('.,;:!?')}” does not meet its moment; see its lace.", Stage.WRITE, t.beat, t.word)


def no_tie(s: Situation) -> NextStep | None:
    """Words and picture know nothing of each other yet."""
    if s.programme.ties:
        return None
    return NextStep("Tie a word to its moment: put the caret on it, find the frame, press Ctrl+T.", Stage.WRITE)


def unknown_risk(s: Situation) -> NextStep | None:
    """A finish that is told, and of which neither the lexicon nor the creator says what it could hurt."""
    told, known = {section.exchange for section in s.b.script}, s.programme.known
    for x in s.b.exchanges:
        finishes = any(m.kind is MomentKind.FINISH and x.start <= m.at <= x.end for m in s.b.moments)
        unknown = x.technique and not x.risk and known.lexicon.technique_named(x.technique) is None
        if x.id in told and finishes and unknown:
            return NextStep(f"“{x.technique}” is not in the lexicon: say in the log what it could hurt.", Stage.LOG)
    return None


def uncovered(s: Situation) -> NextStep | None:
    """Somebody who said no, and can be seen."""
    used = {x.footage for x in s.programme.passages}
    for person, c in to_cover(s.b):
        if c.id in used:
            sentence = f"{person.name} did not agree: cover them in “{c.name}”, X in the Mark stage."
            return NextStep(sentence, Stage.MARK, footage=c.id)
    return None


def unplaced_mark(s: Situation) -> NextStep | None:
    """A mark that does not come on the screen."""
    lost = next(iter(s.programme.unplaced), None)
    if lost is None:
        return None
    mark = next((m for m in s.b.marks if m.id == lost.mark), None)
    return NextStep(lost.sentence, Stage.MARK, mark.beat if mark else "", mark.word if mark else 0)


def not_cleared(s: Situation) -> NextStep | None:
    """Somebody whose answer is not there yet."""
    used = {x.footage for x in s.programme.passages}
    for c in s.b.footage:
        if c.id in used and (points := open_points(s.b, c)):
            return NextStep(f"{_met(s)} Before it is shown: {points[0]}", Stage.FOOTAGE, footage=c.id, item=RIGHTS)
    for asked, sheet in ((photos_open(s.b), "Photos"), (music_open(s.b), "Music")):
        if asked:
            return NextStep(f"{_met(s)} Before it is shown: {asked[0]} Ctrl+P, {sheet}.", Stage.WRITE)
    return None


def not_recorded(s: Situation) -> NextStep | None:
    """Lines that only the guide voice says although others are recorded, and lines to be read again."""
    by_beat = takes_by_beat(s.b)
    if not by_beat:
        return None
    again = next((beat for beat, take in by_beat.items() if take.again), "")
    if again:
        return NextStep("A line is marked to be read again.", Stage.VOICE, again)
    missing = [beat.id for _, beat in s.b.read_beats() if words_of(beat.text) and beat.id not in by_beat]
    if not missing:
        return None
    lines = "1 line is" if len(missing) == 1 else f"{len(missing)} lines are"
    return NextStep(f"{lines} still spoken by the guide voice: record them.", Stage.VOICE, missing[0])


def found_in_review(s: Situation) -> NextStep | None:
    """What a viewer would stumble over."""
    if not s.found or not s.programme.frames:
        return None
    things = "1 thing" if s.found == 1 else f"{s.found} things"
    return NextStep(f"{_met(s)} The review found {things} to mend.", Stage.REVIEW)


def ready(s: Situation) -> NextStep:
    """Nothing is in the way."""
    return NextStep(f"{_met(s)} Watch it once, then render it.", Stage.PUBLISH)


CHECKS: tuple[Check, ...] = (
    no_footage,
    missing_footage,
    one_recorder,
    not_on_one_clock,
    undecided_footage,
    empty_log,
    empty_script,
    no_picture,
    shortfall,
    broken_tie,
    no_tie,
    dull,
    unplaced_mark,
    unknown_risk,
    uncovered,
    not_recorded,
    not_cleared,
    no_names,
    found_in_review,
)


def next_step(s: Situation) -> NextStep:
    """What is best done next."""
    return next((step for check in CHECKS if (step := check(s)) is not None), None) or ready(s)


def _met(s: Situation) -> str:
    count = len(s.programme.ties)
    return "The tie meets." if count == 1 else f"All {count} ties meet."
