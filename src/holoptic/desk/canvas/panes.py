"""The two panes that stand beside each other on every page: the views and the picture."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import lru_cache
from typing import NamedTuple

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QResizeEvent, QShowEvent
from PyQt6.QtWidgets import QWidget
from shapely import MultiPoint, Point

from holoptic.catalogue import tr
from holoptic.construction.cards import Gap
from holoptic.curves.hatching import lines_over
from holoptic.curves.many import on_paper
from holoptic.curves.paper import extent
from holoptic.curves.space import Curve, EllipticArc
from holoptic.curves.vectors import Matrix23, Vec2, Vec3, apply
from holoptic.desk.canvas.band import paint_band
from holoptic.desk.canvas.canvas import Box, Canvas, Line, paper_path, stroke_pen
from holoptic.desk.canvas.dragging import Dragger
from holoptic.desk.canvas.page_ink import draw_inks, write_words
from holoptic.desk.look.theme import (
    drafting_lettering,
    lettering,
    pen,
    px,
    theme,
)
from holoptic.desk.session.session import Session
from holoptic.job import VIEW_LINES, LineSchool, Posed
from holoptic.part import Operation
from holoptic.part.crate import Crate
from holoptic.part.marks import crate_lines, operation_lines
from holoptic.pictorial import Picture, View
from holoptic.pictorial.strokes import PickKey, Stroke
from holoptic.plan import Lift
from holoptic.plan.builder import crate_bounds
from holoptic.sheet.drawing import CAP_HEIGHT, moved
from holoptic.sheet.inking import SHORT_CROSS_MM, drawn_parts
from holoptic.sheet.size_ink import crate_sizes, size_ink
from holoptic.solid.pieces import SolidFacts
from holoptic.units import show
from holoptic.views import PlacedView
from holoptic.views.layout import layout_extent, spaced
from holoptic.views.orthographic import paper_point
from holoptic.views.sizes import Spacing, feature_sizes, overall_gap, overall_sizes

_CRATE_LETTERS, _SIZE_LETTERS = 13, 12
"""Pixels of the lettering of sizes along the crate and beside the views."""


_LAST = ("visible", "visible thin", "visible thick")
"""Visible lines are painted last, over the others, and thick ones over thin ones."""

_FILLED_MM = 0.25
_NO_PART = tr("No part on the desk yet.")
_AT_WORK = tr("This part has not been worked out yet.")
_NO_VIEWS = tr("The views appear here with the first part.")


def picture_lines(picture: Picture, school: LineSchool, origin: Vec2 = (0, 0)) -> list[Line]:
    """Return the lines of a picture as `school` has them drawn; the key of each is its edge."""
    is_view = picture.view.corner is None  # outlines are picked in the picture only
    drawn, styles, keys = [], [], []
    for stroke in picture.strokes:
        if stroke.role == "visible":
            key = None if is_view and stroke.origin.edge is None else stroke.key
            for curve, is_thick in drawn_parts(stroke, school):
                drawn.append(curve)
                styles.append(_style_of(school, is_thick))
                keys.append(key)
        elif stroke.role == "hidden" and school.hidden != "omit":
            drawn.append(stroke.drawn)
            styles.append("hidden thin" if school.hidden == "thin" else "hidden")
            keys.append(None if stroke.origin.edge is None else stroke.key)
    courses = on_paper(drawn, picture.view.matrix, origin)
    lines = [Line(*line) for line in zip(courses, styles, keys, strict=True)]
    if school.centre_lines:
        lines += [_centre_line(stroke, origin) for stroke in picture.of_role("centre")]
    lines += (Line(moved(stroke.path, origin), "fine") for stroke in picture.of_role("hatch"))
    lines += _fine_lines(picture, origin)
    return sorted(lines, key=lambda line: _LAST.index(line.style) if line.style in _LAST else -1)


def _fine_lines(picture: Picture, origin: Vec2) -> list[Line]:
    """Return lines that stand so close that they fill thin walls."""
    walls = (region for region in picture.regions if region.fill == "solid")
    return [
        Line(moved(line, origin), "fine")
        for wall in walls for line in lines_over(wall.outline, 45.0, _FILLED_MM)
    ]  # fmt: skip


def _style_of(school: LineSchool, is_thick: bool) -> str:
    if school.outline == "one-weight":
        return "visible"
    return "visible thick" if is_thick else "visible thin"


def _centre_line(stroke: Stroke, origin: Vec2) -> Line:
    path = moved(stroke.path, origin)
    is_short = math.dist(path[0], path[-1]) < SHORT_CROSS_MM
    return Line(path, "short centre" if is_short else "centre")


class _Drawn(NamedTuple):
    """What a pane shows: it asks to be refreshed more often than a picture comes."""

    picture: Picture
    school: LineSchool
    lines: list[Line]


class PicturePane(Canvas):
    """The pictorial, with the selected edge marked, and on the Carve page the crate."""

    def __init__(self, session: Session, *, with_crate: bool = False) -> None:
        super().__init__(margin=px(78) if with_crate else 40)
        self.session = session
        self.with_crate = with_crate
        self.collisions: tuple[int, ...] = ()
        self._band: tuple[Gap, ...] = ()
        self._band_scale = 1.0
        self._dragger = Dragger(session)
        self._pointer = QPointF()
        self._drawn: _Drawn | None = None
        self.empty_text = _NO_PART
        self.setAccessibleName(tr("picture"))
        session.answers.picture_changed.connect(self.refresh)
        session.selection.changed.connect(self.update)
        session.document.changed.connect(self.update)
        self.picked.connect(session.selection.select)
        self.hovered.connect(session.selection.hover)
        self.point_asked.connect(self._pick_point)

    def take_hold(self, key: int | None, place: QPointF) -> None:
        """On the Carve page: begin to drag an edge, or pick the feature that lies there."""
        if not self.with_crate:
            return
        self._dragger.press(key, place)
        feature = self.feature_at(place) if key is None else None
        if feature is not None:
            self.session.document.choose_operation(feature)

    def pull(self, place: QPointF) -> bool:
        """Drag the edge in hand."""
        self._pointer = place
        view = self.session.answers.view
        return view is not None and self._dragger.move(place, view, self.pixels_per_mm)

    def let_loose(self) -> None:
        """Let the edge go."""
        self._dragger.release()

    def _pick_point(self, place: QPointF) -> None:
        """Pick the corner or centre of the solid nearest to a place of the pane."""
        view, facts = self.session.answers.view, self.session.answers.facts
        if view is None or facts is None:
            return
        gaps = {
            point: (self.to_screen(apply(view.matrix, point)) - place).manhattanLength()
            for point in _points(facts, {line.key for line in self.lines})
        }
        nearest = min(gaps, key=lambda point: gaps[point], default=None)
        if nearest is not None and gaps[nearest] < _POINT_REACH:
            self.session.selection.pick_point(nearest)

    def showEvent(self, event: QShowEvent | None) -> None:
        """Show what changed while another page was in front."""
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        """Show the session's picture."""
        if not self.isVisible():
            return
        picture = self.session.answers.picture
        posed = self.session.document.posed
        if picture is None or posed is None:
            self.empty_text = _NO_PART if posed is None else _AT_WORK
            self.show_lines([], None)
            return
        self.faded = self.session.answers.trouble is not None
        school = posed.figure.lines
        if (
            self._drawn is None
            or self._drawn.picture is not picture
            or self._drawn.school != school
        ):
            self._drawn = _Drawn(picture, school, picture_lines(picture, school))
        self.show_lines(self._drawn.lines, self._shown_extent(picture, posed))
        self.setAccessibleDescription(self._in_words(picture))

    def _in_words(self, picture: Picture) -> str:
        """Return what is to be seen, for who does not see it."""
        facts, corner = self.session.answers.facts, picture.view.corner
        edges = {stroke.origin.edge for stroke in picture.visible}
        return tr(
            "{title} of {name}, {corner}; {seen} of {edges} edges seen",
            title=picture.view.title, name=self.session.document.title_in_hand,
            corner=corner.title if corner is not None else "–",
            seen=len(edges - {None}), edges=len(facts.edges) if facts is not None else "–",
        )  # fmt: skip

    def _shown_extent(self, picture: Picture, posed: Posed) -> Box:
        """Return what must fit: the picture, and on the Carve page its crate."""
        if not self.with_crate or self.session.answers.facts is None:
            return picture.extent
        corners = crate_lines(*crate_bounds(posed.source, self.session.answers.facts))
        places = [point for line in corners for point in line.path(picture.view.matrix)]
        xmin, ymin, xmax, ymax = picture.extent
        return extent([*places, (xmin, ymin), (xmax, ymax)])

    def paint_under(self, painter: QPainter) -> None:
        """Mark edges that fall together, the selected and the touched edge under their ink."""
        view, facts, picture = (
            self.session.answers.view,
            self.session.answers.facts,
            self.session.answers.picture,
        )
        if view is None or facts is None or picture is None:
            return
        if self.with_crate:
            self._draw_crate(painter, view, facts)
        marked: list[tuple[int | None, str]]
        marked = [(edge, "collision") for edge in self.collisions]
        marked += [(self.session.selection.edge, "selected"), (self._hovered, "hovered")]
        for edge, style in marked:
            found = picture.picked(edge, facts)
            if found is not None:
                self._draw_curve(painter, found[0], view, style)

    def _draw_crate(self, painter: QPainter, view: View, facts: SolidFacts) -> None:
        posed = self.session.document.posed
        if posed is None:
            return
        low, high = crate_bounds(posed.source, facts)
        painter.setPen(stroke_pen("crate"))
        edges = [line.path(view.matrix) for line in crate_lines(low, high)]
        self.draw_on_paper(painter, paper_path(edges))
        for size in crate_sizes(view, low, high, self._middle(), self.letter(_CRATE_LETTERS),
                                self.session.document.unit):  # fmt: skip
            draw_inks(painter, self, size.inks)
            write_words(painter, self, size.words)

    def _middle(self) -> Vec2:
        """Return what the sizes of the crate keep away from: the middle of the pane."""
        return self.to_paper(QPointF(self.rect().center()))

    def paint_over(self, painter: QPainter) -> None:
        """Mark the picked points, and the operations on the crate, the one in hand strongly."""
        self._mark_points(painter)
        if self._band:
            paint_band(painter, self, self._band, self._band_scale, self.session.document.unit)
        view, carved = self.session.answers.view, self.session.document.part
        if not self.with_crate or view is None or carved is None:
            return
        faint, strong = QPainterPath(), QPainterPath()
        for index, operation in enumerate(carved.operations):
            to = strong if index == self.session.document.operation_index else faint
            to.addPath(_marks(operation, carved.crate, view.matrix))
        for style, path in (("faint mark", faint), ("mark", strong)):
            painter.setPen(stroke_pen(style))
            self.draw_on_paper(painter, path)
        if self._dragger.is_on:
            self._dragger.paint(painter, self._pointer, view, self.pixels_per_mm)

    def feature_at(self, place: QPointF) -> int | None:
        """Return the smallest feature that is seen about a place of the pane, or None."""
        view, carved = self.session.answers.view, self.session.document.part
        if view is None or carved is None:
            return None
        spot = Point(self.to_paper(place))
        found = []
        for index, operation in enumerate(carved.operations):
            lines = operation_lines(operation, carved.crate)
            seen = MultiPoint([p for line in lines for p in line.path(view.matrix)]).convex_hull
            if seen.area > 0 and seen.contains(spot):
                found.append((seen.area, index))
        return min(found)[1] if found else None

    def show_band(self, band: tuple[Gap, ...], scale: float) -> None:
        """Show how far a drawn curve lies off the true one, magnified; `scale` is the sheet's."""
        self._band, self._band_scale = band, scale
        self.update()

    def _mark_points(self, painter: QPainter) -> None:
        view = self.session.answers.view
        if view is None or not self.session.selection.points:
            return
        places = [
            self.to_screen(apply(view.matrix, point)) for point in self.session.selection.points
        ]
        painter.setPen(pen(theme().ghost, 1.6, (6, 4)))
        if len(places) == 2:
            painter.drawLine(*places)
        painter.setPen(pen(theme().ghost, 2))
        for place in places:
            painter.drawEllipse(place, 6.0, 6.0)

    def _draw_curve(self, painter: QPainter, curve: Curve, view: View, style: str) -> None:
        self.draw_path(painter, curve.path(view.matrix), stroke_pen(style))


