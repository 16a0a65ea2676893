"""The guided way: which loop is taken away next, and between which levels."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.session.readings import Readings, Spot
from holoptic.part.crate import AXIS_NAMES
from holoptic.reading.guide import Loop
from holoptic.units import Unit, show


class GuidePanel(QWidget):
    """The loops of all views, two levels to choose, and the button that takes away.

    Signals:
        looked_at(spot): a loop is to be lit up on the sheet.
    """

    looked_at = pyqtSignal(object)

    def __init__(self, readings: Readings) -> None:
        super().__init__()
        self._readings = readings
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 4, 0, 0)
        layout.setSpacing(4)
        title = QLabel(tr("Take away a loop, between two levels of the other views"))
        title.setWordWrap(True)
        title.setObjectName("quiet")
        self.loops = QListWidget()
        self.loops.setAccessibleName(tr("loops of the views"))
        self.loops.currentRowChanged.connect(self._look)
        self.low, self.high = QComboBox(), QComboBox()
        levels = QHBoxLayout()
        for words, box in (("from", self.low), ("to", self.high)):
            levels.addWidget(QLabel(words))
            levels.addWidget(box, 1)
        self.take = QPushButton(tr("Take it away (T)"))
        self.take.clicked.connect(lambda _=False: self.take_away())
        self.back = QPushButton(tr("Put the last one back (Backspace)"))
        self.back.clicked.connect(lambda _=False: self._readings.step_back())
        layout.addWidget(title)
        layout.addWidget(self.loops, 1)
        layout.addLayout(levels)
        layout.addWidget(self.take)
        layout.addWidget(self.back)

    def refresh(self) -> None:
        """Show the loops, or nothing where the guided way is not gone."""
        guide = self._readings.guide
        self.setVisible(guide is not None)
        words = [_words(loop, self._readings.unit) for loop in guide.loops] if guide else []
        shown = [item.text() for k in range(self.loops.count()) if (item := self.loops.item(k))]
        if words != shown:
            self.loops.clear()
            self.loops.addItems(words)

    def take_away(self) -> None:
        """Take the chosen loop away between the chosen levels."""
        number = self.loops.currentRow()
        if self._readings.guide is not None and number >= 0:
            low, high = sorted((self.low.currentData(), self.high.currentData()))
            self._readings.take_away(number, low, high)

    def _look(self, number: int) -> None:
        guide = self._readings.guide
        if guide is None or not 0 <= number < len(guide.loops):
            self.looked_at.emit(None)
            return
        loop = guide.loops[number]
        for box, at in ((self.low, 0), (self.high, len(loop.levels) - 1)):
            box.clear()
            for level in loop.levels:
                box.addItem(show(level, self._readings.unit), level)
            box.setCurrentIndex(at)
        what = _words(loop, self._readings.unit)
        words = tr(
            "{what}, to be taken away along the {axis_names}",
            what=what,
            axis_names=AXIS_NAMES[loop.depth],
        )
        self.looked_at.emit(Spot(self._readings.loop_on_sheet(number), words, False))


def _words(loop: Loop, unit: Unit) -> str:
    circle = loop.outline.circle
    if circle is not None:
        return tr(
            "{view}: circle, {circle} across", view=loop.view, circle=show(2 * circle[1], unit)
        )
    us, vs = ([place[k] for place in loop.path] for k in (0, 1))
    size = f"{show(max(us) - min(us), unit)} × {show(max(vs) - min(vs), unit)}"
    return tr(
        "{view}: {sides} sides, {size}", view=loop.view, sides=len(loop.outline.sides), size=size
    )
