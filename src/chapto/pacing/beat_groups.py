"""Beats that are fitted together, and what of a wished length falls to each such group."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from chapto.document.treatments import left_to_the_fit
from chapto.pacing.exchange_timeline import ZERO
from chapto.pacing.fitted import FitBeat
from chapto.pacing.solver_terms import Wish
from chapto.pacing.spoken import SpokenLine


def groups_of(beats: tuple[FitBeat, ...]) -> list[tuple[FitBeat, ...]]:
    """Beats left to the fit stay together; each with a treatment stands alone."""
    groups: list[list[FitBeat]] = []
    for beat in beats:
        before = groups[-1][-1] if groups else None
        free = before is not None and left_to_the_fit(before.treatment) and left_to_the_fit(beat.treatment)
        if before is not None and free and before.pace == beat.pace:
            groups[-1].append(beat)
        else:
            groups.append([beat])
    return [tuple(g) for g in groups]


def share_of(wish: Wish, shown: Fraction, left: list[tuple[FitBeat, ...]], voice: Mapping[str, SpokenLine]) -> Wish:
    """What of a wished length falls to the first of the groups left, by their words."""
    words = [sum((voice[b.id].seconds for b in g), ZERO) for g in left]
    part = float(words[0] / sum(words)) if sum(words) else 1.0
    return Wish(max(wish.seconds - float(shown), 0.0) * part, wish.limit)
