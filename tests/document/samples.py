"""Small documents for tests, and random ones for property tests."""

from __future__ import annotations

from fractions import Fraction

from hypothesis import strategies as st

from chapto.document.bout import Exchange, Moment
from chapto.document.breakdown import Breakdown, Label, Publishing
from chapto.document.footage import Footage
from chapto.document.photos import Photo
from chapto.document.publishing import Published, Shape, Short, Thumbnail
from chapto.document.script import Beat, Section, Tie, words_of
from chapto.document.treatments import Again, Cutaway, Hold, Loop, Run, ShowPhoto, Slow

WORDS = ("here", "the", "knee", "slides,", "and", "hips", "follow.", "Look", "right", "there:", "grip", "moves")


def footage(footage_id: str = "f1", start: int = 0, seconds: int = 120) -> Footage:
    return Footage(
        id=footage_id, name=footage_id, path=f"{footage_id}.mp4", fingerprint=f"1-{footage_id}",
        duration=Fraction(seconds), fps=Fraction(30), offset=Fraction(start),
    )  # fmt: skip


def small(text: str = "Watch this. The knee slides here, and she is past.") -> Breakdown:
    """One exchange from 10 to 20 s with one beat whose word 5 ("here,") is tied to 14 s."""
    beat = Beat(id="b1", text=text, ties=(Tie(word=5, moment="m1"),))
    return Breakdown(
        title="Small",
        footage=(footage(),),
        exchanges=(Exchange(id="x1", start=Fraction(10), end=Fraction(20), technique="knee slide"),),
        moments=(Moment(id="m1", at=Fraction(14)), Moment(id="m2", at=Fraction(17))),
        script=(Section(id="s1", title="Pass", exchange="x1", beats=(beat,)),),
        labels=(Label(id="l1", moment="m1", text="Knee slide"),),
    )  # fmt: skip


PHOTOS = tuple(
    Photo(id=f"o{i}", name=f"Photo {i}", path=f"o{i}.jpg", fingerprint=f"1-o{i}", width=90, height=60) for i in (1, 2)
)
treatments = st.one_of(
    st.none(),
    st.none(),
    st.just(Run()),
    st.sampled_from([Slow(Fraction(1, 2)), Slow(Fraction(3, 4))]),
    st.sampled_from([Hold(), Hold("m1"), Hold("m3")]),
    st.sampled_from(
        [Again(Fraction(2), Fraction(1, 2)), Again(Fraction(5), Fraction(1)), Again(Fraction(2), camera="f1")]
    ),
    st.sampled_from([Loop(), Loop(Fraction(2), Fraction(1), to_and_fro=True, camera="f1")]),
    st.sampled_from([Cutaway(Fraction(9), camera="f1"), ShowPhoto("o1"), ShowPhoto("o2", inset=True)]),
)


OUT = Publishing(
    thumbnail=Thumbnail(footage="f1", at=Fraction(7, 3), title="One answer"),
    shorts=(Short(section="s1"), Short(section="s1", shape=Shape.SQUARE), Short(section="gone")),
    published=(Published(at="2026-11-02T10:00:00Z", site="Here", address="here/7", title="One", video="0" * 64),),
)


@st.composite
def breakdowns(draw: st.DrawFn) -> Breakdown:
    """Documents with up to three sections; ties are in mat order within a beat, not always between beats."""
    moments = tuple(
        Moment(id=f"m{i}", at=draw(st.fractions(0, 60, max_denominator=100)))
        for i in range(1, draw(st.integers(3, 6)) + 1)
    )
    exchanges, sections, number = [], [], 0
    for i in range(1, draw(st.integers(1, 3)) + 1):
        start = draw(st.fractions(0, 50, max_denominator=50))
        length = draw(st.fractions(Fraction(1, 2), 25, max_denominator=50))
        exchanges.append(Exchange(id=f"x{i}", start=start, end=start + length))
        beats = []
        for _ in range(draw(st.integers(0, 4))):
            number += 1
            text = " ".join(draw(st.lists(st.sampled_from(WORDS), max_size=16)))
            count = len(words_of(text))
            tied = sorted(draw(st.sets(st.integers(0, count - 1), max_size=3))) if count else []
            picked = sorted(
                draw(st.lists(st.sampled_from(moments), min_size=len(tied), max_size=len(tied))), key=lambda m: m.at
            )
            ties = tuple(Tie(word=w, moment=m.id) for w, m in zip(tied, picked, strict=True))
            beats.append(Beat(id=f"b{number}", text=text, ties=ties, treatment=draw(treatments)))
        home = draw(st.sampled_from([f"x{i}", f"x{i}", f"x{i}", ""]))
        sections.append(
            Section(id=f"s{i}", title=draw(st.sampled_from(["", "Part"])), exchange=home, beats=tuple(beats))
        )
    return Breakdown(
        title="Random",
        footage=(footage("f1", 0, 40), footage("f2", 30, 60)),
        photos=PHOTOS,
        exchanges=tuple(exchanges),
        moments=moments,
        script=tuple(sections),
        labels=(
            Label(id="l1", moment="m1", text="Knee slide"),
            Label(id="l2", moment="m2", text="Single leg takedown"),
        ),
        style=draw(st.sampled_from(["run-through", "stop-and-talk"])),
        publishing=draw(st.sampled_from([Publishing(), OUT])),
    )
