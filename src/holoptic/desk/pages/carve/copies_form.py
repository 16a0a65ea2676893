"""How often an operation stands: once, in a line, about a centre, or opposite too."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from PyQt6.QtCore import QSignalBlocker, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QGridLayout, QLabel, QSpinBox, QWidget

from holoptic.catalogue import tr
from holoptic.desk.widgets.fields import LengthField
from holoptic.part import AboutCentre, Copies, InLine, Mirrored, Operation, Part
from holoptic.part.crate import AXIS_LETTERS, AXIS_NAMES
from holoptic.part.expand import MOST_COPIES
from holoptic.part.operations import Offset
from holoptic.units import Length, Unit

_SORTS = (tr("once"), tr("in a line"), tr("about a centre"), tr("opposite too"))


class CopiesForm(QWidget):
    """Shows and edits the copies of an operation.

    Signals:
        changed(copies): they were edited; None for an operation that stands once.
    """

    changed = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self._operation: Operation | None = None
        self._part: Part | None = None
        self._unit = Unit.MM
        self._grid = grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        self.sort = QComboBox()
        self.sort.addItems(_SORTS)
        self.sort.setAccessibleName(tr("how often it stands"))
        self.sort.setToolTip(
            tr("Repeat it along an axis or about a centre, or set it opposite too")
        )
        self.sort.activated.connect(self._choose)
        self.axis = QComboBox()
        self.axis.setAccessibleName(tr("along which axis"))
        self.axis.activated.connect(lambda index: self._change(axis="uvw"[index]))
        self.count = QSpinBox()
        self.count.setRange(2, MOST_COPIES)
        self.count.setSuffix(" " + tr("in all"))
        self.count.setAccessibleName(tr("how many in all"))
        self.count.valueChanged.connect(lambda count: self._change(count=count))
        self.step = self._field(tr("step"), lambda length: self._change(step=length))
        self.u = self._field(tr("centre, across"), lambda length: self._centre("u", length))
        self.v = self._field(tr("centre, up"), lambda length: self._centre("v", length))
        self.label = QLabel(tr("stands"))
        self.label.setObjectName("quiet")
        for column, widget in enumerate((self.label, self.sort, self.axis, self.count)):
            grid.addWidget(widget, 0, column)
        for column, widget in enumerate((self.step, self.u, self.v)):
            grid.addWidget(widget, 1, column + 1)

    def _field(self, name: str, take: Callable[[Length], None]) -> LengthField:
        field = LengthField(name)
        field.read.connect(take)
        return field

    def show_operation(
        self, part: Part, operation: Operation, unit: Unit, names: Mapping[str, float]
    ) -> None:
        """Show how often an operation stands."""
        self._part, self._operation, self._unit = part, operation, unit
        copies = operation.copies
        widgets = (self.sort, self.axis, self.count)
        blockers = [QSignalBlocker(widget) for widget in widgets]
        self.sort.setCurrentIndex(_SORTS.index(_sort_of(copies)))
        has_axis = isinstance(copies, InLine | Mirrored)
        self.axis.setVisible(has_axis)
        self.count.setVisible(isinstance(copies, InLine | AboutCentre))
        self.step.setVisible(isinstance(copies, InLine))
        for field in (self.u, self.v):
            field.setVisible(isinstance(copies, AboutCentre))
        for field in (self.step, self.u, self.v):
            field.unit, field.names = unit, names
        if isinstance(copies, InLine | Mirrored):
            axes = (*operation.face.axes, operation.face.normal_axis)
            self.axis.clear()
            self.axis.addItems([AXIS_NAMES[axis] for axis in axes])
            self.axis.setCurrentIndex("uvw".index(copies.axis))
        if isinstance(copies, InLine):
            self.step.show_length(copies.step)
        if isinstance(copies, AboutCentre):
            self.u.show_length(copies.u.distance)
            self.v.show_length(copies.v.distance)
        if isinstance(copies, InLine | AboutCentre):
            self.count.setValue(copies.count)
        del blockers

    def _choose(self, index: int) -> None:
        part, operation = self._part, self._operation
        if part is None or operation is None:
            return
        made: Copies | None = None
        letters = [AXIS_LETTERS[axis] for axis in operation.face.axes]
        if _SORTS[index] == "in a line":
            made = InLine("u", Length.of(10.0 if self._unit is Unit.MM else 12.7, self._unit), 2)
        elif _SORTS[index] == "about a centre":
            u, v = (
                Offset(Length.read(f"{letter}/2", self._unit, part.crate.names))
                for letter in letters
            )
            made = AboutCentre(u, v, 4)
        elif _SORTS[index] == "opposite too":
            made = Mirrored("u")
        self.changed.emit(made)

    def _change(self, **changes: object) -> None:
        copies = self._operation.copies if self._operation else None
        if copies is not None:
            self.changed.emit(replace(copies, **changes))  # type: ignore[arg-type]

    def _centre(self, side: str, length: Length) -> None:
        self._change(**{side: Offset(length)})


def _sort_of(copies: Copies | None) -> str:
    if isinstance(copies, InLine):
        return tr("in a line")
    if isinstance(copies, AboutCentre):
        return tr("about a centre")
    return tr("once") if copies is None else tr("opposite too")
