"""Which kinds and near corners are proposed for the part on the desk, and how each looks."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.revisions import Revisions
from holoptic.job import Posed
from holoptic.pictorial import Picture, View, view_of
from holoptic.pictorial.proposal import Appraisal, better, candidates, ranked
from holoptic.solid.pieces import SolidFacts
from holoptic.worker.messages import Appraised, Candidate

PROPOSED = 5
"""How many candidates stand side by side."""

_APPRAISE, _PICTURE = "appraise", "candidate"


class Proposals(QObject):
    """Has the worker appraise the candidates of a part, ranks them, and gets the best pictured.

    Signals:
        changed: the ranking, or the picture of a proposal, is new.
    """

    changed = pyqtSignal()

    def __init__(
        self, kernel: KernelLine, revisions: Revisions, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._kernel = kernel
        self._revisions = revisions
        self._posed: Posed | None = None
        self._facts: SolidFacts | None = None
        self._wanted = False
        self._found: dict[tuple[str, str], Appraisal] = {}
        self._due: set[str] = set()
        self.best: tuple[Appraisal, ...] = ()
        self.trouble: str | None = None
        self.pictures: dict[tuple[str, str], Picture] = {}

    def want(self, wanted: bool) -> None:
        """Say whether somebody looks: only then anything is worked out."""
        self._wanted = wanted
        self.ask()

    def forget(self) -> None:
        """Forget the part: it was changed, or another is on the desk."""
        self._posed = self._facts = None
        self._revisions.forget(_APPRAISE)
        self._found, self._due, self.best, self.trouble = {}, set(), (), None

    def take_figure(self, posed: Posed, facts: SolidFacts) -> None:
        """Take the figure whose picture is shown; `ask` has its part appraised."""
        self.forget()
        self._posed, self._facts = posed, facts

    def ask(self) -> None:
        """Have the candidates appraised, one kind at a time, unless that was done."""
        if not self._wanted or self._posed is None or self._facts is None or self._found:
            return
        corners: dict[str, list[str]] = {}
        figure = self._posed.figure
        for view in (*candidates(self._facts), view_of(figure.kind, figure.corner)):
            known = corners.setdefault(view.kind, [])
            if view.corner is not None and view.corner.value not in known:
                known.append(view.corner.value)
        self._due, self.trouble = set(corners), None
        posed, about = self._posed, self._revisions.note(_APPRAISE, self._posed)
        for kind, names in corners.items():
            self._kernel.ask(f"{_APPRAISE} {kind}", "appraise_kind", posed, kind, tuple(names),
                             about=about)  # fmt: skip

    def of(self, view: View | None) -> Appraisal | None:
        """Return what a view has been found to show, once it is appraised."""
        if view is None or view.corner is None:
            return None
        return self._found.get((view.kind, view.corner.value))

    def better_than(self, view: View | None) -> Appraisal | None:
        """Return the best candidate without lines that fall together, where a view has such."""
        now = self.of(view)
        if now is None or not now.collides or self._due:
            return None
        return better(list(self._found.values()), now)

    def take_appraised(self, answer: Appraised) -> None:
        """Take the appraisals of one kind."""
        self._found |= {(item.kind, item.corner): item for item in answer.found}
        self._kind_done({item.kind for item in answer.found})

    def take_picture(self, answer: Candidate) -> None:
        """Take the picture of a proposal."""
        self.pictures[answer.choice] = answer.picture
        self.changed.emit()

    def take_failure(self, purpose: str, line: str) -> bool:
        """Go on without a kind that could not be appraised, or pictured; says whether it was one.

        Why stays in `trouble`.
        """
        what, _, kind = purpose.partition(" ")
        if what in (_APPRAISE, _PICTURE):
            self.trouble = line
            self.changed.emit()
        if what == _APPRAISE:
            self._kind_done({kind})
        return what in (_APPRAISE, _PICTURE)

    def _kind_done(self, kinds: set[str]) -> None:
        self._due -= kinds
        if self._due or self._posed is None:
            return
        self.best = tuple(ranked(list(self._found.values()), PROPOSED))
        choices = [(item.kind, item.corner) for item in self.best]
        self.pictures = {key: self.pictures[key] for key in choices if key in self.pictures}
        for choice in choices:  # one by one: a large answer would hold up the window
            about = self._revisions.note(_APPRAISE, self._posed)
            self._kernel.ask(f"{_PICTURE} {choice}", "candidate", self._posed, *choice, about=about)
        self.changed.emit()
