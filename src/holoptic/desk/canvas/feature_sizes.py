"""The dimensions of the operation in hand, in the views: each where its distance is seen true."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter

from holoptic.desk.look.theme import AXIS_COLOURS, drafting_lettering, pen, shade, theme
from holoptic.part.provenance import Given, operation_offsets
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import show
from holoptic.views import PlacedView

if TYPE_CHECKING:
    from holoptic.desk.canvas.canvas import Canvas
    from holoptic.desk.session.session import Session

_AXES = {"front": (0, 2), "rear": (0, 2), "top": (0, 1), "bottom": (0, 1), "right": (1, 2),
         "left": (1, 2)}  # fmt: skip
_LEVEL = 15.0
_FIRST = 10.0
"""Pixels between a view and its first dimension, and between dimensions."""
_NAME = 14.0
"""Pixels for the name of a view, above it."""
_MOST_LEVELS = 4
_LONGEST = 14


def paint_feature_sizes(
    painter: QPainter, pane: Canvas, session: Session, placed: Sequence[PlacedView]
) -> None:
    """Draw the distances that the operation in hand gives: along the length above a view, along
    depth and height at its left.
    """
    part, index = session.document.part, session.document.operation_index
    if part is None or index >= len(part.operations):
        return
    by_name = {view.name: view for view in placed}
    levels: dict[tuple[str, bool], int] = {}
    done: set[tuple[int, float]] = set()
    for given in operation_offsets(part, index):
        key = given.axis, round(given.at, 4)
        size = part.crate.sizes[given.axis]
        inside = COINCIDENT_MM < given.at < size - COINCIDENT_MM
        if given.derived or key in done or not inside:
            continue
        done.add(key)
        view = _view_for(given.axis, part.operations[index].face.axes, by_name)
        if view is None:
            continue
        level = view.name, _AXES[view.name].index(given.axis) == 0
        at = levels[level] = levels.get(level, -1) + 1
        if at < min(_MOST_LEVELS, _levels_that_fit(pane, view, placed, level[1])):
            _paint_size(painter, pane, view, given, size, at, _words(given, session))


def _levels_that_fit(
    pane: Canvas, view: PlacedView, placed: Sequence[PlacedView], is_across: bool
) -> int:
    """Return how many dimensions have room above a view, or at its left, before the next one."""
    xmin, ymin, xmax, ymax = view.extent
    corner = pane.to_screen((xmin, ymax))
    if is_across:
        nearest = max(
            (pane.to_screen((0, other.extent[1])).y() for other in placed
             if other.extent[1] >= ymax and other.extent[0] < xmax and xmin < other.extent[2]),
            default=0.0)  # fmt: skip
        room = corner.y() - nearest - _NAME
    else:
        nearest = max(
            (pane.to_screen((other.extent[2], 0)).x() for other in placed
             if other.extent[2] <= xmin and other.extent[1] < ymax and ymin < other.extent[3]),
            default=0.0)  # fmt: skip
        room = corner.x() - nearest
    return int((room - _FIRST) / _LEVEL + 0.5)


def _view_for(
    axis: int, face_axes: tuple[int, int], views: dict[str, PlacedView]
) -> PlacedView | None:
    """Return the view that shows a face true, if it shows the axis; else any that shows it."""
    true = [name for name in views if set(_AXES[name]) == set(face_axes)]
    usual = [name for name in ("front", "top", "right") if name in views]
    return next((views[name] for name in (*true, *usual) if axis in _AXES[name]), None)


def _words(given: Given, session: Session) -> str:
    text = given.length.text
    return text if len(text) <= _LONGEST else show(given.length.mm, session.document.unit)


def _paint_size(
    painter: QPainter, pane: Canvas, view: PlacedView, given: Given, size: float, level: int,
    words: str,
) -> None:  # fmt: skip
    """Draw one dimension from the edge that it counts from."""
    begin = size if given.far else 0.0
    ends = [_on_paper(view, given.axis, value) for value in (begin, given.at)]
    xmin, _, _, ymax = view.extent
    off = _FIRST + _LEVEL * level
    is_across = _AXES[view.name].index(given.axis) == 0
    if is_across:
        a, b = (pane.to_screen((value, ymax)) + QPointF(0, -off - _NAME) for value in ends)
    else:
        a, b = (pane.to_screen((xmin, value)) + QPointF(-off, 0) for value in ends)
    colour = AXIS_COLOURS[given.axis]
    painter.setPen(pen(colour, 1.2))
    painter.drawLine(a, b)
    tick = QPointF(0, 4) if is_across else QPointF(4, 0)
    for place in (a, b):
        painter.drawLine(place - tick, place + tick)
    painter.setFont(drafting_lettering(12))
    painter.save()
    painter.translate((a + b) / 2)
    if not is_across:
        painter.rotate(-90)
    box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-2, 0, 2, 0)
    box.moveCenter(QPointF(0, 0))
    painter.fillRect(box, shade(theme().paper, 230))
    painter.setPen(QColor(colour))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
    painter.restore()


def _on_paper(view: PlacedView, axis: int, value: float) -> float:
    """Return where a place along an axis lies in the layout, across or up."""
    matrix = view.picture.view.matrix
    row = _AXES[view.name].index(axis)
    return matrix[row][axis] * value + view.origin[row]
