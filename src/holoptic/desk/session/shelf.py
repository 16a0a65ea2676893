"""The small pictures of the parts on the shelf, each by the main figure of its part."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.desk.session.document import Document
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.revisions import Revisions
from holoptic.job import JobPart, Posed, posed_figure
from holoptic.pictorial import Picture
from holoptic.worker.messages import Shelved

PURPOSE = "shelf"


@dataclass(frozen=True)
class _Shown:
    """What a small picture hangs on, and the picture, None where it cannot be made."""

    key: object
    picture: Picture | None


class Shelf(QObject):
    """Has the parts pictured while somebody looks.

    Signals:
        changed: another part was pictured.
    """

    changed = pyqtSignal()

    def __init__(
        self, document: Document, kernel: KernelLine, revisions: Revisions,
        parent: QObject | None = None,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._kernel, self._revisions = document, kernel, revisions
        self._shown: dict[str, _Shown] = {}
        self._wanted = False

    def want(self, wanted: bool) -> None:
        """Say whether somebody looks: only then the parts are pictured."""
        self._wanted = wanted
        self.ask()

    def picture_of(self, part: JobPart) -> Picture | None:
        """Return the small picture of a part, once it was made."""
        posed = self._posed(part)
        shown = self._shown.get(posed.id)
        return shown.picture if shown is not None and shown.key == _key(posed) else None

    def ask(self) -> None:
        """Have the parts pictured that are not, or not as they are now."""
        if not self._wanted:
            return
        all_posed = [self._posed(part) for part in self._document.job.parts]
        ids = {posed.id for posed in all_posed}
        self._shown = {key: shown for key, shown in self._shown.items() if key in ids}
        for posed in all_posed:
            shown = self._shown.get(posed.id)
            if shown is None or shown.key != _key(posed):
                purpose = f"{PURPOSE} {posed.id}"
                about = self._revisions.note(purpose, _key(posed))
                self._kernel.ask(purpose, "shelve", posed, about=about)

    def take(self, shelved: Shelved) -> None:
        """Take the picture of a figure."""
        for part in self._document.job.parts:
            posed = self._posed(part)
            if posed.id == shelved.figure:
                self._shown[posed.id] = _Shown(_key(posed), shelved.picture)
                self.changed.emit()

    def _posed(self, part: JobPart) -> Posed:
        job = self._document.job
        return posed_figure(job, job.main_figure(part.id))


def _key(posed: Posed) -> object:
    return posed.source, posed.figure.kind, posed.figure.corner
