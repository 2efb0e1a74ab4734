"""Labels that are gone before they can be read."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.script import words_of
from chapto.review.finding import Finding, Reviewed, Weight, Where


def find(r: Reviewed) -> Iterator[Finding]:
    """Labels on the screen for less than their words need."""
    word, least = r.limits["read-a-word"], r.limits["read-least"]
    for x in r.programme.labels:
        needs = max(word.value * len(words_of(x.text)), least.value)
        stays = r.seconds(x.end - x.start)
        if stays < needs:
            limit = word if needs > least.value else least
            sentence = f"The label “{x.text}” stays for {float(stays):.1f} s; reading it takes {float(needs):.1f} s."
            yield Finding(
                Weight.SHOULD, sentence, Where(r.seconds(x.start), item=x.label), f"{float(stays):.1f} s", limit
            )
