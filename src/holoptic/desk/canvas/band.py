"""The deviation of a drawn curve from the true one, as a magnified band over the picture."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPolygonF

from holoptic.catalogue import tr
from holoptic.construction.cards import Gap
from holoptic.curves.paper import extent
from holoptic.desk.canvas.canvas import Canvas
from holoptic.desk.look.theme import lettering, pen, shade, theme
from holoptic.tolerance import ROUNDING
from holoptic.units import Unit, show

_WIDEST_PIXELS = 30.0
_SHARE_OF_ROOM = 0.3
_STEPS = (1, 2, 5)


def magnification(largest: float, pixels_per_mm: float, room: float) -> float:
    """Return the round factor (1, 2, 5, 10 …) that brings a gap in mm to what can be seen.

    `room` is the smaller size of the curve in mm: the band must not fold over itself.
    """
    widest = min(_WIDEST_PIXELS, _SHARE_OF_ROOM * room * pixels_per_mm)
    wanted = max(widest / max(largest * pixels_per_mm, ROUNDING), 1.0)
    power = 10.0 ** math.floor(math.log10(wanted))
    return power * max(step for step in _STEPS if step * power <= wanted * 1.0001)


def paint_band(
    painter: QPainter, pane: Canvas, band: tuple[Gap, ...], scale: float, unit: Unit
) -> None:
    """Paint the band: filled where the drawn curve runs outside, hatched where inside."""
    largest = max(abs(gap.gap) for gap in band)
    if largest <= 0:
        return
    xmin, ymin, xmax, ymax = extent([gap.place for gap in band])
    factor = magnification(largest, pane.pixels_per_mm, min(xmax - xmin, ymax - ymin))
    true, drawn = [], []
    for gap in band:
        (x, y), (u, v) = gap.place, gap.outward
        base = x - gap.gap * u, y - gap.gap * v
        true.append(pane.to_screen(base))
        far = factor * gap.gap
        drawn.append(pane.to_screen((base[0] + far * u, base[1] + far * v)))
    outside = QBrush(shade(theme().ghost, 120))
    inside = QBrush(QColor(theme().lift), Qt.BrushStyle.BDiagPattern)
    painter.setPen(Qt.PenStyle.NoPen)
    for k in range(len(band) - 1):
        painter.setBrush(outside if band[k].gap + band[k + 1].gap > 0 else inside)
        painter.drawPolygon(QPolygonF([true[k], true[k + 1], drawn[k + 1], drawn[k]]))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(pen(theme().ghost, 1.2))
    painter.drawPolyline(QPolygonF(drawn))
    _paint_legend(painter, pane, factor, scale, unit, (outside, inside))


def _paint_legend(
    painter: QPainter, pane: Canvas, factor: float, scale: float, unit: Unit,
    brushes: tuple[QBrush, QBrush],
) -> None:  # fmt: skip
    """Say what the band means, with a bar of a round length on paper."""
    size = _round_length(36.0 / (factor * pane.pixels_per_mm / scale))
    bar = size * factor * pane.pixels_per_mm / scale
    left, base = 14.0, pane.height() - 16.0
    painter.setFont(lettering(12))
    words = tr(
        "{size} {label} on paper, gap × {factor:g}",
        size=show(size, unit),
        label=unit.label,
        factor=factor,
    )
    width = bar + 16 + painter.fontMetrics().horizontalAdvance(words)
    painter.fillRect(
        QRectF(left - 6, base - 34, max(width, 160) + 8, 44), shade(theme().paper, 215)
    )
    painter.setPen(pen(theme().ink, 2))
    painter.drawLine(QPointF(left, base), QPointF(left + bar, base))
    for x in (left, left + bar):
        painter.drawLine(QPointF(x, base - 4), QPointF(x, base + 4))
    painter.drawText(QPointF(left + bar + 10, base + 4), words)
    for number, (brush, name) in enumerate(zip(brushes, ("outside", "inside"), strict=True)):
        box = QRectF(left + 80 * number, base - 28, 14, 12)
        painter.setPen(pen(theme().ink, 0.8))
        painter.setBrush(brush)
        painter.drawRect(box)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QColor(theme().ink))
        painter.drawText(QPointF(box.right() + 5, box.bottom() - 1), name)


def _round_length(mm: float) -> float:
    """Return the largest of 1, 2, 5 × 10ⁿ mm that is no longer than `mm`."""
    power = 10.0 ** math.floor(math.log10(mm))
    return power * max(step for step in _STEPS if step * power <= mm * 1.0001)
