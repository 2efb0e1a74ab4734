"""Choosing files: each kind of file is looked for where one of its kind was chosen last."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

from chapto.app.preferences import Preferences

SOUND_ENDINGS = frozenset({".wav", ".flac", ".mp3", ".m4a", ".ogg", ".opus", ".aac"})
"""Files that are heard and not seen."""
SCRIPT_ENDINGS = frozenset({".txt", ".md", ".srt", ".vtt"})
LOG_ENDINGS = frozenset({".csv"})


class Choosing:
    """The dialogs over `parent`. A kind is a word such as "video"; folders are remembered for all breakdowns."""

    def __init__(self, parent: QWidget, preferences: Preferences, kind: str) -> None:
        self._parent, self._preferences, self._kind = parent, preferences, kind

    def file(self, title: str, kinds: str) -> Path | None:
        """One file that is there; None when the creator thinks better of it."""
        name, _ = QFileDialog.getOpenFileName(self._parent, title, self._folder(), kinds)
        return self._chosen([name])[0] if name else None

    def files(self, title: str, kinds: str) -> list[Path]:
        """Any number of them."""
        names, _ = QFileDialog.getOpenFileNames(self._parent, title, self._folder(), kinds)
        return self._chosen(names)

    def new_file(self, title: str, offered: Path, kinds: str, *, asks: bool = False) -> tuple[Path | None, str]:
        """Where to put a file, and as which of `kinds`. With `asks` the creator has agreed that what lies there is
        replaced; without, whoever writes has to ask."""
        place = offered if offered.is_absolute() else Path(self._folder()) / offered
        quiet = QFileDialog.Option(0) if asks else QFileDialog.Option.DontConfirmOverwrite
        name, kind = QFileDialog.getSaveFileName(self._parent, title, str(place), kinds, options=quiet)
        return (self._chosen([name])[0], kind) if name else (None, "")

    def folder(self, title: str) -> Path | None:
        """A folder that is there."""
        name = QFileDialog.getExistingDirectory(self._parent, title, self._folder())
        if not name:
            return None
        self._preferences.set(folders={self._kind: name})
        return Path(name)

    def _folder(self) -> str:
        return self._preferences.now.folders.get(self._kind, "")

    def _chosen(self, names: list[str]) -> list[Path]:
        paths = [Path(n) for n in names]
        if paths:
            self._preferences.set(folders={self._kind: str(paths[0].parent)})
        return paths
