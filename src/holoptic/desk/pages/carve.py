"""Carve: crate and operations beside the live picture."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtCore import QSignalBlocker, QSize, Qt
from PyQt6.QtGui import QShortcut
from PyQt6.QtWidgets import (
    QAbstractButton,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QStackedLayout,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.desk.begin_panel import BeginPanel
from holoptic.desk.fields import LengthField
from holoptic.desk.icons import give_icon, icon
from holoptic.desk.operation_editor import OperationEditor
from holoptic.desk.panes import PicturePane
from holoptic.desk.session import Session
from holoptic.desk.theme import AXIS_COLOURS, theme
from holoptic.errors import HolopticError
from holoptic.job.job import with_inserted, with_moved, without_operation
from holoptic.part import (
    Ball,
    Begin,
    Crate,
    Face,
    Mode,
    Operation,
    Part,
    Polygon,
    Ring,
    Round,
)
from holoptic.part.crate import AXIS_LETTERS, AXIS_NAMES
from holoptic.part.starters import SHAPES, Shape, new_prism, new_round, new_shape
from holoptic.units import Length

_COLUMN_WIDTH = 376
_SIZE_LABEL = "font-weight: 600; color: {}; background: {}; border-radius: 4px; padding: 1px 5px;"
"""The colours of the axes are made for paper, so the labels lie on a piece of it."""
_BEGINNINGS: dict[Begin, str] = {"block": "in a full block", "empty": "in an empty crate"}


class CarvePage(QWidget):
    """The picture with its crate, and a column to describe the part."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.pane = PicturePane(session, with_crate=True)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.pane, 1)
        layout.addWidget(self._column())
        session.job_changed.connect(self.refresh)
        session.trouble_changed.connect(self.refresh)

    # --- layout -----------------------------------------------------------------------------

    def _column(self) -> QWidget:
        column = QWidget()
        column.setObjectName("column")
        column.setFixedWidth(_COLUMN_WIDTH)
        self._stack = QStackedLayout(column)
        self._stack.addWidget(self._carving())
        fixed = QLabel(
            "This part comes from a STEP file: its shape is fixed.\n\n"
            "Its views, picture and plan are on the other pages."
        )
        fixed.setWordWrap(True)
        fixed.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._stack.addWidget(fixed)
        self._stack.addWidget(BeginPanel(self.session))
        return column

    def _carving(self) -> QWidget:
        panel = QWidget()
        layout = QVBoxLayout(panel)
        layout.setContentsMargins(12, 10, 12, 8)
        layout.setSpacing(6)
        layout.addLayout(self._crate_row())
        layout.addLayout(self._operation_header())
        self.list = QListWidget()
        self.list.setAccessibleName("operations in order")
        self.list.setFixedHeight(124)
        self.list.currentRowChanged.connect(self._choose)
        layout.addWidget(self.list)
        self.editor = OperationEditor(self.session)
        layout.addWidget(self.editor, 1)
        return panel

    def _crate_row(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setSpacing(4)
        self.sizes: list[LengthField] = []
        for axis, (letter, name) in enumerate(zip(AXIS_LETTERS, AXIS_NAMES, strict=True)):
            label = QLabel(f"{letter}  {name}")
            label.setStyleSheet(_SIZE_LABEL.format(AXIS_COLOURS[axis], theme().paper))
            field = LengthField(f"crate {name}")
            label.setBuddy(field)
            field.read.connect(lambda length, axis=axis: self._resize(axis, length))
            field.refused.connect(self._refuse)
            field.left.connect(self.session.history_step_done)
            grid.addWidget(label, 0, axis)
            grid.addWidget(field, 1, axis)
            self.sizes.append(field)
        return grid

    def _operation_header(self) -> QVBoxLayout:
        """Return the heading with the buttons that order, and the row of what can be begun."""
        heading = QLabel("Operations")
        heading.setObjectName("heading")
        order = QHBoxLayout()
        order.setSpacing(0)
        order.addWidget(heading)
        order.addSpacing(10)
        order.addWidget(self._begin_choice())
        order.addStretch(1)
        begin = QHBoxLayout()
        begin.setSpacing(4)
        beginnings = (
            ("cut", "Cut", "Cut an outline away", "Alt+C", lambda: self.add_prism("cut")),
            ("add", "Add", "Add an outline", "Alt+A", lambda: self.add_prism("add")),
            ("cut round", "Hole", "Bore a hole", "Alt+H", lambda: self.add_round("cut")),
            ("add round", "Boss", "Add a boss", "Alt+B", lambda: self.add_round("add")),
        )
        orderings = (
            ("up", "Earlier", "Alt+Up", lambda: self.shift(-1)),
            ("down", "Later", "Alt+Down", lambda: self.shift(1)),
            ("remove", "Remove the operation", "Alt+Del", self.remove),
        )
        for name, text, tip, key, action in beginnings:
            begin.addWidget(self._button(QPushButton(text), name, tip, key, action), 1)
        begin.addWidget(self._more_button())
        for name, tip, key, action in orderings:
            order.addWidget(self._button(QToolButton(), name, tip, key, action))
        column = QVBoxLayout()
        column.setSpacing(4)
        column.addLayout(order)
        column.addLayout(begin)
        return column

    def _more_button(self) -> QPushButton:
        """Return the button that offers the further shapes."""
        button = QPushButton("More")
        button.setFixedWidth(64)
        button.setToolTip("Polygons, cones, pyramids, balls, rings, strips (Alt+M)")
        button.setAccessibleName("further shapes")
        menu = QMenu(button)
        for shape, title in SHAPES.items():
            action = menu.addAction(f"&{title}")
            if action is not None:
                action.triggered.connect(lambda _=False, shape=shape: self.add_shape(shape))
        button.setMenu(menu)
        QShortcut("Alt+M", self).activated.connect(button.showMenu)
        return button

    def _begin_choice(self) -> QComboBox:
        """Return the choice of what the operations begin from."""
        self.begin = QComboBox()
        self.begin.setAccessibleName("what the operations begin from")
        self.begin.setToolTip("What the first operation finds in the crate")
        for begin, words in _BEGINNINGS.items():
            self.begin.addItem(words, begin)
        self.begin.activated.connect(self._begin_with)
        return self.begin

    def _begin_with(self, index: int) -> None:
        part = self.session.part
        begin: Begin = list(_BEGINNINGS)[index]
        if part is not None:
            self.session.edit_part(replace(part, begin=begin), f"begin with {begin}")

    def _button(
        self, button: QAbstractButton, name: str, tip: str, key: str, action: Callable[[], None]
    ) -> QAbstractButton:
        give_icon(button, name)
        button.setIconSize(QSize(18, 18))
        button.setToolTip(f"{tip} ({key})")
        button.setAccessibleName(tip)
        button.clicked.connect(lambda _=False: action())
        QShortcut(key, self).activated.connect(action)
        return button

    # --- edits ------------------------------------------------------------------------------

    def _resize(self, axis: int, length: Length) -> None:
        part = self.session.part
        if part is None:
            return
        sizes = [part.crate.length, part.crate.depth, part.crate.height]
        sizes[axis] = length
        resized = replace(part, crate=Crate(*sizes))
        try:
            resized = resized.reread(self.session.job.unit)
        except HolopticError as error:
            self._refuse(str(error))
            return
        self.session.edit_part(resized, f"crate {AXIS_NAMES[axis]}", f"crate {axis}")

    def add_prism(self, mode: Mode) -> None:
        """Put a new prism after the operation in hand."""
        part = self.session.part
        if part is not None:
            self._insert(new_prism(part, mode, self._face(part), self.session.job.unit), part)

    def add_round(self, mode: Mode) -> None:
        """Put a new hole or boss after the operation in hand."""
        part = self.session.part
        if part is not None:
            self._insert(new_round(part, mode, self._face(part), self.session.job.unit), part)

    def add_shape(self, shape: Shape) -> None:
        """Put one of the further shapes after the operation in hand: cut into a block, added to
        what is built up.
        """
        part = self.session.part
        if part is not None:
            mode: Mode = "cut" if part.begin == "block" else "add"
            unit = self.session.job.unit
            self._insert(new_shape(part, shape, mode, self._face(part), unit), part)

    def _face(self, part: Part) -> Face:
        at = self.session.operation_index
        return part.operations[at].face if at < len(part.operations) else Face.FRONT

    def _insert(self, operation: Operation, part: Part) -> None:
        at = min(self.session.operation_index + 1, len(part.operations))
        self.session.operation_index = at
        self.session.edit_part(with_inserted(part, at, operation), f"add “{operation.name}”")
        self.editor.start()

    def shift(self, way: int) -> None:
        """Move the operation in hand earlier or later."""
        part, at = self.session.part, self.session.operation_index
        if part is None or not 0 <= at + way < len(part.operations):
            return
        name = part.operations[at].name
        self.session.operation_index = at + way
        self.session.edit_part(with_moved(part, at, at + way), f"move “{name}”")

    def remove(self) -> None:
        """Remove the operation in hand; undo brings it back."""
        part, at = self.session.part, self.session.operation_index
        if part is not None and at < len(part.operations):
            name = part.operations[at].name
            self.session.edit_part(without_operation(part, at), f"remove “{name}”")

    def _choose(self, row: int) -> None:
        if row >= 0:
            self.session.choose_operation(row)

    def _refuse(self, reason: str) -> None:
        self.session.told.emit(reason)

    # --- showing ----------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show the part on the desk."""
        session, part = self.session, self.session.part
        if not self.isVisible():
            return
        if part is None:
            self._stack.setCurrentIndex(1 if session.job_part else 2)
            return
        self._stack.setCurrentIndex(0)
        crate = part.crate
        for field, length in zip(
            self.sizes, (crate.length, crate.depth, crate.height), strict=True
        ):
            field.unit = session.job.unit
            field.show_length(length)
        self.begin.setCurrentIndex(list(_BEGINNINGS).index(part.begin))
        self._refresh_list(part)
        self.editor.refresh()

    def _refresh_list(self, part: Part) -> None:
        blocker = QSignalBlocker(self.list)
        self.list.clear()
        for index, operation in enumerate(part.operations):
            item = QListWidgetItem(_row_text(index, operation))
            straight = operation.type in ("prism", "strip", "polygon", "pyramid")
            name = operation.mode if straight else f"{operation.mode} round"
            broken = index == self.session.trouble_operation
            item.setIcon(icon(name, theme().ghost if broken else None))
            if broken:
                item.setToolTip(self.session.trouble or "")
                item.setText(f"⚠ {item.text()}")
            self.list.addItem(item)
        self.list.setCurrentRow(self.session.operation_index)
        blocker.unblock()


def _row_text(index: int, operation: Operation) -> str:
    if isinstance(operation, Ball | Ring):
        return (
            f"{index + 1}  {operation.name}  ·  {operation.face.value}, ⌀{operation.diameter.text}"
        )
    depth = "through" if operation.end is None else f"to {operation.end.text}"
    if operation.start.mm > 0:
        depth = f"{operation.start.text} {depth}"
    if isinstance(operation, Round):
        depth = f"⌀{operation.diameter.text}, {depth}"
    if isinstance(operation, Polygon):
        depth = f"{operation.sides} sides {operation.size.text}, {depth}"
    return f"{index + 1}  {operation.name}  ·  {operation.face.value}, {depth}"
