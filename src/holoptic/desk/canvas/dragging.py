"""Dragging what is seen: an edge of a feature along an axis, with the figure at the pointer."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter

from holoptic.catalogue import tr
from holoptic.curves.space import Segment
from holoptic.curves.vectors import Vec2, Vec3, apply
from holoptic.desk.look.theme import AXIS_COLOURS, axis_pen, lettering, pen, shade, theme
from holoptic.desk.session.session import Session
from holoptic.errors import HolopticError
from holoptic.part.crate import AXIS_LETTERS
from holoptic.part.handles import drag, holder_of, snapped_place
from holoptic.pictorial import View
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import show

_BEGIN_PIXELS = 5.0
_SNAP_PIXELS = 8.0


@dataclass(frozen=True)
class _Hold:
    """What is held: an operation's place along an axis, and where its edge was taken."""

    operation: int | None
    axis: int
    at: float
    point: Vec3


class Dragger:
    """Turns the pointer's way over a pane into moves of a place along an axis.

    The pane tells where the button went down on an edge, where the pointer goes, and when the
    button is let go; the part follows live, and the whole drag is one step to undo.
    """

    def __init__(self, session: Session) -> None:
        self._session = session
        self._edge: int | None = None
        self._pressed = QPointF()
        self._hold: _Hold | None = None
        self._to = 0.0

    @property
    def is_on(self) -> bool:
        """Whether something is being dragged."""
        return self._hold is not None

    def press(self, edge: int | None, place: QPointF) -> None:
        """Take hold of an edge; nothing moves before the pointer has gone a little way."""
        self._edge, self._pressed, self._hold = edge, place, None

    def move(self, place: QPointF, view: View, pixels_per_mm: float) -> bool:
        """Follow the pointer; says whether something is being dragged."""
        if self._edge is None or self._session.document.part is None:
            return False
        gone = place - self._pressed
        way = gone.x() / pixels_per_mm, -gone.y() / pixels_per_mm
        if self._hold is None:
            if gone.manhattanLength() < _BEGIN_PIXELS:
                return False
            self._hold = self._take_hold(view, way)
            if self._hold is None:
                self._edge = None
                return False
        self._follow(self._hold, view, way, pixels_per_mm)
        return True

    def release(self) -> None:
        """Let go."""
        if self._hold is not None:
            self._session.document.close_step()
        self._edge, self._hold = None, None

    def _take_hold(self, view: View, way: Vec2) -> _Hold | None:
        """Return what the pointer pulls at: along the axis that its way fits best."""
        facts, part = self._session.answers.facts, self._session.document.part
        if facts is None or part is None or self._edge is None or self._edge >= len(facts.edges):
            return None
        edge = facts.edges[self._edge]
        start, end = edge.curve.start, edge.curve.end
        size = (way[0] ** 2 + way[1] ** 2) ** 0.5
        found: list[tuple[float, _Hold]] = []
        for axis in range(3):
            image = apply(view.matrix, _unit(axis))
            reach = (image[0] ** 2 + image[1] ** 2) ** 0.5
            stays = isinstance(edge.curve, Segment) and abs(start[axis] - end[axis]) > COINCIDENT_MM
            if reach < COINCIDENT_MM or stays:  # the axis is seen end-on, or the edge runs along it
                continue
            fit = abs(way[0] * image[0] + way[1] * image[1]) / (reach * size)
            at = start[axis] if isinstance(edge.curve, Segment) else _middle(edge.curve, axis)
            try:
                holder = holder_of(part, edge.operation, axis, at)
            except LookupError:
                continue
            base = list(start)
            base[axis] = at
            found.append((fit, _Hold(holder, axis, at, (base[0], base[1], base[2]))))
        return max(found, key=lambda pair: pair[0])[1] if found else None

    def _follow(self, hold: _Hold, view: View, way: Vec2, pixels_per_mm: float) -> None:
        session, part = self._session, self._session.document.part
        if part is None:
            return
        image = apply(view.matrix, _unit(hold.axis))
        along = (way[0] * image[0] + way[1] * image[1]) / (image[0] ** 2 + image[1] ** 2)
        reach = _SNAP_PIXELS / pixels_per_mm
        to = snapped_place(part, hold.operation, hold.axis, self._base(hold) + along, reach,
                           session.step_mm)  # fmt: skip
        if abs(to - hold.at) < COINCIDENT_MM:
            return
        try:
            changed = drag(part, hold.operation, hold.axis, hold.at, to, session.document.unit)
        except (HolopticError, ValueError):
            return  # so far it cannot go
        if hold.operation is not None:
            session.document.choose_operation(hold.operation)
        what = "crate" if hold.operation is None else part.operations[hold.operation].name
        session.document.edit_part(
            changed,
            tr("drag “{what}”", what=what),
            tr("drag {operation} {axis}", operation=hold.operation, axis=hold.axis),
        )
        self._hold = _Hold(hold.operation, hold.axis, to, hold.point)
        self._to = to

    def _base(self, hold: _Hold) -> float:
        """Return the place where the drag began."""
        return hold.point[hold.axis]

    # --- painting -----------------------------------------------------------------------------

    def paint(self, painter: QPainter, at: QPointF, view: View, pixels_per_mm: float) -> None:
        """Show the axis that is pulled along, and the figure at the pointer."""
        hold = self._hold
        if hold is None:
            return
        image = apply(view.matrix, _unit(hold.axis))
        half = QPointF(image[0], -image[1]) * (40 * pixels_per_mm)
        painter.setPen(axis_pen(hold.axis, 1.6))
        painter.drawLine(at - half, at + half)
        unit = self._session.document.unit
        words = f"{AXIS_LETTERS[hold.axis]}  {show(hold.at, unit)} {unit.label}"
        painter.setFont(lettering(18, bold=True))
        box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-8, -4, 8, 4)
        box.moveBottomLeft(at + QPointF(16, -12))
        painter.setPen(pen(AXIS_COLOURS[hold.axis], 1.5))
        painter.setBrush(shade(theme().paper, 240))
        painter.drawRoundedRect(box, 5, 5)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QColor(AXIS_COLOURS[hold.axis]))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)


def _unit(axis: int) -> Vec3:
    return (1.0 if axis == 0 else 0.0, 1.0 if axis == 1 else 0.0, 1.0 if axis == 2 else 0.0)


def _middle(curve: object, axis: int) -> float:
    centre: Vec3 | None = getattr(curve, "centre", None)
    start: Vec3 = curve.start  # type: ignore[attr-defined]
    return centre[axis] if centre is not None else start[axis]
