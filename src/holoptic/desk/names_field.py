"""The field of the part's named lengths: `base = 14.5; eye_r = 42/2`."""

from __future__ import annotations

from PyQt6.QtWidgets import QLineEdit

from holoptic.desk.session import Session
from holoptic.errors import ExpressionError, PartError
from holoptic.part.names_text import names_text, read_names, with_names


class NamesField(QLineEdit):
    """Shows and takes named lengths; they are taken when Enter is pressed or the field is left."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.setAccessibleName("named lengths of the part")
        self.setPlaceholderText("named lengths, such as  base = 14.5; eye_r = 42/2")
        self.setToolTip(
            "Lengths with names, for all sums of this part (Alt+E). Change one, and the part "
            "follows."
        )
        self.editingFinished.connect(self._take)
        self.textEdited.connect(self._mark)

    def refresh(self) -> None:
        """Show the named lengths of the part on the desk."""
        part = self._session.part
        if part is not None and not self.hasFocus():
            self.setText(names_text(part))
            self._mark(self.text())

    def _mark(self, text: str) -> None:
        """Mark what does not read yet."""
        try:
            read_names(text, self._session.job.unit)
            trouble = ""
        except ExpressionError as error:
            trouble = f"{error} (column {error.column + 1})"
        if bool(self.property("bad")) != bool(trouble):
            self.setProperty("bad", bool(trouble))
            style = self.style()
            if style is not None:
                style.unpolish(self)
                style.polish(self)

    def _take(self) -> None:
        part, unit = self._session.part, self._session.job.unit
        if part is None or self.text() == names_text(part):
            return
        try:
            changed = with_names(part, read_names(self.text(), unit), unit)
        except ExpressionError as error:
            self._session.told.emit(f"{error} (column {error.column + 1})")
            return
        except PartError as error:
            self._session.told.emit(str(error))
            return
        self._session.edit_part(changed, "named lengths")
