"""A pane of paper: lines in paper mm, fitted, panned and zoomed, with what the pointer touches."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache, cached_property
from itertools import groupby
from typing import Any, cast

import numpy as np
from PyQt6 import sip
from PyQt6.QtCore import QEvent, QLineF, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
    QTransform,
    QWheelEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from holoptic.curves.paper_arc import PaperArc, chords_of
from holoptic.curves.touching import Touchable
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.layer import Layer
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import AXIS_TONES, Theme, pen, px, theme
from holoptic.desk.widgets.spoken_roles import Depiction
from holoptic.sheet.drawing import CAP_HEIGHT, Ink
from holoptic.sheet.layers import LAYERS, Tone
from holoptic.tolerance import COINCIDENT_MM, ROUNDING

_TOUCH_PIXELS = 7.0
_ZOOM_STEP = 1.2
_LEAST_STEP_PIXELS = 2.0
"""Steps of a bent line shorter than this do not show."""
_CHORD_PIXELS = 0.08
"""A bent line is drawn as straight pieces that stand off it by no more."""
_THIN_PIXELS = 1.0
_OPAQUE = 255
_OVERLAP_PIXELS = 0.3
_ZOOM_LIMITS = (0.2, 60.0)

Box = tuple[float, float, float, float]


@dataclass(frozen=True)
class Line:
    """A line on the pane, its style, and what it stands for (None: nothing).

    It is given as points in mm, or as an arc, which is drawn as finely as it is shown.
    """

    course: tuple[Vec2, ...] | PaperArc
    style: str
    key: int | None = None

    @property
    def is_straight(self) -> bool:
        """Whether it is one straight piece, or but a dot."""
        return not isinstance(self.course, PaperArc) and len(self.course) <= 2

    @cached_property
    def path(self) -> tuple[Vec2, ...]:
        """Its points, mm."""
        return tuple(self.course.path()) if isinstance(self.course, PaperArc) else self.course


def paper_path(lines: Iterable[Iterable[Vec2]], closed: bool = False) -> QPainterPath:
    """Return polylines in paper mm as a path for `Canvas.draw_on_paper`."""
    path = QPainterPath()
    for line in lines:
        path.addPolygon(QPolygonF([QPointF(x, y) for x, y in line]))
        if closed:
            path.closeSubpath()
    return path


def _style_of(line: Line) -> str:
    return line.style


def _one_polygon(line: Line, scale: float) -> QPolygonF:
    """Return a line in pixels, Y down, without points that are too near to show."""
    return QPolygonF([QPointF(scale * x, -scale * y) for x, y in _shown(line, scale)])


def _pieces(lines: Iterable[Line], scale: float, overlap: float) -> Any:
    """Return the straight pieces of lines in pixels, Y down, as an array of QLineF.

    Each is longer at both ends by `overlap`, or gaps would show between pieces that bend.
    """
    figures = _straight_pieces(list(lines), scale) * (scale, -scale, scale, -scale)
    along = figures[:, 2:] - figures[:, :2]
    along *= overlap / np.maximum(np.hypot(*along.T), ROUNDING)[:, None]
    figures += np.hstack([-along, along])
    pieces: Any = cast(Any, sip.array)(QLineF, len(figures))
    # written all at once: made one by one they take longer than they take to be drawn
    memory: Any = sip.voidptr(pieces, figures.nbytes)
    np.frombuffer(memory).reshape(-1, 4)[:] = figures
    return pieces


def _straight_pieces(lines: list[Line], scale: float) -> np.ndarray:
    """Return the straight pieces of lines (n × 4, mm), those of arcs and short ones all at once."""
    arcs = [line.course for line in lines if isinstance(line.course, PaperArc)]
    paths = [line.course for line in lines if not isinstance(line.course, PaperArc)]
    found = [np.array([path for path in paths if len(path) == 2]).reshape(-1, 4)]
    if arcs:
        found.append(chords_of(arcs, _CHORD_PIXELS / scale))
    for path in paths:
        if len(path) == 1:  # a dot
            found.append(np.array([(*path[0], *path[0])]))
        elif len(path) > 2:
            points = np.array(_thinned(path, scale))
            found.append(np.hstack([points[:-1], points[1:]]))
    return np.concatenate(found)


def _shown(line: Line, scale: float) -> Sequence[Vec2] | np.ndarray:
    if isinstance(line.course, PaperArc):
        return line.course.points(_CHORD_PIXELS / scale)
    return _thinned(line.course, scale)


def _thinned(path: tuple[Vec2, ...], scale: float) -> Sequence[Vec2]:
    if len(path) <= 2:
        return path
    # the steps of a curve change slowly, so that a few of them tell how long they are
    last = len(path) - 1
    longest = max(math.dist(path[k], path[k + 1]) for k in range(0, last, max(1, last // 6)))
    every = max(1, int(_LEAST_STEP_PIXELS / scale / max(longest, ROUNDING)))
    return [*path[:-1:every], path[-1]]


def _one_path(lines: Iterable[Line], scale: float) -> QPainterPath:
    """Return lines as one path in pixels, Y down, without points that are too near to show."""
    path = QPainterPath()
    for line in lines:
        (x, y), *others = _shown(line, scale)
        path.moveTo(scale * x, -scale * y)
        for x, y in others:
            path.lineTo(scale * x, -scale * y)
    return path


_INK = "ink "
"""Begins the style of a page's ink: its layer's tone, weight and dashes follow."""
_PIXELS_PER_MM = 4.2
"""Of a line's weight on a page, at the usual size; it does not grow with the page."""
_THINNEST = 0.75


