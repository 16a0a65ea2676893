"""The scanner on the Read page: a sheet of views under it comes onto the desk as a scan."""

from __future__ import annotations

from PyQt6.QtCore import Qt

from holoptic.catalogue import tr
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.folders import file_name
from holoptic.desk.widgets.scanner_card import ScannerCard
from holoptic.devices.scanner import Glass

_LONGEST_NAME = 60
"""In letters, of which each may take four of the 255 bytes that a file's name has."""


class ViewsScanner(ScannerCard):
    """Takes the page on the glass; the stand-in prints the views of the part on the desk there."""

    def __init__(self, session: Session) -> None:
        super().__init__(session.views_scanner, "")
        self.session = session
        self.grid.addWidget(self.title, 0, 0)
        self._label(tr("Taken as"), self.looks, 0, 1)
        self._label(tr("dpi"), self.dpi, 0, 3)
        self.grid.addWidget(self.button, 0, 5, Qt.AlignmentFlag.AlignRight)
        self.grid.addWidget(self.problem, 1, 0, 1, 6)
        self.grid.setColumnStretch(0, 1)

    @property
    def _name(self) -> str:
        """What the part on the desk is called; nothing without one."""
        part = self.session.document.job_part
        return part.source.name if part is not None else ""

    def take(self) -> None:
        """Have the scanner take the page; the stand-in takes the part's views."""
        document = self.session.document
        if self.scanner.is_busy:
            return
        if self.scanner.is_stand_in and not self._name:
            self.tell(tr("nothing lies on the stand-in's glass: it prints the views of the part on "
                         "the desk, and there is none yet"))  # fmt: skip
            return
        figure = document.figure.id if document.figure is not None else ""
        self.tell("")
        self.seed += 1  # nobody lays a sheet down twice in the same way
        glass = Glass("", figure, is_photo=self.is_photo, dpi=self.chosen_dpi, seed=self.seed,
                      shows="views")  # fmt: skip
        self.scanner.scan(document.job, glass, file_name(self._name)[:_LONGEST_NAME])

    def refresh(self) -> None:
        """Show how things stand, and what lies on the glass."""
        self._of_stand_in = (
            tr("On the glass: views of {name} (stand-in)", name=self._name)
            if self._name else tr("The scanner's glass is empty (stand-in)")
        )  # fmt: skip
        super().refresh()
