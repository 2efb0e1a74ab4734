"""All checks. One is a file in `checks` and one row here."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from chapto.review.checks import (
    captions_read,
    cautions_shown,
    chapters,
    counted,
    description_told,
    first_action,
    good_picture,
    in_view,
    jargon,
    labels_read,
    left_right,
    length,
    lettering,
    line_of_action,
    marks_shown,
    names_given,
    noted,
    one_name,
    one_sided,
    other_option,
    outcomes_true,
    pace,
    picture,
    pointing,
    positions_true,
    promises,
    quick_cuts,
    release_shown,
    rights,
    rounds_true,
    scores_true,
    silences,
    slow_motion,
    sound,
    sponsor_told,
    stills,
    techniques_true,
    thumbnail_read,
    ties_met,
    who_did,
    words_repeated,
)
from chapto.review.finding import Finding, Group
from chapto.review.reviewed import Part, Reviewed
from chapto.review.work import Stage


@dataclass(frozen=True)
class Check:
    """A check by its `name`: what it is about, and the `stage` in which what it finds is mended by hand. It looks at
    the whole (`find`), or at each section by itself (`in_part`), or at both."""

    name: str
    group: Group
    stage: Stage
    find: Callable[[Reviewed], Iterator[Finding]] | None = None
    in_part: Callable[[Part], Iterator[Finding]] | None = None


_G, _S = Group, Stage
CHECKS = (
    Check("noted", _G.NOTES, _S.WRITE, noted.find),
    Check("ties met", _G.MEETING, _S.WRITE, in_part=ties_met.find),
    Check("pointing", _G.MEETING, _S.WRITE, in_part=pointing.find),
    Check("in view", _G.MEETING, _S.WRITE, in_view.find),
    Check("marks shown", _G.MEETING, _S.MARK, marks_shown.find),
    Check("pace", _G.TIME, _S.VOICE, in_part=pace.find),
    Check("even pace", _G.TIME, _S.VOICE, pace.uneven),
    Check("silences", _G.TIME, _S.WRITE, silences.between, silences.find),
    Check("stills", _G.TIME, _S.WRITE, stills.find),
    Check("slow motion", _G.TIME, _S.WRITE, in_part=slow_motion.find),
    Check("quick cuts", _G.TIME, _S.WRITE, quick_cuts.find),
    Check("line of action", _G.TIME, _S.FOOTAGE, line_of_action.find),
    Check("first action", _G.TIME, _S.WRITE, first_action.find),
    Check("chapter length", _G.TIME, _S.WRITE, chapters.too_long),
    Check("length", _G.TIME, _S.WRITE, length.wished),
    Check("shares", _G.TIME, _S.WRITE, length.shares),
    Check("labels read", _G.READING, _S.MARK, labels_read.find),
    Check("captions read", _G.READING, _S.WRITE, captions_read.as_a_whole, captions_read.find),
    Check("speaker named", _G.READING, _S.WRITE, in_part=captions_read.speaker_named),
    Check("contrast", _G.READING, _S.MARK, lettering.contrast),
    Check("small letters", _G.READING, _S.MARK, lettering.small),
    Check("near the edge", _G.READING, _S.MARK, lettering.inside),
    Check("clear of others", _G.READING, _S.MARK, lettering.clear),
    Check("clear of captions", _G.READING, _S.MARK, lettering.under_captions),
    Check("loudness", _G.SOUND, _S.PUBLISH, sound.loudness),
    Check("peaks", _G.SOUND, _S.PUBLISH, sound.peak),
    Check("speech over the rest", _G.SOUND, _S.WRITE, sound.over_the_rest),
    Check("recordings", _G.SOUND, _S.VOICE, sound.flaws),
    Check("one room", _G.SOUND, _S.VOICE, sound.rooms),
    Check("voice on its place", _G.SOUND, _S.VOICE, sound.on_its_place),
    Check("flashes", _G.PICTURE, _S.WRITE, picture.flashes),
    Check("black", _G.PICTURE, _S.WRITE, picture.black),
    Check("frozen", _G.PICTURE, _S.WRITE, picture.frozen),
    Check("good picture", _G.PICTURE, _S.FOOTAGE, good_picture.find),
    Check("faces covered", _G.PICTURE, _S.MARK, rights.uncovered),
    Check("scores true", _G.TRUTH, _S.WRITE, in_part=scores_true.find),
    Check("times true", _G.TRUTH, _S.WRITE, in_part=rounds_true.time_left),
    Check("rounds true", _G.TRUTH, _S.WRITE, in_part=rounds_true.rounds),
    Check("tries true", _G.TRUTH, _S.WRITE, in_part=rounds_true.tries),
    Check("who did it", _G.TRUTH, _S.WRITE, in_part=who_did.find),
    Check("techniques true", _G.TRUTH, _S.WRITE, in_part=techniques_true.find),
    Check("positions true", _G.TRUTH, _S.WRITE, in_part=positions_true.find),
    Check("outcomes true", _G.TRUTH, _S.WRITE, in_part=outcomes_true.find),
    Check("left and right", _G.TRUTH, _S.WRITE, in_part=left_right.find),
    Check("one name", _G.TRUTH, _S.WRITE, one_name.techniques),
    Check("names spelled", _G.TRUTH, _S.WRITE, one_name.people),
    Check("numbers add up", _G.TRUTH, _S.WRITE, in_part=counted.find),
    Check("words repeated", _G.WORDS, _S.WRITE, words_repeated.find),
    Check("praise", _G.WORDS, _S.WRITE, one_sided.find),
    Check("other option", _G.WORDS, _S.WRITE, in_part=other_option.find),
    Check("words explained", _G.WORDS, _S.WRITE, jargon.find),
    Check("promises", _G.WORDS, _S.WRITE, in_part=promises.find),
    Check("rights", _G.CARE, _S.FOOTAGE, rights.find),
    Check("cautions", _G.CARE, _S.WRITE, cautions_shown.find),
    Check("told safe", _G.CARE, _S.WRITE, in_part=cautions_shown.told_safe),
    Check("let go", _G.CARE, _S.LOG, release_shown.find),
    Check("paid parts", _G.CARE, _S.WRITE, in_part=sponsor_told.find),
    Check("chapters", _G.FILE, _S.WRITE, chapters.find),
    Check("description", _G.FILE, _S.PUBLISH, description_told.find),
    Check("names given", _G.FILE, _S.WRITE, names_given.find),
    Check("thumbnail", _G.FILE, _S.PUBLISH, thumbnail_read.find),
)
