"""The figures on the picture of a sheet: read once it lies there, offered for sizes and levels."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.revisions import Revisions
from holoptic.paper.given import Given
from holoptic.paper.offers import NOTHING, Offered, Written, offered_by
from holoptic.worker.messages import PictureRead

PURPOSE = "drawing figures"
_ABOUT = "figures on the sheet"


class WrittenFigures(QObject):
    """Has the figures of one sheet read when nothing else is to be done.

    Signals:
        changed: they were read, or are those of no sheet any more.
        lies_otherwise(words): they would be read if the sheet lay otherwise.
    """

    changed = pyqtSignal()
    lies_otherwise = pyqtSignal(str)

    def __init__(
        self, kernel: KernelLine, revisions: Revisions, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._kernel, self._revisions = kernel, revisions
        self._of: tuple[object, ...] | None = None
        self._written = Written()
        self.are_read = True
        """Whether all is known that they say; else a worker is at it."""

    def ask(self, path: Path, given: Given) -> None:
        """Have them read, unless they are those of the same sheet laid flat in the same way."""
        sheet = path, given.page, given.paper, given.frame, given.corners
        if sheet == self._of:
            return
        self._of, self._written, self.are_read = sheet, Written(), False
        about = self._revisions.note(_ABOUT, sheet)
        self._kernel.ask(PURPOSE, "read_figures", str(path), given, about=about, ahead=True)

    def take(self, value: object) -> None:
        """Take what was read."""
        if isinstance(value, Written):
            self._written, self.are_read = value, True
            self.changed.emit()
            if value.trouble:
                self.lies_otherwise.emit(value.trouble)

    def forget(self) -> None:
        """There is no sheet any more."""
        self._of, self._written, self.are_read = None, Written(), True
        self._revisions.forget(_ABOUT)

    def offered(self, picture: PictureRead | None) -> Offered:
        """Return what they say of the views in a picture."""
        if picture is None:
            return NOTHING
        return offered_by(self._written.sizes, picture.names, picture.boxes, picture.levels)
