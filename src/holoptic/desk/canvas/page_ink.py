"""Ink, regions and words of the drawing model, painted on a pane at its scale."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import (
    QColor,
    QFont,
    QFontMetricsF,
    QPainter,
    QPainterPath,
    QPolygonF,
    QTransform,
)

from holoptic.desk.canvas.canvas import Canvas, ink_style, stroke_pen, tone_colour
from holoptic.desk.look.theme import AXIS_TONES, drafting_lettering, shade, theme
from holoptic.sheet.drawing import CAP_HEIGHT, Ink, Region, Words
from holoptic.sheet.layers import LAYERS

_LEAST_PIXELS = 4
"""Smaller lettering cannot be read, and is left out."""


def draw_inks(painter: QPainter, canvas: Canvas, inks: Iterable[Ink]) -> None:
    """Draw lines; `Canvas.show_lines` draws many faster."""
    for ink in inks:
        canvas.draw_path(painter, ink.path, stroke_pen(ink_style(ink)))


def fill_region(painter: QPainter, canvas: Canvas, region: Region) -> None:
    """Fill a region; the lines of a hatch are drawn among the others."""
    if region.hatch is not None:
        return
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.OddEvenFill)
    for outline in region.outlines:
        path.addPolygon(QPolygonF([canvas.to_screen(point) for point in outline]))
    tone = tone_colour(LAYERS[region.layer].tone)
    painter.fillPath(path, shade(tone, round(255 * (region.tint or 0.0))))


def write_words(painter: QPainter, canvas: Canvas, words: Words, colour: str | None = None) -> None:
    """Write lettering in the colour of its axis, or in ink: light letters are hard to read."""
    pixels = words.height / CAP_HEIGHT * canvas.pixels_per_mm
    if pixels < _LEAST_PIXELS:
        return
    font = QFont(drafting_lettering(10))
    # a whole number of pixels, brought to the true size after: rounded up, letters that fit their
    # cell on paper would run into the next one here
    whole = max(1, round(pixels))
    font.setPixelSize(whole)
    font.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    painter.setFont(font)
    own = AXIS_TONES.get(LAYERS[words.layer].tone, theme().ink)
    painter.setPen(QColor(own if colour is None else colour))
    at = canvas.to_screen(words.at)
    share = {"start": 0.0, "middle": 0.5, "end": 1.0}[words.anchor]
    width = QFontMetricsF(font).horizontalAdvance(words.text)
    scale = pixels / whole
    painter.save()
    (a, b), (c, d) = words.axes
    # the window's Y axis points down, and so does that of the letters
    painter.setTransform(QTransform(a, -b, -c, d, at.x(), at.y()), combine=True)
    painter.scale(scale, scale)
    painter.drawText(QPointF(-share * width, 0), words.text)
    painter.restore()
