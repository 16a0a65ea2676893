"""The slip under the caret: what a field cannot read, said while it is typed and no longer."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QLabel, QLineEdit, QWidget

_EDGE = 6
_GAP = 3


class CaretSlip(QLabel):
    """Lies over whatever is below the field, in the same window, and lets clicks through."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self.setObjectName("slip")
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setWordWrap(True)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.field: QLineEdit | None = None
        self.hide()

    def point_at(self, field: QLineEdit, column: int, words: str) -> None:
        """Say words under a column of a field's text."""
        self.field = field
        window = self.parentWidget()
        if window is None:
            return
        self.setText(f"⌃ {words}")
        self.setMaximumWidth(window.width() - 2 * _EDGE)
        wide = self.fontMetrics().horizontalAdvance(self.text()) + 3 * _EDGE
        self.resize(min(wide, self.maximumWidth()), 0)
        self.resize(self.width(), self.heightForWidth(self.width()))
        back = field.fontMetrics().horizontalAdvance(field.text()[column : field.cursorPosition()])
        under = field.mapTo(window, QPoint(field.cursorRect().center().x() - back, field.height()))
        left = min(max(under.x() - _EDGE, _EDGE), window.width() - self.width() - _EDGE)
        top = under.y() + _GAP
        if top + self.height() > window.height():
            top = under.y() - field.height() - self.height() - _GAP
        self.move(left, top)
        self.show()
        self.raise_()


def slip_in(window: QWidget) -> CaretSlip:
    """Return the slip of a window; each has one, made when it is first needed."""
    found = window.findChild(CaretSlip, options=Qt.FindChildOption.FindDirectChildrenOnly)
    return found or CaretSlip(window)
