"""Sizes painted beside the views: those of the operation in hand, and the overall ones."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from holoptic.desk.look.theme import (
    AXIS_COLOURS,
    axis_pen,
    drafting_lettering,
    pen,
    shade,
    theme,
)
from holoptic.views.sizes import SizeLine, Spacing

if TYPE_CHECKING:
    from holoptic.desk.canvas.canvas import Canvas

_FIRST, _LEVEL, _NAME = 10.0, 15.0, 14.0
"""Pixels between a view and its first size, between sizes, and for the name of a view."""


def spacing_in(pane: Canvas) -> Spacing:
    """Return the distances of sizes in a pane, mm, and how far its paper is seen."""
    scale = pane.pixels_per_mm
    left, top = pane.to_paper(QPointF(0, 0))
    return Spacing(_FIRST / scale, _LEVEL / scale, _NAME / scale, left, top)


def paint_feature_size(painter: QPainter, pane: Canvas, line: SizeLine) -> None:
    """Paint a size of the operation in hand, lightly."""
    _paint(painter, pane, line, pen(AXIS_COLOURS[line.axis], 1.2), 4.0, 12)


def paint_overall_size(painter: QPainter, pane: Canvas, line: SizeLine) -> None:
    """Paint an overall size, in the dashes of its axis."""
    _paint(painter, pane, line, axis_pen(line.axis, 1.6), 5.0, 14)


def _paint(
    painter: QPainter, pane: Canvas, line: SizeLine, drawn: QPen, tick: float, letters: int
) -> None:
    a, b = pane.to_screen(line.start), pane.to_screen(line.end)
    colour = AXIS_COLOURS[line.axis]
    painter.setPen(drawn)
    painter.drawLine(a, b)
    painter.setPen(pen(colour, drawn.widthF()))
    away = QPointF(0, tick) if line.is_across else QPointF(tick, 0)
    for place in (a, b):
        painter.drawLine(place - away, place + away)
    painter.setFont(drafting_lettering(letters))
    painter.save()
    painter.translate((a + b) / 2)
    if not line.is_across:
        painter.rotate(-90)
    box = QRectF(painter.fontMetrics().boundingRect(line.words)).adjusted(-3, 0, 3, 0)
    box.moveCenter(QPointF(0, 0))
    painter.fillRect(box, shade(theme().paper, 235))
    painter.setPen(QColor(colour))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, line.words)
    painter.restore()
