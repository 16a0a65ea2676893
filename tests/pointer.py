"""The pointer over a widget with no button held, on every platform."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QApplication, QWidget


def hover(widget: QWidget, place: QPoint) -> None:
    """Move the pointer to a place of a widget; QTest would move the desktop's own, which a Wayland
    display lets nobody do.
    """
    none = Qt.MouseButton.NoButton
    event = QMouseEvent(QEvent.Type.MouseMove, QPointF(place), QPointF(widget.mapToGlobal(place)),
                        none, none, Qt.KeyboardModifier.NoModifier)  # fmt: skip
    QApplication.sendEvent(widget, event)
