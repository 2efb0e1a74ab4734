"""The finished sound: loudness, peaks, speech over the rest, and what is the matter with the voice."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import partial
from statistics import median

from chapto.document.breakdown import Breakdown
from chapto.document.edit_breakdown import set_loudness
from chapto.document.edit_music import change_music
from chapto.document.edit_takes import change_take
from chapto.review.finding import Finding, Mend, Weight, Where, mend_by
from chapto.review.limits import exactly
from chapto.review.measured import Flaw
from chapto.review.reviewed import Reviewed

QUIETER = 3
"""Decibels more than lacks by which music is lowered."""
SAID = {
    Flaw.CLIPPED: "is cut off at the top for {}: it was recorded too loud",
    Flaw.DROPPED: "drops out for {}",
    Flaw.HUM: "has mains hum {} over the room",
    Flaw.CLICK: "has mouth clicks, {}",
}
LIMITS = {Flaw.CLIPPED: "clipped", Flaw.DROPPED: "dropped", Flaw.HUM: "hum", Flaw.CLICK: "clicks"}


def loudness(r: Reviewed) -> Iterator[Finding]:
    """Off the loudness that was chosen."""
    heard, limit, f = r.listened(), r.limits["loudness-off"], r.b.format
    wanted = f.loudness
    off = exactly(abs(heard.loudness - wanted))
    if off > limit.value:
        sentence = f"The whole has {heard.loudness:.1f} LUFS; {wanted} were chosen.".replace("-", "−")
        near = round(heard.loudness)
        mend = mend_by(f"Choose {near} LUFS".replace("-", "−"), partial(set_loudness, lufs=near))
        allowed = -31 <= near <= -9 and abs(near - heard.loudness) <= limit.value
        yield Finding(
            Weight.SHOULD, sentence, quote="loudness", measured=off, limit=limit, mend=mend if allowed else None
        )  # fmt: skip


def peak(r: Reviewed) -> Iterator[Finding]:
    """Over the true peak that players bear."""
    heard, limit = r.listened(), r.limits["true-peak"]
    if heard.peak > limit.value:
        sentence = f"The sound peaks at {heard.peak:.1f} dBTP; it may be distorted.".replace("-", "−")
        yield Finding(Weight.SHOULD, sentence, quote="peak", measured=exactly(heard.peak), limit=limit)


def over_the_rest(r: Reviewed) -> Iterator[Finding]:
    """Speech that does not stand clear of gym and music."""
    limit = r.limits["speech-over"]
    for x in r.listened().under:
        if x.decibels >= limit.value:
            continue
        sentence = f"Speech stands only {limit.said(x.decibels)} over the rest here."
        yield Finding(
            Weight.SHOULD, sentence, r.where(x.start), "over", exactly(x.decibels), limit,
            _quieter(r, x.start, float(limit.value) - x.decibels),
        )  # fmt: skip


def flaws(r: Reviewed) -> Iterator[Finding]:
    """What is the matter with the recordings, each kind once a line."""
    for x in r.listened().flaws:
        limit = r.limits[LIMITS[x.kind]]
        if x.value <= limit.value:
            continue
        text = r.b.find_beat(x.beat)[1].text.split()
        sentence = f"“{' '.join(text[:3])} …” {SAID[x.kind].format(limit.said(x.value))}."
        yield Finding(
            Weight.SHOULD, sentence, Where(x.at, x.beat), x.kind.value, exactly(x.value), limit,
            _again(x.take) if x.take else None,
        )  # fmt: skip


def rooms(r: Reviewed) -> Iterator[Finding]:
    """Takes behind which the room is louder or quieter than behind the others."""
    found, limit = r.listened().rooms, r.limits["rooms-apart"]
    if len(found) < 3:
        return
    usual = median(x.level for x in found)
    for x in found:
        apart = abs(x.level - usual)
        if apart > limit.value:
            how = "louder" if x.level > usual else "quieter"
            text = r.b.find_beat(x.beat)[1].text.split()
            sentence = f"Behind “{' '.join(text[:3])} …” the room is {limit.said(apart)} {how} than elsewhere."
            yield Finding(
                Weight.MAY, sentence, Where(r.said_at(x.beat), x.beat), "room", exactly(apart), limit, _again(x.take)
            )  # fmt: skip


def on_its_place(r: Reviewed) -> Iterator[Finding]:
    """Lines whose sound does not lie where its words are."""
    for beat, late in r.listened().late:
        limit = r.limits["voice-late" if late > 0 else "voice-early"]
        if abs(1000 * late) > limit.value:
            how = "after" if late > 0 else "before"
            sentence = f"The voice comes {limit.said(abs(1000 * late))} {how} its place."
            where = Where(r.said_at(beat), beat)
            yield Finding(Weight.MUST, sentence, where, "late", exactly(abs(1000 * late)), limit)


def _again(take: str) -> Mend:
    return mend_by("Mark it to be read again", partial(change_take, take_id=take, again=True))


def _quieter(r: Reviewed, at: Fraction, lacks: float) -> Mend | None:
    """The music under it lowered by what lacks."""
    frame = at * r.fps
    playing = next((m.music for m in r.programme.music if m.start <= float(at) < m.end), None)
    if playing is None or frame < 0:
        return None
    by = Fraction(round(lacks + QUIETER))

    def change(b: Breakdown) -> Breakdown:
        now = next(m.gain for m in b.music if m.id == playing)
        return change_music(b, playing, gain=now - by)

    return mend_by(f"Lower the music by {by} dB", change)
