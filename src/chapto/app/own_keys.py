"""Keys that a part of the window keeps for itself."""

from __future__ import annotations

from typing import Any, cast

from PyQt6 import sip
from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent


def key_of(event: QEvent) -> QKeyEvent:
    """An event of keys as one: it may lie where an earlier event lay that Python still knows by its plain kind."""
    return event if isinstance(event, QKeyEvent) else cast(QKeyEvent, sip.cast(event, cast(Any, QKeyEvent)))


class EscIsMine:
    """Put before a widget class: Esc goes to the widget while it has the keys, whatever it stands for in the window."""

    def event(self, event: QEvent | None) -> bool:
        """Take Esc before the window's shortcut does."""
        asked = event is not None and event.type() == QEvent.Type.ShortcutOverride
        if event is not None and asked and key_of(event).key() == Qt.Key.Key_Escape:
            event.accept()
            return True
        return bool(super().event(event))  # type: ignore[misc]
