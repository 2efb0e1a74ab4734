"""What the Voice stage has for talking while watching: the booth, its view, and the road of what became of it."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.screen.feed import PictureFeed
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.voice.microphones import Microphones
from chapto.app.voice.talking.booth import TalkBooth, TalkState
from chapto.app.voice.talking.names_sheet import NamesSheet
from chapto.app.voice.talking.road import TalkRoad
from chapto.app.voice.talking.road_model import CutMark, road_of
from chapto.app.voice.talking.typing_sheet import TypingSheet
from chapto.app.voice.talking.view import TalkView
from chapto.app.widgets import button, ground, label
from chapto.document.talks import Talk
from chapto.publish.scores_said import ScoreSaid, scores_said
from chapto.publish.talks.named_in_talk import NameSaid, names_said
from chapto.publish.talks.typed import open_phrases
from chapto.voice.new_talk import STYLE

AROUND = Fraction(1, 1000)
"""Seconds round a cut within which it is known again."""


class TalkPart:
    """Lies over the window of `owner` while somebody talks."""

    def __init__(
        self, owner: QWidget, studio: Studio, player: Player, microphones: Microphones, feed: PictureFeed
    ) -> None:  # fmt: skip
        self._owner, self._studio, self._player, self._feed = owner, studio, player, feed
        self.booth, self.road = TalkBooth(studio, player, microphones), TalkRoad()
        self.page = ground(QWidget(), "paper")
        self._said = label("", size="head")
        self._names = button(
            "",
            self.open_names,
            tip="What you named, for the log",
            key="Shift+W",
            kind="quiet",
        )
        self._turn = button("", self.turn, tip="Lay the talk out as it was, or tidied", key="G", kind="quiet")
        head = layouts.row(None, self._said, margins=(20, 6, 12, 0))
        head.addStretch(1)
        self._open = button("", self.type_open, tip="Hear and type what was not understood", key="E", kind="quiet")
        head.addWidget(self._open)
        head.addWidget(self._names)
        head.addWidget(self._turn)
        column = layouts.column(self.page, spacing=0)
        column.addLayout(head)
        column.addWidget(self.road)
        self.road.brought_back.connect(self.bring_back)
        self.booth.laid.connect(self._laid)

    def begin(self) -> None:
        """Talk while watching, from where the picture stands."""
        if self.booth.begin():
            TalkView(self._owner.window() or self._owner, self._studio, self._player, self._feed, self.booth)

    def turn(self) -> None:
        """Lay the talk out as it was, or tidied again."""
        if (road := self.road.road) is not None:
            tidied = not road.talk.tidied
            what = "tidy the talk" if tidied else "lay the talk out as it was"
            self.booth.lay_again(road.talk, what, tidied=tidied)

    def bring_back(self, cut: CutMark) -> None:
        """What was cut comes into the programme again."""
        if (road := self.road.road) is not None:
            start, end = (Fraction(round(s * 1000), 1000) for s in (cut.start, cut.end))
            span = max(start - AROUND, Fraction(0)), min(end + AROUND, road.talk.seconds)
            self.booth.lay_again(road.talk, "bring back what was cut", back=(*road.talk.back, span))

    @property
    def is_laying(self) -> bool:
        """Whether a talk is being laid out."""
        return self.booth.state is TalkState.LAYING

    def stop(self) -> None:
        """A take that runs ends, and is laid out."""
        self.booth.stop()

    def close(self) -> None:
        """A take that runs ends; its files stay."""
        self.booth.close()

    def follow(self) -> None:
        """Show the road as the programme is now."""
        made, studio = self._studio.production, self._studio
        known = studio.known
        style = known.styles.get(STYLE)
        road = road_of(made.breakdown, made.programme, style) if style is not None else None
        self.page.setVisible(road is not None)
        if road is None:
            return
        self.road.show_road(road)
        self._said.setText(road.sentence)
        self._turn.setText("As it was" if road.talk.tidied else "Tidied")
        count, other = len(self._named()), len(self._scores())
        names = "1 name heard" if count == 1 else f"{count} names heard"
        scores = "1 score differs" if other == 1 else f"{other} scores differ"
        self._names.setText(", ".join(text for text, n in ((names, count), (scores, other)) if n) + "…")
        self._names.setVisible(count + other > 0)
        talk = self._talk()
        left = len(open_phrases(studio.breakdown, talk)) if talk is not None else 0
        self._open.setText("1 phrase to type…" if left == 1 else f"{left} phrases to type…")
        self._open.setVisible(left > 0)

    def open_names(self) -> None:
        """What was named is ticked for the log."""
        said, scores = self._named(), self._scores()
        if said or scores:
            look = lambda score: self._player.show_mat(score.at)  # noqa: E731
            NamesSheet(self._owner.window() or self._owner, self._studio, said, scores, look)

    def type_open(self) -> None:
        """What was heard and not known is heard again and typed."""
        if (talk := self._talk()) is not None and open_phrases(self._studio.breakdown, talk):
            TypingSheet(self._owner.window() or self._owner, self._studio, self._player, talk)

    def _talk(self) -> Talk | None:
        """The talk of the road, as the document has it now."""
        road, b = self.road.road, self._studio.breakdown
        return next((t for t in b.talks if road is not None and t.id == road.talk.id), None)

    def _named(self) -> tuple[NameSaid, ...]:
        talk, known = self._talk(), self._studio.known
        return names_said(self._studio.breakdown, talk, known.lexicon) if talk is not None else ()

    def _scores(self) -> tuple[ScoreSaid, ...]:
        b, talk, known = self._studio.breakdown, self._talk(), self._studio.known
        rules = known.rules.get(b.ruling.rules)
        return scores_said(b, talk.sections, known.lexicon, rules) if talk is not None and rules is not None else ()

    def _laid(self) -> None:
        talk = self._studio.breakdown.talks[-1]
        count = len(talk.sections)
        sections = "1 section was" if count == 1 else f"{count} sections were"
        self._studio.message.emit(f"{sections} laid out. What went is shown beside the take.")
        self._owner.setFocus()
