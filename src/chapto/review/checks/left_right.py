"""Left and right that are said of a limb which is marked as the other one."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import write_instead
from chapto.review.reviewed import Part
from chapto.review.texts import read

LIMBS: dict[str, frozenset[str]] = {
    "shoulder": frozenset({"shoulder"}),
    "elbow": frozenset({"elbow", "arm", "frame"}),
    "wrist": frozenset({"wrist", "hand", "arm", "grip", "forearm"}),
    "hip": frozenset({"hip"}),
    "knee": frozenset({"knee", "leg", "shin", "thigh"}),
    "ankle": frozenset({"ankle", "foot", "heel", "leg", "shin"}),
}
"""What a joint is called when it is pointed at."""
NEAR = 5
"""Words from a mark's word to the limb that is named."""


def find(part: Part) -> Iterator[Finding]:
    """“Her left knee” where the mark of that word is on her right one."""
    b = part.b
    joints = {a.id: a.joint for a in b.anchors}
    for beat in part.read():
        text = read(beat.text)
        for m in (m for m in b.marks if m.beat == beat.id):
            marked = {j for i in m.anchors if (j := joints.get(i)) is not None}
            begins, ends = text.sentence_of(m.word) if m.word < len(text.words) else (0, 0)
            for i in range(max(begins, m.word - NEAR), min(ends - 1, m.word + NEAR)):
                said, limb = text.plain[i], text.plain[i + 1].removesuffix("'s")
                if said not in ("left", "right"):
                    continue
                meant = [j for j in marked if limb in LIMBS.get(j.value.split()[-1], ())]
                if not meant or any(j.value.startswith(said) for j in meant):
                    continue
                right = meant[0].value.split()[0]
                sentence = f"You say “{said} {limb}”; the mark there is on the {meant[0].value}."
                where = Where(part.said_at(beat.id, i), beat.id, i, m.id)
                mend = write_instead(beat.id, i, i + 1, right)
                yield Finding(Weight.MUST, sentence, where, f"{said} {limb}", mend=mend)
