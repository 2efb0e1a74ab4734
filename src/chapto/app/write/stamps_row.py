"""Times that came with the script and tie nothing yet: one step ties them all."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.script import Section
from chapto.pacing.offers import Offer, section_offers


class StampsRow(QWidget):
    """A line over the script while there are such times."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self._known: dict[str, tuple[tuple[object, ...], _Times]] = {}
        ground(self, "paper")
        row = layouts.row(self, margins=(16, 2, 12, 6), spacing=8)
        self._words = label("", wrap=True)
        row.addWidget(self._words, 1)
        self._tie = button("Tie them all", self.tie_all, tip="Tie every one of them", key="Ctrl+Shift+G", sign="lace")
        row.addWidget(self._tie)
        row.addWidget(button("Forget them", self.forget, tip="Leave the words without these times", kind="quiet"))
        studio.changed.connect(self.follow)
        self.hide()

    def tie_all(self) -> None:
        """Tie every word beside which a time came; one step of undo."""
        wanted = [o for times in self._times() for o in times.offered]
        if not wanted:
            self._studio.message.emit("No time that came with the script is left without a tie.")
            return
        ties = [(o.beat, o.word, o.at) for o in wanted]
        self._studio.edit(f"tie {_counted(len(ties))}", lambda b: edit_script.tie_all(b, ties))

    def forget(self) -> None:
        """The words stay, their times go."""
        self._studio.edit("forget the times of the script", edit_script.forget_stamps)

    def follow(self) -> None:
        """Show how many there are."""
        times = self._times()
        offered, count = sum(len(t.offered) for t in times), sum(t.count for t in times)
        self.setVisible(count > 0)
        self._tie.setVisible(offered > 0)
        beyond = f"{_counted(count - offered)} lie where their section shows nothing, or go back."
        came = f"{_counted(offered)} came with the script, dashed in the lacing below."
        self._words.setText(came if offered == count else f"{came} {beyond}" if offered else beyond)

    def _times(self) -> list[_Times]:
        """Of every section, looked at again only where something of it has changed."""
        b, known = self._studio.breakdown, self._known
        self._known = {}
        for section in b.script:
            given = (section, b.moments, b.exchanges)
            found = known.get(section.id)
            if found is None or any(x is not y for x, y in zip(given, found[0], strict=True)):
                found = given, _times_of(b, section)
            self._known[section.id] = found
        return [times for _, times in self._known.values()]


@dataclass(frozen=True)
class _Times:
    """Times of one section that tie nothing: how many, and those that offer a tie."""

    count: int
    offered: tuple[Offer, ...]


def _times_of(b: Breakdown, section: Section) -> _Times:
    # As it was filmed, a time says when a beat is heard.
    loose = (
        0
        if section.as_filmed
        else sum(s.word not in {t.word for t in beat.ties} for beat in section.beats for s in beat.stamps)
    )
    return _Times(loose, tuple(o for o in section_offers(b, section) if o.stamped) if loose else ())


def _counted(n: int) -> str:
    return f"{n:,} time{'' if n == 1 else 's'}"
