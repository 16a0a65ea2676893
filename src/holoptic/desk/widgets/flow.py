"""A row of widgets that goes on in another row where it has no room: nothing is cut off."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QLayout, QLayoutItem

_SPACING = 6


class Flow(QLayout):
    """Widgets beside each other at the width they ask for, in as many rows as they need."""

    def __init__(self) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self.setSpacing(_SPACING)

    def addItem(self, item: QLayoutItem | None) -> None:
        """Take a widget in, after the others."""
        if item is not None:
            self._items.append(item)

    def count(self) -> int:
        """Return how many there are."""
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        """Return one of them, None beyond the last."""
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        """Return one of them and let it go."""
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        """Take no more room than is needed."""
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        """Tell that its height follows from its width."""
        return True

    def heightForWidth(self, width: int) -> int:
        """Return how high the rows are in a width, pixels."""
        return self._place(QRect(0, 0, width, 0), moves=False)

    def minimumSize(self) -> QSize:
        """Return the size of the largest: with that the others are below each other."""
        found = QSize()
        for item in self._items:
            found = found.expandedTo(QSize(0, item.sizeHint().height()))
        return found

    def sizeHint(self) -> QSize:
        """Return the size of one row."""
        hints = [item.sizeHint() for item in self._items]
        gaps = self.spacing() * max(len(hints) - 1, 0)
        return QSize(
            sum(h.width() for h in hints) + gaps, max((h.height() for h in hints), default=0)
        )

    def setGeometry(self, rect: QRect) -> None:
        """Put the widgets where they go."""
        super().setGeometry(rect)
        self._place(rect, moves=True)

    def _place(self, rect: QRect, *, moves: bool) -> int:
        """Go through the rows, and put the widgets there if asked to; return how high all is."""
        x, y, high = rect.left(), rect.top(), 0
        for item in self._items:
            hint = item.sizeHint()
            wide = min(hint.width(), rect.width())
            if x > rect.left() and x + wide > rect.right() + 1:
                x, y, high = rect.left(), y + high + self.spacing(), 0
            if moves:
                item.setGeometry(QRect(QPoint(x, y), QSize(wide, hint.height())))
            x, high = x + wide + self.spacing(), max(high, hint.height())
        return y + high - rect.top()
