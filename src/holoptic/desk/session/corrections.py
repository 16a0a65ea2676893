"""What would make a contradictory drawing read: one line otherwise, looked for and offered."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.reading.lines import DrawnView
from holoptic.reading.result import Correction, Reading

if TYPE_CHECKING:
    from holoptic.desk.session.readings import Readings

PURPOSE = "drawing corrections"


class Corrections(QObject):
    """Has corrections looked for where a reading contradicts itself; takes none by itself.

    Signals:
        changed: others are offered, or none any more.
    """

    changed = pyqtSignal()

    def __init__(self, readings: Readings) -> None:
        super().__init__(readings)
        self._readings = readings
        self.offered: tuple[Correction, ...] = ()

    def ask(self, reading: Reading) -> None:
        """Have them looked for, if a reading is contradictory; those of another count no more."""
        self.forget()
        if reading.verdict == "contradictory":
            self._readings.ask_about_views(PURPOSE, "correct", self._views(), self._readings.name)

    def take_answer(self, value: object) -> None:
        """Offer what was found."""
        if isinstance(value, tuple):
            self.offered = value
            self.changed.emit()

    def forget(self) -> None:
        """Offer none any more."""
        if self.offered:
            self.offered = ()
            self.changed.emit()

    def take(self, number: int = 0) -> None:
        """Take the line as a correction draws it, and what the views mean then."""
        if number >= len(self.offered):
            return
        one = self.offered[number]
        corrected = {view.name: view for view in one.views}
        views = [corrected.get(view.name, view) for view in self._views()]
        self._readings.correct(views, one.reading)

    def _views(self) -> tuple[DrawnView, ...]:
        arrangement = self._readings.arrangement
        return tuple(arrangement.drawn_views()) if arrangement is not None else ()
