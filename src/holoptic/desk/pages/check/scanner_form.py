"""The scanner on the Check page: what lies on the stand-in's glass, and taking the page."""

from __future__ import annotations

import re
from dataclasses import astuple

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QGridLayout, QLabel, QLineEdit, QPushButton

from holoptic.catalogue import tr
from holoptic.desk.look.icons import give_icon
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.rows import Row
from holoptic.devices.scanner import Glass, read_slip
from holoptic.errors import BadInput
from holoptic.plan.words import stroke_names

_DPI = (150, 200, 300)
_BETWEEN = re.compile(r"[,\s]+")
_DASHES = str.maketrans({"-": "–", "−": "–", "—": "–"})


class ScannerForm(QFrame):
    """Takes the page on the glass; of the stand-in it is said how the sheet there was drawn."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.scanner = session.scanner
        self.setObjectName("card")
        self.grid = QGridLayout(self)
        self.grid.setContentsMargins(14, 10, 14, 10)
        self.grid.setHorizontalSpacing(12)
        self.title = QLabel()
        self.title.setObjectName("heading")
        self.title.setWordWrap(True)
        self.grid.addWidget(self.title, 0, 0, 1, 4)
        self.slips = self._field(tr("slips of the hand"), tr("none; 54:+9 is move 54, 9 mm more"))
        self.left_out = self._field(tr("strokes left out"), tr("none; by their letters: T–U"))
        self.looks = Row(((False, tr("scan")), (True, tr("photo"))), self._choose_looks,
                         tr("Flat under a scanner, or from a camera, leaning"))  # fmt: skip
        self.dpi = Row([(dpi, str(dpi)) for dpi in _DPI], self._choose_dpi, tr("Dots per inch"))
        self.rubbed = Row(((False, tr("kept")), (True, tr("rubbed out"))), self._choose_rubbed,
                          tr("The lines of construction"))  # fmt: skip
        self._labelled = [
            self._label(words, widget, row, column)
            for words, widget, row, column in (
                (tr("Slips"), self.slips, 1, 0), (tr("Left out"), self.left_out, 2, 0),
                (tr("Taken as"), self.looks, 1, 2), (tr("dpi"), self.dpi, 2, 2),
                (tr("Construction"), self.rubbed, 3, 2),
            )
        ]  # fmt: skip
        self.grid.setColumnStretch(1, 3)
        self.grid.setColumnStretch(3, 2)
        self.button = QPushButton()
        give_icon(self.button, "take")
        self.button.clicked.connect(lambda _=False: self.toggle())
        self.grid.addWidget(self.button, 3, 0, 1, 2, Qt.AlignmentFlag.AlignLeft)
        self.problem = QLabel()
        self.problem.setObjectName("problem")
        self.problem.setWordWrap(True)
        self.grid.addWidget(self.problem, 4, 0, 1, 4)
        self._is_photo, self._dpi, self._is_rubbed_out, self._seed = False, 200, False, 0
        self.scanner.changed.connect(self.refresh)
        self.scanner.refused.connect(self._tell)
        for field in (self.slips, self.left_out):
            field.returnPressed.connect(self.take)
            field.textEdited.connect(lambda _: self._tell(""))

    def _field(self, name: str, hint: str) -> QLineEdit:
        field = QLineEdit()
        field.setAccessibleName(name)
        field.setPlaceholderText(hint)
        return field

    def _label(self, words: str, widget, row: int, column: int):  # type: ignore[no-untyped-def]
        label = QLabel(words)
        label.setObjectName("quiet")
        self.grid.addWidget(label, row, column)
        self.grid.addWidget(widget, row, column + 1)
        return label, widget

    def _choose_looks(self, value: object) -> None:
        self._is_photo = bool(value)
        self.refresh()

    def _choose_dpi(self, value: object) -> None:
        self._dpi = value if isinstance(value, int) else _DPI[-1]
        self.refresh()

    def _choose_rubbed(self, value: object) -> None:
        self._is_rubbed_out = bool(value)
        self.refresh()

    # --- doing ------------------------------------------------------------------------------

    def toggle(self) -> None:
        """Take the page, or stop taking it."""
        if self.scanner.is_busy:
            self.scanner.stop()
        else:
            self.take()

    def take(self) -> None:
        """Have the scanner take the page of the figure in hand."""
        document = self.session.document
        if document.figure is None or self.scanner.is_busy:
            return
        try:
            glass = self._glass(document.figure.id)
        except BadInput as error:
            self._tell(str(error))
            return
        self._tell("")
        self._seed += 1  # no two sheets are drawn alike
        self.scanner.scan(document.job, glass)

    def _glass(self, figure: str) -> Glass:
        """Return what lies on the glass, as the fields say. Raises BadInput."""
        slips = tuple(read_slip(text) for text in _BETWEEN.split(self.slips.text()) if text)
        return Glass("", figure, slips, self._strokes(), self._is_rubbed_out, self._is_photo,
                     self._dpi, self._seed, None, astuple(self.session.ways.hand))  # fmt: skip

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

    def _tell(self, words: str) -> None:
        self.problem.setText(f"{words[:1].upper()}{words[1:]}")
        self.problem.setVisible(bool(words))

    # --- showing ----------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show how things stand."""
        is_stand_in = self.scanner.is_stand_in
        self.title.setText(
            tr("On the scanner's glass (a stand-in draws the sheet)") if is_stand_in
            else tr("On the scanner's glass")
        )  # fmt: skip
        for label, widget in self._labelled:
            label.setVisible(is_stand_in)
            widget.setVisible(is_stand_in)
        self.looks.show_value(self._is_photo)
        self.dpi.show_value(self._dpi)
        self.rubbed.show_value(self._is_rubbed_out)
        self.problem.setVisible(bool(self.problem.text()))
        self.button.setText(
            tr("Taking the page, {percent} %: stop (S)", percent=self.scanner.percent)
            if self.scanner.is_busy else tr("Take the page (S)")
        )  # fmt: skip
