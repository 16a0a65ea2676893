"""A sheet on paper as it was handed over, to be told where its border and its views lie."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.canvas import Canvas
from holoptic.desk.canvas.shown_picture import ShownPicture
from holoptic.desk.look.theme import lettering, pen, shade, theme
from holoptic.desk.pages.read.draft_layer import paint_label
from holoptic.reading.lines import Box
from holoptic.worker.messages import PictureRead, PictureShown

_NEAR_PIXELS = 14.0
_HANDLE = 7.0
_LEAST_MM = 4.0
_STEPS: dict[int, Vec2] = {
    Qt.Key.Key_Left: (-1.0, 0.0), Qt.Key.Key_Right: (1.0, 0.0),
    Qt.Key.Key_Up: (0.0, 1.0), Qt.Key.Key_Down: (0.0, -1.0),
}  # fmt: skip


class PaperSheet(Canvas):
    """The picture with the four corners of its border, or flat with a box about each view.

    Coordinates are dots of the picture as it is shown (Y up, so below zero), or mm of paper from
    the lower left corner of the border. What is in hand is moved by the pointer or by arrow keys;
    Tab takes the next in hand.

    Signals:
        corners_moved, boxes_moved: something was dragged, added or taken away.
    """

    corners_moved = pyqtSignal()
    boxes_moved = pyqtSignal()

    def __init__(self) -> None:
        super().__init__(margin=20)
        self.setAccessibleName(tr("sheet on paper"))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.touchable = False
        self.corners: list[Vec2] = []
        self.boxes: list[Box] = []
        self.names: list[str] = []
        self.in_hand = 0
        self._raw: PictureShown | None = None
        self._flat: PictureRead | None = None
        self._shown: ShownPicture | None = None
        self._image_box: Box = (0.0, 0.0, 1.0, 1.0)
        self._edge: tuple[int, int] | None = None
        self._from: Vec2 | None = None

    # --- content ----------------------------------------------------------------------------

    def show_raw(self, raw: PictureShown, corners: tuple[Vec2, ...]) -> None:
        """Show the picture as it was handed over, with the corners of its border (its own dots)."""
        if raw is not self._raw:
            self._raw, self._flat, self.in_hand = raw, None, 0
            image = QImage.fromData(raw.jpeg)
            self._shown = ShownPicture(image)
            self._image_box = (0.0, -float(image.height()), float(image.width()), 0.0)
            self.show_lines([], self._image_box)
        self.corners = [(x * raw.share, -y * raw.share) for x, y in corners]
        self.boxes, self.in_hand = [], min(self.in_hand, 3)
        self.update()

    def show_flat(self, flat: PictureRead, boxes: tuple[Box, ...], names: list[str]) -> None:
        """Show the sheet laid flat, with boxes about its views (mm of paper)."""
        if flat is not self._flat:
            self._flat, self._raw, self.in_hand = flat, None, 0
            self._shown = ShownPicture(QImage.fromData(flat.jpeg))
            around, (wide, high) = flat.around, flat.size
            self._image_box = (-around, -around, wide + around, high + around)
            self.show_lines([], self._image_box)
        self.boxes, self.names, self.corners = list(boxes), names, []
        self.in_hand = min(self.in_hand, max(len(boxes) - 1, 0))
        self.update()

    def picture_corners(self) -> tuple[Vec2, ...]:
        """Return the corners in dots of the picture itself, Y down."""
        share = self._raw.share if self._raw is not None else 1.0
        return tuple((x / share, -y / share) for x, y in self.corners)

    # --- painting ---------------------------------------------------------------------------

    def paint_paper(self, painter: QPainter) -> None:
        """Paint the board, and the picture on it."""
        painter.fillRect(self.rect(), QColor(theme().desk))
        low_x, low_y, high_x, high_y = self._image_box
        target = QRectF(self.to_screen((low_x, high_y)), self.to_screen((high_x, low_y)))
        if self._shown is not None:
            self._shown.paint(painter, target, QRectF(self.rect()))

    def paint_over(self, painter: QPainter) -> None:
        """Paint the border's corners, or the boxes about the views."""
        if self.corners:
            self._paint_corners(painter)
        for number, box in enumerate(self.boxes):
            self._paint_box(painter, number, box)

    def _paint_corners(self, painter: QPainter) -> None:
        places = [self.to_screen(place) for place in self.corners]
        painter.setPen(pen(theme().ghost, 2))
        for a, b in zip(places, [*places[1:], places[0]], strict=True):
            painter.drawLine(a, b)
        painter.setFont(lettering(12, bold=True))
        for number, place in enumerate(places):
            is_held = number == self.in_hand
            painter.setPen(pen(theme().ghost, 3 if is_held else 2))
            painter.setBrush(shade(theme().ghost, 90 if is_held else 0))
            painter.drawEllipse(place, _HANDLE + 3, _HANDLE + 3)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawText(place + QPointF(14, -8), str(number + 1))

    def _paint_box(self, painter: QPainter, number: int, box: Box) -> None:
        rect = self._rect(box)
        is_held = number == self.in_hand
        painter.setPen(pen(theme().ghost, 3 if is_held else 1.6))
        painter.drawRect(rect)
        if is_held:
            painter.setBrush(QColor(theme().ghost))
            for x in (rect.left(), rect.center().x(), rect.right()):
                for y in (rect.top(), rect.center().y(), rect.bottom()):
                    if QPointF(x, y) != rect.center():
                        painter.drawRect(QRectF(x - 3, y - 3, 6, 6))
            painter.setBrush(Qt.BrushStyle.NoBrush)
        words = self.names[number] if number < len(self.names) else tr("view")
        paint_label(painter, QRectF(rect.left(), rect.top() - 24, 84, 20), words, 255)

    def _rect(self, box: Box) -> QRectF:
        return QRectF(self.to_screen((box[0], box[3])), self.to_screen((box[2], box[1])))

    # --- pointer and keys ---------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take a corner or a box in hand, or begin another box."""
        if event is None or event.button() != Qt.MouseButton.LeftButton:
            super().mousePressEvent(event)
            return
        self.setFocus()
        place = event.position()
        if self.corners:
            far = [(self.to_screen(c) - place).manhattanLength() for c in self.corners]
            self.in_hand = min(range(len(far)), key=far.__getitem__)
            self._from = self.to_paper(place)
        elif self._flat is not None:
            self._take_box(place)
        self.update()

    def _take_box(self, place: QPointF) -> None:
        order = sorted(range(len(self.boxes)), key=lambda k: k != self.in_hand)
        for number in order:
            sides = _sides_at(self._rect(self.boxes[number]), place)
            if sides is not None:
                self.in_hand, self._edge, self._from = number, sides, self.to_paper(place)
                return
        x, y = self.to_paper(place)
        self.boxes.append((x, y, x, y))
        self.in_hand, self._edge, self._from = len(self.boxes) - 1, (1, -1), (x, y)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag what is in hand."""
        if event is None or self._from is None:
            super().mouseMoveEvent(event)
            return
        x, y = self.to_paper(event.position())
        by = x - self._from[0], y - self._from[1]
        self._from = x, y
        self._move(by)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Let it loose."""
        if self._from is None:
            super().mouseReleaseEvent(event)
            return
        self._from = self._edge = None
        if self.boxes:
            self.boxes = [_in_order(box) for box in self.boxes]
            kept = [box for box in self.boxes
                    if min(box[2] - box[0], box[3] - box[1]) > _LEAST_MM]  # fmt: skip
            self.boxes = kept
            self.in_hand = min(self.in_hand, max(len(kept) - 1, 0))
        self._tell()

    def _move(self, by: Vec2) -> None:
        if self.corners:
            x, y = self.corners[self.in_hand]
            self.corners[self.in_hand] = x + by[0], y + by[1]
        elif self.boxes:
            a, b, c, d = self.boxes[self.in_hand]
            across, up = self._edge if self._edge is not None else (0, 0)
            is_whole = (across, up) == (0, 0)
            if is_whole or across < 0:
                a += by[0]
            if is_whole or across > 0:
                c += by[0]
            if is_whole or up < 0:
                b += by[1]
            if is_whole or up > 0:
                d += by[1]
            self.boxes[self.in_hand] = a, b, c, d
        self.update()

    def _tell(self) -> None:
        self.update()
        (self.corners_moved if self.corners else self.boxes_moved).emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Move what is in hand by arrows, by more with Shift."""
        if event is None:
            return
        count = len(self.corners or self.boxes)
        step = _STEPS.get(event.key())
        if step is not None and count:
            size = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self._move((step[0] * size, step[1] * size))
            self._tell()
        else:
            super().keyPressEvent(event)

    def take_away(self) -> None:
        """Take the box in hand away."""
        if self.boxes:
            del self.boxes[self.in_hand]
            self.in_hand = max(0, self.in_hand - 1)
            self._tell()

    def focusNextPrevChild(self, next: bool) -> bool:
        """Take the next corner or box in hand; behind the last one go on to the column."""
        count = len(self.corners or self.boxes)
        other = self.in_hand + (1 if next else -1)
        if 0 <= other < count:
            self.in_hand = other
            self.update()
            return True
        return super().focusNextPrevChild(next)


def _sides_at(rect: QRectF, place: QPointF) -> tuple[int, int] | None:
    """Return which sides of a box a place is at: across and up (-1, 0, 1); (0, 0) within it."""
    near = _NEAR_PIXELS / 2
    if not rect.adjusted(-near, -near, near, near).contains(place):
        return None
    across = (-1 if abs(place.x() - rect.left()) < near
              else 1 if abs(place.x() - rect.right()) < near else 0)  # fmt: skip
    up = (1 if abs(place.y() - rect.top()) < near
          else -1 if abs(place.y() - rect.bottom()) < near else 0)  # fmt: skip
    return across, up


def _in_order(box: Box) -> Box:
    a, b, c, d = box
    return min(a, c), min(b, d), max(a, c), max(b, d)
