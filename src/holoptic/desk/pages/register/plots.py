"""Plots over time: a mark for each drawing or check, in the order in which they were made."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPolygonF

from holoptic.catalogue import tr
from holoptic.desk.look.painting import painting
from holoptic.desk.look.theme import lettering, pen, px, theme
from holoptic.desk.widgets.spoken_roles import Depiction

_LEFT, _TOP, _RIGHT, _BOTTOM = 44, 28, 16, 24
_MARK = 4.0
_NICE = (1.0, 2.0, 2.5, 5.0, 10.0)
_MOST_TICKS = 4


@dataclass(frozen=True)
class Mark:
    """One mark: when, how much, whether it is as it should be, and whether it is in hand."""

    when: datetime
    value: float
    is_good: bool
    is_lit: bool = False


class TimePlot(Depiction):
    """Marks over time, joined by a line: discs for what is good, crosses for what is not."""

    def __init__(self, title: str, empty: str) -> None:
        super().__init__()
        self.title, self._empty = title, empty
        self.marks: list[Mark] = []
        self.setMinimumSize(px(140), px(130))
        self.setAccessibleName(title)
        self.setToolTip(title)

    def show_marks(self, marks: Sequence[Mark]) -> None:
        """Show marks, the earliest first."""
        self.marks = sorted(marks, key=lambda mark: mark.when)
        self.setAccessibleDescription(
            "; ".join(f"{mark.when:%Y-%m-%d} {mark.value:.2f}" for mark in self.marks[-12:])
        )
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint title, scale, and marks."""
        del event
        with painting(self) as painter:
            painter.fillRect(self.rect(), QColor(theme().raised))
            painter.setFont(lettering(11, bold=True))
            painter.setPen(QColor(theme().quiet))
            title = painter.fontMetrics().elidedText(
                self.title, Qt.TextElideMode.ElideRight, self.width() - 20
            )
            painter.drawText(
                QRectF(10, 4, self.width() - 20, 18), Qt.AlignmentFlag.AlignLeft, title
            )
            room = QRectF(px(_LEFT), px(_TOP), self.width() - px(_LEFT) - _RIGHT,
                          self.height() - px(_TOP) - px(_BOTTOM))  # fmt: skip
            if self.marks:
                self._paint_scale(painter, room)
                self._paint_marks(painter, room)
            else:
                painter.setFont(lettering(12))
                flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
                painter.drawText(self.rect().adjusted(8, 20, -8, -8), flags, self._empty)

    @property
    def _top(self) -> float:
        """The value at the upper edge: a little more than the largest."""
        return max(1.12 * max(mark.value for mark in self.marks), 0.1)

    def _paint_scale(self, painter: QPainter, room: QRectF) -> None:
        painter.setFont(lettering(10))
        step = _nice_step(self._top / _MOST_TICKS)
        value = 0.0
        while value <= self._top:
            y = room.bottom() - room.height() * value / self._top
            painter.setPen(pen(theme().line, 1))
            painter.drawLine(QPointF(room.left(), y), QPointF(room.right(), y))
            painter.setPen(QColor(theme().quiet))
            painter.drawText(QRectF(0, y - 8, room.left() - 6, 16),
                             Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                             f"{value:g}")  # fmt: skip
            value = round(value + step, 6)
        ends = [(self.marks[0], Qt.AlignmentFlag.AlignLeft)]
        if len(self.marks) > 1:
            ends.append((self.marks[-1], Qt.AlignmentFlag.AlignRight))
        below = QRectF(room.left(), room.bottom() + 4, room.width(), 16)
        for mark, side in ends:
            painter.drawText(below, side, f"{mark.when:%Y-%m-%d}")

    def _paint_marks(self, painter: QPainter, room: QRectF) -> None:
        places = [self._place(mark, number, room) for number, mark in enumerate(self.marks)]
        painter.setPen(pen(theme().quiet, 1.2))
        painter.drawPolyline(QPolygonF(places))
        for mark, place in zip(self.marks, places, strict=True):
            size = _MARK * (1.7 if mark.is_lit else 1.0)
            if mark.is_good:
                painter.setPen(pen(theme().accent, 1.6))
                painter.setBrush(QColor(theme().accent))
                painter.drawEllipse(place, size, size)
                painter.setBrush(Qt.BrushStyle.NoBrush)
            else:
                painter.setPen(pen(theme().ghost, 2.2))
                for way in (1, -1):
                    arm = QPointF(size, way * size)
                    painter.drawLine(place - arm, place + arm)

    def _place(self, mark: Mark, number: int, room: QRectF) -> QPointF:
        # evenly, as they follow each other: days without work tell nothing
        share = number / (len(self.marks) - 1) if len(self.marks) > 1 else 0.5
        return QPointF(room.left() + 6 + (room.width() - 12) * share,
                       room.bottom() - room.height() * mark.value / self._top)  # fmt: skip


def _nice_step(least: float) -> float:
    """Return a round step of a scale, no smaller than a value."""
    power = 10.0 ** math.floor(math.log10(least))
    return next(step * power for step in _NICE if step * power >= least * 0.999)


NO_TIMES = tr("Draw with the space bar: each move is timed.")
NO_CHECKS = tr("No sheet has been checked yet.")
