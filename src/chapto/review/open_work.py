"""How much is open in each stage: one small count a stage."""

from __future__ import annotations

from collections.abc import Callable

from chapto.document.clearance_checks import open_points
from chapto.document.covering import to_cover
from chapto.document.script import words_of
from chapto.document.takes_by_beat import takes_by_beat
from chapto.programme.programme import TieState
from chapto.publish.chapter_list import chapter_problems
from chapto.review.work import Situation, Stage


def open_footage(s: Situation) -> int:
    """Missing files, stretches to decide on, files with something to ask; a file counts once."""
    return len(s.missing) + s.undecided + sum(1 for c in s.b.footage if open_points(s.b, c))


def open_log(s: Situation) -> int:
    """Exchanges without a technique or an outcome."""
    return sum(1 for x in s.b.exchanges if not x.technique or x.outcome is None)


def open_script(s: Situation) -> int:
    """Ties that are not met."""
    return sum(1 for t in s.programme.ties if t.state is not TieState.MET)


def open_marks(s: Situation) -> int:
    """Marks that do not come on the screen, and people who did not agree and are not covered."""
    return len(s.programme.unplaced) + len(to_cover(s.b))


def open_voice(s: Situation) -> int:
    """Lines to be read again, and lines without a recording where others have one."""
    by_beat = takes_by_beat(s.b)
    if not s.b.takes or s.b.guide_only:
        return 0
    missing = sum(1 for _, beat in s.b.read_beats() if words_of(beat.text) and beat.id not in by_beat)
    return missing + sum(1 for take in by_beat.values() if take.again)


def open_review(s: Situation) -> int:
    """What must or should be mended; nothing while there is no video to look at."""
    return s.found if s.programme.frames else 0


def open_publish(s: Situation) -> int:
    """What would keep a hosting site from showing the chapters; nothing while there is no video to show."""
    if not s.programme.frames:
        return 0
    return len(chapter_problems(s.programme))


COUNTS: dict[Stage, Callable[[Situation], int]] = {
    Stage.FOOTAGE: open_footage,
    Stage.LOG: open_log,
    Stage.WRITE: open_script,
    Stage.MARK: open_marks,
    Stage.VOICE: open_voice,
    Stage.REVIEW: open_review,
    Stage.PUBLISH: open_publish,
}


def open_counts(s: Situation) -> dict[Stage, int]:
    """How many things are open in each stage that counts any."""
    return {stage: count(s) for stage, count in COUNTS.items()}
