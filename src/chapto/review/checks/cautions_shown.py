"""What can hurt somebody and is shown without a word of care, or is called safe."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from chapto.document.edit_breakdown import set_shown
from chapto.document.edit_script import cut_words
from chapto.document.script import Part as Role
from chapto.programme.cautions import risks_of, risks_shown
from chapto.review.finding import Finding, Weight, Where, mend_by
from chapto.review.phrases import phrases, stands_after
from chapto.review.reviewed import Part, Reviewed
from chapto.review.texts import read


def find(r: Reviewed) -> Iterator[Finding]:
    """Classes of risk that are shown while no line of care comes, or comes after the section that shows them."""
    lexicon = r.lexicon
    placed = {c.risk: c for c in r.programme.cautions}
    ends = {s.section: (s.start, s.end) for s in r.programme.sections}
    for section, risk in risks_shown(r.b, lexicon):
        start, end = ends.get(section, (0, 0))
        caution = placed.get(risk)
        if end <= start or (caution is not None and caution.start < end):
            continue
        said = next((x.id for s in r.b.script if s.id == section for x in s.beats), "")
        mend = None if r.b.cautions else mend_by("Show the lines of care", partial(set_shown, cautions=True))
        late = "comes without" if caution is None else "is over before"
        sentence = f"What can hurt here ({risk}) {late} its line of care."
        yield Finding(Weight.MUST, sentence, Where(r.seconds(start), said), risk, mend=mend)


def told_safe(part: Part) -> Iterator[Finding]:
    """“This is safe” where something is shown that the lexicon marks."""
    x = part.section.exchange
    if not x or part.section.part is Role.OPENING:
        return
    risks = risks_of(part.b.exchange(x), part.lexicon)
    data = phrases()["safe"]
    for beat in part.read() if risks else ():
        text = read(beat.text)
        hits = [(i, i + 1) for i, w in enumerate(text.plain) if w in data["words"]]
        hits += [(i, i + len(p.split())) for p in data["phrases"] for i in text.places(p.split())]
        for first, end in sorted(hits):
            if stands_after(text, first, data["unless_after"]):
                continue
            quote = text.quote(first, end)
            begins, ends = text.sentence_of(first)
            sentence = f"You say “{quote}” of what can hurt ({risks[0]}): nobody can promise that."
            where = Where(part.said_at(beat.id, first), beat.id, first)
            cut = partial(cut_words, beat_id=beat.id, first=begins, end=ends)
            mend = mend_by("Leave the sentence out", cut) if ends - begins < len(text.words) else None
            yield Finding(Weight.MUST, sentence, where, quote, mend=mend)
