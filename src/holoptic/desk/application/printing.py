"""Printing a page at exactly its size, or as a poster over several smaller papers.

Every page has a check bar; what the printer makes of it is measured before anything else.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QLineF, QMarginsF, QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import (
    QColor,
    QPageLayout,
    QPageSize,
    QPainter,
    QPainterPath,
    QPen,
    QPolygonF,
    QTransform,
)
from PyQt6.QtPrintSupport import QPrinter

from holoptic.catalogue import tr
from holoptic.desk.look.theme import drafting_lettering
from holoptic.errors import BadInput
from holoptic.sheet.drawing import CAP_HEIGHT, Drawing, Ink, Region, Words
from holoptic.sheet.hatching import hatch_lines
from holoptic.sheet.layers import LAYERS
from holoptic.tolerance import CLEAR_MM

_MM_PER_INCH = 25.4
_EDGE_MM = 8.0
"""What hardly any printer reaches at the edges of its paper."""
_SHARED_MM = 10.0
"""Neighbours of a poster show the same so far, to be glued over each other."""
_CROSS_MM = 4.0
_MOST_TILES = 40
_LETTER_PIXELS = 100
_MARK_MM = 2.2


@dataclass(frozen=True)
class Tile:
    """A piece of a page on a paper of its own: row and column from the top left, the place of its
    lower left corner on the page, and its size, mm.
    """

    row: int
    column: int
    left: float
    low: float
    width: float
    height: float


def sheet_printer(page: Drawing) -> QPrinter:
    """Return a printer set to the paper of a page, without margins and at full size."""
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    short, long = sorted((page.width, page.height))
    size = QPageSize(QSizeF(short, long), QPageSize.Unit.Millimeter)
    way = QPageLayout.Orientation
    orientation = way.Landscape if page.width > page.height else way.Portrait
    printer.setPageLayout(QPageLayout(size, orientation, QMarginsF(0, 0, 0, 0)))
    printer.setFullPage(True)
    printer.setDocName(page.title)
    return printer


def paper_of(printer: QPrinter) -> tuple[float, float]:
    """Return the width and height of a printer's paper as it lies, mm."""
    full = printer.pageLayout().fullRect(QPageLayout.Unit.Millimeter)
    return full.width(), full.height()


def tiles_for(page: Drawing, paper: tuple[float, float]) -> list[Tile]:
    """Return the pieces of a page on a paper: one where it fits, else those of a poster.

    Raises BadInput where there would be too many, or the paper is nothing but edge.
    """
    if page.width <= paper[0] + CLEAR_MM and page.height <= paper[1] + CLEAR_MM:
        return [Tile(0, 0, 0.0, page.height - paper[1], *paper)]
    wide, high = paper[0] - 2 * _EDGE_MM, paper[1] - 2 * _EDGE_MM
    if min(wide, high) <= 2 * _SHARED_MM:
        raise BadInput(tr("the printer's paper is too small for a poster"))
    columns, rows = (
        max(1, math.ceil((size - _SHARED_MM) / (step - _SHARED_MM)))
        for size, step in ((page.width, wide), (page.height, high))
    )
    if columns * rows > _MOST_TILES:
        raise BadInput(
            tr("a poster of {count} sheets is too many: choose larger paper", count=columns * rows)
        )
    return [
        Tile(row, column, column * (wide - _SHARED_MM),
             page.height - high - row * (high - _SHARED_MM), wide, high)
        for row in range(rows) for column in range(columns)
    ]  # fmt: skip


def print_page(page: Drawing, printer: QPrinter) -> int:
    """Print a page at 100 %; return on how many papers. Raises BadInput."""
    paper = paper_of(printer)
    tiles = tiles_for(page, paper)
    painter = QPainter()
    if not painter.begin(printer):
        raise BadInput(tr("the printer does not answer"))
    try:
        for number, tile in enumerate(tiles):
            if number:
                printer.newPage()
            _paint_tile(painter, page, tile, paper, printer.resolution(), len(tiles) > 1)
    finally:
        painter.end()
    return len(tiles)


