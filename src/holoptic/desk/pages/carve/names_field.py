"""The field of the part's named lengths: `base = 14.5; eye_r = 42/2`."""

from __future__ import annotations

from holoptic.catalogue import tr
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.fields import ReadField
from holoptic.errors import ExpressionError, PartError
from holoptic.part.names_text import names_text, read_names, with_names


class NamesField(ReadField):
    """Shows and takes named lengths; they are taken when Enter is pressed or the field is left."""

    def __init__(self, session: Session) -> None:
        super().__init__(tr("named lengths of the part"))
        self._session = session
        self.setPlaceholderText(tr("named lengths, such as  base = 14.5; eye_r = 42/2"))
        self.setToolTip(
            tr(
                "Lengths with names, for all sums of this part (Alt+E). Change "
                "one, and the part follows."
            )
        )
        self._rejected_in: int | None = None
        """The part whose line was typed and could not be taken: its words stay for mending."""
        self.returnPressed.connect(self._take)
        self.left.connect(self._take)
        self.textEdited.connect(self._check)

    def refresh(self) -> None:
        """Show the named lengths of the part on the desk."""
        part = self._session.document.part
        if self._rejected_in == self._session.document.part_index and self.trouble:
            return
        if part is not None and not self.hasFocus():
            self._rejected_in = None
            self.setText(names_text(part))
            self.accept()

    def _check(self, text: str) -> None:
        """Say what does not read yet."""
        try:
            read_names(text, self._session.document.unit)
        except ExpressionError as error:
            self.refuse(str(error), error.column)
        else:
            self.accept()

    def _take(self) -> None:
        part, unit = self._session.document.part, self._session.document.unit
        if part is None or self.text() == names_text(part):
            self._rejected_in = None
            self.accept()
            return
        try:
            changed = with_names(part, read_names(self.text(), unit), unit)
        except ExpressionError as error:
            self._reject(str(error), error.column)
        except PartError as error:
            self._reject(str(error), None)
        else:
            self._rejected_in = None
            self._session.document.edit_part(changed, tr("named lengths"))

    def _reject(self, reason: str, column: int | None) -> None:
        """Keep the words, marked; the part stays as it is."""
        self._rejected_in = self._session.document.part_index
        self.refuse(reason, column)
