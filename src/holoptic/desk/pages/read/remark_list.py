"""What is odd about the views that are being read, as a list."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QListWidget

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px

_LEAST_HEIGHT = 64


class RemarkList(QListWidget):
    """Takes what height is left, and asks for little: the buttons below it must be in sight."""

    def __init__(self) -> None:
        super().__init__()
        self.setWordWrap(True)
        self.setAccessibleName(tr("remarks about the drawing"))

    def sizeHint(self) -> QSize:
        """Ask for a few lines; a list asks for some ten by itself."""
        return QSize(super().sizeHint().width(), px(_LEAST_HEIGHT))
