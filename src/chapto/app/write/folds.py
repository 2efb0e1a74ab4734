"""Sections of which only the head is shown. A look of the page: the document knows nothing of it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from chapto.app.write.card import BeatCard
from chapto.app.write.section_head import SectionHead
from chapto.document.script import Section, words_of


class Folds:
    """Which sections (by id) are folded."""

    def __init__(self) -> None:
        self._folded: set[str] = set()

    def __contains__(self, section: object) -> bool:
        return section in self._folded

    def turn(self, section: str) -> None:
        """Fold a section, or show it again."""
        self._folded ^= {section}

    def show(
        self, script: Iterable[Section], heads: Mapping[str, SectionHead], cards: Mapping[str, BeatCard]
    ) -> None:  # fmt: skip
        """Hide and show what stands there."""
        for section in script:
            folded, head = section.id in self._folded, heads.get(section.id)
            if head is not None:
                head.show_folded(folded, sum(len(words_of(beat.text)) for beat in section.beats))
            for beat in section.beats:
                if beat.id in cards:
                    cards[beat.id].setVisible(not folded)