def print_pages(pages: Sequence[Drawing], printer: QPrinter) -> int:
    """Print pages one after the other at 100 %; return on how many papers. Raises BadInput.

    Each is on a paper of its own size, unless another one was chosen than that of the first.
    """
    first, chosen = paper_of(sheet_printer(pages[0])), paper_of(printer)
    is_own = all(abs(a - b) < CLEAR_MM for a, b in zip(first, chosen, strict=True))
    painter, count = QPainter(), 0
    for page in pages:
        if is_own:
            printer.setPageLayout(sheet_printer(page).pageLayout())
        paper = paper_of(printer)
        tiles = tiles_for(page, paper)
        for tile in tiles:
            if count:
                printer.newPage()
            elif not painter.begin(printer):
                raise BadInput(tr("the printer does not answer"))
            _paint_tile(painter, page, tile, paper, printer.resolution(), len(tiles) > 1)
            count += 1
    painter.end()
    return count


def _paint_tile(
    painter: QPainter, page: Drawing, tile: Tile, paper: tuple[float, float], dpi: int,
    is_poster: bool,
) -> None:  # fmt: skip
    scale = dpi / _MM_PER_INCH
    edge = _EDGE_MM if is_poster else 0.0
    painter.resetTransform()
    painter.setClipping(False)
    # millimetres of the page, Y up, come to lie on dots of the printer
    painter.setTransform(QTransform(
        scale, 0, 0, -scale, (edge - tile.left) * scale, (paper[1] - edge + tile.low) * scale
    ))  # fmt: skip
    if is_poster:
        _join_marks(painter, tile)
        painter.setClipRect(QRectF(tile.left, tile.low, tile.width, tile.height))
    paint_drawing(painter, page)


def _join_marks(painter: QPainter, tile: Tile) -> None:
    """Mark the corners of what neighbours share, and which piece it is."""
    painter.setPen(_pen("check", 0.2))
    xs = tile.left + _SHARED_MM, tile.left + tile.width - _SHARED_MM
    ys = tile.low + _SHARED_MM, tile.low + tile.height - _SHARED_MM
    for x in xs:
        for y in ys:
            painter.drawLine(QLineF(x - _CROSS_MM, y, x + _CROSS_MM, y))
            painter.drawLine(QLineF(x, y - _CROSS_MM, x, y + _CROSS_MM))
    at = tile.left + _SHARED_MM, tile.low - _MARK_MM - 1.0
    words = tr("row {row}, column {column}", row=tile.row + 1, column=tile.column + 1)
    _write(painter, Words(at, words, _MARK_MM, layer="check"))


def paint_drawing(painter: QPainter, page: Drawing) -> None:
    """Paint a page on a painter whose units are its millimetres, Y up."""
    for region in page.regions:
        _fill(painter, region)
    for ink in page.inks:
        _draw(painter, ink)
    for words in page.words:
        _write(painter, words)


def _draw(painter: QPainter, ink: Ink) -> None:
    pen = _pen(ink.layer, ink.width)
    if ink.pattern:
        pen.setDashPattern([dash / ink.width for dash in ink.pattern])
        pen.setDashOffset(ink.phase / ink.width)
    painter.setPen(pen)
    painter.drawPolyline(QPolygonF([QPointF(x, y) for x, y in ink.path]))


def _fill(painter: QPainter, region: Region) -> None:
    if region.hatch is not None:
        for ink in hatch_lines(region):
            _draw(painter, ink)
        return
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.OddEvenFill)
    for outline in region.outlines:
        path.addPolygon(QPolygonF([QPointF(x, y) for x, y in outline]))
    level = round(255 * region.grey)
    painter.fillPath(path, QColor(level, level, level))


def _write(painter: QPainter, words: Words) -> None:
    """Write lettering as outlines, so that no printer takes another font."""
    path = QPainterPath()
    font = drafting_lettering(10)
    font.setPixelSize(_LETTER_PIXELS)
    path.addText(QPointF(0, 0), font, words.text)
    wide = path.boundingRect().right()
    share = {"start": 0.0, "middle": 0.5, "end": 1.0}[words.anchor]
    size = words.height / CAP_HEIGHT / _LETTER_PIXELS
    (a, b), (c, d) = words.axes
    # letters have their Y axis down
    place = QTransform(a * size, b * size, -c * size, -d * size, *words.at)
    painter.fillPath(place.map(path.translated(-share * wide, 0)), _colour(words.layer))


def _pen(layer: str, width: float) -> QPen:
    pen = QPen(_colour(layer), width)
    pen.setCapStyle(Qt.PenCapStyle.FlatCap)
    pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    return pen


def _colour(layer: str) -> QColor:
    return QColor(LAYERS[layer].colour)
