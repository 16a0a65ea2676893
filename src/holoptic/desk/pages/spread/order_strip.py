"""The strip of parts as they follow each other: dragged, grouped, or moved by keys."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QEvent, QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QFocusEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import SIGN, lettering, pen, px, theme
from holoptic.desk.widgets.spoken_roles import Choice

_HEIGHT = 72
_SIDE, _GAP, _HEADING = 10, 6, 18
_DRAG_PIXELS = 6
_LEAST_WIDTH, _ARROW = 34, 14
"""Narrower chips would not show their numbers; then the strip is moved along, by its arrows."""
_PULL_MS = 60
"""How often a long strip moves on while a chip is held at its end."""
_NOTCH = 120
"""What a wheel turns at a time, in eighths of a degree."""


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
        self._moved_on = 0.0
        self._pull = QTimer(self)
        self._pull.setInterval(_PULL_MS)
        self._pull.timeout.connect(self._bring_on)
        self.setFixedHeight(px(_HEIGHT))
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("order of the parts"))
        self.asked_for.connect(self.chosen)

    def show_chips(self, chips: tuple[Chip, ...], at: int, heading: str) -> None:
        """Show chips, the one in hand, and what they are."""
        is_other = (len(chips), at) != (len(self.chips), self.at)
        self.chips, self.at, self.heading = chips, at, heading
        if is_other:
            self._show(at)
        self.setAccessibleDescription("; ".join(chip.words for chip in chips))
        self.tell_choice(max(0, at), len(chips))
        self.update()

    def light_up(self, numbers: set[int]) -> None:
        """Mark chips whose parts are touched elsewhere."""
        if numbers != self.lit:
            self.lit = numbers
            self.update()

    def boxes(self) -> list[QRectF]:
        """Return where the chips lie, pixels: they share the width evenly. Where that is not enough
        for all, some lie to the left and right of what is seen.
        """
        count = max(len(self.chips), 1)
        gap, top, room = px(_GAP), px(_HEADING), self._room()
        width = min(max(self._share(), px(_LEAST_WIDTH)), px(150))
        height = self.height() - top - px(8)
        left = room.left() - (self._moved_on if self._is_long else 0.0)
        return [QRectF(left + number * (width + gap), top, width, height)
                for number in range(count if self.chips else 0)]  # fmt: skip

    def _share(self) -> float:
        count = max(len(self.chips), 1)
        return float((self.width() - 2 * px(_SIDE) - px(_GAP) * (count - 1)) / count)

    @property
    def _is_long(self) -> bool:
        """Whether not all chips are seen at once."""
        return self._share() < px(_LEAST_WIDTH)

    def _room(self) -> QRectF:
        """Return where chips are seen."""
        side = px(_SIDE) + (px(_ARROW) if self._is_long else 0)
        return QRectF(side, 0, max(self.width() - 2 * side, 1), self.height())

    def _arrows(self) -> dict[int, QRectF]:
        """Return where the strip is moved along by a click, by the way it goes."""
        if not self._is_long:
            return {}
        room, top = self._room(), px(_HEADING)
        size = px(_SIDE) + px(_ARROW), self.height() - top
        return {-1: QRectF(0, top, *size), 1: QRectF(room.right(), top, *size)}

    def _move_on(self, pixels: float) -> None:
        """Move the strip along, to its ends at most."""
        width, gap = px(_LEAST_WIDTH), px(_GAP)
        whole = len(self.chips) * (width + gap) - gap
        most = max(whole - self._room().width(), 0.0)
        self._moved_on = min(max(self._moved_on + pixels, 0.0), most)
        self.update()

    def _show(self, number: int) -> None:
        """Move the strip along until a chip is seen."""
        if not self._is_long or not 0 <= number < len(self.chips):
            return
        box, room = self.boxes()[number], self._room()
        self._move_on(min(box.left() - room.left(), 0.0) + max(box.right() - room.right(), 0.0))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the chips; the one that is dragged lies where the pointer is."""
        del event
        with painting(self) as painter:
            colours = theme()
            painter.setFont(lettering(11))
            painter.setPen(QColor(colours.quiet))
            painter.drawText(px(_SIDE), px(13), self.heading)
            self._paint_arrows(painter)
            painter.setClipRect(self._room().adjusted(-1, 0, 1, 0))
            for number, box in enumerate(self.boxes()):
                if number != self._held or self._at is None:
                    self._paint_chip(painter, number, box)
            if self._held is not None and self._at is not None:
                box = self.boxes()[self._held].translated(self._at.x() - self._from.x(), 0)
                room = self._room()  # what is in hand stays in sight
                box.moveLeft(min(max(box.left(), room.left()), room.right() - box.width()))
                self._paint_chip(painter, self._held, box)

    def _paint_arrows(self, painter: QPainter) -> None:
        boxes, room = self.boxes(), self._room()
        beyond = {-1: sum(box.left() < room.left() - 1 for box in boxes),
                  1: sum(box.right() > room.right() + 1 for box in boxes)}  # fmt: skip
        painter.setPen(QColor(theme().text))
        painter.setFont(lettering(10.5, bold=True))
        for way, place in self._arrows().items():
            if beyond[way]:
                words = f"\u2039\n{beyond[way]}" if way < 0 else f"\u203a\n{beyond[way]}"
                painter.drawText(place, Qt.AlignmentFlag.AlignCenter, words)

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
        if not self._room().contains(place):
            return -1
        return next((k for k, box in enumerate(self.boxes()) if box.contains(place)), -1)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Move a long strip along."""
        if event is None or not self._is_long:
            return
        turned = event.angleDelta()
        self._move_on(-float(turned.y() or turned.x()) * px(_LEAST_WIDTH) / _NOTCH)
        event.accept()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take a chip in hand."""
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            return
        for way, place in self._arrows().items():
            if place.contains(event.position()):
                self._move_on(way * 0.8 * self._room().width())
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
            if self._way_beyond() and not self._pull.isActive():
                self._pull.start()
            self.update()

    def _way_beyond(self) -> int:
        """Return to which end of a long strip a chip is dragged: -1 or 1, else 0."""
        if self._at is None or not self._is_long:
            return 0
        room = self._room()
        return int(self._at.x() > room.right()) - int(self._at.x() < room.left())

    def _bring_on(self) -> None:
        """Bring what is beyond an end to the hand that stays there with a chip."""
        way = self._way_beyond()
        if not way:
            self._pull.stop()
            return
        before = self._moved_on
        self._move_on(way * px(_LEAST_WIDTH) / 4)
        self._from -= QPointF(self._moved_on - before, 0.0)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Let the chip go where it is."""
        held, at = self._held, self._at
        self._held = self._at = None
        self._pull.stop()
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

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the chip in hand in sight."""
        super().resizeEvent(event)
        self._move_on(0.0)
        self._show(self.at)

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
