"""What is said of the placed part in hand: its place and turn, its ties, its own distance."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShortcut
from PyQt6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QLabel,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.fields import AngleField, LengthField, ReadField
from holoptic.errors import BadInput
from holoptic.job import Placed
from holoptic.part import Face
from holoptic.part.crate import AXIS_NAMES
from holoptic.units import Length

_ABOUT = {"length": (1.0, 0.0, 0.0), "depth": (0.0, 1.0, 0.0), "height": (0.0, 0.0, 1.0)}
_TIES_HEIGHT = 58
_BEGIN, _ENDS = "{} on ", (" on", " flush")
"""The words of ties are the same in every language."""


class PlacedForm(QWidget):
    """The placed part in hand; hidden without one."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 0)
        column.setSpacing(4)
        self.name = QLabel()
        self.name.setWordWrap(True)
        self.place = PlaceForm(session)
        self.ties = TiesForm(session)
        self.remove = QPushButton(tr("Take it away  (Del)"))
        self.remove.clicked.connect(self.take_away)
        for widget in (self.name, self.ties, self.place, self.remove):
            column.addWidget(widget)

    def refresh(self) -> None:
        """Show the placed part in hand."""
        placed = self.session.spreads.placed
        self.setVisible(placed is not None)
        if placed is None:
            return
        self.name.setText(self.session.spreads.name)
        self.place.show_placed(placed)
        self.ties.show_placed(placed)

    def take_away(self) -> None:
        """Take the placed part in hand out of the arrangement; undo brings it back."""
        spreads, placed = self.session.spreads, self.session.spreads.placed
        made = spreads.arrangement
        if made is not None and placed is not None:
            spreads.choose(None)
            self.session.document.edit_arrangement(made.without(placed.id), tr("take a part away"))


