"""A finished page on the desk, large or as a small answer to be chosen."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import (
    QColor,
    QFont,
    QFontMetricsF,
    QPainter,
    QPainterPath,
    QPolygonF,
    QTransform,
)

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.canvas import Canvas, Line, ink_style, tone_colour
from holoptic.desk.canvas.choice_card import ChoiceCard
from holoptic.desk.look.theme import drafting_lettering, lettering, pen, px, shade, theme
from holoptic.plan.moves import BlankSheet
from holoptic.sheet.drawing import Drawing, Region, Words
from holoptic.sheet.hatching import hatch_lines
from holoptic.sheet.layers import LAYERS
from holoptic.units import Unit, show

_CAP_SHARE = 0.72
_CLEAR_MM = 7.0
_CAPTION = 86
_REASON_SIZES = (11, 10, 9)


def page_lines(drawing: Drawing) -> list[Line]:
    """Return the ink of a page as lines, mm from the page's lower left corner."""
    hatched = [ink for region in drawing.regions for ink in hatch_lines(region)]
    return [Line(ink.path, ink_style(ink)) for ink in (*hatched, *drawing.inks)]


def _fill(canvas: Canvas, painter: QPainter, region: Region) -> None:
    """Fill a region of a page; the lines of a hatch are among the others."""
    if region.hatch is not None:
        return
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.OddEvenFill)
    for outline in region.outlines:
        path.addPolygon(QPolygonF([canvas.to_screen(point) for point in outline]))
    tone = tone_colour(LAYERS[region.layer].tone)
    painter.fillPath(path, shade(tone, round(255 * (region.tint or 0.0))))


class PageView(Canvas):
    """A page in true proportion, with its lettering and the start point from two borders."""

    def __init__(self) -> None:
        super().__init__(margin=26)
        self.touchable = False
        self.thin = 0.8
        self.unit = Unit.MM
        self.setAccessibleName(tr("the sheet"))
        self.empty_text = tr("The sheet appears here with the first part.")
        self._page: Drawing | None = None
        self._start: tuple[BlankSheet, Vec2] | None = None

    def show_page(self, page: Drawing | None, start: tuple[BlankSheet, Vec2] | None) -> None:
        """Show a page; `start` is its frame and the start point, mm from the border's corner."""
        self._page, self._start = page, start
        if page is None:
            self.show_lines([], None)
        else:
            self.show_lines(page_lines(page), (0.0, 0.0, page.width, page.height))

    def paint_paper(self, painter: QPainter) -> None:
        """Paint the sheet on the desk."""
        painter.fillRect(self.rect(), QColor(theme().desk if self._page else theme().paper))
        if self._page is not None:
            corners = self.to_screen((0, self._page.height)), self.to_screen((self._page.width, 0))
            painter.fillRect(QRectF(*corners).translated(3, 4), shade("#000000", 40))
            painter.fillRect(QRectF(*corners), QColor(theme().paper))
            for region in self._page.regions:
                _fill(self, painter, region)

    def paint_over(self, painter: QPainter) -> None:
        """Write the lettering, and where the start point lies."""
        if self._page is None:
            return
        painter.setPen(QColor(theme().ink))
        for words in self._page.words:
            self._write(painter, words)
        if self._start is not None:
            self._paint_start(painter, *self._start)

    def _write(self, painter: QPainter, words: Words) -> None:
        pixels = words.height / _CAP_SHARE * self.pixels_per_mm
        if pixels < 4:  # too small to read
            return
        font = QFont(drafting_lettering(10))
        font.setPointSizeF(pixels * 0.75)
        font.setPixelSize(max(1, round(pixels)))
        painter.setFont(font)
        at = self.to_screen(words.at)
        width = QFontMetricsF(font).horizontalAdvance(words.text)
        share = {"start": 0.0, "middle": 0.5, "end": 1.0}[words.anchor]
        if words.is_plain:
            painter.drawText(at - QPointF(share * width, 0), words.text)
            return
        painter.save()
        (a, b), (c, d) = words.axes
        # the window's Y axis points down, and so does that of the letters
        painter.setTransform(QTransform(a, -b, -c, d, at.x(), at.y()), combine=True)
        painter.drawText(QPointF(-share * width, 0), words.text)
        painter.restore()

    def _paint_start(self, painter: QPainter, frame: BlankSheet, start: Vec2) -> None:
        """Mark the start point with its distances from the left and the lower border."""
        corner = frame.left, frame.low
        x, y = corner[0] + start[0], corner[1] + start[1]
        at = self.to_screen((x, y))
        painter.setPen(pen(theme().lift, 1.6, (6, 3)))
        painter.drawLine(self.to_screen((corner[0], y)), at)
        # the height is written clear of the title block, on the way to the left border
        title = frame.width - frame.right - frame.title_width
        upright = x if x < title else max(title - _CLEAR_MM, (corner[0] + title) / 2)
        painter.drawLine(self.to_screen((upright, corner[1])), self.to_screen((upright, y)))
        painter.setPen(pen(theme().ghost, 2))
        painter.setBrush(QColor(theme().ghost))
        painter.drawEllipse(at, 4.0, 4.0)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for value, place in (
            (start[0], (corner[0] + start[0] / 3, y)), (start[1], (upright, y - start[1] / 3)),
        ):  # fmt: skip
            self._chip(painter, show(value, self.unit), self.to_screen(place))
        # beside the point, on the side that has room inside the border
        room = self.to_screen((frame.width - frame.right, y)).x() - at.x()
        self._chip(painter, tr("start point"), at + QPointF(46 if room > px(90) else -46, 14))

    def _chip(self, painter: QPainter, words: str, centre: QPointF) -> None:
        painter.setFont(lettering(12, bold=True))
        box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-4, -1, 4, 1)
        box.moveCenter(centre)
        painter.fillRect(box, shade(theme().paper, 225))
        painter.setPen(QColor(theme().lift))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)


