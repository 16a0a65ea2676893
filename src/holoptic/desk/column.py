"""The column at the right of a page: small headings with a widget under each."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget


class Column(QWidget):
    """A column of a fixed width."""

    def __init__(self, width: int) -> None:
        super().__init__()
        self.setObjectName("column")
        self.setFixedWidth(width)
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.layers = QVBoxLayout(self)
        self.layers.setContentsMargins(12, 8, 12, 8)
        self.layers.setSpacing(4)

    def add(self, title: str, widget: QWidget) -> None:
        """Put a widget under a small heading at the end."""
        label = QLabel(title)
        label.setObjectName("quiet")
        self.layers.addSpacing(5)
        self.layers.addWidget(label)
        self.layers.addWidget(widget)