class TiesForm(QWidget):
    """How the placed part in hand stands to others: a line to be written, and its ties."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(_quiet(tr("Tie it to another part  (T)")))
        self._of = ""
        self.line = ReadField(tr("tie it to another part"))
        self.line.setPlaceholderText(tr("bottom on latch plate.top"))
        self.line.setToolTip(
            tr(
                "“bottom on NAME.top”, “bore on NAME.bore”, “front flush NAME.front”, “length "
                "middle NAME”, a gap behind: “+ 2.5”. While you write, a line that is clicked in "
                "a picture or a view writes its face or axis."
            )
        )
        self.line.textEdited.connect(lambda _: self.line.accept())
        self.line.returnPressed.connect(self.take)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("its ties"))
        self.list.setToolTip(tr("Double click or Del takes a tie away"))
        self.list.setFixedHeight(px(_TIES_HEIGHT))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setWordWrap(True)
        self.list.itemDoubleClicked.connect(lambda _: self._untie())
        own = Qt.ShortcutContext.WidgetShortcut
        QShortcut("Del", self.list, context=own).activated.connect(self._untie)
        self.free = _quiet("")
        self.free.setWordWrap(True)
        for widget in (self.line, self.list, self.free):
            column.addWidget(widget)

    def show_placed(self, placed: Placed) -> None:
        """Show the ties of a placed part."""
        spreads = self.session.spreads
        if placed.id != self._of:  # what was begun was meant for another part
            self._of = placed.id
            self.line.clear()
            self.line.accept()
        names = {item: name for name, item in spreads.others.items()}
        self.list.clear()
        self.list.addItems([tie.words(names.get(tie.to, tie.to)) for tie in placed.ties])
        self.list.setVisible(bool(placed.ties))
        free = spreads.freedom
        self.free.setText(free[:1].upper() + free[1:] + "." if free else "")
        self.free.setVisible(bool(free))

    def begin(self) -> None:
        """Let a tie of the part in hand be written."""
        if self.session.spreads.placed is not None:
            self.line.setFocus()
            self.line.selectAll()

    def take(self) -> None:
        """Tie the part in hand as it is written, if anything is."""
        if not self.line.text().strip():
            self.line.accept()
            return
        try:
            self.session.spreads.tie(self.line.text())
        except BadInput as error:
            self.line.refuse(str(error))
            return
        self.line.accept()
        self.line.clear()

    def write(self, grip: str) -> None:
        """Write what was picked: first of the part in hand, then of another one."""
        text = self.line.text().strip()
        if text.endswith(_ENDS):
            text = f"{text} {grip}"
        elif not text:
            text = _BEGIN.format(grip)
        self.line.setText(text)
        self.line.accept()
        self.line.setFocus()

    def _untie(self) -> None:
        row = self.list.currentRow()
        if row >= 0:
            self.session.spreads.untie(row)


class PlaceForm(QWidget):
    """Place and turn in figures, and how far the part is drawn out."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(4)
        self.at = [self._coordinate(axis, name) for axis, name in enumerate(AXIS_NAMES)]
        self.front, self.top = self._faces(tr("face to the front")), self._faces(tr("face on top"))
        self._row(1, tr("front"), self.front)
        self._row(2, tr("top"), self.top)
        self._turn()
        self.own = self._length(tr("drawn out by"))
        self.own.may_be_empty = True
        self.own.setPlaceholderText(tr("as the gaps have it"))
        self.own.read.connect(session.spreads.draw_out_by)
        self.own.emptied.connect(lambda: session.spreads.draw_out_by(None))
        self._row(4, tr("out by"), self.own)

    def _length(self, name: str) -> LengthField:
        field = LengthField(name)
        field.left.connect(self.session.document.close_step)
        return field

    def _coordinate(self, axis: int, name: str) -> LengthField:
        field = self._length(tr("its place along the {axis}", axis=name))
        field.setPlaceholderText(name)
        field.read.connect(lambda length: self._place(axis, length))
        self._grid.addWidget(field, 0, axis)
        return field

    def _row(self, row: int, words: str, widget: QWidget) -> None:
        self._grid.addWidget(_quiet(words), row, 0)
        self._grid.addWidget(widget, row, 1, 1, 2)

    def _turn(self) -> None:
        self.angle = AngleField(tr("turned by an angle"), may_be_empty=True)
        self.angle.setPlaceholderText(tr("angle"))
        self.angle.read.connect(self._turn_by)
        self.about = QComboBox()
        self.about.setAccessibleName(tr("axis of the turn"))
        for axis_name in _ABOUT:
            self.about.addItem(tr("about the {axis}", axis=tr(axis_name)), axis_name)
        self.about.setCurrentIndex(2)
        self.about.activated.connect(self._turn_about)
        self._grid.addWidget(self.angle, 3, 0)
        self._grid.addWidget(self.about, 3, 1, 1, 2)

    def _faces(self, name: str) -> QComboBox:
        faces = QComboBox()
        faces.setAccessibleName(name)
        for face in Face:
            faces.addItem(tr("its {face}", face=face.title), face)
        faces.activated.connect(lambda _: self._face())
        return faces

    def show_placed(self, placed: Placed) -> None:
        """Show a placed part, where it stands by its ties if it has any."""
        unit, spreads = self.session.document.unit, self.session.spreads
        shown = replace(placed, **spreads.as_it_stands()) if placed.ties else placed
        for field, length in zip(self.at, shown.at, strict=True):
            field.unit = unit
            field.show_length(length)
        self.front.setCurrentIndex(self.front.findData(shown.turn.front))
        self.top.setCurrentIndex(self.top.findData(shown.turn.top))
        self.angle.show_angle(shown.turn.degrees or None)
        word = next((w for w, axis in _ABOUT.items() if axis == shown.turn.about), None)
        if word is not None:
            self.about.setCurrentIndex(self.about.findData(word))
        made = spreads.arrangement
        own = () if made is None else made.spread.own
        self.own.unit = unit
        self.own.show_length(next((o.distance for o in own if o.placed == placed.id), None))

    # --- what the hand does -----------------------------------------------------------------

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


def _quiet(words: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName("quiet")
    return label