class SheetAnswer(ChoiceCard):
    """A small page with its paper and scale, and what speaks for it."""

    def __init__(self, key: str) -> None:
        super().__init__(key)
        self.thin = 0.5
        self.title = self.reasons = ""
        self._page: Drawing | None = None

    def show_answer(self, page: Drawing | None, title: str, reasons: str, chosen: bool) -> None:
        """Show a page with its paper and scale and what speaks for it; `chosen` frames it."""
        if (page, title, reasons, chosen) == (
            self._page, self.title, self.reasons, self.is_chosen,
        ):  # fmt: skip
            return
        self._page, self.title, self.reasons, self.is_chosen = page, title, reasons, chosen
        self.setAccessibleName(tr("{title}, key {key}", title=title, key=self.key))
        self.setAccessibleDescription(reasons)
        self.setToolTip(
            tr("{title}: {reasons} (press {key})", title=title, reasons=reasons, key=self.key)
            if title
            else ""
        )
        self.place()

    def place(self) -> None:
        """Bring the page in over its caption."""
        if self._page is None:
            self.show_lines([], None)
            return
        below = self._page.height * px(_CAPTION) / max(self.height() - px(_CAPTION) - 20, 40)
        self.show_lines(page_lines(self._page), (0.0, -below, self._page.width, self._page.height))

    def paint_paper(self, painter: QPainter) -> None:
        """Paint a card with the sheet on it."""
        self.paint_card(painter, theme().raised)
        if self._page is not None:
            corners = self.to_screen((0, self._page.height)), self.to_screen((self._page.width, 0))
            painter.fillRect(QRectF(*corners), QColor(theme().paper))
            for region in self._page.regions:
                _fill(self, painter, region)

    def paint_over(self, painter: QPainter) -> None:
        """Write paper, scale and reasons, and frame the chosen one."""
        colours = theme()
        box = self.box
        text = QRectF(box.left() + 8, box.bottom() - px(_CAPTION) + 4, box.width() - 12, px(18))
        painter.setPen(QColor(colours.text))
        painter.setFont(lettering(12, bold=True))
        title = f"{self.key}   {self.title}"
        wraps = Qt.TextFlag.TextWordWrap
        high = painter.fontMetrics().boundingRect(text.toRect(), wraps, title).height()
        text.setHeight(max(high, px(18)))  # “A2 upright, 2:1” takes two lines on a narrow card
        painter.drawText(text, wraps, title)
        painter.setPen(QColor(colours.quiet))
        below = QRectF(
            text.left(), text.bottom() + 1, text.width(), box.bottom() - text.bottom() - 5
        )
        for size in _REASON_SIZES:  # on a narrow card they are written smaller
            painter.setFont(lettering(size))
            high = painter.fontMetrics().boundingRect(below.toRect(), wraps, self.reasons).height()
            if high <= below.height():
                break
        painter.drawText(below, wraps, self.reasons)
        self.paint_frame(painter, colours.line)
