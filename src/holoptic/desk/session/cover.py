"""The picture that goes with the job into its file: that of its first figure as last seen."""

from __future__ import annotations

from PyQt6.QtCore import QObject

from holoptic.desk.session.answers import Answers
from holoptic.desk.session.document import Document
from holoptic.exchange.preview import preview_of
from holoptic.job import Posed, posed_figure
from holoptic.pictorial import Picture


class Cover(QObject):
    """Keeps the picture of the job's cover, and says it when the job is saved.

    Nothing is worked out for it: saving waits for nobody. A figure that was not on the desk since
    it changed goes without.
    """

    def __init__(self, document: Document, answers: Answers, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document, self._answers = document, answers
        self._kept: tuple[Posed, Picture] | None = None
        document.preview = self.lines
        answers.picture_changed.connect(self._keep)

    def lines(self) -> str:
        """Return the lines of the cover as a job file has them; empty where they are not known."""
        posed = self._posed()
        if posed is None or self._kept is None or self._kept[0] != posed:
            return ""
        return preview_of(self._kept[1])

    def _keep(self) -> None:
        answers, posed = self._answers, self._document.posed
        if posed is not None and answers.picture is not None and answers.is_current("picture") \
                and posed == self._posed():  # fmt: skip
            self._kept = posed, answers.picture

    def _posed(self) -> Posed | None:
        job = self._document.job
        return None if job.cover is None else posed_figure(job, job.cover)
