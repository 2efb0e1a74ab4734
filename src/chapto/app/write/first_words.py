"""An empty sheet with a caret: what is typed there begins the script."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import pyqtSignal

from chapto.app.studio import Studio
from chapto.app.write.editor import BeatEditor
from chapto.app.write.from_elsewhere import FromElsewhere
from chapto.app.write.viewer_context import ViewerContext
from chapto.document.begin_script import begin_to_write


class FirstWords(BeatEditor):
    """`begun` carries the beat (by id) that the first letter made."""

    begun = pyqtSignal(str)

    def __init__(self, studio: Studio, sight: ViewerContext, elsewhere: FromElsewhere) -> None:
        super().__init__("")
        self._studio, self._sight = studio, sight
        self.setPlaceholderText("Write here what you will say, or paste it.")
        self.setAccessibleName("The first words of the script")
        self.typed.connect(self._begin)
        self.pasted.connect(partial(elsewhere.paste, after=""))

    def _begin(self, text: str) -> None:
        if text.strip() and self._studio.edit(
            "begin to write", partial(begin_to_write, text=text, mat=self._sight.looked_at())
        ):
            self.begun.emit(self._studio.breakdown.script[-1].beats[0].id)
