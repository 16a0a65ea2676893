"""The column beside an arrangement: how it comes apart, its parts, and the one in hand."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.fields import AngleField, LengthField
from holoptic.desk.widgets.menus import give_mnemonics, open_under
from holoptic.desk.widgets.rows import Row
from holoptic.job import Placed
from holoptic.job.arrangements import fresh_placed_id
from holoptic.part import Face
from holoptic.part.crate import AXIS_NAMES
from holoptic.units import Length, show
from holoptic.units.spoken import said

_WIDTH = 236
_AXES = ((None, tr("best")), ("length", tr("length")), ("depth", tr("depth")),
         ("height", tr("height")))  # fmt: skip
_LIST_HEIGHT = 168
_AIR_MM = 10.0
"""Between what stands there and a part that is placed beside it."""
_ABOUT = {"length": (1.0, 0.0, 0.0), "depth": (0.0, 1.0, 0.0), "height": (0.0, 0.0, 1.0)}


class SpreadColumn(Column):
    """Everything about an arrangement that is typed or chosen from a list."""

    def __init__(self, session: Session) -> None:
        super().__init__(_WIDTH)
        self.session = session
        self.why = QLabel()
        self.why.setWordWrap(True)
        self.why.setTextFormat(Qt.TextFormat.PlainText)
        self.layers.addWidget(self.why)
        self.wrong = QLabel()
        self.wrong.setWordWrap(True)
        self.wrong.setObjectName("trouble")
        self.wrong.setTextFormat(Qt.TextFormat.PlainText)
        self.layers.addWidget(self.wrong)
        self.axis = Row(_AXES, self._choose_axis, tr("Along which axis it is drawn apart (A)"))
        self.add(tr("Apart along  (A)"), self.axis)
        self.gap = self._length(tr("gap between the parts"))
        self.gap.may_be_empty = True
        self.gap.read.connect(lambda length: session.spreads.change(tr("gap"), "gap", gap=length))
        self.gap.emptied.connect(lambda: session.spreads.change(tr("gap"), "gap", gap=None))
        self.add(tr("Gap  (G)"), self.gap)
        self.parts = QListWidget()
        self.parts.setAccessibleName(tr("parts list"))
        self.parts.setMouseTracking(True)
        self.parts.setFixedHeight(px(_LIST_HEIGHT))
        self.parts.itemEntered.connect(self._touch)
        self.parts.currentRowChanged.connect(self._choose_row)
        self.add(tr("Parts list"), self.parts)
        self.place_part = QPushButton(tr("Place a part …  (P)"))
        self.place_part.clicked.connect(self.open_menu)
        self.layers.addWidget(self.place_part)
        self._in_hand()
        self.layers.addStretch(1)

    def _length(self, name: str) -> LengthField:
        field = LengthField(name)
        field.left.connect(self.session.document.close_step)
        return field

    def _in_hand(self) -> None:
        """Add what is said of the placed part in hand."""
        self.hand = QWidget()
        grid = QGridLayout(self.hand)
        grid.setContentsMargins(0, 6, 0, 0)
        grid.setSpacing(4)
        self.name = QLabel()
        self.name.setWordWrap(True)
        grid.addWidget(self.name, 0, 0, 1, 3)
        self.at = []
        for axis, name in enumerate(AXIS_NAMES):
            field = self._length(tr("its place along the {axis}", axis=name))
            field.setPlaceholderText(name)
            field.read.connect(lambda length, axis=axis: self._place(axis, length))
            grid.addWidget(field, 1, axis)
            self.at.append(field)
        self.front, self.top = self._faces(tr("face to the front")), self._faces(tr("face on top"))
        grid.addWidget(self._quiet(tr("front")), 2, 0)
        grid.addWidget(self.front, 2, 1, 1, 2)
        grid.addWidget(self._quiet(tr("top")), 3, 0)
        grid.addWidget(self.top, 3, 1, 1, 2)
        self.angle = AngleField(tr("turned by an angle"), may_be_empty=True)
        self.angle.setPlaceholderText(tr("angle"))
        self.angle.read.connect(self._turn_by)
        self.about = QComboBox()
        self.about.setAccessibleName(tr("axis of the turn"))
        for axis_name in _ABOUT:
            self.about.addItem(tr("about the {axis}", axis=tr(axis_name)), axis_name)
        self.about.setCurrentIndex(2)
        self.about.activated.connect(self._turn_about)
        grid.addWidget(self.angle, 4, 0)
        grid.addWidget(self.about, 4, 1, 1, 2)
        self.own = self._length(tr("drawn out by"))
        self.own.may_be_empty = True
        self.own.setPlaceholderText(tr("as the gaps have it"))
        self.own.read.connect(self.session.spreads.draw_out_by)
        self.own.emptied.connect(lambda: self.session.spreads.draw_out_by(None))
        grid.addWidget(self._quiet(tr("out by")), 5, 0)
        grid.addWidget(self.own, 5, 1, 1, 2)
        self.remove = QPushButton(tr("Take it away  (Del)"))
        self.remove.clicked.connect(self.take_away)
        grid.addWidget(self.remove, 6, 0, 1, 3)
        self.layers.addWidget(self.hand)

    def _quiet(self, words: str) -> QLabel:
        label = QLabel(words)
        label.setObjectName("quiet")
        return label

    def _faces(self, name: str) -> QComboBox:
        faces = QComboBox()
        faces.setAccessibleName(name)
        for face in Face:
            faces.addItem(tr("its {face}", face=face.title), face)
        faces.activated.connect(lambda _: self._face())
        return faces

    # --- showing ----------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show the arrangement in hand."""
        spreads, made = self.session.spreads, self.session.spreads.arrangement
        if made is None:
            return
        unit = self.session.document.unit
        arranged = spreads.arranged
        self.why.setText(self._why())
        troubles = said("\n".join(self._troubles()), unit)
        self.wrong.setText(troubles)
        self.wrong.setVisible(bool(troubles))
        self.axis.show_value(made.spread.axis)
        self.gap.unit = unit
        self.gap.setPlaceholderText(
            tr("as needed: {gap}", gap=show(arranged.gap, unit)) if arranged else tr("as needed")
        )
        self.gap.show_length(made.spread.gap)
        self._show_list()
        self.show_hand()

    def _why(self) -> str:
        spreads = self.session.spreads
        if spreads.trouble is not None:
            return tr("Not taken apart: {why}", why=spreads.trouble)
        if spreads.arranged is None:
            return tr("Finding what comes apart …")
        words = spreads.arranged.parting.reason
        return words[:1].upper() + words[1:] + "."

    def _troubles(self) -> list[str]:
        """Return what is wrong with the arrangement, in a line each."""
        spreads = self.session.spreads
        found = [f"{item.why}." for item in spreads.unplaced]
        if spreads.arranged is None:
            return found
        names, parting = spreads.names, spreads.arranged.parting
        found += [f"{trouble}." for trouble in spreads.arranged.troubles]
        for shared in spreads.arranged.overlaps:
            place = ", ".join(f"{value:.4g}" for value in shared.place)
            found.append(
                tr(
                    "{first} and {second} overlap by {volume:.4g} mm³ about {place}.",
                    first=names[shared.first],
                    second=names[shared.second],
                    volume=shared.volume,
                    place=place,
                )
            )
        for group in parting.locked:
            locked = ", ".join(names[number] for number in group)
            found.append(tr("They hold each other: {names}.", names=locked))
        loose = ", ".join(names[number] for number in parting.loose)
        if loose and len(names) > 1:
            found.append(tr("Touching nothing: {names}.", names=loose))
        for trouble in parting.troubles:
            about = ", ".join(names[number] for number in trouble.bodies)
            found.append(f"{trouble.words}: {about}.")
        return found

    def _show_list(self) -> None:
        rows = self.session.spreads.listed
        self.parts.blockSignals(True)
        self.parts.clear()
        for row in rows:
            words = tr("{number}  {name}", number=row.number, name=row.name)
            if row.quantity > 1:
                words = tr("{words}  × {quantity}", words=words, quantity=row.quantity)
            item = QListWidgetItem(words)
            item.setToolTip(row.material)
            item.setData(Qt.ItemDataRole.UserRole, row.bodies)
            self.parts.addItem(item)
        self.parts.blockSignals(False)

    def show_hand(self) -> None:
        """Show the placed part in hand."""
        spreads, placed = self.session.spreads, self.session.spreads.placed
        rows = spreads.listed
        number = spreads.row_of(spreads.chosen)
        at = next((k for k, row in enumerate(rows) if row.number == number), -1)
        self.parts.blockSignals(True)
        self.parts.setCurrentRow(at)
        self.parts.blockSignals(False)
        self.hand.setVisible(placed is not None)
        made = spreads.arrangement
        if placed is None or made is None:
            return
        number = spreads.number_of(placed.id)
        self.name.setText(spreads.names[number] if number is not None else placed.id)
        for field, length in zip(self.at, placed.at, strict=True):
            field.unit = self.session.document.unit
            field.show_length(length)
        self.front.setCurrentIndex(self.front.findData(placed.turn.front))
        self.top.setCurrentIndex(self.top.findData(placed.turn.top))
        self.angle.show_angle(placed.turn.degrees or None)
        word = next((w for w, axis in _ABOUT.items() if axis == placed.turn.about), None)
        if word is not None:
            self.about.setCurrentIndex(self.about.findData(word))
        own = next((o.distance for o in made.spread.own if o.placed == placed.id), None)
        self.own.unit = self.session.document.unit
        self.own.show_length(own)

    # --- choosing ---------------------------------------------------------------------------

    def _choose_axis(self, axis: object) -> None:
        self.session.spreads.change(tr("the axis"), axis=axis, own=())

    def _touch(self, item: QListWidgetItem) -> None:
        spreads = self.session.spreads
        spreads.touch(item.data(Qt.ItemDataRole.UserRole)[0])

    def _choose_row(self, row: int) -> None:
        item = self.parts.item(row)
        if item is not None:
            spreads = self.session.spreads
            spreads.choose(spreads.id_of(item.data(Qt.ItemDataRole.UserRole)[0]))

    def _place(self, axis: int, length: Length) -> None:
        placed = self.session.spreads.placed
        if placed is not None:
            at = [*placed.at]
            at[axis] = length
            self.session.spreads.change_placed(
                tr("place a part"), f"place {placed.id} {axis}", at=tuple(at)
            )

    def _face(self) -> None:
        """Turn the part in hand so that the faces chosen come to the front and on top."""
        placed = self.session.spreads.placed
        if placed is None:
            return
        front, top = self.front.currentData(), self.top.currentData()
        if front.normal_axis == top.normal_axis:
            # the other face gives way: it cannot stay where it is
            changed_front = front != placed.turn.front
            free = next(face for face in Face if face.normal_axis != front.normal_axis)
            front, top = (front, free) if changed_front else (free, top)
        turn = replace(placed.turn, front=front, top=top)
        self.session.spreads.change_placed(tr("turn a part"), turn=turn)

    def _turn_by(self, degrees: float | None) -> None:
        placed = self.session.spreads.placed
        if placed is not None:
            turn = replace(placed.turn, degrees=degrees or 0.0)
            self.session.spreads.change_placed(tr("turn a part"), f"turn {placed.id}", turn=turn)

    def _turn_about(self) -> None:
        placed = self.session.spreads.placed
        if placed is not None:
            turn = replace(placed.turn, about=_ABOUT[self.about.currentData()])
            self.session.spreads.change_placed(tr("turn a part"), turn=turn)

    def take_away(self) -> None:
        """Take the placed part in hand out of the arrangement; undo brings it back."""
        spreads, placed = self.session.spreads, self.session.spreads.placed
        made = spreads.arrangement
        if made is not None and placed is not None:
            spreads.choose(None)
            self.session.document.edit_arrangement(made.without(placed.id), tr("take a part away"))

    def menu(self) -> QMenu:
        """Return the menu of the parts that can be placed."""
        menu = QMenu(self)
        for part in self.session.document.job.parts:
            action = menu.addAction(part.source.name)
            if action is not None:
                action.triggered.connect(lambda _=False, part=part: self.place(part.id))
        give_mnemonics(menu)
        return menu

    def open_menu(self) -> None:
        """Open the menu of the parts that can be placed."""
        open_under(self.menu(), self.place_part)

    def place(self, part_id: str) -> None:
        """Place a part, beside what stands there, and take it in hand."""
        made = self.session.spreads.arrangement
        if made is None:
            return
        placed = Placed(fresh_placed_id(made.placed), part_id, self._beside())
        self.session.document.edit_arrangement(made.with_placed(placed), tr("place a part"))
        self.session.spreads.choose(placed.id)

    def _beside(self) -> tuple[Length, Length, Length]:
        """Return a place to the right of all that stands there."""
        facts, nothing = self.session.answers.facts, Length("0", 0.0)
        right = 0.0 if facts is None else facts.high[0]
        return Length.of(round(right) + _AIR_MM, self.session.document.unit), nothing, nothing
