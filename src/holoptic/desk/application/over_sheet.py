"""What the sheets that lie over the room have in common: a head with buttons, and a way back."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget


class OverSheet(QWidget):
    """Lies over the room until it is closed again, by its button or Esc; `close` goes back."""

    def __init__(self, close: Callable[[], None], close_words: str) -> None:
        super().__init__()
        self.setObjectName("body")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.title = QLabel()
        self.title.setObjectName("title")
        self.close_button = self.button(close_words, close)
        escape_key = QShortcut(QKeySequence("Escape"), self)
        escape_key.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        escape_key.activated.connect(close)

    def button(self, words: str, run: Callable[[], None], tip: str = "") -> QPushButton:
        """Return a button that runs something."""
        made = QPushButton(words)
        made.setToolTip(tip)
        made.clicked.connect(lambda _=False: run())
        return made

    def lay_head(self, *widgets: QWidget, wide: QWidget | None = None) -> QVBoxLayout:
        """Lay the title, widgets and the button that closes in a row; `wide` takes the room left.

        Returns the column that what follows is laid into.
        """
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 12, 22, 12)
        row = QHBoxLayout()
        row.addWidget(self.title)
        if wide is None:
            row.addStretch(1)
        else:
            row.addSpacing(16)
            row.addWidget(wide, 1)
        for widget in (*widgets, self.close_button):
            row.addWidget(widget)
        column.addLayout(row)
        return column
