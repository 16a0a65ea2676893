"""The drawn sheet under its planned strokes, with what is off marked, and a magnifier over it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QMouseEvent, QPainter, QPainterPath

from holoptic.catalogue import tr
from holoptic.checking.report import CheckReport
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.canvas import Box, Canvas, Line
from holoptic.desk.canvas.shown_picture import ShownPicture
from holoptic.desk.look.theme import lettering, pen, px, shade, theme
from holoptic.desk.pages.check.marks import EXTRA, Sort, paint_mark
from holoptic.worker.messages import PictureShown, SheetFound

_LENS_PIXELS = 92
_LENS_TIMES = 4.0
_AROUND_MM = 4.0
_CORNERS = (tr("lower left"), tr("lower right"), tr("upper right"), tr("upper left"))


@dataclass(frozen=True)
class Deviation:
    """What is off at one place: its sort, where it should be and lies (mm), and in words."""

    sort: Sort
    meant: tuple[Vec2, ...]
    found: tuple[Vec2, ...]
    words: str


class CheckedSheet(Canvas):
    """The sheet: coordinates in mm from the lower left border corner; of a picture in which no
    border was found, its dots (Y down, so below zero).

    Signals:
        corner_shown(place): a corner of the border was shown, in dots of the picture.
    """

    corner_shown = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__(margin=14)
        self.setAccessibleName(tr("drawn sheet"))
        self.touchable = True
        self.shows_plan = False
        """Whether the plan alone is in sight: the sheet as it should be."""
        self.magnifies = False
        self.lit: Deviation | None = None
        self.deviations: list[Deviation] = []
        self.corners: list[Vec2] = []
        self._levels: ShownPicture | None = None
        self._found: SheetFound | None = None
        self._asked: PictureShown | None = None
        self._planned: list[Line] = []
        self._is_there = False
        self._image_box: Box = (0.0, 0.0, 1.0, 1.0)
        self._pointer: QPointF | None = None

    # --- content ----------------------------------------------------------------------------

    def show_sheet(
        self, found: SheetFound, report: CheckReport, deviations: Sequence[Deviation]
    ) -> None:
        """Show a sheet that was found in its picture, and what is off."""
        if found is not self._found:
            self._found, self._asked = found, None
            image = QImage.fromData(found.jpeg)
            self._levels = ShownPicture(image)
            around, dots = found.around, found.per_mm
            self._image_box = (-around, -around, image.width() / dots - around,
                               image.height() / dots - around)  # fmt: skip
        self._take(report, deviations)

    def _take(self, report: CheckReport, deviations: Sequence[Deviation]) -> None:
        self._is_there = True
        self.deviations = list(deviations)
        # keys are those of the list, so that a touch finds its row
        self._planned = [Line(one.meant, "planned") for one in report.strokes]
        touched = [Line(one.meant, "planned", key) for key, one in enumerate(self.deviations)]
        self.show_lines([], self._image_box, over=touched)
        self._say()

    def show_plan(self, inner: Vec2, report: CheckReport, deviations: Sequence[Deviation]) -> None:
        """Show the planned strokes of a sheet of which there is no picture, and what is off.

        `inner` is the width and height inside its border, mm.
        """
        self._found = self._asked = self._levels = None
        self._image_box = (-_AROUND_MM, -_AROUND_MM, inner[0] + _AROUND_MM, inner[1] + _AROUND_MM)
        self._take(report, deviations)

    def ask_corners(self, shown: PictureShown) -> None:
        """Show a picture as it was handed over, to be told where the border's corners lie."""
        if shown is self._asked:
            return
        self._asked, self._found, self._is_there = shown, None, False
        self.corners, self.deviations, self.lit = [], [], None
        image = QImage.fromData(shown.jpeg)
        self._levels = ShownPicture(image)
        self._image_box = (0.0, -float(image.height()), float(image.width()), 0.0)
        self.show_lines([], self._image_box)

    def show_none(self, why: str) -> None:
        """Show that there is no sheet, and why."""
        self.empty_text = why
        self._found = self._asked = self._levels = None
        self._is_there = False
        self.deviations, self.lit = [], None
        self.show_lines([], None)

    @property
    def asks_corners(self) -> bool:
        """Whether it waits to be shown the border's corners."""
        return self._asked is not None and len(self.corners) < len(_CORNERS)

    @property
    def next_corner(self) -> str:
        """The name of the corner that is to be shown next."""
        return _CORNERS[min(len(self.corners), len(_CORNERS) - 1)]

    def light(self, deviation: Deviation | None) -> None:
        """Light up a deviation; the magnifier goes there."""
        self.lit = deviation
        self._pointer = None
        self._say()
        self.update()

    def _say(self) -> None:
        words = "; ".join(one.words for one in self.deviations[:8])
        self.setAccessibleDescription(words or tr("nothing is off"))

    # --- painting ---------------------------------------------------------------------------

    def paint_paper(self, painter: QPainter) -> None:
        """Paint the board, and the sheet on it."""
        if self._levels is None and not self._is_there:
            painter.fillRect(self.rect(), QColor(theme().paper))
            return
        painter.fillRect(self.rect(), QColor(theme().desk))
        self._paint_sheet(painter)

    def _paint_sheet(self, painter: QPainter) -> None:
        """Paint the picture, or clean paper where the plan alone is in sight."""
        low_x, low_y, high_x, high_y = self._image_box
        target = QRectF(self.to_screen((low_x, high_y)), self.to_screen((high_x, low_y)))
        if self._is_there and (self.shows_plan or self._found is None):
            painter.fillRect(target, QColor(theme().paper))
            border = QRectF(self.to_screen((0.0, high_y + low_y)),
                            self.to_screen((high_x + low_x, 0.0)))  # fmt: skip
            painter.setPen(pen(theme().ink, 2.0))
            painter.drawRect(border)
        elif self._levels is not None:
            self._levels.paint(painter, target, QRectF(self.rect()))

    def paint_layer(self, painter: QPainter, layer) -> None:  # type: ignore[no-untyped-def]
        """Paint no layer: the strokes lie over the picture, and the magnifier shows them too."""

    def paint_over(self, painter: QPainter) -> None:
        """Lay on the planned strokes, the marks, and the magnifier."""
        if self._asked is not None:
            self._paint_corners(painter)
            return
        if not self._is_there:
            return
        self._paint_strokes(painter)
        at = self._lens_at()
        if self.magnifies and at is not None:
            self._paint_lens(painter, at)
        if self.lit is not None:
            self._paint_words(painter, self.lit)

    def _paint_strokes(self, painter: QPainter) -> None:
        usual = pen(theme().ink, 2.1) if self.shows_plan else pen(theme().glass, 1.2, alpha=170)
        for line in self._planned:
            self.draw_path(painter, line.path, usual)
        if self.shows_plan:
            return
        for one in sorted(self.deviations, key=lambda one: one is self.lit):
            meant = [self.to_screen(place) for place in one.meant]
            found = [self.to_screen(place) for place in one.found]
            paint_mark(painter, one.sort, meant, found, one is self.lit)

    def _lens_at(self) -> QPointF | None:
        """Return where the magnifier lies: under the pointer, else on what is lit up."""
        if self._pointer is not None:
            return self._pointer
        if self.lit is None:
            return None
        path = self.lit.found or self.lit.meant
        return self.to_screen(path[len(path) // 2])

    def _paint_lens(self, painter: QPainter, at: QPointF) -> None:
        """Paint what lies about a place again, larger, in a round window over it."""
        scale, offset = self._scale, self._offset
        radius = float(px(_LENS_PIXELS))
        middle = QPointF(min(max(at.x(), radius), self.width() - radius),
                         min(max(at.y(), radius), self.height() - radius))  # fmt: skip
        round_window = QPainterPath()
        round_window.addEllipse(middle, radius, radius)
        painter.save()
        painter.setClipPath(round_window)
        try:
            self._scale = scale * _LENS_TIMES
            self._offset = middle + (offset - at) * _LENS_TIMES
            painter.fillPath(round_window, QColor(theme().desk))
            self._paint_sheet(painter)
            self._paint_strokes(painter)
        finally:
            self._scale, self._offset = scale, offset
        painter.restore()
        painter.setPen(pen(theme().desk, 6))
        painter.drawEllipse(middle, radius, radius)
        painter.setPen(pen(theme().text, 2))
        painter.drawEllipse(middle, radius + 2, radius + 2)

    def _paint_words(self, painter: QPainter, one: Deviation) -> None:
        """Write what is lit up beside it, clear of the magnifier."""
        path = one.found or one.meant
        middle = self.to_screen(path[len(path) // 2])
        away = px(_LENS_PIXELS) + 12 if self.magnifies else 16
        painter.setFont(lettering(12, bold=True))
        width = min(painter.fontMetrics().horizontalAdvance(one.words) + 14, self.width() - 20)
        left = min(max(middle.x() - width / 2, 8.0), self.width() - width - 8)
        below = middle.y() + away
        top = below if below < self.height() - 30 else middle.y() - away - 26
        box = QRectF(left, max(top, 6.0), width, 24)
        painter.fillRect(box, shade(theme().raised, 235))
        painter.setPen(pen(theme().line, 1))
        painter.drawRect(box)
        painter.setPen(QColor(theme().text))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, one.words)

    def _paint_corners(self, painter: QPainter) -> None:
        painter.setFont(lettering(12, bold=True))
        for number, place in enumerate(self.corners):
            at = self.to_screen(place)
            painter.setPen(pen(theme().ghost, 2))
            painter.drawEllipse(at, 8, 8)
            painter.drawText(at + QPointF(12, -8), str(number + 1))

    # --- pointer ----------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take a corner where one is asked for, else pick what is touched."""
        if event is None:
            return
        if self.asks_corners and event.button() == Qt.MouseButton.LeftButton:
            self._take_corner(self.to_paper(event.position()))
            return
        super().mousePressEvent(event)

    def _take_corner(self, place: Vec2) -> None:
        if self._asked is None:
            return
        self.corners.append(place)
        self.update()
        share = self._asked.share
        self.corner_shown.emit((place[0] / share, -place[1] / share))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Let the magnifier follow the pointer."""
        super().mouseMoveEvent(event)
        if event is not None:
            self._pointer = event.position()
            if self.magnifies:
                self.update()

    def leaveEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        """Put the magnifier back to what is lit up."""
        super().leaveEvent(event)
        self._pointer = None
        self.update()


def deviations_of(
    report: CheckReport, words_of: dict[str, str], names: dict[str, str]
) -> list[Deviation]:
    """Return what is off, the worst first, then ink that is too much; `words_of` says what the
    states are called, `names` what the strokes are.
    """
    found = [
        Deviation(one.state, one.meant, one.path,
                  _words(words_of[one.state], names.get(one.id, one.id), one.off_mm))
        for one in report.worst_first
    ]  # fmt: skip
    found += [
        Deviation(EXTRA, (one.start, one.end), (),
                  tr("too much: {length} mm of line", length=f"{one.length:.1f}"))
        for one in report.extra
    ]  # fmt: skip
    return found


def _words(state: str, name: str, off_mm: float) -> str:
    return f"{name}: {state} {abs(off_mm):.1f} mm" if off_mm else f"{name}: {state}"
