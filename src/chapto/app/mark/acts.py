"""What can be done with marks and their points: every act is one edit."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from chapto.app.mark.run import Put, Run
from chapto.app.studio import Studio
from chapto.document import edit_marks
from chapto.document.breakdown import Breakdown
from chapto.document.edit_footage import change_footage
from chapto.document.edit_script import replace_words
from chapto.document.mark_kinds import RULES, MarkKind
from chapto.document.marks import LARGEST, LEAST_ZOOM, LONGEST_LOOK_BACK, MOST_ZOOM, SMALLEST, Key, Mark, Until
from chapto.document.people import Side
from chapto.document.script import words_of

SIZES, ZOOMS, LOOK_BACK = 1.15, Fraction(1, 4), Fraction(1, 4)
"""By how much a key makes a spot larger, a magnification stronger (times), and a look back longer (seconds)."""
STAYS = Fraction(3)
"""Watch seconds a mark stays when it is to stay for seconds."""


class MarkActs:
    """Acts on the document of `studio`."""

    def __init__(self, studio: Studio) -> None:
        self._studio = studio

    # ── making ───────────────────────────────────────────────────────────────────────────────────────────
    def make(self, run: Run, beat: str, word: int) -> str:
        """The mark of a run that is over, on a word; its id, empty where it was refused."""
        kind = run.kind
        if kind is None or not run.points:
            return ""

        def change(b: Breakdown) -> Breakdown:
            b, ids = self._with_points(b, run)
            if kind is MarkKind.COVER:
                return edit_marks.add_mark(b, kind, anchors=ids)
            return edit_marks.add_mark(b, kind, anchors=ids, of=run.side, beat=beat, word=word)

        before = {m.id for m in self._studio.breakdown.marks}
        if not self._studio.edit(f"put down a {kind} mark", change):
            return ""
        return next(m.id for m in self._studio.breakdown.marks if m.id not in before)

    def make_of_figure(self, kind: MarkKind, figure: str, beat: str, word: int) -> str:
        """A mark of a whole athlete, on a word; its id."""
        before = {m.id for m in self._studio.breakdown.marks}
        side = next((f.side for f in self._studio.breakdown.figures if f.id == figure), None)
        made = self._studio.edit(
            f"put down a {kind} mark",
            lambda b: edit_marks.add_mark(b, kind, figure=figure, of=side, beat=beat, word=word),
        )
        return next((m.id for m in self._studio.breakdown.marks if m.id not in before), "") if made else ""

    def make_figure(self, run: Run) -> str:
        """The figure of a run, or with its joints put right at this picture; its id."""
        if run.side is None or not run.points:
            return ""
        side, first = run.side, run.points[0]
        places = {p.joint: (p.x, p.y) for p in run.points if p.joint is not None}

        def change(b: Breakdown) -> Breakdown:
            b = self._shaped(b, first)
            if not run.figure:
                return edit_marks.add_figure(b, first.footage, side, first.mat, places, rests=run.rests)
            for joint, place in places.items():
                b = edit_marks.add_joint(b, run.figure, joint, first.mat, place)
            return edit_marks.change_figure(b, run.figure, rests=run.rests)

        before = {f.id for f in self._studio.breakdown.figures}
        if not self._studio.edit("put down a figure", change):
            return ""
        return run.figure or next(f.id for f in self._studio.breakdown.figures if f.id not in before)

    def copy_figure(self, figure: str, put: Put, places: dict[Any, tuple[float, float]]) -> str:
        """A figure like another, at this picture, as a start; its id."""
        before = {f.id for f in self._studio.breakdown.figures}
        made = self._studio.edit("copy a figure", lambda b: edit_marks.copy_figure(b, figure, put.mat, places))
        return next((f.id for f in self._studio.breakdown.figures if f.id not in before), "") if made else ""

    def _with_points(self, b: Breakdown, run: Run) -> tuple[Breakdown, tuple[str, ...]]:
        ids = []
        for number, p in enumerate(run.points):
            if p.anchor:
                ids.append(p.anchor)
                continue
            b = self._shaped(b, p)
            sticks = RULES[run.kind].sticks if run.kind is not None else None
            assert sticks is not None
            b = edit_marks.put_anchor(b, p.footage, p.mat, (p.x, p.y), sticks=sticks, side=run.side_of(number))
            ids.append(b.anchors[-1].id)
        return b, tuple(ids)

    def _shaped(self, b: Breakdown, p: Put) -> Breakdown:
        """With the shape of the footage's picture known: of a file from an earlier version nobody looked yet."""
        c = b.camera(p.footage)
        if c.aspect:
            return b
        f = b.format
        return change_footage(b, c.id, aspect=Fraction(f.width, f.height))

    # ── points ───────────────────────────────────────────────────────────────────────────────────────────
    def move_point(self, anchor: str, mat: Fraction, place: tuple[float, float], *, merge: str = "") -> None:
        """A point is put elsewhere in this picture: a key is made where the picture stands."""
        self._studio.edit("move a point", lambda b: edit_marks.set_key(b, anchor, mat, place), merge=merge)

    def hide(self, anchor: str, mat: Fraction, place: tuple[float, float]) -> None:
        """From this picture on the point is hidden; where it was hidden, it is seen again from here."""
        now = next(a for a in self._studio.breakdown.anchors if a.id == anchor)
        before = [k for k in now.keys if k.mat < mat]
        hidden = bool(before) and not before[-1].seen
        here: Key | None = next((k for k in now.keys if k.mat == mat), None)
        seen = hidden if here is None else not here.seen
        what = "see a point again" if seen else "hide a point"
        self._studio.edit(what, lambda b: edit_marks.set_key(b, anchor, mat, place, seen=seen))

    def remove_key(self, anchor: str, mat: Fraction) -> None:
        """The key of a point in this picture goes."""
        self._studio.edit("take a key away", lambda b: edit_marks.remove_key(b, anchor, mat))

    # ── marks ────────────────────────────────────────────────────────────────────────────────────────────
    def change(self, mark: Mark, what: str, **changes: Any) -> None:
        """Fields of a mark changed."""
        merge = f"mark/{mark.id}/{'/'.join(sorted(changes))}"
        self._studio.edit(what, lambda b: edit_marks.change_mark(b, mark.id, **changes), merge=merge)

    def remove(self, mark: Mark) -> None:
        """The mark goes."""
        self._studio.edit(f"take a {mark.kind} mark away", lambda b: edit_marks.remove_mark(b, mark.id))

    def remove_figure(self, figure: str) -> None:
        """A figure goes, with the marks that stand on the whole of it."""
        self._studio.edit("take a figure away", lambda b: edit_marks.remove_figure(b, figure))

    def next_state(self, mark: Mark) -> None:
        """Shut, loose or open: the next of its kind."""
        states = RULES[mark.kind].states
        if states and mark.stands is not None:
            after = states[(states.index(mark.stands) + 1) % len(states)]
            self.change(mark, f"{mark.kind} {after}", state=after)

    def next_until(self, mark: Mark) -> None:
        """How long it stays: the hold, the beat, seconds."""
        order = tuple(Until)
        after = order[(order.index(mark.until) + 1) % len(order)]
        self.change(mark, "how long a mark stays", until=after, seconds=STAYS)

    def next_owner(self, mark: Mark) -> None:
        """Whose it is: the first's, the second's, nobody's."""
        order: tuple[Side | None, ...] = (Side.FIRST, Side.SECOND, None)
        self.change(mark, "whose a mark is", of=order[(order.index(mark.of) + 1) % len(order)])

    def larger(self, mark: Mark, by: int) -> None:
        """A larger spot, or a longer look back; smaller where `by` is −1."""
        if RULES[mark.kind].sized:
            size = min(max(mark.size * SIZES**by, SMALLEST), LARGEST)
            self.change(mark, "size of a mark", size=round(size, 4))
        elif RULES[mark.kind].timed:
            before = min(max(mark.before + by * LOOK_BACK, LOOK_BACK), Fraction(LONGEST_LOOK_BACK))
            self.change(mark, "how far a mark looks back", before=before)
        else:
            self.nearer(mark, by)

    def nearer(self, mark: Mark, by: int) -> None:
        """Magnified more strongly, or less."""
        if RULES[mark.kind].zoomed:
            zoom = min(max(mark.zoom + by * ZOOMS, LEAST_ZOOM), MOST_ZOOM)
            self.change(mark, "how much a mark magnifies", zoom=zoom)

    def span(self, mark: Mark, start: Fraction | None, end: Fraction | None) -> None:
        """A cover lies over its spot from or up to this picture; both None: in the whole file."""
        if start is None and end is None:
            self.change(mark, "cover the whole file", span=None)
            return
        c = self._studio.breakdown.camera(self._footage(mark))
        old = mark.span or (c.mat_in, c.mat_out)
        new = (start if start is not None else old[0], end if end is not None else old[1])
        if new[0] < new[1]:
            self.change(mark, "what a cover covers", span=new)

    def _footage(self, mark: Mark) -> str:
        return next(a.footage for a in self._studio.breakdown.anchors if a.id in mark.anchors)

    def fact_into_script(self, mark: Mark, fact: str) -> None:
        """What was measured is written into the script, behind the mark's word."""

        def change(b: Breakdown) -> Breakdown:
            word = words_of(b.find_beat(mark.beat)[1].text)[mark.word]
            bare = word.rstrip(",.;:!?")
            return replace_words(b, mark.beat, mark.word, mark.word + 1, f"{bare} ({fact})")

        if mark.beat and fact:
            self._studio.edit("write what was measured", change)
