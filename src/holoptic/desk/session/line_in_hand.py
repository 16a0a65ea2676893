"""A single line of a drawing in hand: taken for visible, hidden or centre, or off the sheet."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.catalogue import tr
from holoptic.reading.lines import DrawnLine, Status

if TYPE_CHECKING:
    from holoptic.desk.session.readings import Readings


class LineInHand(QObject):
    """The line, by its number counted over all views.

    Signals:
        chosen: another line is in hand, or none.
    """

    chosen = pyqtSignal()

    def __init__(self, readings: Readings) -> None:
        super().__init__(readings)
        self._readings = readings
        self.number: int | None = None

    def _lines(self) -> list[tuple[int, int]]:
        """Return the lines on the sheet in order: number of the view, number of the line in it."""
        arrangement = self._readings.arrangement
        views = arrangement.views if arrangement is not None else ()
        return [(k, n) for k, view in enumerate(views) for n in range(len(view.lines))]

    def choose(self, number: int | None) -> None:
        """Take a line in hand."""
        self.number = number if number is not None and number < len(self._lines()) else None
        self.chosen.emit()

    def step(self, way: int) -> None:
        """Take the next line in hand, or the one before."""
        count = len(self._lines())
        if count:
            self.choose(0 if self.number is None else (self.number + way) % count)

    def line(self) -> tuple[str, DrawnLine] | None:
        """Return the name of the view and the line, None where none is in hand."""
        arrangement = self._readings.arrangement
        if arrangement is None or self.number is None:
            return None
        view, own = self._lines()[self.number]
        return arrangement.views[view].name, arrangement.views[view].lines[own]

    def take_as(self, status: Status | None) -> None:
        """Take the line for a visible, hidden or centre one, or off the sheet."""
        arrangement = self._readings.arrangement
        if arrangement is None or self.number is None or self._readings.is_drafting:
            return
        number, own = self._lines()[self.number]
        lines = list(arrangement.views[number].lines)
        if status is None:
            del lines[own]
        else:
            lines[own] = replace(lines[own], status=status)
        if not any(line.status != "centre" for line in lines):
            self._readings.told.emit(tr("A view needs a line."))
            return
        views = list(arrangement.views)
        views[number] = replace(views[number], lines=tuple(lines))
        kept = self.number if status is not None else None
        self._readings.rearrange(replace(arrangement, views=tuple(views)))
        self.choose(kept)
