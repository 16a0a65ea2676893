"""Draw: the paper as it stands, the next stroke ghosted, the card, the strip of moves."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPolygonF, QShortcut
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from holoptic.curves.paper import extent
from holoptic.desk.canvas import Box, Canvas, Line
from holoptic.desk.move_strip import MoveStrip
from holoptic.desk.panes import ViewsPane
from holoptic.desk.session import Session
from holoptic.desk.setting_card import SettingCard, card_text
from holoptic.desk.theme import drafting_lettering, lettering, pen, shade, theme
from holoptic.plan import Drafter, Move, Plan
from holoptic.plan.moves import BORDER_LINE, bears_letter
from holoptic.plan.shapes import instrument_shapes
from holoptic.sheet import Paper
from holoptic.sheet.sheets import FILING_MARGIN_MM, MARGIN_MM

_ROOM_MM = 22.0


class DrawingPaper(Canvas):
    """The sheet on the board: coordinates in mm from the lower left border corner."""

    def __init__(self) -> None:
        super().__init__(margin=18)
        self.touchable = False
        self.setAccessibleName("drawing paper")
        self.empty_text = "No plan yet: describe a part on the Carve page first."
        self._paper: Paper | None = None
        self._plan: Plan | None = None
        self._move: Move | None = None
        self._before = Drafter()
        self._after = Drafter()
        self._whole = Drafter()

    def show_state(self, plan: Plan, paper: Paper, drafted: Drafter, at: int) -> None:
        """Show the paper after `at` moves; `drafted` is how it stands in the end."""
        if self._paper != paper:
            self._paper = paper
            self.show_lines([], None)
        self._move = plan.moves[at] if at < len(plan.moves) else None
        self._plan, self._whole = plan, drafted
        self._before = drafted.as_after(plan.moves[:at])
        self._after = drafted.as_after(plan.moves[: at + 1])
        whole = self._move is not None and self._move.phase == "start"
        self.show_lines(self._paper_lines(), self._sheet_box() if whole else self._work_box())

    def clear(self) -> None:
        """Show that there is no plan."""
        self._paper = self._move = None
        self.show_lines([], None)

    def _sheet_box(self) -> Box | None:
        if self._paper is None:
            return None
        return (
            -FILING_MARGIN_MM, -MARGIN_MM,
            self._paper.width - FILING_MARGIN_MM, self._paper.height - MARGIN_MM,
        )  # fmt: skip

    def _work_box(self) -> Box:
        """Return what is worked on: all points with room about them for the instruments."""
        moves = self._plan.moves if self._plan else ()
        at_figure = self._move is not None and self._move.phase.startswith("figure")
        shown = {
            name for move in moves for name in move.makes
            if move.phase.startswith("figure") == at_figure
        }  # fmt: skip
        points = self._whole.points
        places = [points[name] for name in points if name in shown and bears_letter(name)]
        xmin, ymin, xmax, ymax = extent(places)
        return xmin - _ROOM_MM, ymin - _ROOM_MM, xmax + _ROOM_MM, ymax + _ROOM_MM

    def _paper_lines(self) -> list[Line]:
        lines = [
            Line(self._whole.drawn_span(name), "light")
            for name in self._before.lines
            if name != BORDER_LINE
        ]
        lines += [Line(path, "light") for path in self._before.curve_paths.values()]
        return lines + [Line(path, "visible") for path in self._before.strokes.values()]

    def paint_paper(self, painter: QPainter) -> None:
        """Paint the sheet on the board, with its border."""
        painter.fillRect(self.rect(), QColor(theme().desk))
        box = self._sheet_box()
        if box is None or self._paper is None:
            painter.fillRect(self.rect(), QColor(theme().paper))
            return
        sheet = QRectF(self.to_screen((box[0], box[3])), self.to_screen((box[2], box[1])))
        painter.fillRect(sheet.translated(3, 4), shade("#000000", 40))
        painter.fillRect(sheet, QColor(theme().paper))
        self._paint_scrap(painter)
        inner = QRectF(
            self.to_screen((0, box[3] - MARGIN_MM)), self.to_screen((box[2] - MARGIN_MM, 0))
        )
        painter.setPen(pen(theme().ink, 1.4))
        painter.drawRect(inner)

    def _paint_scrap(self, painter: QPainter) -> None:
        """Paint a piece of paper under auxiliary figures that found no room on the sheet."""
        box = self._sheet_box()
        beside = [p for p in self._before.points.values() if box and p[0] > box[2]]
        if beside:
            xmin, ymin, xmax, ymax = extent(beside)
            corners = (xmin - _ROOM_MM, ymax + _ROOM_MM), (xmax + _ROOM_MM, ymin - _ROOM_MM)
            painter.fillRect(QRectF(*map(self.to_screen, corners)), QColor(theme().paper))

    def paint_over(self, painter: QPainter) -> None:
        """Lay on the points, the ghost of the next stroke, and the instruments."""
        if self._paper is None:
            return
        move = self._move
        if move is not None:
            self._paint_instruments(painter, move)
            self._paint_ghost(painter, move)
        self._paint_points(painter)

    def _paint_instruments(self, painter: QPainter, move: Move) -> None:
        for item in instrument_shapes(move, self._before, self._after):
            outline = QPolygonF([self.to_screen(point) for point in item.path])
            if item.closed:
                painter.setPen(pen(theme().glass, 1.2, alpha=190))
                painter.setBrush(shade(theme().glass, 38))
                painter.drawPolygon(outline)
                painter.setBrush(Qt.BrushStyle.NoBrush)
            else:
                painter.setPen(pen(theme().glass, 3.4, alpha=230))
                painter.drawPolyline(outline)

    def _paint_ghost(self, painter: QPainter, move: Move) -> None:
        """Show what the next move makes, dashed."""
        ghost = pen(theme().ghost, 2.2, (6, 3))
        if move.makes and move.makes[0] in self._after.curve_paths:
            self.draw_path(painter, self._after.curve_paths[move.makes[0]], ghost)
        elif move.makes and move.makes[0] in self._after.lines:
            self.draw_path(painter, self._whole.drawn_span(move.makes[0]), ghost)
        elif move.verb == "set off":
            span = self._before.points[move.uses[0]], self._after.points[move.makes[0]]
            self.draw_path(painter, span, pen(theme().lift, 4, alpha=200))
        elif move.verb == "firm in":
            self.draw_path(painter, self._after.strokes[move.makes[0]], pen(theme().ghost, 4))
        elif move.verb == "check":
            ends = [self._before.points[name] for name in move.uses]
            self.draw_path(painter, ends, pen(theme().lift, 3, (8, 4)))

    def _paint_points(self, painter: QPainter) -> None:
        """Name the points: those of this move large, those it makes as ghosts, the rest small."""
        move = self._move
        used = {name for name in move.uses if name in self._before.points} if move else set()
        made = {name for name in move.makes if name in self._after.points} if move else set()
        finished = move is None
        for name, place in self._after.points.items():
            if not bears_letter(name):
                continue
            at = self.to_screen(place)
            if name in made:
                self._paint_letter(painter, at, name, theme().ghost, 15)
            elif name in used:
                self._paint_letter(painter, at, name, theme().ink, 15)
            elif not finished:
                self._paint_letter(painter, at, name, theme().light_ink, 10)

    def _paint_letter(
        self, painter: QPainter, at: QPointF, name: str, colour: str, size: int
    ) -> None:
        large = size > 12
        painter.setFont(lettering(size, bold=True) if large else drafting_lettering(size + 1))
        painter.setPen(QColor(colour))
        painter.setBrush(QColor(colour))
        radius = 3.2 if large else 1.6
        painter.drawEllipse(at, radius, radius)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        place = at + QPointF(5, -5)
        if large:  # letters in hand stand clear of the lines
            box = QRectF(painter.fontMetrics().boundingRect(name)).translated(place)
            painter.fillRect(box.adjusted(-2, -1, 2, 1), shade(theme().paper, 205))
            painter.setPen(QColor(colour))
        painter.drawText(place, name)


class DrawPage(QWidget):
    """Paper, card and strip; space draws the next move, back takes it up again."""

    def __init__(self, session: Session, views: ViewsPane) -> None:
        super().__init__()
        self.session = session
        self.views = views
        self.at = 0
        self.paper = DrawingPaper()
        self.card = SettingCard()
        self.strip = MoveStrip()
        self.strip.jumped.connect(self.go_to)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.paper, 1)
        layout.addWidget(self.card)
        layout.addWidget(self.strip)
        for keys, step in (
            (("Space", "Right", "Return"), 1), (("Backspace", "Left"), -1),
        ):  # fmt: skip
            for key in keys:
                QShortcut(key, self).activated.connect(lambda step=step: self.go_to(self.at + step))
        QShortcut("Home", self).activated.connect(lambda: self.go_to(0))
        QShortcut("End", self).activated.connect(lambda: self.go_to(10**6))
        QShortcut("PgDown", self).activated.connect(lambda: self._go_phase(1))
        QShortcut("PgUp", self).activated.connect(lambda: self._go_phase(-1))
        session.picture_changed.connect(self.refresh)
        session.plan_changed.connect(self.refresh)

    def go_to(self, index: int) -> None:
        """Show the paper with `index` moves done."""
        made = self.session.planned
        if made is not None:
            self.at = max(0, min(index, len(made.plan.moves)))
            self.refresh()

    def _go_phase(self, way: int) -> None:
        made = self.session.planned
        if made is None:
            return
        starts = [first for _, first, _ in made.plan.phases] + [len(made.plan.moves)]
        beyond = [s for s in starts if (s > self.at if way > 0 else s < self.at)]
        if beyond:
            self.go_to(min(beyond) if way > 0 else max(beyond))

    def refresh(self) -> None:
        """Show the plan of the picture on the desk."""
        if not self.isVisible():
            return
        made = self.session.planned
        if made is None:
            self.paper.clear()
            self.card.show_text(None, "")
            self.strip.show_plan(None, 0)
            self.views.show_lift(None)
            return
        plan, paper = made.plan, made.paper
        self.at = min(self.at, len(plan.moves))
        self.paper.show_state(plan, paper, made.drafted, self.at)
        count = f"{self.at} of {len(plan.moves)} moves done"
        self.card.show_text(card_text(plan, self.at, self.session.job.unit), count)
        self.strip.show_plan(plan, self.at)
        move = plan.moves[self.at] if self.at < len(plan.moves) else None
        self.views.show_lift(move.lift if move else None)
