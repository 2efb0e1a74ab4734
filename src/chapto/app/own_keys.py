"""Keys that a part of the window keeps for itself."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent


class EscIsMine:
    """Put before a widget class: Esc goes to the widget while it has the keys, whatever it stands for in the window."""

    def event(self, event: QEvent | None) -> bool:
        """Take Esc before the window's shortcut does."""
        if event is not None and event.type() == QEvent.Type.ShortcutOverride:
            assert isinstance(event, QKeyEvent)
            if event.key() == Qt.Key.Key_Escape:
                event.accept()
                return True
        return bool(super().event(event))  # type: ignore[misc]
