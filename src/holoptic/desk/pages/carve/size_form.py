"""The sizes that belong to one type of operation, as a small form made from a table."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal, get_args

from PyQt6.QtCore import QSignalBlocker, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QGridLayout, QLabel, QSpinBox, QWidget

from holoptic.catalogue import tr
from holoptic.desk.widgets.fields import AngleField, LengthField
from holoptic.part import Face, Operation
from holoptic.part.check import FEWEST_SIDES, MOST_SIDES
from holoptic.part.operations import BallPart, Ends, Measure, Seat
from holoptic.units import Unit


@dataclass(frozen=True)
class _Entry:
    """One field: the operation's attribute, its label, and what it takes."""

    attribute: str
    label: str
    takes: Literal[
        "length", "length or nothing", "count", "angle", "angle or nothing", "choice"
    ] = "length"
    choices: tuple[tuple[str, object], ...] = ()


def _named(values: tuple[Any, ...]) -> tuple[tuple[str, object], ...]:
    return tuple((tr(str(value)), value) for value in values)


_ENTRIES: dict[str, tuple[_Entry, ...]] = {
    "prism": (),
    "strip": (
        _Entry("width", tr("width")),
        _Entry("closed", tr("path"), "choice", ((tr("open"), False), (tr("closed"), True))),
        _Entry("ends", tr("ends"), "choice", _named(get_args(Ends))),
    ),
    "round": (
        _Entry("diameter", tr("diameter")),
        _Entry("end_diameter", tr("far diameter"), "length or nothing"),
    ),
    "polygon": (
        _Entry("sides", tr("sides"), "count"),
        _Entry("size", tr("size")),
        _Entry("measure", tr("is its"), "choice", _named(get_args(Measure))),
        _Entry("turn", tr("turn °"), "angle"),
        _Entry("end_size", tr("far size"), "length or nothing"),
    ),
    "pyramid": (
        _Entry("width", tr("width")),
        _Entry("height", tr("height")),
        _Entry("end_width", tr("far width")),
        _Entry("end_height", tr("far height")),
    ),
    "ball": (
        _Entry("diameter", tr("diameter")),
        _Entry("part", tr("part"), "choice", _named(get_args(BallPart))),
    ),
    "ring": (_Entry("diameter", tr("diameter")), _Entry("thickness", tr("thickness"))),
    "hole": (
        _Entry("diameter", tr("diameter")),
        _Entry("seat", tr("seat"), "choice", _named(get_args(Seat))),
        _Entry("seat_diameter", tr("seat diameter"), "length or nothing"),
        _Entry("seat_depth", tr("seat depth"), "length or nothing"),
        _Entry("seat_angle", tr("seat angle °"), "angle"),
    ),
    "slot": (
        _Entry("length", tr("length")),
        _Entry("width", tr("width")),
        _Entry("turn", tr("turn °"), "angle"),
    ),
    "bevel": (
        _Entry("beside", tr("and face"), "choice", tuple((face.title, face) for face in Face)),
        _Entry("offset", tr("on its face")),
        _Entry("across", tr("on the other"), "length or nothing"),
        _Entry("angle", tr("or angle °"), "angle or nothing"),
    ),
    "corner": (
        _Entry("right", tr("at the"), "choice", ((tr("left"), False), (tr("right"), True))),
        _Entry("rear", tr("at the"), "choice", ((tr("front"), False), (tr("rear"), True))),
        _Entry("top", tr("at the"), "choice", ((tr("bottom"), False), (tr("top"), True))),
        _Entry("along_length", tr("along L")),
        _Entry("along_depth", tr("along D")),
        _Entry("along_height", tr("along H")),
    ),
}


class SizeForm(QWidget):
    """Shows and edits what is particular to an operation's type.

    Signals:
        changed(attribute, value): a field was edited and reads.
        left: a field was left; the next typing is another edit.
    """

    changed = pyqtSignal(str, object)
    left = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.fields: dict[str, QWidget] = {}
        self.comes_after: QWidget | None = None
        """What Tab leads here from."""
        self._type = ""
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(4)

    def show_operation(
        self, operation: Operation, unit: Unit, names: Mapping[str, float]
    ) -> None:  # fmt: skip
        """Show the sizes of an operation."""
        if operation.type != self._type:
            self._rebuild(operation.type)
        self.setVisible(bool(self.fields))
        for entry in _ENTRIES[operation.type]:
            field, value = self.fields[entry.attribute], getattr(operation, entry.attribute)
            blocker = QSignalBlocker(field)
            if isinstance(field, LengthField):
                field.unit, field.names = unit, names
                field.show_length(value)
            elif isinstance(field, QSpinBox):
                field.setValue(value)
            elif isinstance(field, QComboBox):
                field.setCurrentIndex([choice for _, choice in entry.choices].index(value))
            elif isinstance(field, AngleField):
                field.show_angle(value)
            blocker.unblock()

    def _rebuild(self, kind: str) -> None:
        while item := self._grid.takeAt(0):
            if widget := item.widget():
                widget.setParent(None)
                widget.deleteLater()
        self.fields = {}
        self._type = kind
        for number, entry in enumerate(_ENTRIES[kind]):
            label = QLabel(entry.label)
            label.setObjectName("quiet")
            field = self._field(entry)
            field.setAccessibleName(entry.label)
            label.setBuddy(field)
            self._grid.addWidget(label, number // 2, 2 * (number % 2))
            self._grid.addWidget(field, number // 2, 2 * (number % 2) + 1)
            self.fields[entry.attribute] = field
            if self.comes_after is not None:  # new widgets would come last of all by Tab
                QWidget.setTabOrder(list(self.fields.values())[-2] if number else self.comes_after,
                                    field)  # fmt: skip
        self._grid.setColumnStretch(1, 1)
        self._grid.setColumnStretch(3, 1)

    def _field(self, entry: _Entry) -> QWidget:
        if entry.takes == "count":
            return self._count(entry)
        if entry.takes == "choice":
            return self._choice(entry)
        if entry.takes in ("angle", "angle or nothing"):
            return self._angle(entry)
        field = LengthField(entry.label)
        field.read.connect(lambda length: self._say(entry, length))
        field.left.connect(self.left)
        if entry.takes == "length or nothing":
            field.setPlaceholderText(tr("the same"))
            field.may_be_empty = True
            field.emptied.connect(lambda: self._say(entry, None))
        return field

    def _count(self, entry: _Entry) -> QSpinBox:
        box = QSpinBox()
        box.setRange(FEWEST_SIDES, MOST_SIDES)
        box.valueChanged.connect(lambda value: self._say(entry, value))
        return box

    def _choice(self, entry: _Entry) -> QComboBox:
        box = QComboBox()
        box.addItems([name for name, _ in entry.choices])
        box.activated.connect(lambda index: self._say(entry, entry.choices[index][1]))
        return box

    def _angle(self, entry: _Entry) -> AngleField:
        field = AngleField(entry.label, may_be_empty=entry.takes == "angle or nothing")
        field.read.connect(lambda angle: self._say(entry, angle))
        field.left.connect(self.left)
        return field

    def _say(self, entry: _Entry, value: object) -> None:
        self.changed.emit(entry.attribute, value)
