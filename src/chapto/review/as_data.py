"""A review for programs."""

from __future__ import annotations

from chapto.review.review import Found, Review


def as_data(reviewed: Review) -> dict[str, object]:
    """A review as JSON holds it; seconds are numbers."""
    return {
        "verdict": reviewed.verdict,
        "found": [_row(f) for f in reviewed.found],
        "waived": [{**_row(f), "reason": f.waiver.reason if f.waiver else ""} for f in reviewed.waived],
        "unchecked": [{"check": u.check.name, "why": u.why} for u in reviewed.unchecked],
    }


def _row(f: Found) -> dict[str, object]:
    x, where, limit = f.finding, f.finding.where, f.finding.limit
    return {
        "check": f.check.name,
        "group": str(f.check.group),
        "weight": x.weight.said,
        "sentence": x.sentence,
        "at": None if where.at is None else round(float(where.at), 3),
        "beat": where.beat,
        "word": where.word,
        "item": where.item,
        "value": x.value,
        "limit": None if limit is None else {"value": float(limit.value), "unit": limit.unit, "source": limit.source},
        "mend": "" if x.mend is None else x.mend.words,
    }