def ink_style(ink: Ink) -> str:
    """Return the style of a page's ink, by the table of layers."""
    dashes = ",".join(f"{dash:g}" for dash in ink.pattern)
    return f"{_INK}{LAYERS[ink.layer].tone} {ink.width:g} {dashes}"


def tone_colour(tone: Tone, colours: Theme | None = None) -> str:
    """Return the colour of a layer's tone on the desk as it is, light or dark."""
    colours = colours or theme()
    inks = {"ink": colours.ink, "quiet": colours.hidden_ink, "light": colours.light_ink}
    return (inks | AXIS_TONES)[tone]


@cache
def _ink_pen(colours: Theme, style: str, thin: float) -> QPen:
    tone, weight, dashes = style.removeprefix(_INK).split(" ")
    width = max(float(weight) * _PIXELS_PER_MM, _THINNEST) * thin
    pixels = tuple(float(dash) * _PIXELS_PER_MM / 2 for dash in dashes.split(",") if dash)
    return pen(tone_colour(cast(Tone, tone), colours), width, pixels)


def stroke_pen(style: str, thin: float = 1.0) -> QPen:
    """Return the pen of a style of line; `thin` is the width of thin lines in pixels."""
    return _ink_pen(theme(), style, thin) if style.startswith(_INK) else _pens(theme(), thin)[style]


@cache
def _pens(colours: Theme, thin: float) -> dict[str, QPen]:
    """Return the pens of all styles; kept, as a drawing has hundreds of lines."""
    return {
        "visible": pen(colours.ink, 2.1 * thin),
        "visible thick": pen(colours.ink, 3.4 * thin),
        "visible thin": pen(colours.ink, 1.4 * thin),
        "fine": pen(colours.ink, 0.8 * thin),
        "shading": pen(colours.hidden_ink, 0.7 * thin),
        "centre": pen(colours.hidden_ink, 0.9 * thin, (13, 3, 2, 3)),
        "short centre": pen(colours.hidden_ink, 0.9 * thin),
        "hidden": pen(colours.hidden_ink, 1.1 * thin, (7, 4)),
        "hidden thin": pen(colours.hidden_ink, 0.9 * thin),
        "light": pen(colours.light_ink, thin),
        "crate": pen(colours.light_ink, thin, (2, 3)),
        "selected": pen(colours.marker, 8, alpha=210),
        "hovered": pen(colours.marker, 8, alpha=110),
        "collision": pen(colours.ghost, 7, alpha=90),
        "mark": pen(colours.ghost, 2.0),
        "faint mark": pen(colours.ghost, 1.0, (2, 3), alpha=110),
        "lift": pen(colours.lift, 5, alpha=190),
        "planned": pen(colours.glass, 1.2),
        "card true": pen(colours.ghost, 1.3, (5, 3)),
        "card offset": pen(colours.lift, 1.3),
    }


