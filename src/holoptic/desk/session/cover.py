"""The picture that goes with the job into its file: that of its first figure as last seen."""

from __future__ import annotations

from PyQt6.QtCore import QObject

from holoptic.desk.session.answers import Answers
from holoptic.desk.session.document import Document
from holoptic.errors import BadInput
from holoptic.exchange.preview import preview_kept, preview_of
from holoptic.job import Posed, posed_figure
from holoptic.pictorial import Picture


class Cover(QObject):
    """Keeps the picture of the job's cover, and says it when the job is saved.

    Nothing is worked out for it: saving waits for nobody. A figure that was not on the desk since
    it changed goes without; one that did not change keeps what the file says of it.
    """

    def __init__(self, document: Document, answers: Answers, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document, self._answers = document, answers
        self._kept: tuple[Posed, Picture] | None = None
        self._in_file: Posed | None = None
        document.preview = self.lines
        document.replaced.connect(self._forget)
        document.changed.connect(self._take_up)
        answers.picture_changed.connect(self._keep)

    def lines(self) -> str:
        """Return the lines of the cover as a job file has them; empty where they are not known."""
        posed = self._posed()
        if posed is None:
            return ""
        if self._kept is not None and self._kept[0] == posed:
            return preview_of(self._kept[1])
        return self._lines_in_file(posed)

    def _lines_in_file(self, posed: Posed) -> str:
        path = self._document.path
        if path is None or posed != self._in_file:
            return ""
        try:
            return preview_kept(path)
        except BadInput:
            return ""

    def _forget(self) -> None:
        self._in_file = None
        self._take_up()

    def _take_up(self) -> None:
        """Know of which figure the file tells, where it says what lies on the desk."""
        if self._document.history.is_saved:
            self._in_file = self._posed()

    def _keep(self) -> None:
        answers, posed = self._answers, self._document.posed
        if posed is not None and answers.picture is not None and answers.is_current("picture") \
                and posed == self._posed():  # fmt: skip
            self._kept = posed, answers.picture

    def _posed(self) -> Posed | None:
        job = self._document.job
        return None if job.cover is None else posed_figure(job, job.cover)
