"""The menu of parts: new, remove, names, numbers, and the job's unit."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QComboBox, QLineEdit, QMenu, QWidget

from holoptic.catalogue import tr
from holoptic.desk.session.session import Session
from holoptic.part.templates import templates


class PartMenu:
    """Makes the menu; names are typed into the field that shows the part, not in a dialog."""

    def __init__(self, session: Session, parts: QComboBox, window: QWidget) -> None:
        self._session = session
        self._parts = parts
        self._window = window
        self.line = QLineEdit(parts)
        """Where names are typed; one for good, so that Qt never works with one that is gone."""
        self.line.setAccessibleName(tr("name"))
        self.line.hide()
        self.line.editingFinished.connect(self._done)
        self._take: Callable[[str], None] | None = None

    def menu(self) -> QMenu:
        """Return the menu as the job stands."""
        menu = QMenu(self._window)
        menu.addAction(tr("New part in this job\tCtrl+N"), self.new_part)
        kinds = menu.addMenu(tr("New part from a template"))
        for title in templates():
            if kinds is not None:
                kinds.addAction(title, lambda title=title: self._session.document.begin_part(title))
        menu.addAction(tr("Remove the part on the desk"), self._session.document.remove_part)
        menu.addAction(tr("Rename the part on the desk"), self.rename_part)
        menu.addAction(tr("Number the part on the desk"), self._number_part)
        menu.addSeparator()
        menu.addAction(tr("Rename the job"), self._rename_job)
        for unit in self._session.document.units:
            action = menu.addAction(tr("Lengths in {title}", title=unit.title))
            if action is not None:
                action.setCheckable(True)
                action.setChecked(unit is self._session.document.unit)
                action.triggered.connect(
                    lambda _=False, unit=unit: self._session.document.use_unit(unit)
                )
        return menu

    def new_part(self) -> None:
        """Put a new block into the job."""
        self._session.document.begin_part()

    def rename_part(self) -> None:
        """Let the name of the part on the desk be typed."""
        name = self._session.document.title_in_hand
        if name:
            self._ask(name, self._session.document.rename_part)

    def _number_part(self) -> None:
        document = self._session.document
        if document.posed is not None:
            self._ask(document.posed.source.number, document.number_part)

    def _rename_job(self) -> None:
        self._ask(self._session.document.job.name, self._session.document.rename_job)

    def _ask(self, old: str, take: Callable[[str], None]) -> None:
        """Let words be typed in a line that lies over the list of parts meanwhile."""
        if self.line.isVisible():
            return  # a name is being typed already
        self._take = take
        self.line.setGeometry(self._parts.rect())
        self.line.setText(old)
        self.line.selectAll()
        self.line.show()
        self.line.setFocus()

    def _done(self) -> None:
        take, self._take = self._take, None
        if take is None:
            return  # Enter hides the line, and with that it is left once more
        words = self.line.text().strip()
        self.line.hide()
        if words:
            take(words)
