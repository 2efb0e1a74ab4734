"""A talk-through becomes a document whose programme shows what was meant; what was done is read from a file."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from chapto.document.bout import Round
from chapto.document.bout_rules import PositionSpan
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.checks import checked
from chapto.document.condition import Condition, ConditionKind
from chapto.document.footage import Footage
from chapto.document.mark_kinds import MarkKind
from chapto.document.people import Narrator, Side
from chapto.document.takes_by_beat import takes_by_beat
from chapto.document.talks import OPEN, Act, Acted, Done, Moved, Pointed, SaidWord, Talk
from chapto.document.treatments import GoTo, Loop
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.matlog.ledger import ledger
from chapto.matlog.rules import shipped_rules
from chapto.pacing.styles import house_styles
from chapto.pacing.talked.tidied import tidy
from chapto.programme.compile import compile_programme
from chapto.programme.programme import Programme
from chapto.publish.scores_said import scores_in, scores_said
from chapto.publish.talks.events_file import EventsFileError, head, read_events, written
from chapto.publish.talks.lay_out import lay_out, without_talk
from chapto.publish.talks.named_in_talk import names_said, take_names
from chapto.publish.talks.typed import open_phrases, type_phrase
from chapto.store.schema import decode, encode
from chapto.voice.takes import known_lines
from tests.pacing.talked_sessions import session

F = Fraction
STYLE = house_styles()["talk-through"]
HEAD = head().decode()
SESSIONS = 60
"""As many are compiled here; two hundred are tidied in `tests/pacing/test_talked.py`."""


def breakdown(done: Done, said: list[SaidWord], seconds: float, **fields: object) -> Breakdown:
    footage = Footage(id="f1", name="A", path="a.mp4", fingerprint="1-a", duration=F(200), fps=F(30))
    talk = Talk(id="k1", path="t.flac", fingerprint="2-b", seconds=F(round(seconds * 1000), 1000), done=done,
                said=tuple(said), **fields)  # type: ignore[arg-type]  # fmt: skip
    return Breakdown(title="Talk", footage=(footage,), talks=(talk,))


def laid(b: Breakdown) -> Breakdown:
    return checked(lay_out(b, "k1", shipped_lexicon(), STYLE))


def compiled(b: Breakdown) -> Programme:
    lines = (known_lines(b, t) or {} for t in b.takes)
    return compile_programme(b, {beat: line.line for found in lines for beat, line in found.items() if line})


def test_the_programme_shows_what_was_meant_under_every_phrase() -> None:
    near = phrases = 0
    for seed in range(SESSIONS):
        s = session(seed)
        b = laid(breakdown(s.done, s.said, s.seconds))
        p, t = compiled(b), tidy(s.done, s.said, s.seconds, STYLE)
        assert [w.text for w in p.words] == [x.word.text for x in t.shown]
        placed = {x.word.number: w for x, w in zip(t.shown, p.words, strict=True)}
        for numbers, mat, _ in s.phrases:
            frame = min(int(placed[numbers[0]].start * p.fps), p.frames - 1)
            phrases += 1
            near += abs(float(p.time_map.passage_at(frame).mat_at(frame)) - mat) <= 0.25
        assert all(x.state.value == "met" for x in p.ties)
        assert float(p.seconds) < 1.1 * t.seconds + 2
    assert near / phrases >= 0.95, f"{near} of {phrases}"


def test_as_it_was_keeps_every_word_and_one_key_leads_back() -> None:
    s = session(3)
    tidied = laid(breakdown(s.done, s.said, s.seconds))
    raw = laid(replace(tidied, talks=(replace(tidied.talks[0], tidied=False),)))
    assert sum(len(x.text.split()) for _, x in raw.beats()) == len(s.said)
    assert compiled(raw).seconds > compiled(tidied).seconds
    back = laid(replace(raw, talks=(replace(raw.talks[0], tidied=True),)))
    plain = lambda b: [(s.title, tuple((x.text, x.treatment, x.turns) for x in s.beats)) for s in b.script]  # noqa: E731
    assert plain(back) == plain(tidied) and len(back.moments) == len(tidied.moments)
    bare = without_talk(back, back.talks[0])
    assert not (bare.script or bare.takes or bare.moments or bare.exchanges)
    assert decode(encode(back), "a.chapto") == back


def words(text: str, start: float = 0.5) -> list[SaidWord]:
    begins = ((w, F(start) + F(i, 2)) for i, w in enumerate(text.split()))
    return [SaidWord(text=w, start=at, end=at + F(3, 10)) for w, at in begins]


def test_chapters_are_named_by_what_is_named_in_them_and_pointing_becomes_marks() -> None:
    said = words("He pulls closed guard here. Then the knee slide comes through at once.")
    done = Done(
        picture=(Moved(at=F(0), mat=F(20), playing=False), Moved(at=F(28, 10), mat=F(26), rate=F(1, 2))),
        pointer=(Pointed(at=F(1), x=0.4, y=0.5), Pointed(at=F(3, 2), x=0.41, y=0.5, pressed=False),
                 Pointed(at=F(2), x=0.2, y=0.5), Pointed(at=F(11, 5), x=0.6, y=0.5),
                 Pointed(at=F(12, 5), x=0.6, y=0.5, pressed=False)),
        acts=(Acted(at=F(29, 10), act=Act.CHAPTER),),
    )  # fmt: skip
    b = laid(breakdown(done, said, 8.0))
    assert [s.title for s in b.script] == ["Closed guard", "Knee slide"]
    assert [m.kind for m in b.marks] == [MarkKind.SPOTLIGHT, MarkKind.FORCE]
    assert [(m.beat, m.word) for m in b.marks] == [(b.script[0].beats[0].id, 1), (b.script[0].beats[0].id, 3)]
    first, second = b.script[0].beats[0].treatment, b.script[1].beats[0].treatment
    assert first == GoTo(F(20), F(0)) and isinstance(second, GoTo) and second.rate == F(1, 2)
    assert len(compiled(b).marks) == 2


def test_a_picture_that_went_to_and_fro_goes_on_so_in_the_programme() -> None:
    said = words("And now look at how it goes over and then back over and over once more so.")
    done = Done(picture=(Moved(at=F(0), mat=F(30), fro=(F(30), F(32))),))
    b = laid(breakdown(done, said, 10.0))
    (beat,) = [x for _, x in b.beats()]
    assert [(type(t), w) for t, w in zip(beat.treatments(), (0, 3), strict=True)] == [(GoTo, 0), (Loop, 3)]
    assert [t.word for t in beat.turns] == [3] and all(t.to_and_fro for t in beat.treatments() if isinstance(t, Loop))
    p = compiled(b)
    spoken = [w for w in p.words if w.word >= 3]
    mats = [float(p.time_map.passage_at(f).mat_at(f)) for w in spoken for f in [int(w.start * p.fps)]]
    assert all(29.6 <= m <= 32.4 for m in mats) and any(z < a for a, z in pairwise(mats))
    assert all(x.state.value == "met" for x in p.ties)


def test_however_it_goes_to_and_fro_is_said_again_and_is_said_by_two_it_can_be_shown() -> None:
    for seed in range(SESSIONS // 3):
        chance, s = np.random.default_rng(seed), session(seed)
        moved = [
            replace(m, fro=(m.mat, m.mat + int(chance.integers(1, 4)))) if m.playing and chance.random() < 0.5 else m
            for m in s.moved
        ]
        said = [replace(w, voice=int(1 + (chance.random() < 0.05))) for w in s.said]
        again = (F(int(at * 10), 10) for at in chance.uniform(1, s.seconds, 2))
        keys = [*s.acts, *(Acted(at=at, act=Act.AGAIN, since=max(at - 4, F(0))) for at in again)]
        done = Done(picture=tuple(moved), acts=tuple(sorted(keys, key=lambda a: a.at)))
        b = breakdown(done, said, s.seconds, voices=("n1", "n2"))
        b = laid(replace(b, narrators=(Narrator(id="n1", name="A"), Narrator(id="n2", name="B"))))
        p, t = compiled(b), tidy(done, said, s.seconds, STYLE)
        assert [w.text for w in p.words] == [x.word.text for x in t.shown]
        assert all(x.state.value == "met" for x in p.ties)
        spoken = takes_by_beat(b)
        assert all(spoken[beat.id].narrator == b.narrator(beat).id for _, beat in b.beats())
        for x, w in zip(t.shown, p.words, strict=True):
            if x.spell.fro is not None:
                frame = min(int(w.start * p.fps), p.frames - 1)
                mat = float(p.time_map.passage_at(frame).mat_at(frame))
                assert x.spell.fro[0] - 0.4 <= mat <= x.spell.fro[1] + 0.4


def test_pointing_at_what_is_said_again_is_made_again_too() -> None:
    said = words("He pulls her in. He pulls her down.")
    done = Done(
        picture=(Moved(at=F(0), mat=F(20), playing=False),),
        pointer=(Pointed(at=F(1), x=0.4, y=0.5), Pointed(at=F(11, 10), x=0.4, y=0.5, pressed=False)),
        acts=(Acted(at=F(5, 2), act=Act.AGAIN, since=F(1, 2)),),
    )
    b = laid(breakdown(done, said, 6.0))
    assert [x.text for _, x in b.beats()] == ["He pulls her down."] and not b.marks
    raw = laid(breakdown(done, said, 6.0, tidied=False))
    assert len(raw.marks) == 1 and "in." in " ".join(x.text for _, x in raw.beats())


def test_a_score_that_was_said_is_compared_with_the_logs() -> None:
    """Two points for a takedown (the rules of the bout, from the shipped set; worked out by hand)."""
    said = words("It is two nil now. And here she is up four to two. They stand one to two seconds.")
    done = Done(picture=(Moved(at=F(0), mat=F(20), playing=False),))
    positions = (
        PositionSpan(start=F(0), end=F(10), position="standing"),
        PositionSpan(start=F(10), end=F(60), position="side-control", top=Side.FIRST),
    )
    rounds = (Round(id="r1", name="Round", start=F(0), end=F(60)),)
    b = laid(replace(breakdown(done, said, 12.0), rounds=rounds, positions=positions))
    rules = shipped_rules()[b.ruling.rules]
    stands = ledger(b, shipped_lexicon(), rules, b.rounds[0]).score(F(20))
    assert sorted(stands) == [0, 2]
    (other,) = scores_said(b, b.talks[0].sections, shipped_lexicon(), rules)
    assert other.said == (4, 2) and other.words == "four to two" and other.at == 20
    assert "“four to two”; the log has 2–0 there" in other.sentence
    assert not scores_said(replace(b, rounds=()), b.talks[0].sections, shipped_lexicon(), rules)


def test_not_every_number_is_a_score() -> None:
    """Sentences as narrations have them (common practice)."""
    for text in ("One, two, three to the hip.", "He has two on one.", "give it one to two weeks", "two all the way"):
        assert not list(scores_in(text.split())), text
    for text, score in (("2–0 at this point", (2, 0)), ("It's two all.", (2, 2)), ("she leads six to nothing", (6, 0))):
        assert [s for _, _, s in scores_in(text.split())] == [score], text
    for place in ("own-roll", "pointing", "walk-through"):
        assert not list(scores_in(Path(f"tests/talk/{place}.txt").read_text("utf-8").split())), place
    text = "He is in 50-50 and goes for the 4-11 from there."
    b = laid(breakdown(Done(picture=(Moved(at=F(0), mat=F(20)),)), words(text), 8.0))
    b = replace(b, rounds=(Round(id="r1", name="Round", start=F(0), end=F(60)),))
    assert not scores_said(b, b.talks[0].sections, shipped_lexicon(), shipped_rules()[b.ruling.rules])


def test_names_that_were_said_are_offered_once_and_taken_where_they_were_said() -> None:
    said = words("In half guard the underhook comes first and then the knee slide and the underhook holds.")
    b = laid(breakdown(Done(picture=(Moved(at=F(0), mat=F(30)),)), said, 10.0))
    found = names_said(b, b.talks[0], shipped_lexicon())
    assert [n.item.en.casefold() for n in found] == ["half guard", "underhook", "knee slide"]
    b = checked(take_names(b, found))
    (exchange,) = b.exchanges
    assert exchange.technique.casefold() == "underhook" and [x.text.casefold() for x in b.labels] == ["knee slide"]
    (span,) = b.positions
    assert span.position == "half-guard" and abs(span.start - F(305, 10)) < F(1, 2)
    assert names_said(b, b.talks[0], shipped_lexicon()) == ()


def test_what_is_heard_and_not_known_keeps_its_place_until_it_is_typed() -> None:
    said = [SaidWord(text=OPEN, start=F(1), end=F(3)), *words("and there", 4.0)]
    b = laid(breakdown(Done(picture=(Moved(at=F(0), mat=F(5)),)), said, 6.0))
    p = compiled(b)
    assert [w.text for w in p.words] == [OPEN, "and", "there"]
    assert abs(float(p.words[0].end - p.words[0].start) - 2.0) < 0.02
    (phrase,) = open_phrases(b, b.talks[0])
    typed = checked(type_phrase(b, "k1", phrase, "the far arm"))
    q = compiled(typed)
    assert [w.text for w in q.words] == ["the", "far", "arm", "and", "there"] and q.seconds == p.seconds
    assert abs(q.words[3].start - p.words[1].start) < F(1, 50) and open_phrases(typed, typed.talks[0]) == ()
    again = laid(replace(typed, talks=(replace(typed.talks[0], tidied=False),)))
    assert [x.text for _, x in again.beats()] == ["the far arm and there"]
    with pytest.raises(DocumentError):
        type_phrase(b, "k1", phrase, "  ")


def test_a_picture_in_which_nothing_happens_is_not_kept_while_nothing_is_said() -> None:
    said = [*words("here"), *words("there", 8.0)]
    done = Done(picture=(Moved(at=F(0), mat=F(5)),))
    lively = laid(breakdown(done, said, 9.0))
    b = breakdown(done, said, 9.0)
    rest = Condition(id="c1", footage="f1", kind=ConditionKind.IDLE, start=F(5), end=F(14), accepted=True)
    assert compiled(laid(replace(b, conditions=(rest,)))).seconds < compiled(lively).seconds - 1


# ── the file ─────────────────────────────────────────────────────────────────────────────────────────────────
times = st.fractions(min_value=0, max_value=900, max_denominator=1000)
dones = st.builds(
    lambda p, q, a: Done(picture=tuple(sorted(p, key=lambda x: x.at)), pointer=tuple(sorted(q, key=lambda x: x.at)),
                         acts=tuple(sorted(a, key=lambda x: x.at))),
    st.lists(
        st.builds(Moved, at=times, mat=times, camera=st.sampled_from(["", "Far wall"]), playing=st.booleans())
        | st.builds(lambda at, mat: Moved(at=at, mat=mat, fro=(mat, mat + 1)), times, times)
    ),
    st.lists(st.builds(Pointed, at=times, x=st.floats(0, 1), y=st.floats(0, 1), pressed=st.booleans())),
    st.lists(
        st.builds(Acted, at=times, act=st.sampled_from([Act.WRONG, Act.CHAPTER]))
        | st.builds(lambda at: Acted(at=at, act=Act.AGAIN, since=at / 2), times)
    ),
)  # fmt: skip


@given(dones, st.integers(0, 40))
def test_what_was_done_is_read_back_as_it_was_and_a_cut_off_end_costs_one_line(
    tmp_path_factory: pytest.TempPathFactory, done: Done, cut: int
) -> None:
    place = tmp_path_factory.mktemp("events") / "events.jsonl"
    place.write_bytes(written(done))
    found = read_events(place)
    assert (found.picture, found.pointer, found.acts) == (done.picture, done.pointer, done.acts)
    data = written(done)
    last = data[:-1].rfind(b"\n") + 1
    if last > len(head()) - 1:
        place.write_bytes(data[: min(last + cut, len(data) - 2)])
        rest = read_events(place)
        assert (
            sum(map(len, (rest.picture, rest.pointer, rest.acts)))
            >= sum(map(len, (done.picture, done.pointer, done.acts))) - 1
        )


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "its first line"),
        ('{"format": "chapto breakdown"}', "its first line"),
        ('{"format": "chapto talk-through", "version": 9}\n', "newer"),
        (
            HEAD + '{"at": "1", "mat": "x"}\n{"at": "1", "mat": "2"}\n',
            "Line 2",
        ),
        (HEAD + '{"at": 3, "mat": 1}\n{"at": 1.5, "mat": 2}\n', "order"),
        (HEAD + '{"at": 1, "x": 2, "y": 0}\n', "beside"),
    ],
)
def test_a_file_that_makes_no_sense_is_refused_in_a_sentence(tmp_path: Path, text: str, said: str) -> None:
    place = tmp_path / "events.jsonl"
    place.write_text(text)
    with pytest.raises(EventsFileError, match=said):
        read_events(place)
