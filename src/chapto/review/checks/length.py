"""How long the video is, and how much of it stands still."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import partial
from math import ceil

from chapto.clock.passage import STILL
from chapto.clock.timecode import clock_text
from chapto.document.edit_breakdown import set_target
from chapto.review.finding import Finding, Weight, Where, mend_by
from chapto.review.reviewed import Reviewed


def wished(r: Reviewed) -> Iterator[Finding]:
    """The length against the wish; it must not pass a wish that is a limit."""
    limit, wish, is_limit = r.limits["length-off"], r.b.target, r.b.target_is_limit
    if not wish or not r.programme.frames:
        return
    off = 100 * (r.programme.seconds / wish - 1)
    if (is_limit and off > 0) or abs(off) > limit.value:
        beat = next((w.beat for w in r.programme.words), "")
        sentence = f"It lasts {clock_text(r.programme.seconds)}; {clock_text(wish)} were wished for."
        weight = Weight.MUST if is_limit and off > 0 else Weight.SHOULD
        whole = ceil(r.programme.seconds)
        wish_so = mend_by(f"Wish for {clock_text(Fraction(whole))}", partial(set_target, seconds=whole))
        mend = None if is_limit else wish_so
        yield Finding(weight, sentence, Where(beat=beat), "length", abs(off), limit, mend)


def shares(r: Reviewed) -> Iterator[Finding]:
    """The share of it in which nothing moves."""
    limit, p = r.limits["still-share"], r.programme
    if not p.frames:
        return
    still = sum(x.frames for x in p.passages if x.kind in STILL)
    share = Fraction(100 * still, p.frames)
    if share > limit.value:
        spoken = sum((w.end - w.start for w in p.words), Fraction(0)) / p.seconds
        sentence = f"{round(share)} % of it stands still; somebody talks for {round(100 * spoken)} %."
        yield Finding(Weight.MAY, sentence, quote="stills", measured=share, limit=limit)
