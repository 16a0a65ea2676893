"""The column beside an arrangement: how it comes apart, its parts, and the one in hand."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QIcon, QPixmap
from PyQt6.QtWidgets import (
    QLabel,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
)

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px
from holoptic.desk.pages.spread.placed_form import PlacedForm
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.column import Column
from holoptic.desk.widgets.fields import LengthField
from holoptic.desk.widgets.menus import give_mnemonics, open_under
from holoptic.desk.widgets.notice import sentence
from holoptic.desk.widgets.rows import Row
from holoptic.job import Placed
from holoptic.job.arrangements import fresh_placed_id
from holoptic.units import Length, show
from holoptic.units.spoken import said
from holoptic.worker.messages import narrowed_words

_WIDTH = 236
_AXES = ((None, tr("best")), ("length", tr("length")), ("depth", tr("depth")),
         ("height", tr("height")))  # fmt: skip
_LIST_HEIGHT = 168
_AIR_MM = 10.0
"""Between what stands there and a part that is placed beside it."""


def _swatch(colour: str) -> QIcon:
    """Return a small field of a colour, `#rrggbb`."""
    field = QPixmap(px(10), px(10))
    field.fill(QColor(colour))
    return QIcon(field)


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
        self.again = QPushButton(tr("Try again"))
        self.again.clicked.connect(session.spreads.try_again)
        self.layers.addWidget(self.again)
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
        self._tells_proposals = False
        self.proposals = QLabel()
        self.proposals.setWordWrap(True)
        self.proposals.setTextFormat(Qt.TextFormat.PlainText)
        self.proposals.hide()
        self.layers.addWidget(self.proposals)
        self.hand = PlacedForm(session)
        self.layers.addWidget(self.hand)
        self.layers.addStretch(1)

    def _length(self, name: str) -> LengthField:
        field = LengthField(name)
        field.left.connect(self.session.document.close_step)
        return field

    # --- showing ----------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show the arrangement in hand."""
        made = self.session.spreads.arrangement
        if made is None:
            return
        unit = self.session.document.unit
        self.why.setText(self._why())
        troubles = said("\n".join(self._troubles()), unit)
        self.wrong.setText(troubles)
        self.wrong.setVisible(bool(troubles))
        spreads = self.session.spreads
        self.again.setVisible(bool(spreads.trouble or spreads.unproposed))
        self.axis.show_value(made.spread.axis)
        self.gap.unit = unit
        self.gap.setPlaceholderText(self._gap_left_open())
        self.gap.show_length(made.spread.gap)
        self._show_list()
        self.show_hand()
        proposed = (
            f"{number}  {said(item.title, unit)}: {said(item.reasons, unit)}"
            for number, item in enumerate(self.session.spreads.proposals, 1)
        )
        self.proposals.setText("\n".join(proposed))

    def tell_proposals(self, told: bool) -> None:
        """Have the proposals told in words, where there is no room for their pictures, or not."""
        self._tells_proposals = told
        self.show_hand()

    def _gap_left_open(self) -> str:
        """Return what the gap is as long as nobody says it."""
        arranged, unit = self.session.spreads.arranged, self.session.document.unit
        if arranged is None or arranged.gap is None:
            return tr("as needed")
        gap = show(arranged.gap, unit)
        if arranged.is_narrowed:
            return tr("as the sheet has room: {gap}", gap=gap)
        return tr("as needed: {gap}", gap=gap)

    def _why(self) -> str:
        spreads = self.session.spreads
        if spreads.trouble is not None:
            return tr("Not taken apart: {why}", why=spreads.trouble)
        if spreads.arranged is None:
            return tr("Finding what comes apart …")
        words = spreads.arranged.parting.reason
        why = words[:1].upper() + words[1:] + "."
        narrowed = narrowed_words(spreads.arranged)
        return f"{why} {said(narrowed, self.session.document.unit)}" if narrowed else why

    def _troubles(self) -> list[str]:
        """Return what is wrong with the arrangement, in a line each."""
        spreads = self.session.spreads
        found = [f"{item.why}." for item in spreads.unplaced]
        if spreads.unproposed is not None:
            found.append(tr("Nothing is proposed: {why}.", why=spreads.unproposed))
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
            found.append(f"{sentence(trouble.words)}: {about}.")
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
            if colour := self.session.spreads.colour_of(row.bodies[0]):
                item.setIcon(_swatch(colour))
            item.setData(Qt.ItemDataRole.UserRole, row.bodies)
            self.parts.addItem(item)
        self.parts.blockSignals(False)

    def show_hand(self) -> None:
        """Show the placed part in hand."""
        spreads, rows = self.session.spreads, self.session.spreads.listed
        number = spreads.row_of(spreads.chosen)
        at = next((k for k, row in enumerate(rows) if row.number == number), -1)
        self.parts.blockSignals(True)
        self.parts.setCurrentRow(at)
        self.parts.blockSignals(False)
        # what is typed about the part in hand must not be pushed out of sight
        self.proposals.setVisible(self._tells_proposals and spreads.chosen is None)
        self.hand.refresh()

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
