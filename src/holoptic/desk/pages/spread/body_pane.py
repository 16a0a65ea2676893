"""A pane with an arrangement, together or apart: touching a part lights it up everywhere."""

from __future__ import annotations

import math
from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter

from holoptic.curves.many import extents_on_paper
from holoptic.desk.canvas.canvas import Box, Canvas, stroke_pen
from holoptic.desk.canvas.panes import picture_lines
from holoptic.desk.look.theme import drafting_lettering, lettering, pen, px, theme
from holoptic.desk.session.session import Session
from holoptic.job import LineSchool
from holoptic.pictorial import Picture
from holoptic.pictorial.strokes import PickKey

_NUMBER_PIXELS = 9.0
_MARGIN = 32
_THIN = 0.75
"""Two pictures of many parts stand beside each other: their lines are finer than elsewhere."""


class BodyPane(Canvas):
    """Shows the picture that `shown` returns, its bodies touched and chosen as wholes."""

    def __init__(self, session: Session, title: str, shown: Callable[[], Picture | None]) -> None:
        super().__init__(margin=px(_MARGIN))
        self.session, self.title = session, title
        self._shown = shown
        self._picture: Picture | None = None
        self._school: LineSchool | None = None
        self._extents: dict[int, Box] = {}
        self.numbered = False
        self.thin = _THIN
        self.setAccessibleName(title)
        self.hovered.connect(self._touch)
        session.spreads.touched_changed.connect(self.update)

    def refresh(self) -> None:
        """Show the picture as it is now."""
        figure, picture = self.session.document.figure, self._shown()
        if not self.isVisible():
            return
        if figure is None or picture is None:
            self._picture = None
            self.show_lines([], None)
            return
        if picture is self._picture and figure.lines == self._school:
            return
        self._picture, self._school = picture, figure.lines
        self._extents = _extents(picture) if self.numbered else {}
        self.show_lines(picture_lines(picture, figure.lines), picture.extent)

    def body_at(self, key: int | None) -> int | None:
        """Return the number of the body that a line's key belongs to."""
        return key.body if isinstance(key, PickKey) else None

    def _touch(self, key: int | None) -> None:
        self.session.spreads.touch(self.body_at(key))

    def paint_under(self, painter: QPainter) -> None:
        """Light up the body that is touched, and the one that is chosen."""
        spreads = self.session.spreads
        chosen = None if spreads.chosen is None else spreads.number_of(spreads.chosen)
        for body, style in ((chosen, "selected"), (spreads.touched, "hovered")):
            if body is not None:
                for line in self.lines:
                    if self.body_at(line.key) == body:
                        self.draw_path(painter, line.path, stroke_pen(style))

    def paint_over(self, painter: QPainter) -> None:
        """Write what the pane shows, and the numbers of the parts where they are asked for."""
        if not self.title:
            return
        painter.setFont(drafting_lettering(13))
        painter.setPen(QColor(theme().hidden_ink))
        painter.drawText(px(12), px(20), self.title)
        if self.numbered:
            self._paint_numbers(painter)

    def _paint_numbers(self, painter: QPainter) -> None:
        """Write each part's number beside it: the sheet has them with leaders. Where there is no
        room for all, that of the part in hand comes first.
        """
        painter.setFont(lettering(11, bold=True))
        radius = px(_NUMBER_PIXELS)
        for number, place in self.numbers(radius):
            painter.setPen(pen(theme().hidden_ink, 1))
            painter.setBrush(QColor(theme().paper))
            painter.drawEllipse(place, radius, radius)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QColor(theme().ink))
            circle = QRectF(0, 0, 2 * radius, 2 * radius)
            circle.moveCenter(place)
            painter.drawText(circle, Qt.AlignmentFlag.AlignCenter, str(number))

    def numbers(self, radius: float) -> list[tuple[int, QPointF]]:
        """Return the numbers that have room, and where they stand, pixels: none on another."""
        spreads = self.session.spreads
        rows = {body: row.number for row in spreads.listed for body in row.bodies}
        taken = {body: self._on_screen(extent) for body, extent in self._extents.items()}
        chosen = None if spreads.chosen is None else spreads.number_of(spreads.chosen)
        first = [body for body in (chosen, spreads.touched) if body is not None]
        found: list[tuple[int, QPointF]] = []
        for body in dict.fromkeys([*first, *taken]):
            if body in rows and body in taken:
                places = _places_beside(body, taken, radius)
                free = (place for place in places
                        if all(_are_clear(place, other, radius) for _, other in found))  # fmt: skip
                place = next(free, None)
                found += [] if place is None else [(rows[body], place)]
        return found

    def _on_screen(self, extent: Box) -> QRectF:
        """Return what an extent on paper takes up, in pixels."""
        left, low, right, high = extent
        return QRectF(self.to_screen((left, high)), self.to_screen((right, low)))


def _places_beside(body: int, taken: dict[int, QRectF], radius: float) -> list[QPointF]:
    """Return where a number may stand: at the right, or left where another part is in the way."""
    own = taken[body]
    aside = QPointF(1.8 * radius, 0.0)
    right = QPointF(own.right(), own.center().y()) + aside
    left = QPointF(own.left(), own.center().y()) - aside
    others = [room for one, room in taken.items() if one != body]
    at_right, at_left = (any(room.contains(place) for room in others) for place in (right, left))
    return [left, right] if at_right and not at_left else [right, left]


def _are_clear(one: QPointF, other: QPointF, radius: float) -> bool:
    off = one - other
    return math.hypot(off.x(), off.y()) >= 2 * radius


def _extents(picture: Picture) -> dict[int, Box]:
    """Return what of the picture each body takes up where it is seen, mm."""
    seen = picture.visible
    curves, bodies = [s.drawn for s in seen], [s.origin.body for s in seen]
    return extents_on_paper(curves, bodies, picture.view.matrix)
