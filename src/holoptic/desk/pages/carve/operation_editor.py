"""The editor of one operation: name, cut or add, face, outline or circle, depths."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from PyQt6.QtCore import QSignalBlocker
from PyQt6.QtGui import QHideEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px
from holoptic.desk.pages.carve.copies_form import CopiesForm
from holoptic.desk.pages.carve.face_board import FaceBoard
from holoptic.desk.pages.carve.size_form import SizeForm
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.fields import LengthField, ReadField
from holoptic.desk.widgets.menus import open_under, show_whole_entries
from holoptic.desk.widgets.walk_bar import WalkBar
from holoptic.errors import ExpressionError, PartError
from holoptic.job.job import with_operation
from holoptic.part import (
    Ball,
    Bevel,
    CornerCut,
    Face,
    Hole,
    Mode,
    Offset,
    Operation,
    Prism,
    Ring,
    Strip,
)
from holoptic.part.naming import spoken
from holoptic.part.operations import Centred, OutlinePoint
from holoptic.part.outline_text import outline_text, read_paths
from holoptic.part.reach import Base, bases_for, counted_from, faces_to_reach
from holoptic.part.snapping import offsets_on_face
from holoptic.part.walk import Walk
from holoptic.units import Length

_OUTLINE_HELP = tr(
    "across, up; across, up; … from the face's near edges\n0, 0 arc "
    "21 left — an arc from this corner to the next\nangle 30 length "
    "25 — a slope from the corner before (or: run, rise)"
)


class OperationEditor(QWidget):
    """Edits the operation in hand; every change is live in the picture and can be undone."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._length_fields: list[LengthField] = []
        self._in_hand: tuple[object, ...] = ()
        self._bases: list[Base] = []
        self._typed_outline: tuple[OutlinePoint, ...] | None = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(6)
        layout.addWidget(self._name_row())
        self.board = FaceBoard()
        self.board.setMinimumHeight(px(120))
        self.board.changed.connect(lambda changed: self._put(changed, "outline"))
        self.board.let_go.connect(session.document.close_step)
        self.board.walked_to.connect(lambda place: self.walk_bar.go(place))  # noqa: PLW0108 - made later
        layout.addWidget(self.board, 1)
        layout.addWidget(self._walk_bar())
        layout.addWidget(self._outline_row())
        layout.addWidget(self._size_form())
        layout.addWidget(self._centre_row())
        layout.addWidget(self._depth_row())
        layout.addWidget(self._copies_form())
        self.problem = QLabel()
        self.problem.setObjectName("problem")
        self.problem.setWordWrap(True)
        layout.addWidget(self.problem)

    # --- rows -------------------------------------------------------------------------------

    def _name_row(self) -> QWidget:
        self._name_box = QWidget()
        row = QHBoxLayout(self._name_box)
        row.setContentsMargins(0, 0, 0, 0)
        self.name = QLineEdit()
        self.name.setAccessibleName(tr("name of the operation"))
        self.name.setToolTip(tr("Its name stands in the plan and in messages"))
        self.name.textEdited.connect(self._rename)
        self.name.editingFinished.connect(self.session.document.close_step)
        row.addWidget(self.name, 1)
        group = QButtonGroup(self)
        self.modes: dict[Mode, QPushButton] = {}
        modes: dict[Mode, str] = {"cut": tr("cut"), "add": tr("add")}
        for mode, word in modes.items():
            button = QPushButton(word)
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, mode=mode: self._change(mode=mode))
            group.addButton(button)
            row.addWidget(button)
            self.modes[mode] = button
        self.face = QComboBox()
        self.face.setAccessibleName(tr("crate face"))
        self.face.addItems([face.title for face in Face])
        self.face.activated.connect(self._choose_face)
        row.addWidget(self.face)
        return self._name_box

    def _walk_bar(self) -> WalkBar:
        self.walk_bar = WalkBar()
        self.walk_bar.offers = self._offers
        self.walk_bar.walked.connect(self.board.show_walk)
        self.walk_bar.closed.connect(self._walk_closed)
        self.walk_bar.ended.connect(self.leave_walk)
        return self.walk_bar

    def _copies_form(self) -> CopiesForm:
        self.copies = CopiesForm()
        self.copies.changed.connect(lambda copies: self._change(copies=copies))
        return self.copies

    def _outline_row(self) -> QWidget:
        box = QWidget()
        row = QHBoxLayout(box)
        row.setContentsMargins(0, 0, 0, 0)
        label = QLabel(tr("corners"))
        label.setObjectName("quiet")
        self.corners = ReadField(tr("corners of the outline"))
        self.corners.setToolTip(_OUTLINE_HELP)
        self.corners.textEdited.connect(self._read_corners)
        self.corners.left.connect(self._corners_left)
        self.corners.returnPressed.connect(self.session.document.close_step)
        self.walk_button = QPushButton(tr("walk"))
        self.walk_button.setToolTip(tr("Walk the outline step by step (Alt+W)"))
        self.walk_button.clicked.connect(self.start_walk)
        row.addWidget(label)
        row.addWidget(self.corners, 1)
        row.addWidget(self.walk_button)
        self._outline_box = box
        return box

    def _size_form(self) -> SizeForm:
        self.sizes = SizeForm()
        self.sizes.changed.connect(lambda name, value: self._change(**{name: value}))
        self.sizes.left.connect(self.session.document.close_step)
        self.sizes.comes_after = self.walk_button
        return self.sizes

    def _centre_row(self) -> QWidget:
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        grid.addWidget(self._quiet(tr("centre from the edges")), 0, 0, 1, 4)
        self.from_edge: dict[str, QComboBox] = {}
        self.distance: dict[str, LengthField] = {}
        for number, side in enumerate(("u", "v")):
            edge = QComboBox()
            edge.setAccessibleName(tr("edge that the centre is measured from, {side}", side=side))
            edge.activated.connect(lambda index, side=side: self._from_edge(side, index))
            field = self._field(
                tr("distance of the centre, {side}", side=side),
                lambda length, side=side: self._centre(side, length),
            )
            grid.addWidget(edge, 1, 2 * number)
            grid.addWidget(field, 1, 2 * number + 1)
            self.from_edge[side], self.distance[side] = edge, field
        grid.setColumnMinimumWidth(0, 84)
        grid.setColumnMinimumWidth(2, 84)
        self._centre_box = box
        return box

    def _depth_row(self) -> QWidget:
        self._depth_box = QWidget()
        grid = QGridLayout(self._depth_box)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(4)
        self.start_field = self._field(tr("from depth"), lambda length: self._change(start=length))
        self.end_field = self._field(tr("to depth"), lambda length: self._change(end=length))
        self.end_field.setPlaceholderText(tr("through"))
        self.end_field.may_be_empty = True
        self.end_field.emptied.connect(lambda: self._change(end=None))
        self.through = QPushButton(tr("through"))
        self.through.setCheckable(True)
        self.through.setProperty("tight", True)
        self.through.clicked.connect(self._go_through)
        self.counted = QComboBox()
        self.counted.setAccessibleName(tr("what the depths are counted from"))
        self.counted.setToolTip(
            tr(
                "Inward from its face, or heights above the opposite face or "
                "above an earlier feature"
            )
        )
        self.counted.setMinimumContentsLength(8)
        self.counted.setProperty("may_be_cut", True)  # it may hold a long name of a feature
        self.counted.activated.connect(self._count_from)
        self.up_to = QPushButton(tr("up to"))
        self.up_to.setToolTip(tr("As deep as a face of an earlier feature (Alt+U)"))
        self.up_to.setProperty("tight", True)
        self.up_to.clicked.connect(self.offer_faces)
        self._counted_label = self._quiet(tr("depth"))
        self._depth_label = self._quiet(tr("from"))
        self._to_label = self._quiet(tr("to"))
        grid.addWidget(self._counted_label, 0, 0)
        grid.addWidget(self.counted, 0, 1, 1, 4)
        for column, widget in enumerate((self._depth_label, self.start_field, self._to_label,
                                         self.end_field, self.through, self.up_to)):  # fmt: skip
            grid.addWidget(widget, 1, column)
        grid.setColumnStretch(1, 1)
        grid.setColumnStretch(3, 1)
        return self._depth_box

    def _field(self, name: str, take: Any) -> LengthField:
        field = LengthField(name)
        field.read.connect(take)
        field.left.connect(self.session.document.close_step)
        self._length_fields.append(field)
        return field

    def _quiet(self, text: str) -> QLabel:
        label = QLabel(text)
        label.setObjectName("quiet")
        return label

    # --- edits ------------------------------------------------------------------------------

    @property
    def _operation(self) -> Operation | None:
        part, at = self.session.document.part, self.session.document.operation_index
        return part.operations[at] if part and at < len(part.operations) else None

    # --- walking and reaching ---------------------------------------------------------------

    def start_walk(self) -> None:
        """Walk the outline in hand anew; it stays as it is until the walk closes."""
        operation, part = self._operation, self.session.document.part
        if isinstance(operation, Prism | Strip) and part is not None:
            self.walk_bar.begin(
                self.session.document.unit, part.scope(self.session.document.operation_index)
            )

    def _offers(self) -> tuple[list[Length], list[Length]]:
        """Return what a walk may go on to: the offsets that are there on the face already."""
        part, unit = self.session.document.part, self.session.document.unit
        if part is None:
            return [], []
        across, up = offsets_on_face(part, self.session.document.operation_index)
        return [Length.of(at, unit) for at in across], [Length.of(at, unit) for at in up]

    def leave_walk(self) -> None:
        """End a walk without an outline."""
        self.walk_bar.end()
        self.board.show_walk(None, None)

    def _walk_closed(self, walk: Walk) -> None:
        operation = self._operation
        self.leave_walk()
        if isinstance(operation, Prism | Strip):
            walked = replace(operation, outline=walk.points)
            self._put(
                replace(walked, starts=()) if isinstance(walked, Strip) else walked, "outline"
            )
            self.session.document.close_step()
        self.corners.setFocus()

    def offer_faces(self) -> None:
        """Offer the faces of earlier features as the depth that the operation goes to."""
        operation, part = self._operation, self.session.document.part
        if operation is None or part is None or not self.up_to.isVisible():
            return
        menu = QMenu(self)
        for title, words in faces_to_reach(part, self.session.document.operation_index):
            action = menu.addAction(title)
            if action is not None:
                action.triggered.connect(lambda _=False, words=words: self._go_to(words, operation))
        if menu.isEmpty():
            nothing = menu.addAction(tr("no earlier feature lies that way"))
            if nothing is not None:
                nothing.setEnabled(False)
        menu.aboutToHide.connect(menu.deleteLater)
        open_under(menu, self.up_to)

    def _go_to(self, words: str, asked: Operation) -> None:
        part = self.session.document.part
        if part is not None and self._operation is asked:  # the menu may be late
            scope = part.scope(self.session.document.operation_index)
            self._change(end=Length.read(words, self.session.document.unit, scope))
            self.session.document.close_step()

    def start(self) -> None:
        """Put the cursor where a new operation is best begun."""
        self.leave_walk()
        self.name.setFocus()
        self.name.selectAll()

    def _put(self, operation: Operation, what: str) -> None:
        part, at = self.session.document.part, self.session.document.operation_index
        if part is not None:
            changed = with_operation(part, at, operation)
            text = tr("{what} of “{name}”", what=what, name=operation.name)
            self.session.document.edit_part(changed, text, f"{at} {what}")

    def _change(self, **changes: Any) -> None:
        operation = self._operation
        if operation is not None and all(hasattr(operation, name) for name in changes):
            self._put(replace(operation, **changes), next(iter(changes)))

    def _rename(self, text: str) -> None:
        operation, part = self._operation, self.session.document.part
        if not text.strip() or operation is None or part is None:
            return
        old, new = spoken(operation.name), spoken(text)
        self._change(name=text.strip())
        renamed = self.session.document.part
        if renamed is not None and old != new and part.uses_of(old):
            changed = renamed.with_word_changed(old, new)
            at = self.session.document.operation_index
            self.session.document.edit_part(
                changed, tr("name of “{text_}”", text_=text), tr("{at} name", at=at)
            )

    def _choose_face(self, index: int) -> None:
        operation, part, face = self._operation, self.session.document.part, list(Face)[index]
        if operation is None or part is None or face is operation.face:
            return
        at = self.session.document.operation_index
        try:
            changed = part.with_face_changed(at, face, self.session.document.unit)
        except (PartError, ExpressionError):
            self._change(face=face)  # as it stands: what is wrong is told with the part
            return
        self.session.document.edit_part(
            changed, tr("face of “{name}”", name=operation.name), tr("{at} face", at=at)
        )

    def _read_corners(self, text: str) -> None:
        operation, part = self._operation, self.session.document.part
        if not isinstance(operation, Prism | Strip) or part is None:
            return
        try:
            scope = part.scope(self.session.document.operation_index)
            outline, starts = read_paths(text, self.session.document.unit, scope)
            if starts and isinstance(operation, Prism):
                raise ExpressionError(tr("only a strip has several paths"), text.index("|"))
        except ExpressionError as error:
            self.corners.refuse(str(error), error.column)
            return
        self.corners.accept()
        self._typed_outline = outline
        changed = replace(operation, outline=outline)
        if isinstance(changed, Strip):
            changed = replace(changed, starts=starts)
        self._put(changed, "outline")

    def _corners_left(self) -> None:
        self.session.document.close_step()
        self.refresh()

    def _centre(self, side: str, length: Length) -> None:
        operation = self._operation
        if isinstance(operation, Centred):
            offset: Offset = getattr(operation, side)
            self._change(**{side: replace(offset, distance=length)})

    def _from_edge(self, side: str, index: int) -> None:
        """Measure from the near edge, the far edge or the centre line; the centre stays."""
        operation, part = self._operation, self.session.document.part
        if not isinstance(operation, Centred) or part is None:
            return
        size = part.crate.face_size(operation.face)[("u", "v").index(side)]
        offset: Offset = getattr(operation, side)
        place = offset.from_near(size)
        other = (place, size - place, place - size / 2)[index]
        if index != _reference(offset):
            length = Length.of(other, self.session.document.unit)
            self._change(**{side: Offset(length, far=index == 1, centred=index == 2)})

    def _go_through(self, through: bool) -> None:
        operation, part = self._operation, self.session.document.part
        if operation is None or part is None:
            return
        letter = "LDH"[operation.face.normal_axis]
        half = Length.read(f"{letter}/2", self.session.document.unit, part.crate.names)
        self._change(end=None if through else half)

    def _say(self, text: str) -> None:
        self.problem.setText(text)
        self.problem.setVisible(bool(text))

    # --- showing ----------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show the operation in hand."""
        operation, part = self._operation, self.session.document.part
        if self.board.unit is not self.session.document.unit:
            self.board.unit = self.session.document.unit
            self.board.update()
        self.board.show_operation(part, self.session.document.operation_index)
        self._name_box.setVisible(operation is not None)
        if operation is None or part is None:
            self._show_nothing()
            return
        document = self.session.document
        in_hand = (document.history, document.part_index, document.operation_index,
                   len(part.operations))  # fmt: skip
        is_other, self._in_hand = in_hand != self._in_hand, in_hand
        if is_other:
            self._shut_lists()
        if is_other and self.walk_bar.isVisible():
            self.leave_walk()
        scope = part.scope(self.session.document.operation_index)
        for field in self._length_fields:
            field.unit, field.names = self.session.document.unit, scope
        self._show_head(operation, is_other)
        self.sizes.show_operation(operation, self.session.document.unit, scope)
        self.copies.show_operation(part, operation, self.session.document.unit, scope)
        self.copies.setVisible(not isinstance(operation, CornerCut))
        has_outline = isinstance(operation, Prism | Strip)
        self._outline_box.setVisible(has_outline)
        self._centre_box.setVisible(isinstance(operation, Centred))
        if self.walk_bar.isVisible() and not has_outline:
            self.leave_walk()
        if isinstance(operation, Prism | Strip):
            self._show_outline(operation, is_other)
        elif isinstance(operation, Centred):
            self._show_centre(operation)
        self._depth_box.setVisible(not isinstance(operation, CornerCut))
        self._show_depths(operation)
        at = self.session.document.operation_index
        broken = (
            self.session.answers.trouble if self.session.answers.trouble_operation == at else None
        )
        self._say(broken or self.session.answers.troubles.get(at, ""))

    def _shut_lists(self) -> None:
        """Shut what is dropped down: it speaks of the operation that was in hand."""
        for box in self.findChildren(QComboBox):
            box.hidePopup()

    def hideEvent(self, event: QHideEvent | None) -> None:
        """Shut what is dropped down along with the page."""
        super().hideEvent(event)
        self._shut_lists()

    def _show_nothing(self) -> None:
        """Show that there is no operation, and how to begin one."""
        self._in_hand = ()
        self._shut_lists()
        if self.walk_bar.isVisible():
            self.leave_walk()
        self.board.empty_text = tr(
            "Cut or add an outline, bore a hole, add a boss, or take another shape (above)."
        )
        for box in (self._outline_box, self.sizes, self._centre_box, self._depth_box, self.copies):
            box.hide()
        self.name.clear()
        self.corners.clear()
        self._say("")

    def _show_outline(self, operation: Prism | Strip, is_other: bool) -> None:
        """Show an outline in its words; what is being typed stays as it is."""
        typing = self.corners.hasFocus() and not is_other
        if typing and (self.corners.trouble or operation.outline == self._typed_outline):
            return
        starts = operation.starts if isinstance(operation, Strip) else ()
        self.corners.setText(outline_text(operation.outline, starts))
        self.corners.accept()

    def _show_head(self, operation: Operation, is_other: bool) -> None:
        blocker = QSignalBlocker(self.face)
        typing = self.name.hasFocus() and not is_other
        if not typing or self.name.text().strip() not in ("", operation.name):
            self.name.setText(operation.name)
        self.modes[operation.mode].setChecked(True)
        for mode, button in self.modes.items():
            button.setEnabled(mode == "cut" or not isinstance(operation, Hole | Bevel | CornerCut))
        self.face.setEnabled(not isinstance(operation, CornerCut))
        self.face.setCurrentIndex(list(Face).index(operation.face))
        blocker.unblock()

    def _show_depths(self, operation: Operation) -> None:
        self.start_field.show_length(operation.start)
        has_end = not isinstance(operation, Ball | Ring)
        is_bevel = isinstance(operation, Bevel)
        self._counted_label.setVisible(not is_bevel)
        self.counted.setVisible(not is_bevel)
        self._depth_label.setText(
            tr("along it from") if is_bevel else tr("from") if has_end else tr("at")
        )
        self._show_bases(operation)
        for widget in (self.end_field, self.through, self._to_label, self.up_to):
            widget.setVisible(has_end)
        self.end_field.show_length(operation.end)
        self.through.setChecked(operation.end is None)
        away = operation.base is not None
        self.through.setText(
            tr("to {value}", value=operation.face.title) if away else tr("through")
        )
        self.end_field.setPlaceholderText(operation.face.title if away else tr("through"))

    def _show_bases(self, operation: Operation) -> None:
        part, at = self.session.document.part, self.session.document.operation_index
        if part is None or isinstance(operation, Bevel | CornerCut):
            return
        self._bases = bases_for(part, at)
        words = operation.base.text if operation.base is not None else None
        if words not in [base.words for base in self._bases]:
            self._bases.append(Base(tr("above {words}", words=words), words))
        titles = [base.title for base in self._bases]
        if titles != [self.counted.itemText(k) for k in range(self.counted.count())]:
            self.counted.clear()
            self.counted.addItems(titles)
            show_whole_entries(self.counted)
        self.counted.setCurrentIndex([base.words for base in self._bases].index(words))

    def _count_from(self, index: int) -> None:
        """Count the depths from something else; the operation stays where it is."""
        part, at = self.session.document.part, self.session.document.operation_index
        if part is not None and self._operation is not None:
            words = self._bases[index].words
            self._put(counted_from(part, at, words, self.session.document.unit), "base")
            self.session.document.close_step()

    def _show_centre(self, operation: Centred) -> None:
        for side, names in zip(("u", "v"), operation.face.edge_names, strict=True):
            offset: Offset = getattr(operation, side)
            edge = self.from_edge[side]
            titles = [*names, tr("centre line")]
            if titles != [edge.itemText(i) for i in range(edge.count())]:
                edge.clear()
                edge.addItems(titles)
            edge.setCurrentIndex(_reference(offset))
            self.distance[side].show_length(offset.distance)


def _reference(offset: Offset) -> int:
    """Return what an offset is counted from: 0 the near edge, 1 the far one, 2 the centre line."""
    return 2 if offset.centred else int(offset.far)
