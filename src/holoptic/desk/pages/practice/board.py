"""The board: the figures of an exercise, what is drawn and chosen on them, and the marks."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from PyQt6.QtCore import QEvent, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPolygonF, QResizeEvent

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.desk.canvas.canvas import Canvas
from holoptic.desk.canvas.page_ink import draw_inks, fill_region, write_words
from holoptic.desk.look.theme import lettering, pen, px, shade, theme
from holoptic.desk.pages.practice.answers import Answering, Chosen, Marked, Sketch, Stack, answering
from holoptic.desk.pages.practice.laying_out import (
    PLAN_MM,
    Layout,
    OnBoard,
    dot_near,
    laid_out,
)
from holoptic.practice.exercise import Dot, Exercise, Figure, Lines, Step
from holoptic.practice.marking import Mark
from holoptic.practice.marking import Marked as Outcome
from holoptic.practice.sketching import LETTERS, joined, moved

_WAYS = {
    Qt.Key.Key_Left: "left", Qt.Key.Key_Right: "right", Qt.Key.Key_Up: "up",
    Qt.Key.Key_Down: "down", Qt.Key.Key_Home: "up left", Qt.Key.Key_PageUp: "up right",
    Qt.Key.Key_End: "down left", Qt.Key.Key_PageDown: "down right",
}  # fmt: skip
_PEN_KEYS = (Qt.Key.Key_Space, Qt.Key.Key_Backspace, Qt.Key.Key_D)
_DOT_PIXELS, _NEAR_PIXELS, _RING_PIXELS = 1.7, 20.0, 17.0
_CAPTION_PIXELS = 120
_FIRM_PIXELS, _THIN_PIXELS = 3.0, 1.6
_MARGIN = 26
_EMPTY = Layout((), (0.0, 0.0, 1.0, 1.0))


class ExerciseBoard(Canvas):
    """Shows an exercise and takes what is drawn and chosen on it.

    Signals:
        answered: something on the board is another now.
    """

    answered = pyqtSignal()

    def __init__(self) -> None:
        super().__init__(margin=_MARGIN)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(tr("exercise"))
        self.setAccessibleDescription(tr("An exercise is being made …"))
        self.exercise: Exercise | None = None
        self.hand: Answering | None = None
        self._layout = _EMPTY
        self._outcome: Outcome | None = None
        self._extra: tuple[Figure, ...] = ()
        self._is_over = False
        self._from: Dot | None = None
        self._to: Dot | None = None

    # --- content ----------------------------------------------------------------------------

    def show_exercise(self, exercise: Exercise | None) -> None:
        """Show another exercise, with nothing answered yet."""
        self.exercise = exercise
        self.hand = answering(exercise.asked) if exercise is not None else None
        self._outcome, self._extra, self._is_over = None, (), False
        self._from = self._to = None
        self._lay_out()

    def show_figures(self, figures: tuple[Figure, ...]) -> None:
        """Show other figures of the exercise; what was answered stays."""
        if self.exercise is not None:
            self.exercise = replace(self.exercise, figures=figures)
            self._lay_out()

    def show_outcome(self, outcome: Outcome | None, *, is_over: bool) -> None:
        """Show how the answer was marked; once all is over what shows the reason stands there."""
        self._outcome = outcome
        if is_over and not self._is_over and self.exercise is not None:
            self._extra = self.exercise.shown
        self._is_over = is_over
        self._lay_out()

    def _lay_out(self) -> None:
        if self.exercise is None:
            self._layout = _EMPTY
            self.show_lines([], None)
            return
        ratio = max(self.width() - 2 * self.inset, 1) / max(self.height() - 2 * self.inset, 1)
        exercise = self.exercise
        if self._extra:
            exercise = replace(exercise, figures=(*exercise.figures, *self._extra))
        self._layout = laid_out(exercise, ratio)
        self.show_lines([], self._layout.extent)
        self.fit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Lay out anew for another shape of the board."""
        super().resizeEvent(event)
        self._lay_out()

    @property
    def sheet(self) -> OnBoard | None:
        """The figure that is drawn on, or whose places are marked."""
        asked = self.exercise.asked if self.exercise is not None else None
        number = asked.figure if isinstance(asked, Lines) else 0
        own = [one for one in self._layout.figures if one.choice is None]
        return own[number] if own else None

    # --- painting ---------------------------------------------------------------------------

    def paint_under(self, painter: QPainter) -> None:
        """Paint the figures, and what was chosen among them."""
        for one in self._layout.figures:
            if one.choice is not None:
                self._paint_choice(painter, one)
            self._paint_figure(painter, one)
        if isinstance(self.hand, Stack):
            self._paint_plan(painter, self.hand)

    def _paint_figure(self, painter: QPainter, one: OnBoard) -> None:
        figure = moved(one.figure, one.by)
        for region in figure.regions:
            fill_region(painter, self, region)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(theme().light_ink))
        for dot in figure.dots:
            painter.drawEllipse(self.to_screen(dot), _DOT_PIXELS, _DOT_PIXELS)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        draw_inks(painter, self, figure.inks)
        for words in figure.words:
            write_words(painter, self, words)
        painter.setFont(lettering(12))
        painter.setPen(QColor(theme().hidden_ink))
        left, low, _, _ = figure.box
        caption = figure.caption if one.choice is None else self._choice_words(one.choice)
        if caption:
            wide = max((one.box[2] - one.box[0]) * self.pixels_per_mm, px(_CAPTION_PIXELS))
            at = self.to_screen((left, low)) + QPointF(0, 10)
            painter.drawText(QRectF(at.x(), at.y(), wide, px(_CAPTION_PIXELS)),
                             Qt.TextFlag.TextWordWrap, caption)  # fmt: skip

    def _choice_words(self, number: int) -> str:
        assert isinstance(self.hand, Chosen)
        words = self.hand.asked.words[number]
        return f"{LETTERS[number]}   {words}".strip()

    def _paint_choice(self, painter: QPainter, one: OnBoard) -> None:
        box = QRectF(self.to_screen((one.box[0], one.box[3])),
                     self.to_screen((one.box[2], one.box[1]))).adjusted(0, 0, 0, 22)  # fmt: skip
        if isinstance(self.hand, Chosen) and self.hand.number == one.choice:
            painter.setPen(pen(self._colour_of(one.choice), 2.4))
            painter.setBrush(shade(theme().marker, 46))
            painter.drawRoundedRect(box, 6, 6)
            painter.setBrush(Qt.BrushStyle.NoBrush)

    def _colour_of(self, number: int | None) -> str:
        """Return the colour of what was chosen: as it was marked, once it was."""
        for mark in self._outcome.marks if self._outcome is not None else ():
            if number in mark.places:
                return theme().lift if mark.state == "right" else theme().ghost
        return theme().ink

    def paint_over(self, painter: QPainter) -> None:
        """Paint what is drawn and marked."""
        sheet = self.sheet
        if sheet is None:
            return
        if isinstance(self.hand, Marked):
            self._paint_places(painter, self.hand, sheet)
        if isinstance(self.hand, Sketch):
            self._paint_sketch(painter, self.hand, sheet)
        for mark in self._outcome.marks if self._outcome is not None else ():
            self._paint_paths(painter, mark, sheet)

    def _paint_paths(self, painter: QPainter, mark: Mark, sheet: OnBoard) -> None:
        """Mark lines of a drawn sheet: what is missing dotted, what is off firm, what is too much
        crossed out. What is missing is shown once all is over.
        """
        if mark.state == "right" or (mark.state == "missing" and not self._is_over):
            return
        painter.setPen(pen(theme().ghost, _FIRM_PIXELS, (2, 3) if mark.state == "missing" else ()))
        for path in mark.paths:
            places = [self.to_screen(sheet.at(place)) for place in path]
            painter.drawPolyline(QPolygonF(places))
            if mark.state == "too many":
                self._cross(painter, (places[0] + places[-1]) / 2)

    @staticmethod
    def _cross(painter: QPainter, at: QPointF) -> None:
        painter.drawLine(at + QPointF(-6, -6), at + QPointF(6, 6))
        painter.drawLine(at + QPointF(-6, 6), at + QPointF(6, -6))

    def _paint_places(self, painter: QPainter, hand: Marked, sheet: OnBoard) -> None:
        for number, place in enumerate(hand.asked.places):
            is_right = self._is_over and number in hand.asked.right
            if number not in hand.numbers and not is_right:
                continue
            at = self.to_screen(sheet.at(place))
            colour = theme().lift if is_right else self._colour_of(number)
            painter.setPen(pen(colour, 2.4, () if number in hand.numbers else (3, 3)))
            painter.setBrush(shade(theme().marker, 60) if number in hand.numbers
                             else Qt.BrushStyle.NoBrush)  # fmt: skip
            painter.drawEllipse(at, _RING_PIXELS, _RING_PIXELS)
            painter.setBrush(Qt.BrushStyle.NoBrush)

    def _paint_sketch(self, painter: QPainter, hand: Sketch, sheet: OnBoard) -> None:
        marks = {mark.state: mark for mark in self._outcome.marks} if self._outcome else {}
        self._draw_steps(painter, sheet, hand.firm, theme().accent, _FIRM_PIXELS)
        self._draw_steps(painter, sheet, hand.dashed, theme().accent, _THIN_PIXELS + 0.6, (7, 5))
        for state in ("too many", "hidden", "dashed"):
            if state in marks:
                self._strike(painter, sheet, marks[state])
        if "missing" in marks and self._is_over:
            firm = marks["missing"].steps & hand.asked.right
            self._draw_steps(painter, sheet, firm, theme().ghost, _FIRM_PIXELS, (2, 3))
            self._draw_steps(painter, sheet, marks["missing"].steps - firm, theme().ghost,
                             _THIN_PIXELS, (7, 5))  # fmt: skip
        if self._outcome is None and self._is_over:
            self._draw_steps(painter, sheet, hand.asked.right, theme().ghost, _FIRM_PIXELS, (2, 3))
            self._draw_steps(painter, sheet, hand.asked.dashed, theme().ghost, _THIN_PIXELS, (7, 5))
        if not self._is_over:
            self._paint_pen(painter, hand, sheet)

    def _draw_steps(
        self, painter: QPainter, sheet: OnBoard, steps: Iterable[Step], colour: str, width: float,
        dashes: tuple[float, ...] = (),
    ) -> None:  # fmt: skip
        painter.setPen(pen(colour, width, dashes))
        for start, end in joined(steps):
            painter.drawLine(*(self._dot(sheet, dot) for dot in (start, end)))

    def _strike(self, painter: QPainter, sheet: OnBoard, mark: Mark) -> None:
        """Mark lines that should not be there so: struck through, or ringed where they are to be
        dashed or firm.
        """
        colour = theme().ghost
        for start, end in joined(mark.steps):
            a, b = self._dot(sheet, start), self._dot(sheet, end)
            painter.setPen(pen(colour, _FIRM_PIXELS, (4, 3) if mark.state == "hidden" else ()))
            painter.drawLine(a, b)
            middle = (a + b) / 2
            painter.setPen(pen(colour, 1.8))
            if mark.state == "dashed":
                painter.drawEllipse(middle, 7, 7)
                continue
            painter.drawLine(middle + QPointF(-6, -6), middle + QPointF(6, 6))
            if mark.state == "too many":
                painter.drawLine(middle + QPointF(-6, 6), middle + QPointF(6, -6))

    def _paint_pen(self, painter: QPainter, hand: Sketch, sheet: OnBoard) -> None:
        start, end = (self._from, self._to) if self._from is not None else (hand.start, hand.at)
        if start is not None and end is not None:
            dashes = (7.0, 5.0) if hand.is_dashed else ()
            painter.setPen(pen(theme().marker, _FIRM_PIXELS, dashes))
            painter.drawLine(self._dot(sheet, start), self._dot(sheet, end))
        painter.setPen(pen(theme().accent, 1.8))
        painter.drawEllipse(self._dot(sheet, hand.at), 6, 6)

    def _dot(self, sheet: OnBoard, dot: Dot) -> QPointF:
        assert isinstance(self.hand, Sketch)
        return self.to_screen(sheet.at(self.hand.asked.grid.at(dot)))

    def _paint_plan(self, painter: QPainter, hand: Stack) -> None:
        wrong = {k for mark in (self._outcome.marks if self._outcome else ())
                 if mark.state == "wrong" for k in mark.places}  # fmt: skip
        columns = len(hand.heights[0])
        painter.setFont(lettering(17))
        for r, row in enumerate(hand.heights):
            for c, height in enumerate(row):
                box = self._square(r, c)
                is_wrong = r * columns + c in wrong
                painter.setPen(pen(theme().ghost if is_wrong else theme().ink, 1.4))
                painter.setBrush(shade(theme().marker, 24 * height))
                painter.drawRect(box)
                painter.setPen(QColor(theme().ghost if is_wrong else theme().ink))
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"{height}")
                if is_wrong:
                    painter.drawLine(box.bottomLeft(), box.topRight())
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if not self._is_over:
            painter.setPen(pen(theme().accent, 3))
            painter.drawRect(self._square(*hand.at))
        painter.setPen(QColor(theme().hidden_ink))
        painter.setFont(lettering(12))
        low = self._square(0, 0).bottomLeft()
        painter.drawText(low + QPointF(0, 20), tr("plan: the front below"))

    def _square(self, row: int, column: int) -> QRectF:
        x, y = self._layout.plan or (0.0, 0.0)
        low = x + column * PLAN_MM, y + row * PLAN_MM
        return QRectF(self.to_screen((low[0], low[1] + PLAN_MM)),
                      self.to_screen((low[0] + PLAN_MM, low[1])))  # fmt: skip

    # --- keys and mouse ---------------------------------------------------------------------

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Take a key that means something to the exercise in hand."""
        if event is None or not self.take_key(event):
            super().keyPressEvent(event)

    def event(self, event: QEvent | None) -> bool:
        """Keep keys from the page's shortcuts where they mean something here."""
        if (event is not None and event.type() == QEvent.Type.ShortcutOverride
                and isinstance(event, QKeyEvent) and self._is_ours(event)):  # fmt: skip
            event.accept()
            return True
        return super().event(event)

    def _is_ours(self, event: QKeyEvent) -> bool:
        if self._is_over or self.hand is None:
            return False
        if isinstance(self.hand, Sketch):
            is_given_up = event.key() == Qt.Key.Key_Escape and self.hand.start is not None
            return is_given_up or event.key() in (*_WAYS, *_PEN_KEYS)
        if isinstance(self.hand, Stack):
            return event.key() in (*_WAYS, Qt.Key.Key_Space, Qt.Key.Key_Backspace) or (
                event.text().isdecimal())  # fmt: skip
        return event.text().upper() in LETTERS and event.text() != ""

    def take_key(self, event: QKeyEvent) -> bool:
        """Do what a key means; say whether it means something."""
        if not self._is_ours(event):
            return False
        key, text = event.key(), event.text()
        hand = self.hand
        if isinstance(hand, Chosen | Marked):
            hand.choose(LETTERS.index(text.upper()))
        elif isinstance(hand, Sketch):
            self._sketch_by_key(hand, key)
        elif isinstance(hand, Stack):
            if key in _WAYS:
                hand.move(_WAYS[Qt.Key(key)])
            elif text.isdecimal():
                hand.put(int(text))
            else:
                hand.add(1 if key == Qt.Key.Key_Space else -1)
        self._changed()
        return True

    def _sketch_by_key(self, hand: Sketch, key: int) -> None:
        if key in _WAYS:
            hand.move(_WAYS[Qt.Key(key)])
        elif key == Qt.Key.Key_Space:
            hand.press()
        elif key == Qt.Key.Key_Backspace:
            hand.back()
        elif key == Qt.Key.Key_Escape:
            hand.let_go()
        else:
            hand.is_dashed = not hand.is_dashed

    def _changed(self) -> None:
        self.answered.emit()
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose what is clicked, or begin a line."""
        if event is None or event.button() != Qt.MouseButton.LeftButton or self._is_over:
            return
        place = self.to_paper(event.position())
        if isinstance(self.hand, Sketch):
            self._from = self._to = self._dot_at(place)
        else:
            self._choose_at(event.position(), place)
        self._changed()

    def _choose_at(self, pixels: QPointF, place: Vec2) -> None:
        hand, sheet = self.hand, self.sheet
        if isinstance(hand, Chosen):
            for one in self._layout.figures:
                left, low, right, high = one.box
                if one.choice is not None and left <= place[0] <= right and low <= place[1] <= high:
                    hand.choose(one.choice)
        elif isinstance(hand, Marked) and sheet is not None:
            offs = [(self.to_screen(sheet.at(at)) - pixels).manhattanLength()
                    for at in hand.asked.places]  # fmt: skip
            nearest = min(range(len(offs)), key=offs.__getitem__)
            if offs[nearest] < 2 * _NEAR_PIXELS:
                hand.choose(nearest)
        elif isinstance(hand, Stack):
            for r, row in enumerate(hand.heights):
                for c in range(len(row)):
                    if self._square(r, c).contains(pixels):
                        hand.at = r, c
                        hand.add(1)

    def _dot_at(self, place: Vec2) -> Dot | None:
        sheet = self.sheet
        if sheet is None or not isinstance(self.hand, Sketch):
            return None
        on_figure = place[0] - sheet.by[0], place[1] - sheet.by[1]
        return dot_near(self.hand.asked.grid, on_figure)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Lead a line to the dot under the pointer."""
        if event is not None and self._from is not None:
            self._to = self._dot_at(self.to_paper(event.position())) or self._to
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """End a line."""
        if event is None or self._from is None or not isinstance(self.hand, Sketch):
            return
        if self._to is not None:
            self.hand.draw(self._from, self._to)
            self.hand.at = self._to
        self._from = self._to = None
        self._changed()
