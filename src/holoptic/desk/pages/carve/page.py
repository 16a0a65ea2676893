"""Carve: crate and operations beside the live picture."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtCore import QSignalBlocker, QSize, Qt
from PyQt6.QtGui import QColor, QShortcut, QShowEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.canvas.panes import PicturePane
from holoptic.desk.look.icons import give_icon, icon
from holoptic.desk.look.theme import AXIS_COLOURS, Theme, px, theme
from holoptic.desk.pages.carve.names_field import NamesField
from holoptic.desk.pages.carve.operation_editor import OperationEditor
from holoptic.desk.pages.carve.parts_shelf import PartsShelf
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.caliper_line import CaliperLine
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.fields import LengthField
from holoptic.desk.widgets.key_line import KeyLine
from holoptic.desk.widgets.menus import open_under, with_mnemonics
from holoptic.errors import HolopticError
from holoptic.exchange.clip import clip_text, read_clip
from holoptic.job.job import with_inserted, with_moved, with_operation, without_operation
from holoptic.part import (
    AboutCentre,
    Ball,
    Begin,
    CornerCut,
    Crate,
    Face,
    Hole,
    InLine,
    Mode,
    Operation,
    Part,
    Polygon,
    Ring,
    Round,
)
from holoptic.part.advice import Advice
from holoptic.part.crate import AXIS_LETTERS, AXIS_NAMES
from holoptic.part.overall import overall_words
from holoptic.part.starters import (
    SHAPES,
    Shape,
    new_hole,
    new_prism,
    new_round,
    new_shape,
    with_free_name,
)
from holoptic.units import Length, show
from holoptic.units.spoken import said

_COLUMN_WIDTH = 366
_SIZE_LABEL = "font-weight: 600; color: {}; background: {}; border-radius: 4px; padding: 1px 5px;"
"""The colours of the axes are made for paper, so the labels lie on a piece of it."""
_BEGINNINGS: dict[Begin, str] = {"block": tr("in a full block"), "empty": tr("in an empty crate")}


class CarvePage(QWidget):
    """The picture with its crate, and a column to describe the part."""

    def __init__(self, session: Session, caliper: CaliperLine) -> None:
        super().__init__()
        self.session = session
        self.pane = PicturePane(session, with_crate=True)
        self.keys = KeyLine(_KEYS)
        self.shelf = PartsShelf(session)
        left = QVBoxLayout()
        left.setSpacing(0)
        for widget in (self.keys, self.pane, self.shelf):
            left.addWidget(widget, 1 if widget is self.pane else 0)
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(left, 1)
        self.column = self._make_column()
        layout.addWidget(self.column)
        for changed in (
            session.document.changed,
            session.answers.trouble_changed,
            session.answers.advice_changed,
        ):
            changed.connect(self.refresh)
        session.selection.changed.connect(self._follow_edge)
        self.caliper = caliper
        caliper.take_keys(self)

    def _follow_edge(self) -> None:
        """Take the operation that the selected edge belongs to in hand."""
        facts, edge = self.session.answers.facts, self.session.selection.edge
        if (
            not self.isVisible()
            or facts is None
            or edge is None
            or not 0 <= edge < len(facts.edges)
        ):
            return
        operation = facts.edges[edge].operation
        if operation is not None:
            self.session.document.choose_operation(operation)

    # --- layout -----------------------------------------------------------------------------

    def _make_column(self) -> Column:
        column = Column(_COLUMN_WIDTH)
        self._carving(column.layers)
        self.fixed = fixed = QLabel(
            tr(
                "This part came as a solid, from a file or read by its faces: "
                "its shape is fixed.\n\nIts "
                "views, picture and plan are on the other pages."
            )
        )
        fixed.setWordWrap(True)
        fixed.setAlignment(Qt.AlignmentFlag.AlignCenter)
        fixed.hide()
        column.layers.addWidget(fixed, 1)
        return column

    def _carving(self, column: QVBoxLayout) -> None:
        self.names = NamesField(self.session)
        self.editor = OperationEditor(self.session)
        self.list = QListWidget()
        self._rows: list[tuple[str, str, bool, str, Theme]] = []
        self._panel = QWidget()
        column.addWidget(self._panel, 1)
        layout = QVBoxLayout(self._panel)
        layout.setContentsMargins(0, 2, 0, 0)
        layout.setSpacing(6)
        layout.addLayout(self._crate_row())
        layout.addWidget(self.names)
        layout.addLayout(self._operation_header())
        self.list.setAccessibleName(tr("operations in order"))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setMinimumHeight(px(62))
        self.list.setMaximumHeight(px(104))
        self.list.currentRowChanged.connect(self._choose)
        layout.addWidget(self.list, 2)
        layout.addWidget(self.editor, 6)
        self.remarks = QLabel()
        self.remarks.setObjectName("quiet")
        self.remarks.setAccessibleName(tr("worth a look"))
        layout.addWidget(self.remarks)

    def _crate_row(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setSpacing(4)
        self.sizes: list[LengthField] = []
        for axis, (letter, name) in enumerate(zip(AXIS_LETTERS, AXIS_NAMES, strict=True)):
            label = QLabel(f"{letter}  {name}")
            label.setStyleSheet(_SIZE_LABEL.format(AXIS_COLOURS[axis], theme().paper))
            field = LengthField(tr("crate {name}", name=name))
            label.setBuddy(field)
            field.read.connect(lambda length, axis=axis: self._resize(axis, length))
            field.left.connect(self.session.document.close_step)
            field.emptied.connect(lambda axis=axis: self.follow_features(axis))
            field.may_be_empty = True
            grid.addWidget(label, 0, axis)
            grid.addWidget(field, 1, axis)
            self.sizes.append(field)
        return grid

    def _operation_header(self) -> QVBoxLayout:
        """Return the heading with the buttons that order, and the row of what can be begun."""
        heading = QLabel(tr("Operations"))
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
            ("cut", tr("Cut"), tr("Cut an outline away"), "Alt+C", lambda: self.add_prism("cut")),
            ("add", tr("Add"), tr("Add an outline"), "Alt+A", lambda: self.add_prism("add")),
            ("cut round", tr("Hole"), tr("Bore a hole"), "Alt+H", self.add_hole),
            ("add round", tr("Boss"), tr("Add a boss"), "Alt+B", lambda: self.add_round("add")),
        )
        orderings = (
            ("up", tr("Earlier"), "Alt+Up", lambda: self.shift(-1)),
            ("down", tr("Later"), "Alt+Down", lambda: self.shift(1)),
            ("remove", tr("Remove the operation"), "Alt+Del", self.remove),
        )
        for name, text, tip, key, action in beginnings:
            begin.addWidget(self._button(QPushButton(text), name, tip, key, action), 1)
        begin.addWidget(self._more_button())
        for name, tip, key, action in orderings:
            order.addWidget(self._button(QToolButton(), name, tip, key, action))
        for key, action in (
            ("Alt+D", self.duplicate), ("Alt+O", self.switch), ("Ctrl+C", self.copy),
            ("Ctrl+V", self.paste), ("Alt+W", self.editor.start_walk),
            ("Alt+U", self.editor.offer_faces), ("Alt+S", self.shelf.toggle),
            ("Alt+.", lambda: self.change_step(1)), ("Alt+,", lambda: self.change_step(-1)),
            ("Alt+L", self.list.setFocus), ("Alt+E", self.names.setFocus),
        ):  # fmt: skip
            QShortcut(key, self).activated.connect(action)
        column = QVBoxLayout()
        column.setSpacing(4)
        column.addLayout(order)
        column.addLayout(begin)
        return column

    def _more_button(self) -> QPushButton:
        """Return the button that offers the further shapes."""
        button = QPushButton(tr("More"))
        button.setFixedWidth(px(60))
        button.setProperty("tight", True)
        button.setToolTip(tr("Polygons, cones, pyramids, balls, rings, strips (Alt+M)"))
        button.setAccessibleName(tr("further shapes"))
        menu = QMenu(button)
        for shape, title in zip(SHAPES, with_mnemonics(list(SHAPES.values())), strict=True):
            action = menu.addAction(title)
            if action is not None:
                action.triggered.connect(lambda _=False, shape=shape: self.add_shape(shape))
        button.setMenu(menu)
        QShortcut("Alt+M", self).activated.connect(lambda: open_under(menu, button))
        return button

    def _begin_choice(self) -> QComboBox:
        """Return the choice of what the operations begin from."""
        self.begin = QComboBox()
        self.begin.setAccessibleName(tr("what the operations begin from"))
        self.begin.setToolTip(tr("What the first operation finds in the crate"))
        for begin, words in _BEGINNINGS.items():
            self.begin.addItem(words, begin)
        self.begin.activated.connect(self._begin_with)
        return self.begin

    def _begin_with(self, index: int) -> None:
        part = self.session.document.part
        begin: Begin = list(_BEGINNINGS)[index]
        if part is not None:
            self.session.document.edit_part(
                replace(part, begin=begin), tr("begin with {begin}", begin=begin)
            )

    def _button(
        self, button: QAbstractButton, name: str, tip: str, key: str, action: Callable[[], None]
    ) -> QAbstractButton:
        give_icon(button, name)
        button.setProperty("tight", True)
        button.setIconSize(QSize(px(17), px(17)))
        button.setToolTip(f"{tip} ({key})")
        button.setAccessibleName(tip)
        button.clicked.connect(lambda _=False: action())
        QShortcut(key, self).activated.connect(action)
        return button

    # --- edits ------------------------------------------------------------------------------

    def _resize(self, axis: int, length: Length) -> None:
        part = self.session.document.part
        if part is None:
            return
        sizes = [part.crate.length, part.crate.depth, part.crate.height]
        sizes[axis] = length
        resized = replace(part, crate=Crate(*sizes))
        try:
            resized = resized.reread(self.session.document.unit)
        except HolopticError as error:
            self.sizes[axis].refuse(error.said(self.session.document.unit))
            return
        self.session.document.edit_part(
            resized,
            tr("crate {axis_names}", axis_names=AXIS_NAMES[axis]),
            tr("crate {axis}", axis=axis),
        )

    def begin_describing(self, wants_size: bool) -> None:
        """Put the cursor where a new part is described next: its length, or block or empty."""
        if wants_size:
            self.sizes[0].setFocus()
            self.sizes[0].selectAll()
        else:
            self.begin.setFocus()

    def add_prism(self, mode: Mode) -> None:
        """Put a new prism after the others."""
        part = self.session.document.part
        if part is not None:
            self._insert(new_prism(part, mode, self._face(part), self.session.document.unit), part)

    def follow_features(self, axis: int) -> None:
        """Let a crate size follow from the feature that reaches farthest along it."""
        part = self.session.document.part
        words = overall_words(part, axis) if part is not None else None
        if part is None or words is None:
            self.sizes[axis].refuse(
                tr("no added feature says how far this part reaches; type a size")
            )
            return
        self.session.told.emit(f"{AXIS_NAMES[axis]}: {words.shown} = "
                               f"{show(words.mm, self.session.document.unit)}")  # fmt: skip
        self._resize(axis, words)
        self.sizes[axis].show_length(words)

    def add_hole(self) -> None:
        """Put a new hole after the others."""
        part = self.session.document.part
        if part is not None:
            self._insert(new_hole(part, self._face(part), self.session.document.unit), part)

    def add_round(self, mode: Mode) -> None:
        """Put a new hole or boss after the others."""
        part = self.session.document.part
        if part is not None:
            self._insert(new_round(part, mode, self._face(part), self.session.document.unit), part)

    def add_shape(self, shape: Shape) -> None:
        """Put one of the further shapes after the others: cut into a block, added to what is
        built up.
        """
        part = self.session.document.part
        if part is not None:
            mode: Mode = "cut" if part.begin == "block" else "add"
            unit = self.session.document.unit
            self._insert(new_shape(part, shape, mode, self._face(part), unit), part)

    def _face(self, part: Part) -> Face:
        at = self.session.document.operation_index
        return part.operations[at].face if at < len(part.operations) else Face.FRONT

    def _insert(self, operation: Operation, part: Part) -> None:
        """Put an operation in last, where none that follows can fill or cut it; say so."""
        before, at = self.session.document.operation_index, len(part.operations)
        self.session.document.operation_index = at
        self.session.document.edit_part(
            with_inserted(part, at, operation), tr("add “{name}”", name=operation.name)
        )
        if before + 1 < at:
            last = part.operations[-1].name
            self._refuse(
                tr(
                    "“{name}” goes in last, after “{last}”. Alt+Up puts it earlier.",
                    name=operation.name,
                    last=last,
                )
            )
        self.editor.start()

    def shift(self, way: int) -> None:
        """Move the operation in hand earlier or later."""
        part, at = self.session.document.part, self.session.document.operation_index
        if part is None or not 0 <= at + way < len(part.operations):
            return
        name = part.operations[at].name
        self.session.document.operation_index = at + way
        self.session.document.edit_part(
            with_moved(part, at, at + way), tr("move “{name}”", name=name)
        )

    def remove(self) -> None:
        """Remove the operation in hand; undo brings it back."""
        part, at = self.session.document.part, self.session.document.operation_index
        if part is not None and at < len(part.operations):
            name = part.operations[at].name
            self.session.document.edit_part(
                without_operation(part, at), tr("remove “{name}”", name=name)
            )

    def duplicate(self) -> None:
        """Put a copy of the operation in hand at the end."""
        part, at = self.session.document.part, self.session.document.operation_index
        if part is not None and at < len(part.operations):
            self._insert(with_free_name(part, part.operations[at]), part)

    def switch(self) -> None:
        """Leave the operation in hand out of the part, or put it back."""
        part, at = self.session.document.part, self.session.document.operation_index
        if part is not None and at < len(part.operations):
            operation = part.operations[at]
            changed = with_operation(part, at, replace(operation, off=not operation.off))
            how = tr("put back") if operation.off else tr("leave out")
            self.session.document.edit_part(changed, f"{how} “{operation.name}”")

    def copy(self) -> None:
        """Copy the operation in hand, to be pasted into this part or another."""
        part, at = self.session.document.part, self.session.document.operation_index
        clipboard = QApplication.clipboard()
        if part is not None and at < len(part.operations) and clipboard is not None:
            clipboard.setText(clip_text(part.operations[at], self.session.document.unit))
            self.session.told.emit(
                tr("Copied “{name}”; Ctrl+V puts it here", name=part.operations[at].name)
            )

    def paste(self) -> None:
        """Put the copied operation after the others; what its sums miss becomes figures."""
        part, clipboard = self.session.document.part, QApplication.clipboard()
        if part is None or clipboard is None:
            return
        try:
            operation, unit = read_clip(clipboard.text())
            at = len(part.operations)
            added = with_inserted(part, at, with_free_name(part, operation)).reread(unit)
        except HolopticError as error:
            self._refuse(error.said(self.session.document.unit))
            return
        self.session.document.operation_index = at
        self.session.document.edit_part(
            added.in_unit(unit, self.session.document.unit), tr("paste an operation")
        )

    def change_step(self, way: int) -> None:
        """Drag in coarser or finer steps."""
        self.session.change_step(way)
        self._show_keys()

    def _show_keys(self) -> None:
        step = show(self.session.step_mm, self.session.document.unit)
        self.keys.show_state(
            tr("step {step} {label}", step=step, label=self.session.document.unit.label)
        )

    def _choose(self, row: int) -> None:
        if row >= 0:
            self.session.document.choose_operation(row)

    def _refuse(self, reason: str) -> None:
        self.session.told.emit(reason)

    # --- showing ----------------------------------------------------------------------------

    def showEvent(self, event: QShowEvent | None) -> None:
        """Parts are carved, not arrangements."""
        super().showEvent(event)
        self.session.document.take_part()

    def refresh(self) -> None:
        """Show the part on the desk."""
        session, part = self.session, self.session.document.part
        if not self.isVisible():
            return
        self._panel.setVisible(part is not None)
        self.fixed.setVisible(part is None and session.document.job_part is not None)
        if part is None:
            return
        crate = part.crate
        for field, length in zip(
            self.sizes, (crate.length, crate.depth, crate.height), strict=True
        ):
            field.unit = session.document.unit
            field.names = part.own_names()
            field.show_length(length)
        self.names.refresh()
        self._show_keys()
        self._show_remarks(session.answers.advice)
        self.remarks.setVisible(bool(session.answers.advice))
        self.begin.setCurrentIndex(list(_BEGINNINGS).index(part.begin))
        self._refresh_list(part)
        self.editor.refresh()

    def _show_remarks(self, advice: tuple[Advice, ...]) -> None:
        """Show the first remarks, each on one line; all of them stand in the tip."""
        metrics, room = self.remarks.fontMetrics(), px(_COLUMN_WIDTH) - 36
        words = [f"? {said(item.words, self.session.document.unit)}" for item in advice]
        shown = [metrics.elidedText(w, Qt.TextElideMode.ElideRight, room) for w in words[:2]]
        self.remarks.setText("\n".join(shown))
        self.remarks.setToolTip("\n".join(words))
        self.remarks.setAccessibleDescription("; ".join(words))

    def _refresh_list(self, part: Part) -> None:
        blocker = QSignalBlocker(self.list)
        rows = [
            (_row_text(index, operation), _icon_name(operation), operation.off,
             self._trouble_of(index), theme())
            for index, operation in enumerate(part.operations)
        ]  # fmt: skip
        while self.list.count() > len(rows):
            self.list.takeItem(self.list.count() - 1)
        for at, row in enumerate(rows):
            if at < len(self._rows) and self._rows[at] == row and at < self.list.count():
                continue  # an edit leaves most rows as they were
            if at < self.list.count():
                self.list.takeItem(at)
            self.list.insertItem(at, _row_item(*row))
        self._rows = rows
        self.list.setCurrentRow(self.session.document.operation_index)
        blocker.unblock()

    def _trouble_of(self, index: int) -> str:
        if index == self.session.answers.trouble_operation:
            return self.session.answers.trouble or ""
        return self.session.answers.troubles.get(index, "")


_KEYS = (
    ("Alt+C", tr("cut")),
    ("Alt+A", tr("add")),
    ("Alt+H", tr("hole")),
    ("Alt+M", tr("more")),
    ("Alt+W", tr("walk")),
    ("Alt+D", tr("double")),
    ("Alt+O", tr("off")),
    ("Alt+S", tr("shelf")),
    ("F1", tr("all keys")),
)


def _icon_name(operation: Operation) -> str:
    is_round = operation.type in ("round", "hole", "ball", "ring")
    return f"{operation.mode} round" if is_round else operation.mode


def _row_item(
    text: str, icon_name: str, off: bool, trouble: str, colours: Theme
) -> QListWidgetItem:
    item = QListWidgetItem(f"⚠ {text}" if trouble else text)
    item.setIcon(icon(icon_name, colours.ghost if trouble else None))
    item.setToolTip(trouble or text)  # long words are cut off in the list
    if off:
        item.setForeground(QColor(colours.quiet))
        item.setText(tr("{text_}  (left out)", text_=item.text()))
    return item


def _row_text(index: int, operation: Operation) -> str:
    if isinstance(operation, Ball | Ring):
        return (
            f"{index + 1}  {operation.name}  ·  {operation.face.title}, ⌀{operation.diameter.shown}"
        )
    if isinstance(operation, CornerCut):
        offsets = " · ".join(length.shown for _, length in operation.sides)
        return tr(
            "{index}  {name}  ·  corner, {offsets}",
            index=index + 1,
            name=operation.name,
            offsets=offsets,
        )
    depth = tr("through") if operation.end is None else tr("to {text_}", text_=operation.end.shown)
    if operation.base is not None:
        reach = tr("to {value}", value=operation.face.title) if operation.end is None else depth
        depth = tr(
            "{text_} {reach} above {text_2}",
            text_=operation.start.shown,
            reach=reach,
            text_2=operation.base.shown,
        )
    elif operation.start.mm > 0:
        depth = f"{operation.start.shown} {depth}"
    if isinstance(operation, Round | Hole):
        depth = f"⌀{operation.diameter.shown}, {depth}"
    if isinstance(operation, Polygon):
        depth = tr(
            "{sides} sides {text_}, {depth}",
            sides=operation.sides,
            text_=operation.size.shown,
            depth=depth,
        )
    if isinstance(operation.copies, InLine | AboutCentre):
        depth = tr("{depth}, {count} times", depth=depth, count=operation.copies.count)
    elif operation.copies is not None:
        depth = tr("{depth}, opposite too", depth=depth)
    return f"{index + 1}  {operation.name}  ·  {operation.face.title}, {depth}"
