"""The sheet of views on the Read page: lines by their status, labels to drag, places lit up."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QPainter
from PyQt6.QtWidgets import QWidget

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.canvas import Canvas, Line
from holoptic.desk.canvas.shown_picture import ShownPicture
from holoptic.desk.look.theme import lettering, pen, theme
from holoptic.desk.pages.read.draft_layer import (
    draft_extent,
    paint_label,
    paint_panes,
    paint_walk,
    snapped,
)
from holoptic.desk.pages.read.draft_panel import InHand
from holoptic.desk.session.readings import Readings, Spot
from holoptic.reading.arrangement import ViewOnSheet
from holoptic.reading.planes import PLANES
from holoptic.worker.messages import PictureRead

_STYLES = {"visible": "visible", "hidden": "hidden", "centre": "centre"}
_LABEL = 20.0
_FAINT = 0.45
_BEYOND = 14
"""Pixels that a level in hand is drawn beyond the views."""


class ReadingSheet(Canvas):
    """The views as they were drawn; a label dragged onto another view changes their names.

    Signals:
        renamed(number, name): a view is to be taken for another.
        pane_asked(view): while views are drawn, another pane was clicked.
        walked_to(place): while views are drawn, a place of the pane in hand was clicked (mm).
    """

    renamed = pyqtSignal(int, str)
    pane_asked = pyqtSignal(str)
    walked_to = pyqtSignal(object)

    def __init__(self, readings: Readings, parent: QWidget | None = None) -> None:
        super().__init__(parent, margin=46)
        self._readings = readings
        self.lit: Spot | None = None
        self.level: tuple[int, float] | None = None
        """The level that is lit up: its axis, and where it lies (mm of the part)."""
        self.in_hand: InHand | None = None
        self._ahead: Vec2 | None = None
        self.shows_answer = False
        self._held: int | None = None
        self._picture: ShownPicture | None = None
        self._picture_read: PictureRead | None = None
        self._pointer = QPointF()
        self.touchable = True
        self.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.setAccessibleName(tr("sheet of views"))
        self.empty_text = tr(
            "Open a drawing of two or three views (DXF), draw the views "
            "here (D), or take those of the part on the desk to practise "
            "reading."
        )

    def refresh(self) -> None:
        """Show the sheet."""
        arrangement = self._readings.arrangement
        if arrangement is None:
            panes = draft_extent(self.in_hand.draft) if self.in_hand is not None else None
            self.show_lines([], panes)
            return
        self._show_picture()
        everything = (line for placed in arrangement.views for line in placed.lines)
        lines = [Line(tuple(line.shape.path()), _STYLES[line.status], key)
                 for key, line in enumerate(everything)]  # fmt: skip
        boxes = [placed.box for placed in arrangement.views]
        if not boxes:  # a picture in which no views were found yet
            self.show_lines([], None)
            return
        drawn = self._readings.drawn_view()
        if drawn is not None:
            boxes.append(drawn[1].box)
            lines += [Line(tuple(x.shape.path()), "card true") for x in drawn[1].drawn]
        extent = (
            min(b[0] for b in boxes), min(b[1] for b in boxes),
            max(b[2] for b in boxes), max(b[3] for b in boxes),
        )  # fmt: skip
        if self.in_hand is not None:
            extent = draft_extent(self.in_hand.draft)
        over = []
        if self.shows_answer:
            over = [
                Line(tuple(line.shape.path()), "card true")
                for _, view in self._readings.overlay()
                for line in view.drawn
            ]
        self.show_lines(lines, extent, over)

    def _show_picture(self) -> None:
        """Keep the picture that lies under the views, if they were found in one."""
        picture = self._readings.picture
        if picture is None:
            self._picture = None
        elif self._picture_read is not picture:
            self._picture = ShownPicture(QImage.fromData(picture.jpeg))
        self._picture_read = picture

    def paint_paper(self, painter: QPainter) -> None:
        """Paint the paper, and the picture under the views faintly."""
        super().paint_paper(painter)
        if (
            self._picture is None
            or self._picture_read is None
            or self._readings.arrangement is None
            or (self._picture_read.is_sketch and not self._picture_read.asked)
        ):  # true places lie nowhere near those of a sketch
            return
        around, scale, (wide, high) = (
            self._picture_read.around,
            self._picture_read.scale,
            self._picture_read.size,
        )
        corners = (-around * scale, (high + around) * scale), (
            (wide + around) * scale, -around * scale)  # fmt: skip
        target = QRectF(*map(self.to_screen, corners))
        painter.save()
        painter.setOpacity(_FAINT)
        self._picture.paint(painter, target, QRectF(self.rect()))
        painter.restore()

    def show_draft(self, in_hand: InHand | None) -> None:
        """Show what is drawn by hand, or nothing of it."""
        before, self.in_hand = self.in_hand, in_hand
        if in_hand is None:
            self._ahead = None
        if (before and before.draft) != (in_hand and in_hand.draft):
            self.refresh()
        self.update()

    def light(self, spot: Spot | None) -> None:
        """Light a place up."""
        self.lit = spot
        self.update()

    def light_level(self, level: tuple[int, float] | None) -> None:
        """Light a level of the part up in all views that show its axis."""
        self.level = level
        self.update()

    # --- painting ---------------------------------------------------------------------------

    def paint_under(self, painter: QPainter) -> None:
        """Mark what is odd: faintly all of it, strongly what is looked at."""
        if self.in_hand is not None:
            paint_panes(painter, self, self.in_hand)
            return  # what is half drawn is odd everywhere
        self._paint_chosen(painter)
        self._paint_level(painter)
        for spot in self._readings.spots():
            self._mark(painter, spot, spot == self.lit)
        if self.lit is not None and self._readings.guide is not None:
            self._mark(painter, self.lit, True)

    def _paint_chosen(self, painter: QPainter) -> None:
        """Mark the line in hand."""
        found = self._readings.line.line()
        if found is not None:
            self.draw_path(painter, found[1].shape.path(), pen(theme().glass, 10, alpha=120))

    def _paint_level(self, painter: QPainter) -> None:
        """Draw the level in hand across the views, a little beyond both sides."""
        arrangement = self._readings.arrangement
        if self.level is None or arrangement is None:
            return
        axis, at = self.level
        beyond = _BEYOND / self.pixels_per_mm
        for placed in arrangement.views:
            plane, box = PLANES[placed.name], placed.box
            if axis not in plane.axes:
                continue
            k = plane.axes.index(axis)
            here = box[k + 2] - at if plane.turned[k] else box[k] + at
            low, high = box[1 - k] - beyond, box[3 - k] + beyond
            path = ((here, low), (here, high)) if k == 0 else ((low, here), (high, here))
            self.draw_path(painter, path, pen(theme().marker, 3, alpha=220))

    def _mark(self, painter: QPainter, spot: Spot, is_lit: bool) -> None:
        places = [self.to_screen(point) for point in spot.path]
        if not places:
            return
        colour = theme().ghost if spot.grave else theme().marker
        far = max((place - places[0]).manhattanLength() for place in places)
        if far < _LABEL / 2:
            painter.setPen(pen(colour, 3 if is_lit else 2))
            size = 13.0 if is_lit else 9.0
            painter.drawEllipse(places[0], size, size)
            return
        self.draw_path(painter, spot.path, pen(colour, 12 if is_lit else 7,
                                               alpha=190 if is_lit else 90))  # fmt: skip

    def paint_over(self, painter: QPainter) -> None:
        """Write the names of the views on labels, and the label that is dragged."""
        if self.in_hand is not None:
            paint_walk(painter, self, self.in_hand, self._ahead)
            return
        arrangement = self._readings.arrangement
        if arrangement is None:
            return
        for number, placed in enumerate(arrangement.views):
            paint_label(
                painter, self._label(placed), placed.name, 120 if number == self._held else 255
            )
        drawn = self._readings.drawn_view()
        if drawn is not None:
            name, view = drawn
            corner = self.to_screen((view.box[0], view.box[3]))
            painter.setFont(lettering(12, bold=True))
            painter.setPen(QColor(theme().ghost))
            words = tr("{drawn} view, drawn by Holoptic for the answer in hand", drawn=tr(name))
            painter.drawText(round(corner.x()), round(corner.y()) - 14, words)
        if self._held is not None:
            box = QRectF(0, 0, 84, _LABEL)
            box.moveCenter(self._pointer)
            paint_label(painter, box, arrangement.views[self._held].name, 120)
        if self.lit is not None and self.lit.path:
            self._paint_words(painter, self.lit)

    def _label(self, placed: ViewOnSheet) -> QRectF:
        xmin, _, _, ymax = placed.box
        corner = self.to_screen((xmin, ymax))
        return QRectF(corner.x(), corner.y() - _LABEL - 8, 84, _LABEL)

    def _paint_words(self, painter: QPainter, spot: Spot) -> None:
        """Write what is lit up beside it."""
        middle = self.to_screen(spot.path[len(spot.path) // 2])
        painter.setFont(lettering(12, bold=True))
        words = spot.brief or spot.words
        width = min(painter.fontMetrics().horizontalAdvance(words) + 14, self.width() - 20)
        left = min(max(middle.x() + 16, 8.0), self.width() - width - 8)
        top = middle.y() + 16 if middle.y() < self.height() - 60 else middle.y() - 44
        box = QRectF(left, top, width, 24)
        painter.fillRect(box, QColor(theme().trouble_back))
        painter.setPen(QColor(theme().trouble))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    # --- pointer ----------------------------------------------------------------------------

    def label_at(self, place: QPointF) -> int | None:
        """Return the number of the view whose label lies under a place."""
        views = self._readings.arrangement.views if self._readings.arrangement else ()
        found = (k for k, placed in enumerate(views) if self._label(placed).contains(place))
        return next(found, None)

    def mousePressEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """Take a label, or while views are drawn walk to the place clicked."""
        is_left = event is not None and event.button() == Qt.MouseButton.LeftButton
        if self.in_hand is not None and is_left:
            self._click(self.in_hand, self.to_paper(event.position()))
            return
        self.touchable = self._readings.arrangement is not None and self.in_hand is None
        if self.in_hand is None:
            self.setFocus()  # keys belong to the page again, not to a field of the column
        super().mousePressEvent(event)
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._held = self.label_at(event.position())
            self._pointer = event.position()
            self.update()

    def _click(self, in_hand: InHand, place: Vec2) -> None:
        view = in_hand.draft.pane_at(place)
        if view == in_hand.view:
            self.walked_to.emit(snapped(in_hand, place, self.pixels_per_mm))
        elif view is not None and not in_hand.walk.steps:
            self.pane_asked.emit(view)

    def mouseMoveEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """While views are drawn, pull the step ahead along."""
        if self.in_hand is not None and event is not None:
            place = self.to_paper(event.position())
            own = self.in_hand.draft.pane_at(place) == self.in_hand.view
            self._ahead = snapped(self.in_hand, place, self.pixels_per_mm) if own else None
            self.update()
        super().mouseMoveEvent(event)

    def pull(self, place: QPointF) -> bool:
        """Carry a label along."""
        self._pointer = place
        return self._held is not None

    def let_loose(self) -> None:
        """Drop a label: on another view it changes the two names."""
        held, self._held = self._held, None
        arrangement = self._readings.arrangement
        if held is None or arrangement is None:
            return
        target = self._view_at(self.to_paper(self._pointer))
        if target is not None and target != held:
            self.renamed.emit(target, arrangement.views[held].name)

    def _view_at(self, place: Vec2) -> int | None:
        views = self._readings.arrangement.views if self._readings.arrangement else ()
        for number, placed in enumerate(views):
            xmin, ymin, xmax, ymax = placed.box
            if xmin <= place[0] <= xmax and ymin <= place[1] <= ymax:
                return number
        return self.label_at(self._pointer)
