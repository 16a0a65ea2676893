"""A finished page on the desk, large or as a small answer to be chosen."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.canvas import Canvas, Line, ink_style
from holoptic.desk.canvas.choice_card import ChoiceCard
from holoptic.desk.canvas.page_ink import fill_region, write_words
from holoptic.desk.look.theme import lettering, pen, px, shade, theme
from holoptic.plan.moves import BlankSheet
from holoptic.sheet.dragged_drawing import DraggedDrawing, drawing_at
from holoptic.sheet.drawing import Drawing
from holoptic.sheet.hatching import hatch_lines
from holoptic.sheet.planning import PlacedFigure
from holoptic.units import Unit, show
from holoptic.worker.messages import GoodPlace, PlacedSize

_CLEAR_MM = 7.0
_NEAR_PIXELS = 7
_LEAST_CIRCLE_MM = 1.5
_CAPTION = 86
_REASON_SIZES = (11, 10, 9)


def page_lines(drawing: Drawing) -> list[Line]:
    """Return the ink of a page as lines, mm from the page's lower left corner."""
    hatched = [ink for region in drawing.regions for ink in hatch_lines(region)]
    return [Line(ink.path, ink_style(ink)) for ink in (*hatched, *drawing.inks)]


class PageView(Canvas):
    """A page in true proportion, with its lettering and the start point from two borders.

    Signals:
        size_chosen(key): a dimension was clicked; an empty key is none.
        size_held(key): a dimension is taken hold of: its places are wanted (`show_places`).
        size_dragged(key, place): a dimension was dragged to a place of the page, mm.
        figure_chosen(id): a drawing was clicked.
        figure_dragged(id, place): the lower left corner of a drawing was dragged to a place, mm.
        circled(id, middle, radius): a circle was drawn on a drawing, mm on the page; without an id
            where no drawing lies.
    """

    size_chosen = pyqtSignal(str)
    size_held = pyqtSignal(str)
    size_dragged = pyqtSignal(str, object)
    figure_chosen = pyqtSignal(str)
    figure_dragged = pyqtSignal(str, object)
    circled = pyqtSignal(str, object, float)

    def __init__(self) -> None:
        super().__init__(margin=26)
        self.sizes: tuple[PlacedSize, ...] = ()
        self.chosen = ""
        self._held: PlacedSize | None = None
        self._ghost: QPointF | None = None
        self._places: tuple[GoodPlace, ...] = ()
        self._snapped: GoodPlace | None = None
        self.figures: tuple[PlacedFigure, ...] = ()
        self._drawing: DraggedDrawing | None = None
        self.is_circling = False
        self._circle: tuple[str, Vec2, float] | None = None
        self.picked.connect(self._pick)
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
            self.setAccessibleDescription(
                tr("{title}: {width:.0f} × {height:.0f} mm, {lines} lines", title=page.title,
                   width=page.width, height=page.height, lines=len(self.lines))
            )  # fmt: skip

    # --- dimensions by hand -----------------------------------------------------------------

    def line_at(self, place: QPointF) -> int | None:
        """Return the number of the dimension whose words a place touches, or nearly, or None."""
        x, y = self.to_paper(place)
        near = px(_NEAR_PIXELS) / self.pixels_per_mm
        found = []
        for number, size in enumerate(self.sizes):
            left, low, right, high = size.box
            off = max(left - x, x - right, low - y, y - high)
            if off <= near:
                found.append((off, number))
        return min(found)[1] if found else None

    def _pick(self, number: int | None) -> None:
        self.size_chosen.emit("" if number is None else self.sizes[number].key)

    def show_places(self, places: tuple[GoodPlace, ...]) -> None:
        """Take the places to which the dimension that is being dragged may go."""
        self._places = places
        self._snap()
        self.update()

    def _snap(self) -> None:
        """Find the place nearest to the pointer."""
        self._snapped = None
        if self._held is not None and self._ghost is not None and self._places:
            at = self.to_paper(self._ghost)
            self._snapped = min(self._places, key=lambda place: math.dist(place.at, at))

    def take_hold(self, key: int | None, place: QPointF) -> None:
        """Begin to drag a dimension, or the drawing that lies under a place."""
        self._held = None if key is None else self.sizes[key]
        self._drawing = None
        if self.is_circling:
            found = drawing_at(self.figures, self.to_paper(place))
            self._circle = (found.figure, self.to_paper(place), 0.0) if found else None
            if found is None:
                self.circled.emit("", self.to_paper(place), 0.0)
            self._held = None
        elif key is None:
            self._drawing = drawing_at(self.figures, self.to_paper(place))

    def pull(self, place: QPointF) -> bool:
        """Drag on: a dimension snaps to the good place nearest to the pointer, and the frame of a
        drawing goes with it.
        """
        if self._circle is not None:
            figure, middle, _ = self._circle
            self._circle = figure, middle, math.dist(middle, self.to_paper(place))
            return True
        if self._drawing is not None:
            self._drawing.pull(self.to_paper(place), px(_NEAR_PIXELS) / self.pixels_per_mm)
            return True
        if self._held is None:
            return False
        if self._ghost is None:
            self.size_held.emit(self._held.key)
        self._ghost = place
        self._snap()
        return True

    def let_loose(self) -> None:
        """Put a dimension at the place to which it snapped, or, while that is not known, near to
        the pointer; put a drawing where it was let loose.
        """
        held, ghost, self._held, self._ghost = self._held, self._ghost, None, None
        snapped, self._snapped = self._snapped, None
        drawing, self._drawing = self._drawing, None
        circle, self._circle = self._circle, None
        if circle is not None and circle[2] > _LEAST_CIRCLE_MM:
            self.circled.emit(*circle)
        if held is not None and ghost is not None:
            self.size_dragged.emit(held.key, snapped.at if snapped else self.to_paper(ghost))
        elif drawing is not None and drawing.is_moved:
            self.figure_dragged.emit(drawing.figure, drawing.corner)
        elif drawing is not None:
            self.figure_chosen.emit(drawing.figure)

    def _paint_hand(self, painter: QPainter) -> None:
        """Mark the dimension in hand, and where it or a drawing is dragged to."""
        if self._circle is not None:
            painter.setPen(pen(theme().accent, 1.6))
            reach = self._circle[2] * self.pixels_per_mm
            painter.drawEllipse(self.to_screen(self._circle[1]), reach, reach)
        if self._drawing is not None and self._drawing.is_moved and self._page is not None:
            painter.setPen(pen(theme().accent, 1.6))
            left, low, right, high = self._drawing.box
            painter.drawRect(QRectF(self.to_screen((left, high)), self.to_screen((right, low))))
            painter.setPen(pen(theme().lift, 1.2, (8, 4)))
            for x in self._drawing.uprights:
                painter.drawLine(self.to_screen((x, 0)), self.to_screen((x, self._page.height)))
            for y in self._drawing.levels:
                painter.drawLine(self.to_screen((0, y)), self.to_screen((self._page.width, y)))
        for size in self.sizes:
            if size.key == self.chosen or (self._held is not None and size is self._held):
                left, low, right, high = size.box
                box = QRectF(self.to_screen((left, high)), self.to_screen((right, low)))
                painter.fillRect(box, shade(theme().marker, 90))
                if size is self._held and self._ghost is not None:
                    box.moveCenter(self._ghost)
                    painter.setPen(pen(theme().accent, 1.4, (4, 3)))
                    painter.drawRect(box)
        if self._snapped is not None:
            self._paint_snapped(painter, self._snapped)

    def _paint_snapped(self, painter: QPainter, place: GoodPlace) -> None:
        """Show a dimension as it would stand if it were let loose now."""
        for ink in place.inks:
            self.draw_path(painter, ink.path, pen(theme().accent, 1.8))
        write_words(painter, self, place.words, theme().accent)

    def paint_paper(self, painter: QPainter) -> None:
        """Paint the sheet on the desk."""
        painter.fillRect(self.rect(), QColor(theme().desk if self._page else theme().paper))
        if self._page is not None:
            corners = self.to_screen((0, self._page.height)), self.to_screen((self._page.width, 0))
            painter.fillRect(QRectF(*corners).translated(3, 4), shade("#000000", 40))
            painter.fillRect(QRectF(*corners), QColor(theme().paper))
            for region in self._page.regions:
                fill_region(painter, self, region)

    def paint_over(self, painter: QPainter) -> None:
        """Write the lettering, and where the start point lies."""
        if self._page is None:
            return
        self._paint_hand(painter)
        for words in self._page.words:
            write_words(painter, self, words)
        if self._start is not None:
            self._paint_start(painter, *self._start)

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
                fill_region(painter, self, region)

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
