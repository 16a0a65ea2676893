"""How deviations are marked on a sheet: each sort with a pattern of its own, not colour alone.

Marks are drawn in pixels, Y down, along paths that were brought to the screen before.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import pairwise

from PyQt6.QtCore import QPointF, QSize, Qt
from PyQt6.QtGui import QBrush, QIcon, QPainter, QPixmap, QPolygonF

from holoptic.checking.report import State
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import Theme, pen, shade, theme

Path = Sequence[QPointF]
Sort = State | str
EXTRA = "extra"
_BEAD_PIXELS, _BEAD_RADIUS = 13.0, 3.4
_WAVE_PIXELS, _WAVE_HEIGHT = 9.0, 3.6
_BAR_PIXELS = 8.0
_ICON = 26, 14


def colour_of(sort: Sort) -> str:
    """Return the colour of a sort of deviation: red for what is off, others for the rest."""
    colours = theme()
    return {EXTRA: colours.lift, "light": colours.glass}.get(sort, colours.ghost)


def paint_mark(painter: QPainter, sort: Sort, meant: Path, found: Path, is_lit: bool) -> None:
    """Mark a deviation along where a stroke should be and where it was found."""
    _MARKS[sort](painter, meant, found, 1.7 if is_lit else 1.0)


def _paint_missing(painter: QPainter, meant: Path, found: Path, weight: float) -> None:
    """Beads on a string: nothing lies there."""
    del found
    colour = colour_of("missing")
    painter.setPen(pen(colour, 1.2 * weight, (3, 3)))
    painter.drawPolyline(QPolygonF(meant))
    painter.setPen(pen(colour, 1.6 * weight))
    painter.setBrush(QBrush(shade(theme().paper, 255)))
    for place in _along(meant, _BEAD_PIXELS):
        painter.drawEllipse(place, _BEAD_RADIUS * weight, _BEAD_RADIUS * weight)
    painter.setBrush(Qt.BrushStyle.NoBrush)


def _paint_shifted(painter: QPainter, meant: Path, found: Path, weight: float) -> None:
    """A hatched strip from where it lies to where it belongs."""
    colour = colour_of("shifted")
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QBrush(shade(colour, 110), Qt.BrushStyle.BDiagPattern))
    painter.drawPolygon(QPolygonF([*meant, *reversed(found)]))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(pen(colour, 2.4 * weight))
    painter.drawPolyline(QPolygonF(found))
    painter.setPen(pen(colour, 1.4 * weight, (6, 4)))
    painter.drawPolyline(QPolygonF(meant))


def _paint_end(painter: QPainter, meant: Path, found: Path, weight: float) -> None:
    """A bar where the stroke should end, and a dotted way from there to where it does."""
    colour = colour_of("short")
    painter.setPen(pen(colour, 1.2 * weight, (2, 3)))
    painter.drawPolyline(QPolygonF(meant))
    for end in (0, -1):
        gap = found[end] - meant[end] if found else QPointF()
        if math.hypot(gap.x(), gap.y()) < 1.0:
            continue
        painter.setPen(pen(colour, 3.4 * weight, (2, 2)))
        painter.drawLine(meant[end], found[end])
        painter.setPen(pen(colour, 2.2 * weight))
        _draw_bar(painter, meant, end)


def _paint_light(painter: QPainter, meant: Path, found: Path, weight: float) -> None:
    """Short ticks across a line that is too weak."""
    del found
    painter.setPen(pen(colour_of("light"), 2.0 * weight))
    places = _along(meant, 0.7 * _BEAD_PIXELS)
    for before, place in pairwise(places):
        way = place - before
        long = math.hypot(way.x(), way.y()) or 1.0
        across = QPointF(-way.y(), way.x()) * (_WAVE_HEIGHT * weight / long)
        painter.drawLine(place - across, place + across)


def _paint_extra(painter: QPainter, meant: Path, found: Path, weight: float) -> None:
    """A wavy line: nothing of the plan is there."""
    del found
    painter.setPen(pen(colour_of(EXTRA), 2.2 * weight))
    places = _along(meant, _WAVE_PIXELS / 2)
    if len(places) < 3:
        painter.drawPolyline(QPolygonF(meant))
        return
    way = places[-1] - places[0]
    long = math.hypot(way.x(), way.y()) or 1.0
    across = QPointF(-way.y(), way.x()) * (_WAVE_HEIGHT / long)
    waves = [place + across * (1 if k % 2 else -1) for k, place in enumerate(places)]
    painter.drawPolyline(QPolygonF(waves))


_MARKS: dict[str, Callable[[QPainter, Path, Path, float], None]] = {
    "missing": _paint_missing, "shifted": _paint_shifted, "short": _paint_end, "long": _paint_end,
    "light": _paint_light, EXTRA: _paint_extra,
}  # fmt: skip


def _draw_bar(painter: QPainter, path: Path, end: int) -> None:
    way = path[end] - path[1 if end == 0 else -2]
    long = math.hypot(way.x(), way.y()) or 1.0
    across = QPointF(-way.y(), way.x()) * (_BAR_PIXELS / long)
    painter.drawLine(path[end] - across, path[end] + across)


def _along(path: Path, pitch: float) -> list[QPointF]:
    """Return places along a path, some pixels apart, its ends among them."""
    found = [path[0]]
    left = pitch
    for start, end in pairwise(path):
        way = end - start
        long = math.hypot(way.x(), way.y())
        at = left
        while at < long:
            found.append(start + way * (at / long))
            at += pitch
        left = at - long
    found.append(path[-1])
    return found


def mark_icon(sort: Sort) -> QIcon:
    """Return a small sample of a mark, for lists and legends."""
    return _icon(sort, theme())


def _icon(sort: Sort, colours: Theme) -> QIcon:
    wide, high = _ICON
    image = QPixmap(QSize(3 * wide, 3 * high))
    image.fill(shade(colours.paper, 255))
    middle = high / 2
    meant = [QPointF(3, middle), QPointF(wide / 2, middle), QPointF(wide - 3.0, middle)]
    found = [place - QPointF(0, 4) for place in meant]
    if sort == "short":
        found = [*meant[:2], QPointF(0.6 * wide, middle)]
    elif sort == "long":
        meant[2] = QPointF(0.55 * wide, middle)
        found = [*meant[:2], QPointF(wide - 2.0, middle)]
    elif sort == "shifted":
        meant = [place + QPointF(0, 4) for place in meant]
    with painting(image) as painter:
        painter.scale(3, 3)
        paint_mark(painter, sort, meant, found, False)
    image.setDevicePixelRatio(3)
    return QIcon(image)
