"""What the rule reads at a check move: typed or measured on the setting card itself."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QWidget

from holoptic.catalogue import tr
from holoptic.checking.distances import Distance, distances_of, outcome_of
from holoptic.desk.look.theme import px
from holoptic.desk.session.stepping import Stepping
from holoptic.desk.widgets.fields import LengthField
from holoptic.units import Length, Unit, show

_FIELD_WIDTH = 84


class ReadingRow(QWidget):
    """A field at check moves; what stands in it is kept with the place in the plan.

    Signals:
        read: a reading was given that agrees.
        deviates: one was given that does not.
    """

    read = pyqtSignal()
    deviates = pyqtSignal()

    def __init__(self, walk: Stepping) -> None:
        super().__init__()
        self._walk = walk
        self._distance: Distance | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        label = QLabel(tr("It reads  (D)"))
        label.setObjectName("quiet")
        self.field = LengthField(tr("what the rule reads"))
        self.field.setPlaceholderText("")
        self.field.setFixedWidth(px(_FIELD_WIDTH))
        self.field.may_be_empty = True
        self.field.returnPressed.connect(self._take)
        self.outcome = QLabel()
        for widget in (label, self.field, self.outcome):
            row.addWidget(widget)
        row.addStretch(1)
        self.hide()

    def refresh(self, unit: Unit) -> None:
        """Show what the rule read at the move that is next, if that is a check."""
        move, plan = self._walk.move, self._walk.plan
        at_check = move is not None and plan is not None and move.verb == "check"
        self._distance = next(
            (one for one in distances_of(plan.moves, self._walk.readings) if one.move == move.n),
            None,
        ) if at_check and plan is not None and move is not None else None  # fmt: skip
        self.setVisible(self._distance is not None)
        if self._distance is None:
            return
        self.field.unit = unit
        mm = self._distance.read_mm
        self.field.show_length(None if mm is None else Length(show(mm, unit), mm))
        self.outcome.setText(_outcome(self._distance, unit))

    def _take(self) -> None:
        """Note the reading; one that agrees leads on."""
        if self._distance is None or self.field.trouble:
            return
        mm = self.field.value_mm if self.field.text().strip() else None
        self._walk.note_reading(self._distance.move, mm)
        if self._distance is None or mm is None:
            return
        (self.read if self._distance.agrees else self.deviates).emit()


def _outcome(distance: Distance, unit: Unit) -> str:
    words = outcome_of(distance, unit)
    return words if distance.agrees else tr("{words} (F9: why)", words=words)
