"""A crate face lying flat: the outline in hand is drawn and dragged on it, with snapping."""

from __future__ import annotations

import math
from functools import lru_cache

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPolygonF
from PyQt6.QtWidgets import QWidget

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.canvas import Canvas, paper_path
from holoptic.desk.look.theme import axis_pen, drafting_lettering, lettering, pen, shade, theme
from holoptic.part import Corner, Crate, Operation, Part, Prism, Strip
from holoptic.part.outline import Side, face_rings, sides_of
from holoptic.part.snapping import (
    corner_at,
    handles_of,
    nearest_corner,
    snapped,
    with_corner_at,
    with_handle_at,
    without_corner,
)
from holoptic.part.walk import Walk
from holoptic.units import Unit, show

_REACH_PIXELS = 9.0


class FaceBoard(Canvas):
    """Shows the face of an operation with its outline.

    Click on empty paper: a corner is put into the nearest side. Drag a corner: it snaps to
    offsets that exist and to whole and half millimetres. Delete: the chosen corner goes.

    Signals:
        changed(operation): the outline was changed by hand.
        let_go: the button was released; the next drag is another edit.
        walked_to(place): while an outline is walked, a place of the face was clicked, mm.
    """

    changed = pyqtSignal(object)
    let_go = pyqtSignal()
    walked_to = pyqtSignal(QPointF)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent, margin=34)
        self.touchable = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("outline on the crate face"))
        self.unit = Unit.MM
        self._part: Part | None = None
        self._index = 0
        self._corner: int | None = None
        self._dragging = False
        self._walk: Walk | None = None
        self._ahead: Walk | None = None
        self._pointer: Vec2 | None = None

    def show_walk(self, walk: Walk | None, ahead: Walk | None) -> None:
        """Show an outline that is being walked, and the step being typed; None ends the walk."""
        self._walk, self._ahead = walk, ahead
        if walk is None:
            self._pointer = None
        self.update()

    def show_operation(self, part: Part | None, index: int) -> None:
        """Show an operation of a part, or nothing."""
        if part is None or index >= len(part.operations):
            self._part = None
            self.show_lines([], None)
            return
        if index != self._index:
            self._corner = None
        elif part is self._part:
            return
        self._part, self._index = part, index
        if self._corner is not None and self._corner >= len(self._handles()):
            self._corner, self._dragging = None, False  # the outline was typed shorter
        width, height = part.crate.face_size(self._operation.face)
        self.show_lines([], (0.0, 0.0, width, height))
        self.setAccessibleDescription(
            tr("“{name}” on the {face}", name=self._operation.name, face=self._operation.face.title)
        )

    @property
    def _operation(self) -> Operation:
        assert self._part is not None
        return self._part.operations[self._index]

    def corner_on_screen(self, number: int) -> QPointF:
        """Return where a corner of the outline (or the centre of a round) lies in the pane."""
        return self.to_screen(self._handles()[number])

    def _handles(self) -> list[Vec2]:
        assert self._part is not None
        return handles_of(self._operation, self._part.crate)

    # --- painting ---------------------------------------------------------------------------

    def paint_over(self, painter: QPainter) -> None:
        """Paint the face, the other outlines on it, the outline in hand and its sizes."""
        if self._part is None:
            return
        self._paint_face(painter, self._part)
        others = QPainterPath()
        for index, other in enumerate(self._part.operations):
            if index != self._index and other.face == self._operation.face:
                for path in _shape_paths(other, self._part.crate):
                    others.addPath(path)
        painter.setPen(pen(theme().light_ink, 1.0))
        self.draw_on_paper(painter, others)
        if self._walk is not None:
            self._paint_walk(painter, self._walk)
            return
        painter.setPen(pen(theme().ghost, 2))
        painter.setBrush(shade(theme().ghost, 26))
        self._paint_shape(painter, self._operation)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if isinstance(self._operation, Prism | Strip):
            self._paint_sizes(painter, self._handles(), isinstance(self._operation, Prism))
        for number, handle in enumerate(self._handles()):
            self._paint_handle(painter, self.to_screen(handle), number)

    def _paint_walk(self, painter: QPainter, walk: Walk) -> None:
        """Paint the steps so far, the one being typed as a rubber stroke, and their lengths."""
        steps = sides_of(walk.points, closed=walk.closed)
        painter.setPen(pen(theme().ghost, 2.4))
        self._paint_steps(painter, steps)
        ahead: list[Side] = []
        if self._ahead is not None:
            ahead = sides_of(self._ahead.points, closed=self._ahead.closed)[len(steps) :]
        elif self._pointer is not None and not walk.closed:
            ahead = [Side(walk.places[-1], self._pointer)]
        painter.setPen(pen(theme().lift, 2, (6, 3)))
        self._paint_steps(painter, ahead)
        painter.setFont(lettering(11, bold=True))
        for side in (*steps, *ahead):
            self._paint_step_size(painter, side)
        for number, place in enumerate(walk.places):
            at = self.to_screen(place)
            last = number + 1 == len(walk.places) and not walk.closed
            painter.setPen(pen(theme().ghost, 2))
            painter.setBrush(QColor(theme().ghost if last else theme().paper))
            painter.drawEllipse(at, 5.0 if last else 3.5, 5.0 if last else 3.5)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    def _paint_steps(self, painter: QPainter, steps: list[Side]) -> None:
        for side in steps:
            count = max(1, round(abs(side.sweep) / 0.05))
            places = [self.to_screen(side.at(k / count)) for k in range(count + 1)]
            painter.drawPolyline(QPolygonF(places))

    def _paint_step_size(self, painter: QPainter, side: Side) -> None:
        size = side.radius * abs(side.sweep) if side.centre else math.dist(side.start, side.end)
        words = f"R {show(side.radius, self.unit)}" if side.centre else show(size, self.unit)
        if size * self.pixels_per_mm < 20:
            return
        box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-3, -1, 3, 1)
        box.moveCenter(self.to_screen(side.at(0.5)))
        painter.fillRect(box, shade(theme().paper, 225))
        painter.setPen(QColor(theme().ink))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_face(self, painter: QPainter, part: Part) -> None:
        face = self._operation.face
        width, height = part.crate.face_size(face)
        box = QRectF(self.to_screen((0, height)), self.to_screen((width, 0)))
        painter.setPen(pen(theme().ink, 1.4))
        painter.drawRect(box)
        u, v = face.axes
        painter.setPen(axis_pen(u, 2.4))
        painter.drawLine(box.bottomLeft(), box.bottomRight())
        painter.setPen(axis_pen(v, 2.4))
        painter.drawLine(box.bottomLeft(), box.topLeft())
        (left, right), (low, high) = face.edge_names
        painter.setFont(drafting_lettering(12))
        painter.setPen(QColor(theme().hidden_ink))
        middle = Qt.AlignmentFlag.AlignCenter
        painter.drawText(QRectF(box.left(), box.bottom() + 14, box.width(), 16), middle, low)
        painter.drawText(QRectF(box.left(), box.top() - 20, box.width(), 16), middle, high)
        for name, x in ((left, box.left() - 24), (right, box.right() + 10)):
            painter.save()
            painter.translate(x, box.bottom())
            painter.rotate(-90)
            painter.drawText(QRectF(0, 0, box.height(), 14), middle, name)
            painter.restore()

    def _paint_shape(self, painter: QPainter, operation: Operation) -> None:
        assert self._part is not None
        for path in _shape_paths(operation, self._part.crate):
            self.draw_on_paper(painter, path)

    def _paint_sizes(self, painter: QPainter, corners: list[Vec2], closed: bool) -> None:
        """Write the length of each side that lies along an axis."""
        painter.setFont(lettering(11))
        painter.setPen(QColor(theme().ghost))
        places = [self.to_screen(corner) for corner in corners]
        if not places:
            return
        centre = sum(places, QPointF()) / len(places)
        written: list[QRectF] = []
        ends = corners[1:] + corners[:1] if closed else corners[1:]
        for number, ((u1, v1), (u2, v2)) in enumerate(zip(corners, ends, strict=False)):
            along = abs(u2 - u1) if v1 == v2 else abs(v2 - v1) if u1 == u2 else None
            if along is None or along * self.pixels_per_mm <= 26:
                continue
            # inside the outline, clear of the names of the face's edges
            middle = (places[number] + places[(number + 1) % len(places)]) / 2
            inward = QLineF(middle, centre)
            inward.setLength(min(16.0, inward.length()))
            words = show(along, self.unit)
            box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-2, 0, 2, 0)
            box.moveCenter(inward.p2())
            if not any(box.intersects(other) for other in written):
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
                written.append(box)

    def _paint_handle(self, painter: QPainter, at: QPointF, number: int) -> None:
        chosen = number == self._corner
        painter.setPen(pen(theme().ghost, 2))
        painter.setBrush(QColor(theme().ghost if chosen else theme().paper))
        painter.drawEllipse(at, 5.0, 5.0)
        painter.setBrush(Qt.BrushStyle.NoBrush)

    # --- hand -------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of a corner, or put a new one into the nearest side."""
        if event is None or self._part is None or event.button() != Qt.MouseButton.LeftButton:
            return super().mousePressEvent(event)
        if self._walk is not None:
            self.walked_to.emit(QPointF(*self._snap(self.to_paper(event.position()))))
            return None
        self.setFocus()
        point = self.to_paper(event.position())
        self._corner = nearest_corner(self._handles(), point, _REACH_PIXELS / self.pixels_per_mm)
        if self._corner is None and isinstance(self._operation, Prism):
            self._put_corner(self._operation, corner_at(self._snap(point), self.unit))
        self._dragging = self._corner is not None
        self.update()
        return None

    def _put_corner(self, prism: Prism, corner: Corner) -> None:
        try:
            changed, self._corner = with_corner_at(prism, corner)
        except ValueError:  # a slope that leads nowhere: the message says so
            return
        self.changed.emit(changed)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag the corner in hand, or pull the rubber stroke of a walk."""
        if event is not None and self._walk is not None:
            self._pointer = self._snap(self.to_paper(event.position()))
            self.update()
            return None
        if event is None or not self._dragging or self._corner is None or self._part is None:
            return super().mouseMoveEvent(event)
        place = self._snap(self.to_paper(event.position()))
        if place != self._handles()[self._corner]:
            self._move_handle(self._corner, place)
        return None

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Let the corner go."""
        super().mouseReleaseEvent(event)
        self._dragging = False
        self.let_go.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Delete takes the chosen corner away; arrows move it by half a millimetre."""
        operation = self._operation if self._part else None
        steps = {
            Qt.Key.Key_Left: (-0.5, 0), Qt.Key.Key_Right: (0.5, 0),
            Qt.Key.Key_Up: (0, 0.5), Qt.Key.Key_Down: (0, -0.5),
        }  # fmt: skip
        if event is None or operation is None or self._corner is None:
            super().keyPressEvent(event)
        elif event.key() in steps:
            (u, v), (du, dv) = self._handles()[self._corner], steps[Qt.Key(event.key())]
            self._move_handle(self._corner, (u + du, v + dv))
        elif event.key() == Qt.Key.Key_Delete and isinstance(operation, Prism | Strip):
            if len(operation.outline) > (3 if isinstance(operation, Prism) else 2):
                changed = without_corner(operation, self._corner)
                self._corner = None
                self.changed.emit(changed)
        else:
            super().keyPressEvent(event)

    def _snap(self, point: Vec2) -> Vec2:
        assert self._part is not None
        reach = _REACH_PIXELS / self.pixels_per_mm
        return snapped(self._part, self._index, point, reach, self.unit)

    def _move_handle(self, number: int, place: Vec2) -> None:
        assert self._part is not None
        operation, crate = self._operation, self._part.crate
        self.changed.emit(with_handle_at(operation, number, place, crate, self.unit))


@lru_cache(maxsize=400)
def _shape_paths(operation: Operation, crate: Crate) -> list[QPainterPath]:
    """Return an operation's rings on its face; an edit leaves those of all others as they were."""
    return [paper_path([ring], closed=True) for ring in face_rings(operation, crate)]
