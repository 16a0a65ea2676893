"""Where the figure in hand may be cut open: what the worker proposes, and what features say."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.revisions import Revisions
from holoptic.errors import BadInput
from holoptic.job import Posed
from holoptic.part import Part
from holoptic.part.cutting import centres_of, read_cut
from holoptic.part.naming import spoken
from holoptic.worker.messages import CutProposed

PURPOSE = "cuts"
_LED = ("through", "offset")


class Cuts(QObject):
    """Has the worker propose cuts for a figure while somebody looks.

    Signals:
        changed: there are other proposals, or why there are none.
    """

    changed = pyqtSignal()

    def __init__(
        self, kernel: KernelLine, revisions: Revisions, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._kernel, self._revisions = kernel, revisions
        self._wanted = False
        self._posed: Posed | None = None
        self._asked: Posed | None = None
        self.best: tuple[CutProposed, ...] = ()
        self.trouble: str | None = None

    @property
    def is_waiting(self) -> bool:
        """Whether the worker is still at it."""
        return self._wanted and self._asked is not None and not self.best and not self.trouble

    def want(self, wanted: bool) -> None:
        """Say whether somebody looks: only then anything is worked out."""
        self._wanted = wanted
        self._ask()

    def follow(self, posed: Posed | None) -> None:
        """Take the figure whose picture is shown; how it is cut now changes no proposal."""
        self._posed = None if posed is None else posed.uncut()
        self._ask()

    def _ask(self) -> None:
        if not self._wanted or self._posed is None or self._posed == self._asked:
            return
        self._asked, self.best, self.trouble = self._posed, (), None
        about = self._revisions.note(PURPOSE, self._posed)
        self._kernel.ask(PURPOSE, "propose_cuts", self._posed, about=about)
        self.changed.emit()

    def take(self, found: tuple[CutProposed, ...]) -> None:
        """Take proposals from the worker."""
        self.best = found
        self.changed.emit()

    def take_failure(self, purpose: str, line: str) -> bool:
        """Note why nothing is proposed; says whether the failure was its own."""
        if purpose == PURPOSE:
            self.trouble = line
            self.changed.emit()
        return purpose == PURPOSE


def led_through(words: str, posed: Posed, operation: int) -> str:
    """Return a cut that leads through a feature too, or no longer where it did.

    A cut of another sort, and a feature without an axis, change nothing.
    """
    source = posed.source
    if not isinstance(source, Part):
        return words
    name = spoken(source.operations[operation].name)
    known = [said for said, _ in centres_of(source)]
    if name not in known:
        name = next((said for said in known if said.rpartition("_")[0] == name), "")
    if not name:
        return words
    try:
        asked = read_cut(words) if words else None
    except BadInput:
        asked = None
    if asked is None or asked.sort not in _LED:
        return f"through:{name}"
    names = [one for one in map(spoken, asked.listed) if one != name]
    if len(names) == len(asked.listed):
        names.append(name)
    plain = f";plain={','.join(asked.plain)}" if asked.plain else ""
    return f"{asked.sort}:{','.join(names)}{plain}" if names else ""
