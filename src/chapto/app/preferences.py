"""The settings of all breakdowns, held once, with a signal."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace
from PyQt6.QtCore import QObject, pyqtSignal

from chapto.errors import ChaptoError
from chapto.store.settings import Settings, load_settings, save_settings, within_bounds


class Preferences(QObject):
    """`now` are the settings in force; `changed` follows them. What can't be kept holds for this session, and `failed`
    says why."""

    changed = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.now: Settings = load_settings()
        self._changed: dict[str, Any] = {}

    def set(self, **changes: Any) -> None:
        """Change fields of the settings and keep them; of a mapping only the keys that are given."""
        if _with(self.now, changes) == self.now:
            return
        # Another window may have kept something since: only what was changed here is written over it.
        for name, value in changes.items():
            is_mapping = isinstance(value, dict)
            self._changed[name] = {**self._changed.get(name, {}), **value} if is_mapping else value
        made = _with(load_settings(), self._changed)
        self.now = made
        self.changed.emit()
        try:
            save_settings(made)
        except ChaptoError as error:
            self.failed.emit(str(error))


def _with(settings: Settings, changes: dict[str, Any]) -> Settings:
    merged = {k: {**getattr(settings, k), **v} if isinstance(v, dict) else v for k, v in changes.items()}
    return within_bounds(replace(settings, **merged))
