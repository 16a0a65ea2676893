"""The sheet on the board: what is drawn, the next stroke as a ghost, the instruments."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPolygonF

from holoptic.catalogue import tr
from holoptic.curves.paper import extent
from holoptic.desk.canvas.canvas import Box, Canvas, Line, ink_style
from holoptic.desk.canvas.layer import Layer
from holoptic.desk.canvas.page_ink import write_words
from holoptic.desk.look.theme import drafting_lettering, lettering, pen, shade, theme
from holoptic.plan import Drafter, Move, Plan
from holoptic.plan.instruments import COMPASS, DIVIDERS
from holoptic.plan.lying_instruments import Board, instrument_shapes
from holoptic.plan.moves import bears_letter
from holoptic.plan.numbering import lettered_numbers
from holoptic.plan.rubbing import to_rub_out
from holoptic.plan.showing import (
    lettered_places,
    letters_in_sight,
    light_lines,
    needs_whole_sheet,
    thin_strokes,
)
from holoptic.sheet import Paper
from holoptic.sheet.by_hand import head_outline, words_of
from holoptic.sheet.drawing import Ink, moved, rectangle
from holoptic.sheet.frames import frame_of, title_corner
from holoptic.units import Unit, show

_ROOM_MM = 22.0
_RING_STEPS = (1, 2, 5, 10, 20, 50, 100)
_LARGEST_RING = 34.0
"""Pixels."""


class DrawingPaper(Canvas):
    """The sheet on the board: coordinates in mm from the lower left border corner."""

    def __init__(self) -> None:
        super().__init__(margin=18)
        self.touchable = False
        self.setAccessibleName(tr("drawing paper"))
        self.empty_text = tr("No plan yet: describe a part on the Carve page first.")
        self.unit = Unit.MM
        self.left_handed = False
        self.shows_light = True
        self.shows_errors = False
        self.is_asking = False
        """Whether it shows the whole drawing, to be told which of it stands already."""
        self.asked: list[str] = []
        self.rubbed: frozenset[str] = frozenset()
        """The light lines to be rubbed out before the next move."""
        self._paper: Paper | None = None
        self._plan: Plan | None = None
        self._move: Move | None = None
        self._before = Drafter()
        self._after = Drafter()
        self._whole = Drafter()
        self._light: list[str] = []
        self._thin: dict[str, str] = {}
        self._known: dict[str, Line] = {}
        self._letters = Layer(self._draw_letters)
        self._earlier: list[Line] = []

    def show_earlier(self, inks: Iterable[Ink], paper: Paper) -> None:
        """Show drawings that were made before this plan, in mm from the page's corner."""
        frame = frame_of(paper)
        corner = (-frame.left, -frame.low)
        self._earlier = [Line(moved(ink.path, corner), ink_style(ink)) for ink in inks]

    def show_state(
        self, plan: Plan, paper: Paper, drafted: Drafter, at: int,
        stands: Collection[str] = (), skipped: Collection[int] = (),
    ) -> None:  # fmt: skip
        """Show the paper after `at` moves; `drafted` is how it stands in the end.

        The moves at the places `skipped` were not done, but some names stand without them.
        """
        if self._paper != paper:
            self._paper = paper
            self.show_lines([], None)
        if plan is not self._plan:
            self._take_plan(plan, drafted)
        self._move = plan.moves[at] if at < len(plan.moves) else None
        self._plan, self._whole = plan, drafted
        self.rubbed = to_rub_out(plan, drafted, at)
        done = [move for index, move in enumerate(plan.moves[:at]) if index not in skipped]
        self._before = drafted.as_after(done, stands)
        self._after = drafted.as_after([*done, *plan.moves[at : at + 1]], stands)
        whole = needs_whole_sheet(plan, at)
        box = self._sheet_box() if whole else self._work_box(plan, at)
        light, firm = self._paper_lines(plan, paper)
        self.touchable = self.is_asking
        if self.is_asking:
            box, light = self._work_box(plan, len(plan.moves)), []
            firm = self._asked_lines(plan, stands)
        self.show_lines(light, box, over=firm)
        shown = letters_in_sight(plan, at)
        strokes, points = len(self._before.strokes), len(self._before.points)
        self.setAccessibleDescription(
            tr("{strokes} strokes and {points} points on the paper", strokes=strokes, points=points)
        )
        self._letters.show([
            name for name in self._before.points
            if bears_letter(name) and (shown is None or name in shown)
        ])  # fmt: skip

    def _asked_lines(self, plan: Plan, stands: Collection[str]) -> list[Line]:
        """Return all strokes of the drawing to be touched, dark what stands already."""
        self.asked = [move.makes[0] for move in plan.moves
                      if move.verb == "firm in" and move.phase != "sheet"]  # fmt: skip
        strokes = self._whole.strokes
        return [Line(strokes[name], "visible" if name in stands else "hidden", key)
                for key, name in enumerate(self.asked)]  # fmt: skip

    def clear(self, why: str = "") -> None:
        """Show that there is no plan, and why."""
        if why:
            self.empty_text = why
        self._paper = self._move = self._plan = None
        self.show_lines([], None)

    def _sheet_box(self) -> Box | None:
        if self._paper is None:
            return None
        frame = frame_of(self._paper)
        return (
            -frame.left, -frame.low, self._paper.width - frame.left, self._paper.height - frame.low,
        )  # fmt: skip

    def _work_box(self, plan: Plan, at: int) -> Box:
        """Return what is worked on: all points with room about them for the instruments.

        What the move itself uses and makes is in sight even where it lies aside.
        """
        places = lettered_places(plan, self._whole, at)
        if self._move is not None:
            names = (*self._move.uses, *self._move.makes)
            places += [self._whole.points[name] for name in names if name in self._whole.points]
        xmin, ymin, xmax, ymax = extent(places)
        return xmin - _ROOM_MM, ymin - _ROOM_MM, xmax + _ROOM_MM, ymax + _ROOM_MM

    def _take_plan(self, plan: Plan, drafted: Drafter) -> None:
        """Note what the plan draws, in the order in which it does."""
        light = {*light_lines(plan, drafted), *drafted.curve_paths}
        made = [name for move in plan.moves for name in move.makes]
        self._light = [name for name in made if name in light]
        self._thin = thin_strokes(plan)
        self._known = {}

    def _paper_lines(self, plan: Plan, paper: Paper) -> tuple[list[Line], list[Line]]:
        """Return the light lines and the firm ones, in the order in which they were drawn."""
        before = self._before
        light = list(_printed_frame(paper)) if plan.setup.blank is None else []
        light += self._earlier
        if self.shows_light:
            light += [
                Line(self._line(name, "light").course, "crate") if name in self.rubbed
                else self._line(name, "light")
                for name in self._light
                if name in before.lines or name in before.curve_paths
            ]  # fmt: skip
        return light, [self._line(name, self._thin.get(name, "visible")) for name in before.strokes]

    def _line(self, name: str, style: str) -> Line:
        """Return a line as it is shown; the same each time, so that it is painted once."""
        if name not in self._known:
            whole = self._whole
            path = whole.strokes.get(name) or whole.curve_paths.get(name)
            self._known[name] = Line(path or whole.drawn_span(name), style)
        return self._known[name]

    # --- painting ---------------------------------------------------------------------------

    def paint_paper(self, painter: QPainter) -> None:
        """Paint the sheet on the board."""
        painter.fillRect(self.rect(), QColor(theme().desk))
        box = self._sheet_box()
        if box is None:
            painter.fillRect(self.rect(), QColor(theme().paper))
            return
        sheet = QRectF(self.to_screen((box[0], box[3])), self.to_screen((box[2], box[1])))
        painter.fillRect(sheet.translated(3, 4), shade("#000000", 40))
        painter.fillRect(sheet, QColor(theme().paper))
        self._paint_scrap(painter, box)

    def _paint_scrap(self, painter: QPainter, box: Box) -> None:
        """Paint a piece of paper under auxiliary figures that found no room on the sheet."""
        beside = [p for p in self._before.points.values() if p[0] > box[2]]
        if beside:
            xmin, ymin, xmax, ymax = extent(beside)
            corners = (xmin - _ROOM_MM, ymax + _ROOM_MM), (xmax + _ROOM_MM, ymin - _ROOM_MM)
            painter.fillRect(QRectF(*map(self.to_screen, corners)), QColor(theme().paper))

    def paint_over(self, painter: QPainter) -> None:
        """Lay on the points, the ghost of the next stroke, and the instruments."""
        if self._paper is None:
            return
        if self.is_asking:
            return
        if self._move is not None:
            self._paint_instruments(painter, self._move)
            self._paint_ghost(painter, self._move)
        if self.shows_errors:
            self._paint_errors(painter)
        self._paint_numbers(painter)
        self._paint_lettering(painter)
        self._paint_points(painter)

    def _paint_numbers(self, painter: QPainter) -> None:
        """Letter the numbers of parts into their circles."""
        numbers = self._plan.setup.numbers if self._plan is not None else ()
        for one in lettered_numbers(numbers, self._before.strokes):
            size = one.radius * self.pixels_per_mm
            box = QRectF(-size, -size, 2 * size, 2 * size)
            box.moveCenter(self.to_screen(one.middle))
            # the light upright is rubbed out where the number stands
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(theme().paper))
            painter.drawEllipse(box.center(), 0.8 * size, 0.8 * size)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setFont(drafting_lettering(1.3 * size))
            painter.setPen(QColor(theme().ink))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(one.number))

    def _paint_lettering(self, painter: QPainter) -> None:
        """Paint heads and lettering that stand there; those that come next as ghosts."""
        coming = set(self._move.makes) if self._move is not None else set()
        for paper, names, colour in (
            (self._before, None, theme().ink), (self._after, coming, theme().ghost),
        ):  # fmt: skip
            for name, (tip, angle) in paper.heads.items():
                if names is None or name in names:
                    outline = [self.to_screen(point) for point in head_outline(name, tip, angle)]
                    painter.setPen(Qt.PenStyle.NoPen)
                    painter.setBrush(QColor(colour))
                    painter.drawPolygon(QPolygonF(outline))
                    painter.setBrush(Qt.BrushStyle.NoBrush)
            for name, letters in paper.letters.items():
                if names is None or name in names:
                    write_words(painter, self, words_of(letters), colour)

    def _paint_instruments(self, painter: QPainter, move: Move) -> None:
        box = self._sheet_box()
        board = Board.about(box, self.left_handed) if box else Board()
        shapes = instrument_shapes(move, self._before, self._whole, board)
        for item in shapes:
            outline = QPolygonF([self.to_screen(point) for point in item.path])
            if item.closed:
                painter.setPen(pen(theme().glass, 1.2, alpha=190))
                painter.setBrush(shade(theme().glass, 38))
                painter.drawPolygon(outline)
                painter.setBrush(Qt.BrushStyle.NoBrush)
            else:
                is_tick = self.pixels_per_mm and len(item.path) == 2 and move.instrument not in (
                    COMPASS, DIVIDERS,
                )  # fmt: skip
                painter.setPen(pen(theme().glass, 1.2 if is_tick else 3.4, alpha=230))
                painter.drawPolyline(outline)
            if item.label:
                painter.setFont(lettering(11, bold=True))
                painter.drawText(outline[0] + QPointF(3, 3), item.label)
        if move.instrument in (COMPASS, DIVIDERS) and move.setting_mm is not None and shapes:
            self._paint_span(painter, self.to_screen(shapes[0].path[1]), move.setting_mm)

    def _paint_span(self, painter: QPainter, hinge: QPointF, setting: float) -> None:
        """Write the span beside the hinge of compass or dividers."""
        words = show(setting, self.unit)
        painter.setFont(lettering(13, bold=True))
        box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-4, -1, 4, 1)
        box.moveCenter(hinge + QPointF(12 + box.width() / 2, 0))
        painter.fillRect(box, shade(theme().paper, 215))
        painter.setPen(QColor(theme().glass).darker(150))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    def _paint_ghost(self, painter: QPainter, move: Move) -> None:
        """Show what the next move makes, dashed."""
        ghost = pen(theme().ghost, 2.2, (6, 3))
        lift = pen(theme().lift, 4, alpha=200)
        if move.verb == "lay":
            box = self._sheet_box()
            if box is not None:
                corners = rectangle(*box, "border", 1.0).path
                self.draw_path(painter, corners, ghost)
        elif move.makes and move.makes[0] in self._after.curve_paths:
            self.draw_path(painter, self._after.curve_paths[move.makes[0]], ghost)
        elif move.makes and move.makes[0] in self._after.lines:
            for name in move.makes:
                if name in self._after.lines:
                    self.draw_path(painter, self._whole.drawn_span(name), ghost)
        elif move.verb in ("set off", "swing"):
            start = self._before.points[move.uses[0]]
            for name in move.makes:
                self.draw_path(painter, (start, self._after.points[name]), lift)
        elif move.verb in ("firm in", "go over", "shade"):
            width = 4 if move.verb == "firm in" else 2
            for name in move.makes:
                self.draw_path(painter, self._after.strokes[name], pen(theme().ghost, width))
        elif move.verb == "check":
            ends = [self._before.points[name] for name in move.uses]
            self.draw_path(painter, ends, pen(theme().lift, 3, (8, 4)))

    # --- errors -----------------------------------------------------------------------------

    def _paint_errors(self, painter: QPainter) -> None:
        """Draw a ring about each point, as large as its error to expect, magnified."""
        budget = self._plan.budget if self._plan else None
        if budget is None or not budget.points:
            return
        factor = ring_factor(budget.worst[1], self.pixels_per_mm)
        for name, error in budget.points.items():
            if name not in self._after.points:
                continue
            is_worst = error > 0.9 * budget.worst[1]
            colour = theme().ghost if is_worst else theme().lift
            painter.setPen(pen(colour, 2.4 if is_worst else 1.4))
            painter.setBrush(shade(colour, 40 if is_worst else 22))
            size = factor * error * self.pixels_per_mm
            painter.drawEllipse(self.to_screen(self._after.points[name]), size, size)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        words = tr("rings: error to expect × {factor:g}, the worst strong", factor=factor)
        painter.setFont(lettering(12))
        box = QRectF(painter.fontMetrics().boundingRect(words)).adjusted(-6, -3, 6, 3)
        box.moveBottomLeft(QPointF(10, self.height() - 8))
        painter.fillRect(box, shade(theme().paper, 225))
        painter.setPen(QColor(theme().ink))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)

    # --- points -----------------------------------------------------------------------------

    def _paint_points(self, painter: QPainter) -> None:
        """Name the points: those of this move large, those it makes as ghosts, the rest small."""
        move = self._move
        if move is None:
            return
        if self.shows_light:
            self.paint_layer(painter, self._letters)
        used = [name for name in move.uses if name in self._before.points]
        made = [name for name in move.makes if name in self._after.points]
        named = {
            name: self.to_screen(self._after.points[name])
            for name in (*used, *made) if bears_letter(name)
        }  # fmt: skip
        for at in named.values():  # the small letters there, before any large one is written
            painter.fillRect(QRectF(at.x() - 2, at.y() - 18, 22, 20), shade(theme().paper, 230))
        taken: list[QRectF] = []
        for name, at in named.items():
            colour = theme().ghost if name in made else theme().ink
            taken.append(self._paint_large(painter, at, name, colour, taken))

    def _draw_letters(self, painter: QPainter, names: Sequence[str]) -> None:
        """Draw points with their letters, small."""
        painter.setFont(drafting_lettering(11))
        painter.setPen(QColor(theme().light_ink))
        painter.setBrush(QColor(theme().light_ink))
        for name in names:
            at = self.to_screen(self._whole.points[name])
            painter.drawEllipse(at, 1.6, 1.6)
            painter.drawText(at + QPointF(5, -5), name)

    def _paint_large(
        self, painter: QPainter, at: QPointF, name: str, colour: str, taken: list[QRectF]
    ) -> QRectF:
        """Name a point clear of the names that stand already; return the room of its name."""
        painter.setFont(lettering(15, bold=True))
        painter.setPen(QColor(colour))
        painter.setBrush(QColor(colour))
        painter.drawEllipse(at, 3.2, 3.2)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        letters = QRectF(painter.fontMetrics().boundingRect(name))
        left, below = -5 - letters.width(), 5 + letters.height()
        places = [at + QPointF(*off) for off in ((5, -5), (left, -5), (5, below), (left, below))]
        place = next(
            (p for p in places if not any(letters.translated(p).intersects(r) for r in taken)),
            places[0],
        )
        box = letters.translated(place)
        # letters in hand stand clear of the lines
        painter.fillRect(box.adjusted(-2, -1, 2, 1), shade(theme().paper, 205))
        painter.setPen(QColor(colour))
        painter.drawText(place, name)
        return box


def ring_factor(worst_mm: float, pixels_per_mm: float) -> float:
    """Return the round factor that keeps the largest ring of error small enough."""
    fitting = [f for f in _RING_STEPS if f * worst_mm * pixels_per_mm <= _LARGEST_RING]
    return float(max(fitting, default=_RING_STEPS[0]))


def _printed_frame(paper: Paper) -> list[Line]:
    """Return border and title block as they are printed on a sheet."""
    frame = frame_of(paper)
    width, height = frame.inner
    x, y = title_corner(paper)
    right, top = x - frame.left, y - frame.low
    boxes = (0.0, 0.0, width, height), (right - frame.title_width, 0.0, right, top)
    return [Line(rectangle(*box, "border", 1.0).path, "visible thin") for box in boxes]
