"""The sections that stand among the views in hand, as they are written."""

from __future__ import annotations

from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.fields import ReadField
from holoptic.errors import BadInput
from holoptic.job import Figure, Section, read_sections, written_sections
from holoptic.part.cutting import read_cut


class SectionsField(QWidget):
    """A field for sections, such as `A=through:bore; B=half`; shown while views are in hand."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.words = ReadField(tr("sections of the views"))
        self.words.setPlaceholderText(tr("A=through:bore; B=half"))
        self.words.textEdited.connect(self._typed)
        self.words.editingFinished.connect(self._left)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(px(2))
        label = QLabel(tr("Sections among the views"))
        label.setObjectName("quiet")
        column.addWidget(label)
        column.addWidget(self.words)

    def refresh(self, figure: Figure) -> None:
        """Show the sections of the figure in hand, and what of them cannot be."""
        self.setVisible(not figure.is_pictorial)
        if figure.is_pictorial:
            return
        if not self.words.hasFocus():
            self.words.setText("; ".join(written_sections(figure.sections)))
        laid = self.session.answers.laid
        if laid is None or not self.session.answers.is_current("sheet"):
            return
        if self._read(self.words.text()) == figure.sections:
            troubles = [line for line in laid.troubles if line.startswith(tr("section"))]
            if troubles:
                self.words.refuse("; ".join(troubles))
            else:
                self.words.accept()

    def _typed(self, words: str) -> None:
        """Take sections as soon as all of them can be read; half-typed ones wait."""
        found = self._read(words)
        if found is None:
            return
        self.words.accept()
        self.session.document.cut_views(found, merge=True)

    def _read(self, words: str) -> tuple[Section, ...] | None:
        """Return the sections that words say, None where they say none yet."""
        try:
            found = read_sections([piece for piece in words.split(";") if piece.strip()])
            for one in found:
                read_cut(one.cut)
        except BadInput:
            return None
        return found

    def _left(self) -> None:
        """Say what is wrong with words that are no sections, once they are written."""
        words = self.words.text()
        self.session.document.close_step()
        try:
            for one in read_sections([piece for piece in words.split(";") if piece.strip()]):
                read_cut(one.cut)
        except BadInput as error:
            self.words.refuse(str(error))
