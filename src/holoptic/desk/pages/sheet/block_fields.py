"""Rows over the usual title block: the company's own fields, the revisions, and the notes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from itertools import pairwise

from PyQt6.QtWidgets import QGridLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px
from holoptic.desk.session.session import Session
from holoptic.job import OwnEntry, Revision

_MOST_LETTERS, _LONGEST_NOTE = 80, 400
_OWN = (tr("field"), tr("what it says"))
_REVISION = (tr("index"), tr("change"), tr("date"), tr("by"))


class Rows(QWidget):
    """Rows of text fields that are typed over; a row whose first field is emptied goes.

    `taken` is called with all rows when one has been changed, `fresh` tells what a new row says;
    `begin` is the field of it that is written first. None takes more than `longest` letters.
    """

    def __init__(
        self, columns: Sequence[str], stretches: Sequence[int], add: str,
        taken: Callable[[list[tuple[str, ...]]], None], fresh: Callable[[], tuple[str, ...]],
        begin: int = 0, longest: int = _MOST_LETTERS,
    ) -> None:  # fmt: skip
        super().__init__()
        self._begin, self._longest = begin, longest
        self._columns, self._taken, self._fresh = columns, taken, fresh
        self._shown: list[tuple[str, ...]] = []
        self.fields: list[tuple[QLineEdit, ...]] = []
        self._grid = QGridLayout()
        self._grid.setSpacing(px(3))
        for column, stretch in enumerate(stretches):
            self._grid.setColumnStretch(column, stretch)
        self.add = QPushButton(add)
        self.add.clicked.connect(self.add_row)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(px(4))
        layout.addLayout(self._grid)
        layout.addWidget(self.add)

    def show_rows(self, rows: Sequence[tuple[str, ...]]) -> None:
        """Show rows; what is being typed stays."""
        self._shown = [*rows]
        while len(self.fields) < len(rows):
            self._add_fields()
        for number, fields in enumerate(self.fields):
            there = number < len(rows)
            for column, field in enumerate(fields):
                field.setVisible(there)
                if not there or field.text() == rows[number][column]:
                    continue  # a selection stays
                if not (field.hasFocus() and field.isModified()):
                    field.setText(rows[number][column])
                    field.setCursorPosition(0)
                field.setToolTip(rows[number][column])

    def _add_fields(self) -> None:
        row, made = len(self.fields), []
        for column, name in enumerate(self._columns):
            field = QLineEdit()
            field.setMaxLength(self._longest)
            field.setMinimumWidth(px(34))
            field.setPlaceholderText(name)
            field.setAccessibleName(tr("{name}, row {row}", name=name, row=row + 1))
            field.editingFinished.connect(partial(self._written, row))
            self._grid.addWidget(field, row, column)
            made.append(field)
        self.fields.append(tuple(made))

    def add_row(self) -> None:
        """Add a row and take the field in hand that is to be written first."""
        self._taken([*self._shown, self._fresh()])
        if self._shown and len(self.fields) >= len(self._shown):
            fields = self.fields[len(self._shown) - 1]
            first = fields[self._begin]
            first.setFocus()
            first.selectAll()

    def _written(self, row: int) -> None:
        if row >= len(self._shown):
            return
        said = tuple(field.text().strip() for field in self.fields[row])
        if said == self._shown[row]:
            return
        for field in self.fields[row]:
            field.setModified(False)
        rows = [*self._shown[:row], said, *self._shown[row + 1 :]]
        self._taken([one for one in rows if one[0]])


class BlockFields(QWidget):
    """The company's own fields, which hold for the whole job; revisions and notes of the sheet."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.own = Rows(_OWN, (2, 3), tr("Add a field of your own"), self._take_own,
                        lambda: (tr("field"), ""))  # fmt: skip
        self.revisions = Rows(_REVISION, (1, 5, 4, 1), tr("Add a revision"),
                              self._take_revisions, self._next_revision, begin=1)  # fmt: skip
        self.notes = Rows((tr("note"),), (1,), tr("Add a note"), self._take_notes,
                          lambda: (tr("note"),), longest=_LONGEST_NOTE)  # fmt: skip
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(px(8))
        for rows in (self.own, self.revisions, self.notes):
            layout.addWidget(rows)

    def follow(self, before: QWidget) -> None:
        """Let Tab lead here from another widget, and through the rows as they stand."""
        chain: list[QWidget] = [before]
        for rows in (self.own, self.revisions, self.notes):
            chain += (field for fields in rows.fields for field in fields)
            chain.append(rows.add)
        for one, other in pairwise(chain):
            QWidget.setTabOrder(one, other)

    def refresh(self) -> None:
        """Show what stands over the title block of the sheet in hand."""
        document = self.session.document
        sheet = document.sheet
        if sheet is None:
            return
        own = sheet.title.over(document.job.title).own or ()
        self.own.show_rows([(entry.label, entry.value) for entry in own])
        self.revisions.show_rows([(r.letter, r.change, r.date, r.by) for r in sheet.revisions])
        self.notes.show_rows([(line,) for line in document.title.notes.splitlines()])

    def _take_own(self, rows: list[tuple[str, ...]]) -> None:
        entries = tuple(OwnEntry(label, value) for label, value in rows)
        document, sheet = self.session.document, self.session.document.sheet
        if sheet is not None:
            document.write_own_fields(entries, on_sheet=sheet.title.own is not None)
        self.refresh()

    def _take_revisions(self, rows: list[tuple[str, ...]]) -> None:
        made = tuple(Revision(letter, change, date, by) for letter, change, date, by in rows)
        self.session.document.write_revisions(made)
        self.refresh()

    def _take_notes(self, rows: list[tuple[str, ...]]) -> None:
        self.session.document.write_on_sheet("notes", "\n".join(row[0] for row in rows) or None)
        self.refresh()

    def _next_revision(self) -> tuple[str, ...]:
        """Return the next revision: its letter, and the date and name that the title block says."""
        document, sheet = self.session.document, self.session.document.sheet
        last = sheet.revisions[-1].letter if sheet is not None and sheet.revisions else ""
        return next_letter(last), "", document.title.date, document.title.drawn_by


def next_letter(last: str) -> str:
    """Return the letter or number that follows another in a revision table.

    >>> next_letter(""), next_letter("B"), next_letter("Z"), next_letter("3")
    ('A', 'C', 'AA', '4')
    """
    if last.isdecimal():
        return str(int(last) + 1)
    if not last or not last[-1].isalpha() or not last.isascii():
        return f"{last}A"
    head, tail = last[:-1], last[-1].upper()
    return f"{head}{chr(ord(tail) + 1)}" if tail < "Z" else f"{head}AA"
