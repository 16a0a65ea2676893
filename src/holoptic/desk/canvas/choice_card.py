"""A small drawing that is chosen by a click or by its key."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QResizeEvent
from PyQt6.QtWidgets import QWidget

from holoptic.desk.canvas.canvas import Canvas
from holoptic.desk.look.theme import SIGN, pen, px, theme

LEAST_WIDTH = 82
_BETWEEN = 6


def show_what_fits(cards: Sequence[ChoiceCard], wanted: int, room: int) -> None:
    """Show so many of some cards as are wanted and find room in a width of pixels."""
    most = max(1, room // (px(LEAST_WIDTH) + _BETWEEN))
    for number, card in enumerate(cards):
        card.setVisible(number < min(wanted, most))


class ChoiceCard(Canvas):
    """What small pictures and small pages have in common.

    Signals:
        chosen: it was clicked, or Enter or space was pressed on it.
    """

    chosen = pyqtSignal()

    def __init__(self, key: str, parent: QWidget | None = None) -> None:
        super().__init__(parent, margin=10)
        self.key = key
        self.is_chosen = False
        self.touchable = False
        self.setMinimumSize(LEAST_WIDTH, 120)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def place(self) -> None:
        """Bring the content in, its caption's room left free (for subclasses)."""

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the caption's room free."""
        super().resizeEvent(event)
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
        if self.hasFocus():
            painter.setPen(pen(theme().ghost, 1.5, (3, 3)))
            painter.drawRoundedRect(self.box.adjusted(4, 4, -4, -4), 4, 4)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose it."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.chosen.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Choose it by Enter or space while it has the focus."""
        if event is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self.chosen.emit()
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """Show the focus."""
        super().focusInEvent(event)
        self.update()
