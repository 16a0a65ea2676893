"""The scanner on the Check page: what lies on the stand-in's glass, and taking the page."""

from __future__ import annotations

import re
from dataclasses import astuple

from PyQt6.QtWidgets import QHBoxLayout, QLineEdit

from holoptic.catalogue import tr
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.rows import Row
from holoptic.desk.widgets.scanner_card import ScannerCard
from holoptic.devices.scanner import Glass, read_slip
from holoptic.errors import BadInput
from holoptic.plan.words import stroke_names

_BETWEEN = re.compile(r"[,\s]+")
_DASHES = str.maketrans({"-": "–", "−": "–", "—": "–"})


class ScannerForm(ScannerCard):
    """Takes the page on the glass; of the stand-in it is said how the sheet there was drawn."""

    def __init__(self, session: Session) -> None:
        super().__init__(session.scanner, tr("On the scanner's glass (a stand-in draws the sheet)"))
        self.session = session
        self.grid.addWidget(self.title, 0, 0, 1, 4)
        self.slips = self._field(tr("slips of the hand"), tr("none; 54:+9 is move 54, 9 mm more"))
        self.left_out = self._field(tr("strokes left out"), tr("none; by their letters: T–U"))
        self.rubbed = Row(((False, tr("kept")), (True, tr("rubbed out"))), self._choose_rubbed,
                          tr("The lines of construction"))  # fmt: skip
        for words, widget, row, column in (
            (tr("Slips"), self.slips, 1, 0), (tr("Left out"), self.left_out, 2, 0),
            (tr("Taken as"), self.looks, 1, 2), (tr("dpi"), self.dpi, 2, 2),
            (tr("Construction"), self.rubbed, 3, 2),
        ):  # fmt: skip
            self._label(words, widget, row, column)
        self.grid.setColumnStretch(1, 3)
        self.grid.setColumnStretch(3, 2)
        # beside the button: a row of its own would move the fields from under the pointer
        taking = QHBoxLayout()
        taking.setSpacing(12)
        taking.addWidget(self.button)
        taking.addWidget(self.problem, 1)
        self.grid.addLayout(taking, 3, 0, 1, 2)
        self._is_rubbed_out = False
        for field in (self.slips, self.left_out):
            field.returnPressed.connect(self.take)
            field.textEdited.connect(lambda _: self.tell(""))

    def _field(self, name: str, hint: str) -> QLineEdit:
        field = QLineEdit()
        field.setAccessibleName(name)
        field.setPlaceholderText(hint)
        return field

    def _choose_rubbed(self, value: object) -> None:
        self._is_rubbed_out = bool(value)
        self.refresh()

    # --- doing ------------------------------------------------------------------------------

    def take(self) -> None:
        """Have the scanner take the page of the figure in hand."""
        document = self.session.document
        if document.figure is None or self.scanner.is_busy:
            return
        try:
            glass = self._glass(document.figure.id)
        except BadInput as error:
            self.tell(str(error))
            return
        self.tell("")
        self.seed += 1  # no two sheets are drawn alike
        self.scanner.scan(document.job, glass)

    def _glass(self, figure: str) -> Glass:
        """Return what lies on the glass, as the fields say. Raises BadInput."""
        slips = tuple(read_slip(text) for text in _BETWEEN.split(self.slips.text()) if text)
        return Glass("", figure, slips, self._strokes(), self._is_rubbed_out, self.is_photo,
                     self.chosen_dpi, self.seed, None, astuple(self.session.ways.hand))  # fmt: skip

    def _strokes(self) -> tuple[str, ...]:
        words = [text for text in _BETWEEN.split(self.left_out.text()) if text]
        planned = self.session.answers.planned
        names = stroke_names(planned.plan) if planned is not None else {}
        known = {name.replace(" ", ""): stroke for stroke, name in names.items()}
        known |= {"–".join(reversed(name.split("–"))): stroke for name, stroke in known.items()}
        found = []
        for text in words:
            name = text.translate(_DASHES)
            if text not in names and name not in known:
                raise BadInput(tr("no stroke of this plan runs from {name}", name=text[:24]))
            found.append(text if text in names else known[name])
        return tuple(found)

    def refresh(self) -> None:
        """Show how things stand."""
        super().refresh()
        self.rubbed.show_value(self._is_rubbed_out)
