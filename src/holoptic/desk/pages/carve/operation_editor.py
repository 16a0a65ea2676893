"""The editor of one operation: name, cut or add, face, outline or circle, depths."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

from PyQt6.QtCore import QSignalBlocker
from PyQt6.QtGui import QHideEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QComboBox,
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
from holoptic.desk.pages.carve.forms import CentreForm, DepthForm, OutlineForm
from holoptic.desk.pages.carve.size_form import SizeForm
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.fields import LengthField
from holoptic.desk.widgets.menus import open_under
from holoptic.desk.widgets.pressed import on_toggle, show_down
from holoptic.desk.widgets.walk_bar import WalkBar
from holoptic.errors import ExpressionError, PartError
from holoptic.job.job import with_operation
from holoptic.part import Face, Mode, Offset, Operation
from holoptic.part.families import family_of
from holoptic.part.naming import spoken
from holoptic.part.operations import Centred, outline_of, referred, with_outline
from holoptic.part.outline_text import read_paths
from holoptic.part.reach import bases_for, counted_from, faces_to_reach
from holoptic.part.snapping import offsets_on_face
from holoptic.part.starters import half_depth
from holoptic.part.walk import Walk
from holoptic.regional import in_lists
from holoptic.units import Length


class OperationEditor(QWidget):
    """Edits the operation in hand; every change is live in the picture and can be undone."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._length_fields: list[LengthField] = []
        self._in_hand: tuple[object, ...] = ()
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
        layout.addWidget(self._outline_form())
        layout.addWidget(self._size_form())
        layout.addWidget(self._centre_form())
        layout.addWidget(self._depth_form())
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
            on_toggle(button, partial(self._take_mode, mode))
            group.addButton(button)
            row.addWidget(button)
            self.modes[mode] = button
        self.face = QComboBox()
        self.face.setAccessibleName(tr("crate face"))
        self.face.addItems([face.title for face in Face])
        self.face.activated.connect(self._choose_face)
        row.addWidget(self.face)
        return self._name_box

    def _take_mode(self, mode: Mode, down: bool) -> None:
        if down:
            self._change(mode=mode)

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

    def _outline_form(self) -> OutlineForm:
        self.outline = OutlineForm()
        self.corners = self.outline.corners
        self.outline.typed.connect(self._read_corners)
        self.outline.left.connect(self._corners_left)
        self.outline.settled.connect(self.session.document.close_step)
        self.outline.walk_asked.connect(self.start_walk)
        return self.outline

    def _size_form(self) -> SizeForm:
        self.sizes = SizeForm()
        self.sizes.changed.connect(lambda name, value: self._change(**{name: value}))
        self.sizes.left.connect(self.session.document.close_step)
        self.sizes.comes_after = self.outline.walk_button
        return self.sizes

    def _centre_form(self) -> CentreForm:
        self.centre = CentreForm(self._field)
        self.from_edge, self.distance = self.centre.from_edge, self.centre.distance
        self.centre.moved.connect(self._move_centre)
        self.centre.referred.connect(self._refer_centre)
        return self.centre

    def _depth_form(self) -> DepthForm:
        self.depths = DepthForm(self._field)
        self.start_field, self.end_field = self.depths.start_field, self.depths.end_field
        self.through, self.up_to = self.depths.through, self.depths.up_to
        self.counted = self.depths.counted
        self.depths.changed.connect(lambda name, length: self._change(**{name: length}))
        self.depths.through_asked.connect(self._go_through)
        self.depths.counted_from.connect(self._count_from)
        self.depths.reach_asked.connect(self.offer_faces)
        return self.depths

    def _field(self, name: str, take: Any) -> LengthField:
        field = LengthField(name)
        field.read.connect(take)
        field.left.connect(self.session.document.close_step)
        self._length_fields.append(field)
        return field

    # --- edits ------------------------------------------------------------------------------

    @property
    def _operation(self) -> Operation | None:
        part, at = self.session.document.part, self.session.document.operation_index
        return part.operations[at] if part and at < len(part.operations) else None

    # --- walking and reaching ---------------------------------------------------------------

    def start_walk(self) -> None:
        """Walk the outline in hand anew; it stays as it is until the walk closes."""
        operation, part = self._operation, self.session.document.part
        if operation is not None and family_of(operation).outline and part is not None:
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
        if operation is not None and family_of(operation).outline:
            self._put(with_outline(operation, walk.points, ()), "outline")
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
        if operation is None or part is None or not family_of(operation).outline:
            return
        try:
            scope = part.scope(self.session.document.operation_index)
            outline, starts = read_paths(in_lists(text), self.session.document.unit, scope)
            if starts and not family_of(operation).paths:
                raise ExpressionError(tr("only a strip has several paths"), text.index("|"))
        except ExpressionError as error:
            self.corners.refuse(str(error), error.column)
            return
        self.corners.accept()
        self.outline.taken = outline
        self._put(with_outline(operation, outline, starts), "outline")

    def _corners_left(self) -> None:
        self.session.document.close_step()
        self.refresh()

    def _move_centre(self, side: str, length: Length) -> None:
        operation = self._operation
        if isinstance(operation, Centred):
            offset: Offset = getattr(operation, side)
            self._change(**{side: replace(offset, distance=length)})

    def _refer_centre(self, side: str, reference: int) -> None:
        """Measure from the near edge, the far edge or the centre line; the centre stays."""
        operation, part = self._operation, self.session.document.part
        if not isinstance(operation, Centred) or part is None:
            return
        size = part.crate.face_size(operation.face)[("u", "v").index(side)]
        offset: Offset = getattr(operation, side)
        self._change(**{side: referred(offset, reference, size, self.session.document.unit)})

    def _go_through(self, through: bool) -> None:
        operation, part = self._operation, self.session.document.part
        if operation is None or part is None:
            return
        half = half_depth(operation, part.crate, self.session.document.unit)
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
        self._show_forms(operation, is_other)
        at = self.session.document.operation_index
        broken = (
            self.session.answers.trouble if self.session.answers.trouble_operation == at else None
        )
        self._say(broken or self.session.answers.troubles.get(at, ""))

    def _show_forms(self, operation: Operation, is_other: bool) -> None:
        """Show the forms by which an operation of this family is given."""
        family, part = family_of(operation), self.session.document.part
        self.copies.setVisible(family.copies)
        self.outline.setVisible(family.outline)
        self.centre.setVisible(family.centre)
        self.depths.setVisible(family.depths != "none")
        if self.walk_bar.isVisible() and not family.outline:
            self.leave_walk()
        if family.outline:
            self.outline.show_outline(*outline_of(operation), is_other)
        if isinstance(operation, Centred):
            self.centre.show_centre(operation)
        if family.depths != "none" and part is not None:
            bases = bases_for(part, self.session.document.operation_index)
            self.depths.show_depths(operation, family.depths, bases)

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
        for box in (self.outline, self.sizes, self.centre, self.depths, self.copies):
            box.hide()
        self.name.clear()
        self.corners.clear()
        self._say("")

    def _show_head(self, operation: Operation, is_other: bool) -> None:
        blocker, family = QSignalBlocker(self.face), family_of(operation)
        typing = self.name.hasFocus() and not is_other
        if not typing or self.name.text().strip() not in ("", operation.name):
            self.name.setText(operation.name)
        show_down(self.modes[operation.mode], True)
        for mode, button in self.modes.items():
            button.setEnabled(mode == "cut" or family.may_add)
        self.face.setEnabled(family.on_one_face)
        self.face.setCurrentIndex(list(Face).index(operation.face))
        blocker.unblock()

    def _count_from(self, words: str | None) -> None:
        """Count the depths from something else; the operation stays where it is."""
        part, at = self.session.document.part, self.session.document.operation_index
        if part is not None and self._operation is not None:
            self._put(counted_from(part, at, words, self.session.document.unit), "base")
            self.session.document.close_step()
