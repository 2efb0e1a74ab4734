"""Words that point at the picture, with nothing they point at."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from chapto.document import edit_script
from chapto.document.script import Beat
from chapto.document.treatments import Cutaway, ShowPhoto, SideBySide, TextCard
from chapto.pacing.meant_moment import named_by, sentence_round
from chapto.pacing.pointing_words import pointing_words
from chapto.review.finding import Finding, Mend, Weight, Where, mend_by
from chapto.review.reviewed import Part
from chapto.review.texts import read

NEAR = 8
"""Words from one that points to a tie or a mark that shows what it means."""
ELSEWHERE = (Cutaway, ShowPhoto, SideBySide, TextCard)


def find(part: Part) -> Iterator[Finding]:
    """Those with no tie and no mark near them, while the exchange is on the screen."""
    if not part.section.exchange:
        return
    marked = {(m.beat, m.word) for m in part.b.marks}
    pointed_at: set[str] = set()
    for beat in part.read():
        shown = {t.word for t in beat.ties} | {word for x, word in marked if x == beat.id}
        text = read(beat.text)
        for word in pointing_words(beat.text):
            if any(abs(word - w) <= NEAR for w in shown) or isinstance(beat.treated_at(word), ELSEWHERE):
                continue
            if text.plain[word] in pointed_at and "that" in text.plain[max(word - 2, 0) : word]:
                continue
            quote = text.quote(max(word - 1, 0), word + 1)
            sentence = f"“{quote}” points at something, and nothing is tied to it."
            where = Where(part.said_at(beat.id, word), beat.id, word)
            yield Finding(Weight.SHOULD, sentence, where, quote, mend=_tied(part, beat, word))
        # What was shown is “that frame” from then on.
        pointed_at |= {w for i in shown for w in text.plain[max(i - NEAR, 0) : i + NEAR]}


def _tied(part: Part, beat: Beat, word: int) -> Mend | None:
    """A tie to the moment that the sentence names, if one does that no other word is tied to yet."""
    b, x = part.b, part.b.exchange(part.section.exchange)
    taken = {t.moment for other in part.section.beats for t in other.ties}
    meant = named_by(
        sentence_round(beat.text, word), [m for m in b.moments if x.start <= m.at <= x.end and m.id not in taken]
    )
    if meant is None:
        return None
    change = partial(edit_script.tie_word, beat_id=beat.id, word=word, moment_id=meant.id)
    return mend_by(f"Tie it to “{meant.note or meant.kind.value}”", change)
