"""Roles for what is drawn by hand: what a reader of the screen calls it, and how it is moved.

PyQt has no way to say a role, so a widget takes that of what it descends from.
"""

from __future__ import annotations

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPixmap, QWheelEvent
from PyQt6.QtWidgets import QAbstractSlider, QLabel, QWidget


class Depiction(QLabel):
    """Something drawn: an image to a reader, with its name and what it says in words."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("depiction")
        nothing = QPixmap(1, 1)
        nothing.fill(Qt.GlobalColor.transparent)
        self.setPixmap(nothing)  # what makes a label an image

    def sizeHint(self) -> QSize:
        """It wants no size of its own, as little as any plain widget."""
        return QSize()

    def minimumSizeHint(self) -> QSize:
        """Nor at least one."""
        return QSize()


class Choice(QAbstractSlider):
    """One of some things in a row: a slider to a reader, which may move it too.

    Signals:
        asked_for(number): another one is to be taken, by whoever reads the screen.
    """

    asked_for = pyqtSignal(int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setPageStep(1)
        self._is_told = False
        self.valueChanged.connect(self._ask)

    def tell_choice(self, number: int, count: int) -> None:
        """Let a reader know which of how many is taken now."""
        self._is_told = True
        self.setRange(0, max(0, count - 1))
        self.setValue(number)
        self._is_told = False

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Leave the wheel to what scrolls."""
        if event is not None:
            event.ignore()

    def _ask(self, number: int) -> None:
        if not self._is_told:
            self.asked_for.emit(number)
