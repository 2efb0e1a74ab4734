"""What the window does with files: saving, saving elsewhere, opening, and what is asked before it closes."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from PyQt6.QtWidgets import QWidget

from chapto.app.ask import ask
from chapto.app.choosing import Choosing
from chapto.app.studio import Studio
from chapto.errors import ChaptoError

BREAKDOWNS = "Chapto breakdown (*.chapto)"


class WindowFiles:
    """`say` puts a sentence at the foot of `window`; `open_other` opens another file."""

    def __init__(
        self,
        window: QWidget,
        studio: Studio,
        say: Callable[[str], object],
        open_other: Callable[[Path | None], object] | None,
    ) -> None:
        self._window, self._studio, self._say, self._open_other = window, studio, say, open_other
        self._choosing = Choosing(window, studio.preferences, "breakdown")

    def save(self) -> None:
        """Save; asks for a place the first time, and where others edit the file."""
        session = self._studio.session
        if session.path is None or session.read_only:
            self.save_as()
            return
        try:
            if said := session.save():
                self._say(said)
        except ChaptoError as error:
            self._say(str(error))

    def save_as(self) -> None:
        """Save under another name and go on there. Another breakdown is never written over."""
        title = self._studio.breakdown.title.replace("/", " ")
        session = self._studio.session
        offered = session.path or Path(f"{title}.chapto")
        path, _ = self._choosing.new_file("Save the breakdown", offered, BREAKDOWNS)
        if path is None:
            return
        try:
            session.save(path if path.suffix == ".chapto" else path.with_name(path.name + ".chapto"))
            self._say(f"Saved as {session.path}.")
        except ChaptoError as error:
            self._say(str(error))

    def open_dialog(self) -> None:
        """Open another breakdown."""
        path = self._choosing.file("Open a breakdown", BREAKDOWNS)
        if path is not None:
            self.open(path)

    def open(self, path: Path | None) -> None:
        """Open a breakdown beside this one, a new one where no file is named. An empty one that nothing was done with
        makes room for it."""
        if self._open_other is not None:
            self._open_other(path)

    def offer_kept_edits(self) -> None:
        """Ask about edits that were kept but were made on another state of the file."""
        session = self._studio.session
        if session.offered is None:
            return
        at = datetime.fromtimestamp(session.offered.at)
        question = (
            f"Edits from {at:%d %B, %H:%M} were kept when Chapto ended, but they were made on another state of this "
            "file than the one that is here now. Look at them? Undo goes back to the file."
        )
        if ask(self._window, question, ("Look at them", "Leave them among the earlier states")) == 0:
            session.take_offered()
        else:
            session.set_offered_aside()

    def may_close(self) -> bool:
        """Save or keep everything; where that can't be done anywhere, what the creator answers."""
        while True:
            try:
                self._studio.keep_everything()
            except ChaptoError as error:
                answer = ask(self._window, str(error), ("Save elsewhere…", "Close without them", "Go back"))
                if answer:
                    return answer == 1
                self.save_as()
            else:
                return True

    def greeting(self) -> str:
        """What is to be said when the window opens; empty when nothing."""
        session = self._studio.session
        if session.read_only:
            return f"This breakdown is being edited elsewhere ({session.read_only}); here it can be looked at."
        if session.recovered:
            return "Edits from before the last end were kept and are here again; undo takes them back."
        return "".join(self._studio.files.missing[:1])
