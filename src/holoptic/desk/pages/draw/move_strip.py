"""All moves of a plan in one strip: a tick for each, banded by phase; a click jumps there."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Mapping

from PyQt6.QtCore import QEvent, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QHelpEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QToolTip, QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import lettering, pen, px, shade, theme
from holoptic.desk.widgets.spoken_roles import Depiction
from holoptic.plan import Plan
from holoptic.plan.showing import Filter, passes
from holoptic.plan.words import phase_title
from holoptic.units import Unit

_BAND = 18
_SIDE = 14
_HEIGHTS = {
    "lay": 0.4, "set off": 0.85, "swing": 0.85, "plot": 0.85, "draw": 0.6, "parallel": 0.6,
    "square": 0.6, "meet": 0.4, "nearest": 0.4, "join": 0.6, "touch": 0.6, "circle": 0.75,
    "arc": 0.75, "same arc": 0.75, "trammel": 0.75, "curve": 0.75,
    "freehand": 0.75, "firm in": 1.0, "check": 0.85, "go over": 1.0, "head": 0.5, "guides": 0.5,
    "letter": 0.75, "shade": 1.0,
}  # fmt: skip
_SKIPPED = 0.12


class MoveStrip(Depiction):
    """A strip of moves.

    Signals:
        jumped(index): the user went to a move; its index, or the count of moves for the end.
    """

    jumped = pyqtSignal(int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(px(66))
        self.setMouseTracking(True)
        self.setAccessibleName(tr("strip of moves"))
        self._plan: Plan | None = None
        self._at = 0
        self._chosen: Filter = "all"
        self._seconds: Mapping[int, float] = {}
        self._skipped: Collection[int] = ()
        self.unit = Unit.MM

    def show_plan(
        self, plan: Plan | None, at: int, chosen: Filter, seconds: Mapping[int, float],
        skipped: Collection[int] = (),
    ) -> None:  # fmt: skip
        """Show a plan with `at` moves done; of `chosen` moves the ticks stand out.

        `seconds` are those that moves took, by their number; those at the places `skipped` are low.
        """
        self._plan, self._at, self._chosen, self._seconds = plan, at, chosen, seconds
        self._skipped = skipped
        count = len(plan.moves) if plan is not None else 0
        self.setAccessibleDescription(tr("{at} of {count} moves done", at=at, count=count))
        self.update()

    def place_of(self, index: int) -> float:
        """Return the middle of a move's tick, in pixels from the left."""
        return _SIDE + (index + 0.5) * self._step()

    def _step(self) -> float:
        count = len(self._plan.moves) if self._plan else 1
        return (self.width() - 2 * _SIDE) / max(count, 1)

    def _index_at(self, x: float) -> int | None:
        if self._plan is None:
            return None
        index = int((x - _SIDE) / self._step())
        return index if 0 <= index < len(self._plan.moves) and x >= _SIDE else None

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint bands, ticks, and the present move."""
        del event
        with painting(self) as painter:
            painter.fillRect(self.rect(), QColor(theme().panel))
            if self._plan is not None:
                self._paint_bands(painter, self._plan)
                self._paint_ticks(painter, self._plan)

    def _paint_bands(self, painter: QPainter, plan: Plan) -> None:
        step, colours = self._step(), theme()
        painter.setFont(lettering(11))
        for number, (name, first, last) in enumerate(plan.phases):
            left, right = _SIDE + first * step, _SIDE + last * step
            band = QRectF(left, 2, right - left - 2, px(_BAND))
            painter.fillRect(band, QColor(colours.raised if number % 2 else colours.desk))
            here = first <= self._at < last
            painter.setPen(QColor(colours.text if here else colours.quiet))
            words = painter.fontMetrics().elidedText(
                phase_title(name, short=True), Qt.TextElideMode.ElideRight, int(band.width() - 8)
            )
            if band.width() > 26:
                painter.drawText(band.adjusted(4, 0, -4, 0), Qt.AlignmentFlag.AlignVCenter, words)

    def _paint_ticks(self, painter: QPainter, plan: Plan) -> None:
        step, colours = self._step(), theme()
        bottom, room = self.height() - 8.0, self.height() - px(_BAND) - 16.0
        width = max(2.0, min(step - 2, 9.0))
        ticks: dict[tuple[str, bool], list[QRectF]] = defaultdict(list)
        for index, move in enumerate(plan.moves):
            colour = colours.accent if index < self._at else colours.line
            high = room * (_SKIPPED if index in self._skipped else _HEIGHTS[move.verb])
            left = _SIDE + (index + 0.5) * step - width / 2
            ticks[
                colours.ghost if index == self._at else colour, passes(move, self._chosen)
            ].append(QRectF(left, bottom - high, width, high))
        painter.setPen(Qt.PenStyle.NoPen)
        for (colour, picked), boxes in ticks.items():  # all of a colour at once
            painter.setBrush(shade(colour, 255 if picked else 55))
            painter.drawRects(*boxes)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if self._at < len(plan.moves):
            x = self.place_of(self._at)
            painter.setPen(pen(colours.ghost, 2))
            painter.drawLine(round(x), px(_BAND) + 4, round(x), self.height() - 3)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Jump to the move under the pointer."""
        if event is not None:
            index = self._index_at(event.position().x())
            if index is not None:
                self.jumped.emit(index)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Scrub with the button held."""
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self.mousePressEvent(event)

    def event(self, event: QEvent | None) -> bool:
        """Explain the move under the pointer."""
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            index = self._index_at(event.pos().x())
            if index is not None and self._plan is not None:
                move = self._plan.moves[index]
                taken = self._seconds.get(move.n)
                time = " " + tr("({taken:.0f} s last time)", taken=taken) if taken else ""
                QToolTip.showText(
                    event.globalPos(), f"{move.n}. {move.said(self.unit)}{time}", self
                )
            return True
        return super().event(event)
