"""The strip of parts as they follow each other: dragged, grouped, or moved by keys."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QEvent, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import SIGN, lettering, pen, px, theme
from holoptic.desk.widgets.spoken_roles import Choice

_HEIGHT = 72
_SIDE, _GAP, _HEADING = 10, 6, 18
_DRAG_PIXELS = 6


@dataclass(frozen=True)
class Chip:
    """Placed parts that leave together: their ids, numbers and names, and what holds them."""

    placed: tuple[str, ...]
    numbers: str
    names: str
    held: str = ""

    @property
    def words(self) -> str:
        """What a reader is told of it."""
        return f"{self.numbers} {self.names}: {self.held}"


class OrderStrip(Choice):
    """Chips along a line; one is in hand.

    Signals:
        chosen(number): a chip was taken in hand.
        touched(number): the pointer touches a chip, −1 none.
        reordered(numbers): the chips are to follow each other in another order.
    """

    chosen = pyqtSignal(int)
    touched = pyqtSignal(int)
    reordered = pyqtSignal(list)

    def __init__(self) -> None:
        super().__init__()
        self.chips: tuple[Chip, ...] = ()
        self.heading = ""
        self.lit: set[int] = set()
        self._held: int | None = None
        self._from = QPointF()
        self._at: QPointF | None = None
        self.at = -1
        self.setFixedHeight(px(_HEIGHT))
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("order of the parts"))
        self.asked_for.connect(self.chosen)

    def show_chips(self, chips: tuple[Chip, ...], at: int, heading: str) -> None:
        """Show chips, the one in hand, and what they are."""
        self.chips, self.at, self.heading = chips, at, heading
        self.setAccessibleDescription("; ".join(chip.words for chip in chips))
        self.tell_choice(max(0, at), len(chips))
        self.update()

    def light_up(self, numbers: set[int]) -> None:
        """Mark chips whose parts are touched elsewhere."""
        if numbers != self.lit:
            self.lit = numbers
            self.update()

    def boxes(self) -> list[QRectF]:
        """Return where the chips lie, pixels; they share the width evenly."""
        count = max(len(self.chips), 1)
        side, gap, top = px(_SIDE), px(_GAP), px(_HEADING)
        width = min((self.width() - 2 * side - gap * (count - 1)) / count, px(150))
        height = self.height() - top - px(8)
        return [
            QRectF(side + number * (width + gap), top, width, height)
            for number in range(len(self.chips))
        ]

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the chips; the one that is dragged lies where the pointer is."""
        del event
        with painting(self) as painter:
            colours = theme()
            painter.setFont(lettering(11))
            painter.setPen(QColor(colours.quiet))
            painter.drawText(px(_SIDE), px(13), self.heading)
            for number, box in enumerate(self.boxes()):
                if number != self._held or self._at is None:
                    self._paint_chip(painter, number, box)
            if self._held is not None and self._at is not None:
                box = self.boxes()[self._held].translated(self._at.x() - self._from.x(), 0)
                self._paint_chip(painter, self._held, box)

    def _paint_chip(self, painter: QPainter, number: int, box: QRectF) -> None:
        colours, chip = theme(), self.chips[number]
        painter.setBrush(QColor(colours.raised))
        in_hand = number == self.at
        painter.setPen(pen(SIGN, 2.5) if in_hand else pen(colours.line, 1))
        painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), 5, 5)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if number in self.lit:
            painter.setPen(pen(colours.marker, 4, alpha=210))
            painter.drawRoundedRect(box.adjusted(3, 3, -3, -3), 4, 4)
        if in_hand and self.hasFocus():
            painter.setPen(pen(colours.ghost, 1.2, (3, 3)))
            painter.drawRoundedRect(box.adjusted(4, 4, -4, -4), 3, 3)
        painter.setPen(QColor(colours.text))
        inner = box.adjusted(px(6), px(4), -px(4), -px(4))
        painter.setFont(lettering(13, bold=True))
        painter.drawText(
            inner, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, chip.numbers
        )
        painter.setFont(lettering(10.5))
        painter.setPen(QColor(colours.quiet))
        name = painter.fontMetrics().elidedText(
            chip.names, Qt.TextElideMode.ElideRight, round(inner.width())
        )
        painter.drawText(inner, Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, name)

    # --- the hand ---------------------------------------------------------------------------

    def _chip_at(self, place: QPointF) -> int:
        return next((k for k, box in enumerate(self.boxes()) if box.contains(place)), -1)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take a chip in hand."""
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        number = self._chip_at(event.position())
        if number >= 0:
            self._held, self._from = number, event.position()
            self.chosen.emit(number)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag the chip in hand, or tell what is touched."""
        if event is None:
            return
        if self._held is None:
            number = self._chip_at(event.position())
            self.setToolTip(self.chips[number].words if number >= 0 else "")
            self.touched.emit(number)
        elif (event.position() - self._from).manhattanLength() > _DRAG_PIXELS:
            self._at = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Let the chip go where it is."""
        held, at = self._held, self._at
        self._held = self._at = None
        self.update()
        if event is None or held is None or at is None:
            return
        middle = self.boxes()[held].center().x() + at.x() - self._from.x()
        before = sum(box.center().x() < middle for k, box in enumerate(self.boxes()) if k != held)
        self._move(held, before)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Left and right take the next chip; with Ctrl they move it."""
        ways = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        if event is None or event.key() not in ways or not self.chips:
            if event is not None:
                event.ignore()
            return
        way = ways[Qt.Key(event.key())]
        to = max(0, min(self.at + way, len(self.chips) - 1))
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier and self.at >= 0:
            self._move(self.at, to)
        else:
            self.chosen.emit(to)

    def _move(self, number: int, to: int) -> None:
        order = [k for k in range(len(self.chips)) if k != number]
        order.insert(to, number)
        if order != list(range(len(self.chips))):
            self.reordered.emit(order)

    def leaveEvent(self, event: QEvent | None) -> None:
        """Forget what was touched."""
        super().leaveEvent(event)
        self.touched.emit(-1)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """Show the focus."""
        super().focusInEvent(event)
        self.update()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        """Show that it is gone."""
        super().focusOutEvent(event)
        self.update()