class Canvas(Depiction):
    """A pane that shows lines at one scale.

    Signals:
        hovered(key): the pointer touches the line of a key, or None.
        picked(key): a line of a key was clicked, or None for empty paper.
        point_asked(place): the paper was clicked with Shift held.
    """

    hovered = pyqtSignal(object)
    picked = pyqtSignal(object)
    point_asked = pyqtSignal(QPointF)

    def __init__(self, parent: QWidget | None = None, margin: int = 28) -> None:
        super().__init__(parent)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(120, 100)
        self.inset = margin
        self.empty_text = ""
        self.faded = False
        self.thin = 1.0
        self.touchable = True
        self._under = Layer(self._draw_lines)
        self._over = Layer(self._draw_lines)
        self._touchable: Touchable | None = None
        self._extent: Box | None = None
        self._scale = 1.0
        self._offset = QPointF()
        self._fitted = True
        self._drag: QPointF | None = None
        self._hovered: int | None = None

    # --- content ----------------------------------------------------------------------------

    @property
    def lines(self) -> list[Line]:
        """The lines shown."""
        return [*self._under.items, *self._over.items]

    def show_lines(
        self, lines: Iterable[Line], extent: Box | None, over: Iterable[Line] = ()
    ) -> None:
        """Show lines; `extent` (xmin, ymin, xmax, ymax in mm) is what must fit.

        The lines `over` the others stay above them however many follow.
        """
        self._under.show(list(lines))
        self._over.show(list(over))
        self._touchable = None
        if extent != self._extent:
            self._extent = extent
            self._fitted = True
        if self._fitted:
            self.fit()
        self.update()

    def fit(self) -> None:
        """Bring the whole content into the pane."""
        self._fitted = True
        if self._extent is None:
            return
        xmin, ymin, xmax, ymax = self._extent
        room = QRectF(self.rect()).adjusted(self.inset, self.inset, -self.inset, -self.inset)
        width, height = max(xmax - xmin, COINCIDENT_MM), max(ymax - ymin, COINCIDENT_MM)
        self._scale = max(min(room.width() / width, room.height() / height), COINCIDENT_MM)
        centre = room.center()
        self._offset = QPointF(
            centre.x() - self._scale * (xmin + xmax) / 2,
            centre.y() + self._scale * (ymin + ymax) / 2,
        )
        self.update()

    def to_screen(self, point: Vec2) -> QPointF:
        """Return where a paper point (mm) lies in the pane (pixels)."""
        return QPointF(
            self._offset.x() + self._scale * point[0], self._offset.y() - self._scale * point[1]
        )

    def to_paper(self, place: QPointF) -> Vec2:
        """Return the paper point (mm) under a place of the pane (pixels)."""
        return (
            (place.x() - self._offset.x()) / self._scale,
            (self._offset.y() - place.y()) / self._scale,
        )

    @property
    def pixels_per_mm(self) -> float:
        """The scale of the pane."""
        return self._scale

    def letter(self, pixels: float) -> float:
        """Return how high, in mm on paper, capitals of lettering of a size in pixels are."""
        return px(pixels) * CAP_HEIGHT / self._scale

    def line_at(self, place: QPointF) -> int | None:
        """Return the key of the line that a place touches, or None."""
        if self._touchable is None:  # made when a hand comes near, not with every picture
            self._touchable = Touchable(
                [(line.path, line.key) for line in self.lines if line.key is not None]
                if self.touchable
                else []
            )
        return self._touchable.key_near(self.to_paper(place), _TOUCH_PIXELS / self._scale)

    # --- painting ---------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint paper, lines, and what a subclass lays over them."""
        del event
        with painting(self) as painter:
            self.paint_paper(painter)
            if self._extent is None and self.empty_text:
                painter.setPen(QColor(theme().hidden_ink))
                flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
                painter.drawText(self.rect().adjusted(20, 20, -20, -20), flags, self.empty_text)
            painter.save()
            if self.faded:
                painter.setOpacity(0.35)
            self.paint_under(painter)
            for layer in (self._under, self._over):
                self.paint_layer(painter, layer)
            painter.restore()
            self.paint_over(painter)

    def paint_layer(self, painter: QPainter, layer: Layer[Any]) -> None:
        """Paint a layer as it looks at this place and scale."""
        look = (self._scale, self._offset.x(), self._offset.y(), self.thin, theme())
        layer.paint(painter, self.size(), self.devicePixelRatioF(), look)

    def _draw_lines(self, painter: QPainter, lines: Sequence[Line]) -> None:
        """Draw lines, hundreds of them in one call; dashed ones one by one.

        Broad solid lines are drawn as separate straight pieces, in a fifth of the time of a path:
        its pieces would all be compared with each other.
        """
        painter.translate(self._offset)
        for style, run in groupby(lines, _style_of):
            with_pen = stroke_pen(style, self.thin)
            painter.setPen(with_pen)
            if with_pen.widthF() <= _THIN_PIXELS:
                painter.drawPath(_one_path(run, self._scale))
            elif with_pen.style() == Qt.PenStyle.SolidLine and with_pen.color().alpha() == _OPAQUE:
                self._draw_broad(painter, list(run), style)
            else:
                for line in run:
                    painter.drawPolyline(_one_polygon(line, self._scale))

    def _draw_broad(self, painter: QPainter, lines: list[Line], style: str) -> None:
        """Draw solid lines as straight pieces; the square ends of bent ones would be seen."""
        broad = QPen(stroke_pen(style, self.thin))
        straight = [line for line in lines if line.is_straight]
        bent = [line for line in lines if not line.is_straight]
        for several, ends, overlap in (
            (straight, Qt.PenCapStyle.SquareCap, 0.0),
            (bent, Qt.PenCapStyle.FlatCap, _OVERLAP_PIXELS),
        ):
            if several:
                broad.setCapStyle(ends)
                painter.setPen(broad)
                painter.drawLines(_pieces(several, self._scale, overlap))

    def paint_paper(self, painter: QPainter) -> None:
        """Paint the pane's ground: paper up to the edge."""
        painter.fillRect(self.rect(), QColor(theme().paper))

    def paint_under(self, painter: QPainter) -> None:
        """Paint what lies under the lines (for subclasses)."""

    def paint_over(self, painter: QPainter) -> None:
        """Paint what lies over the lines (for subclasses)."""

    def draw_path(self, painter: QPainter, path: Iterable[Vec2], with_pen: QPen) -> None:
        """Draw a polyline given in paper mm."""
        painter.setPen(with_pen)
        painter.drawPolyline(QPolygonF([self.to_screen(point) for point in path]))

    def draw_on_paper(self, painter: QPainter, path: QPainterPath) -> None:
        """Draw a path given in paper mm (Y up) with the painter's pen and brush."""
        painter.drawPath(self._to_pixels().map(path))

    def _to_pixels(self) -> QTransform:
        return QTransform(self._scale, 0, 0, -self._scale, self._offset.x(), self._offset.y())

    # --- pointer ----------------------------------------------------------------------------

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the content fitted."""
        super().resizeEvent(event)
        if self._fitted:
            self.fit()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Zoom about the pointer."""
        if event is None or self._extent is None:
            return
        factor = _ZOOM_STEP ** (event.angleDelta().y() / 120)
        scale = min(max(self._scale * factor, _ZOOM_LIMITS[0]), _ZOOM_LIMITS[1])
        place = event.position()
        self._offset = place + (self._offset - place) * (scale / self._scale)
        self._scale = scale
        self._fitted = False
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Pick a line with the left button, pan with the others."""
        if event is None:
            return
        if event.button() == Qt.MouseButton.LeftButton:
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                self.point_asked.emit(event.position())
            elif self.touchable:
                key = self.line_at(event.position())
                self.picked.emit(key)
                self.take_hold(key, event.position())
        else:
            self._drag = event.position()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Pan, or tell what the pointer touches."""
        if event is None:
            return
        if self.pull(event.position()):
            self.update()
            return
        if self._drag is not None:
            self._offset += event.position() - self._drag
            self._drag = event.position()
            self._fitted = False
            self.update()
            return
        touched = self.line_at(event.position()) if self.touchable else None
        if touched != self._hovered:
            self._hovered = touched
            self.hovered.emit(touched)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """End panning and dragging."""
        del event
        self._drag = None
        self.let_loose()
        self.update()

    def take_hold(self, key: int | None, place: QPointF) -> None:
        """Begin to drag the line of a key (for subclasses)."""

    def pull(self, place: QPointF) -> bool:
        """Drag on to a place of the pane; says whether something is dragged (for subclasses)."""
        del place
        return False

    def let_loose(self) -> None:
        """End a drag (for subclasses)."""

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Fit the content again."""
        del event
        self.fit()

    def leaveEvent(self, event: QEvent | None) -> None:
        """Forget what was touched."""
        super().leaveEvent(event)
        if self._hovered is not None:
            self._hovered = None
            self.hovered.emit(None)
            self.update()
