"""A dimension that is being dragged: the worker tells once where it may stand."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.revisions import Revisions
from holoptic.job import SheetOrder
from holoptic.worker.messages import GoodPlace, GoodPlaces

_PURPOSE = "places"


class Holds(QObject):
    """Asks for the good places of the dimension in hand, so that it can snap on the way.

    Signals:
        changed: the places are there.
    """

    changed = pyqtSignal()

    def __init__(
        self, kernel: KernelLine, revisions: Revisions, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._kernel, self._revisions = kernel, revisions
        self._held: tuple[SheetOrder, str] | None = None
        self.places: tuple[GoodPlace, ...] = ()

    def take_hold(self, order: SheetOrder | None, key: str) -> None:
        """Ask where a dimension of a sheet may be dragged to; what is known already stays."""
        held = None if order is None else (order, key)
        if held == self._held:
            return
        self._held, self.places = held, ()
        if held is not None:
            about = self._revisions.note(_PURPOSE, held)
            self._kernel.ask(_PURPOSE, "good_places", *held, about=about)
        self.changed.emit()

    def take(self, found: GoodPlaces) -> None:
        """Take the places from the worker."""
        self.places = found.places
        self.changed.emit()

    def take_failure(self, purpose: str, _line: str) -> bool:
        """Say whether a failure was its own: it then snaps only where it is let loose."""
        if purpose == _PURPOSE:
            self._held = None
        return purpose == _PURPOSE
