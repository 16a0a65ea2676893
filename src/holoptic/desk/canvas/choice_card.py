"""A small drawing that is chosen by a click or by its key."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFocusEvent, QKeyEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QPushButton, QWidget

from holoptic.desk.canvas.canvas import Canvas
from holoptic.desk.look.theme import SIGN, pen, px, theme
from holoptic.desk.widgets.pressed import show_down

LEAST_WIDTH = 82
_BETWEEN = 6


def show_what_fits(cards: Sequence[ChoiceCard], wanted: int, room: int) -> None:
    """Show so many of some cards as are wanted and find room in a width of pixels."""
    most = max(1, room // (px(LEAST_WIDTH) + _BETWEEN))
    for number, card in enumerate(cards):
        card.setVisible(number < min(wanted, most))


class _Press(QPushButton):
    """The button over a card: it paints nothing, and is what keys and readers press.

    Signals:
        in_focus: it came into focus or lost it.
    """

    in_focus = pyqtSignal()

    def __init__(self, card: QWidget) -> None:
        super().__init__(card)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Leave the card in sight."""

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Take Enter as a button takes space."""
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """Show the focus on the card."""
        super().focusInEvent(event)
        self.in_focus.emit()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        """Take the focus off the card."""
        super().focusOutEvent(event)
        self.in_focus.emit()


class ChoiceCard(Canvas):
    """What small pictures and small pages have in common.

    Signals:
        chosen: it was clicked, or Enter or space was pressed on it.
    """

    chosen = pyqtSignal()

    def __init__(self, key: str, parent: QWidget | None = None) -> None:
        super().__init__(parent, margin=10)
        self.key = key
        self.touchable = False
        self.setMinimumSize(LEAST_WIDTH, 120)
        self.press = _Press(self)
        self.press.clicked.connect(self._clicked)
        self.press.toggled.connect(self._toggled)
        self.press.in_focus.connect(self.update)
        self._is_chosen = False
        self.setFocusProxy(self.press)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    @property
    def is_chosen(self) -> bool:
        """Whether it is the one in use."""
        return self._is_chosen

    @is_chosen.setter
    def is_chosen(self, chosen: bool) -> None:
        self._is_chosen = chosen
        self.press.setCheckable(True)
        show_down(self.press, chosen)

    def _clicked(self) -> None:
        if not self.press.isCheckable():
            self.chosen.emit()

    def _toggled(self) -> None:
        """Be chosen; whether it stays down is for who knows what is in use."""
        show_down(self.press, self._is_chosen)
        self.chosen.emit()

    def setAccessibleName(self, name: str | None) -> None:
        """Name the button that a reader finds; the drawing on it has no words of its own."""
        self.press.setAccessibleName(name)

    def setAccessibleDescription(self, description: str | None) -> None:
        """Describe the button that a reader finds."""
        self.press.setAccessibleDescription(description)

    def place(self) -> None:
        """Bring the content in, its caption's room left free (for subclasses)."""

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the caption's room free."""
        super().resizeEvent(event)
        self.press.resize(self.size())
        self.place()

    @property
    def box(self) -> QRectF:
        """The card's frame, in pixels."""
        return QRectF(self.rect()).adjusted(1.5, 1.5, -1.5, -1.5)

    def paint_card(self, painter: QPainter, colour: str) -> None:
        """Paint the card's ground."""
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colour))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 6, 6)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def paint_frame(self, painter: QPainter, edge: str) -> None:
        """Paint the frame: strong where the card is chosen, dotted where it has the focus."""
        painter.setPen(pen(SIGN, 3) if self.is_chosen else pen(edge, 1))
        painter.drawRoundedRect(self.box, 6, 6)
        if self.press.hasFocus():
            painter.setPen(pen(theme().ghost, 1.5, (3, 3)))
            painter.drawRoundedRect(self.box.adjusted(4, 4, -4, -4), 4, 4)