@lru_cache(maxsize=400)
def _marks(operation: Operation, crate: Crate, matrix: Matrix23) -> QPainterPath:
    """Return the lines that mark an operation; an edit leaves those of all others as they were."""
    return paper_path(curve.path(matrix) for curve in operation_lines(operation, crate))


_POINT_REACH = 18
"""Pixels."""


def _points(facts: SolidFacts, edges: set[int | None]) -> set[Vec3]:
    """Return the ends of some edges, and the centres of the round ones."""
    points: set[Vec3] = set()
    for edge in facts.edges:
        if edge.index in edges:
            points |= {edge.curve.start, edge.curve.end}
            if isinstance(edge.curve, EllipticArc):
                points.add(edge.curve.centre)
    return points


_VIEW_REACH = 14.0
"""Pixels about a view that still belong to it."""


class ViewsPane(Canvas):
    """The orthographic views, third angle, linked with the picture and the plan."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent, margin=44)
        self.session = session
        self.placed: tuple[PlacedView, ...] = ()
        self._gap = 0.0
        self.lift: Lift | None = None
        self._carves = True
        self._held_view: PlacedView | None = None
        self._dragger = Dragger(session)
        self._pointer = QPointF()
        self.empty_text = _NO_VIEWS
        self.setAccessibleName(tr("orthographic views"))
        session.answers.views_changed.connect(self.refresh)
        session.answers.trouble_changed.connect(self._fade)
        session.selection.changed.connect(self.update)
        session.spreads.touched_changed.connect(self.update)
        self.picked.connect(session.selection.select)
        self.hovered.connect(session.selection.hover)

    def refresh(self) -> None:
        """Show the session's views."""
        self.placed = self.session.answers.placed
        if not self.placed:
            failed = self.session.answers.failed.get("views")
            waiting = _NO_VIEWS if self.session.document.posed is None else _AT_WORK
            self.empty_text = (
                waiting if failed is None else tr("The views: {failed}.", failed=failed)
            )
            self.show_lines([], None)
            return
        self._fade()
        room = (max(size - 2 * self.inset, 1) for size in (self.width(), self.height()))
        width, height = room
        letter = px(_SIZE_LETTERS) * CAP_HEIGHT
        placed, scale = spaced(self.placed, (width, height), letter)
        self.placed = placed
        lines = [
            line for view in placed for line in picture_lines(view.picture, VIEW_LINES, view.origin)
        ]
        xmin, ymin, xmax, ymax = layout_extent(placed)
        self._gap = gap = overall_gap(letter / scale)
        self.show_lines(lines, (xmin, ymin - gap, xmax + gap, ymax))
        self.setAccessibleDescription(self._in_words())

    def _in_words(self) -> str:
        """Return which views there are, with their sizes, for who does not see them."""
        unit, told = self.session.document.unit, []
        for view in self.placed:
            xmin, ymin, xmax, ymax = view.picture.extent
            told.append(
                f"{view.picture.view.title} {show(xmax - xmin, unit)} × {show(ymax - ymin, unit)}"
            )
        return "; ".join(told)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Set the views as far apart as their names and sizes need it."""
        super().resizeEvent(event)
        self.refresh()

    def _fade(self) -> None:
        if self.faded != (self.session.answers.trouble is not None):
            self.faded = not self.faded
            self.update()

    def show_sizes_of(self, carving: bool) -> None:
        """Say whether the views carry the dimensions of the operation in hand."""
        self._carves = carving
        self.update()

    def take_hold(self, key: int | None, place: QPointF) -> None:
        """Begin to drag an edge, while the part is carved."""
        self._held_view = self._view_under(place)
        if self._carves and self._held_view is not None:
            self._dragger.press(key, place)

    def pull(self, place: QPointF) -> bool:
        """Drag the edge in hand."""
        self._pointer = place
        view = self._held_view
        return view is not None and self._dragger.move(place, view.picture.view, self.pixels_per_mm)

    def let_loose(self) -> None:
        """Let the edge go."""
        self._dragger.release()

    def _view_under(self, place: QPointF) -> PlacedView | None:
        """Return the view that lies under a place of the pane, or next to it."""
        x, y = self.to_paper(place)

        def off(view: PlacedView) -> float:
            xmin, ymin, xmax, ymax = view.extent
            return max(xmin - x, x - xmax, ymin - y, y - ymax, 0.0)

        near = min(self.placed, key=off, default=None)
        return near if near is not None and off(near) * self.pixels_per_mm < _VIEW_REACH else None

    def show_lift(self, lift: Lift | None) -> None:
        """Light up the span where a distance is lifted, or nothing."""
        if lift is not self.lift:
            self.lift = lift
            self.update()

    def paint_under(self, painter: QPainter) -> None:
        """Mark the selected edge in every view; of an arrangement the parts touched and chosen."""
        facts, edge = self.session.answers.facts, self.session.selection.edge
        if self.session.document.arrangement is not None:
            self._mark_bodies(painter)
            return
        chosen = [(edge, "selected"), (self._hovered, "hovered")]
        for key, style in chosen:
            if facts is None or key is None or not 0 <= key < len(facts.edges):
                continue
            curve = facts.edges[key].curve
            for placed in self.placed:
                self._mark(painter, curve, placed, style)

    def _mark_bodies(self, painter: QPainter) -> None:
        spreads, edge = self.session.spreads, self.session.selection.edge
        chosen = None if spreads.chosen is None else spreads.number_of(spreads.chosen)
        for line in self.lines:
            key = line.key
            if not isinstance(key, PickKey):
                continue
            is_chosen = key.body == chosen if spreads.is_wanted else key == edge
            is_touched = key.body == spreads.touched if spreads.is_wanted else key == self._hovered
            if is_chosen or is_touched:
                style = "selected" if is_chosen else "hovered"
                self.draw_path(painter, line.path, stroke_pen(style))

    def paint_over(self, painter: QPainter) -> None:
        """Name the views, write the overall sizes, light up what is lifted."""
        placed = {view.name: view for view in self.placed}
        if not placed:
            return
        self._name_views(painter, placed)
        self._paint_sizes(painter)
        if self._dragger.is_on and self._held_view is not None:
            self._dragger.paint(painter, self._pointer, self._held_view.picture.view,
                                self.pixels_per_mm)  # fmt: skip
        if self.lift is not None:
            self._draw_lift(painter, placed[self.lift.view], self.lift)

    def _mark(self, painter: QPainter, curve: Curve, placed: PlacedView, style: str) -> None:
        path = [self._in_layout(placed, p) for p in curve.path(placed.picture.view.matrix)]
        self.draw_path(painter, path, stroke_pen(style))
        ends = [self.to_screen(point) for point in path]
        if max((end - ends[0]).manhattanLength() for end in ends) < 2:  # seen end-on: a dot
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(stroke_pen(style).color())
            painter.drawEllipse(ends[0], 6.0, 6.0)
            painter.setBrush(Qt.BrushStyle.NoBrush)

    def _in_layout(self, placed: PlacedView, point: Vec2) -> Vec2:
        return point[0] + placed.origin[0], point[1] + placed.origin[1]

    def _name_views(self, painter: QPainter, placed: dict[str, PlacedView]) -> None:
        painter.setFont(drafting_lettering(13))
        painter.setPen(QColor(theme().hidden_ink))
        for view in placed.values():
            xmin, _, xmax, ymax = view.extent
            corner, end = self.to_screen((xmin, ymax)), self.to_screen((xmax, ymax))
            title = view.picture.view.title
            if painter.fontMetrics().horizontalAdvance(title) > end.x() - corner.x() + 12:
                title = tr(view.name)
            painter.drawText(round(corner.x()), round(corner.y()) - 8, title)

    def _paint_sizes(self, painter: QPainter) -> None:
        """Paint the overall sizes, and on the Carve page those of the operation in hand."""
        document, box = self.session.document, self.session.answers.views_box
        letter = self.letter(_SIZE_LETTERS)
        lines = []
        if box is not None:
            lines += overall_sizes(self.placed, *box, self._gap, document.unit)
        if self._carves and document.part is not None:
            spacing = Spacing(letter, *self.to_paper(QPointF(0, 0)))
            lines += feature_sizes(document.part, document.operation_index, self.placed, spacing,
                                   document.unit)  # fmt: skip
        for line in lines:
            drawn = size_ink(line, letter)
            draw_inks(painter, self, drawn.inks)
            write_words(painter, self, drawn.words)

    def _draw_lift(self, painter: QPainter, placed: PlacedView, lift: Lift) -> None:
        ends = [
            self.to_screen(self._in_layout(placed, paper_point(lift.view, point)))
            for point in (lift.start, lift.end)
        ]
        # the view's name stands over its upper edge: there the letters go below the line
        upper = self.to_screen((0, placed.extent[3])).y()
        aside = 15 if min(end.y() for end in ends) - upper < 20 else -15
        painter.setPen(stroke_pen("lift"))
        painter.drawLine(*ends)
        painter.setPen(pen(theme().lift, 2))
        painter.setBrush(QColor(theme().paper))
        for place in ends:
            painter.drawEllipse(place, 5.0, 5.0)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setFont(lettering(14, bold=True))
        for name, place in zip("ab", ends, strict=True):
            self._chip(painter, name, place + QPointF(12, aside))
        figure = show(lift.true_mm, self.session.document.unit)
        self._chip(painter, figure, (ends[0] + ends[1]) / 2 + QPointF(20, aside))

    def _chip(self, painter: QPainter, words: str, centre: QPointF) -> None:
        """Write words on a piece of paper of their own, so that no line runs through them."""
        box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-4, -1, 4, 1)
        box.moveCenter(centre)
        painter.fillRect(box, QColor(theme().paper))
        painter.setPen(QColor(theme().lift))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)


def small_picture(picture: Picture, lines: LineSchool) -> list[Line]:
    """Return the lines of a picture that is shown small, not to be touched."""
    plain = replace(lines, centre_lines=False)
    return [Line(line.course, line.style) for line in picture_lines(picture, plain)]
