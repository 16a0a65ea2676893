"""The construction card of the selected edge: asked of the worker, and changed by a key."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.catalogue import tr
from holoptic.construction.cards import Card
from holoptic.curves.methods import METHOD_TITLES, Method
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.revisions import Revisions
from holoptic.job import HandWays, SheetOrder
from holoptic.worker.messages import Carded

_PURPOSE = "card"


class Cards(QObject):
    """Has the worker make the card of the edge in hand.

    Signals:
        changed: another card, or none, is to be shown.
    """

    changed = pyqtSignal()

    def __init__(
        self, kernel: KernelLine, revisions: Revisions, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._kernel = kernel
        self._revisions = revisions
        self._wanted = False
        self._order: SheetOrder | None = None
        self._figure = ""
        self._edge: int | None = None
        self._asked: object = None
        self.card: Card | None = None
        self.trouble: str | None = None
        self.scale = 1.0
        self.shows_band = True

    def want(self, wanted: bool) -> None:
        """Say whether somebody looks: only then cards are worked out."""
        self._wanted = wanted
        self._ask()

    def follow(self, order: SheetOrder | None, figure_id: str, edge: int | None) -> None:
        """Take the sheet and the figure whose picture is shown, and the edge selected in it."""
        if (order, figure_id, edge) != (self._order, self._figure, self._edge):
            same_edge = edge == self._edge
            self._order, self._figure, self._edge = order, figure_id, edge
            self._revisions.forget(_PURPOSE)
            self.trouble = None
            # while a method changes, the card stays until the new one is there
            if self.card is not None and not (same_edge and edge is not None):
                self.card = None
                self.changed.emit()
        self._ask()

    def take(self, carded: Carded) -> None:
        """Take a card from the worker."""
        self.card, self.scale, self.trouble = carded.card, carded.scale, None
        self.changed.emit()

    def take_failure(self, purpose: str, line: str) -> bool:
        """Note why there is no card; say whether the failure was its own."""
        if purpose == _PURPOSE:
            self.card, self.trouble, self._asked = None, line, None
            self.changed.emit()
        return purpose == _PURPOSE

    def toggle_band(self) -> None:
        """Show or hide the deviation on the picture."""
        self.shows_band = not self.shows_band
        self.changed.emit()

    def _ask(self) -> None:
        if not self._wanted or self._order is None or self._edge is None:
            return
        asked = self._order, self._figure, self._edge
        if self._asked != asked:
            self._asked = asked
            about = self._revisions.note(_PURPOSE, asked)
            self._kernel.ask(_PURPOSE, "card", *asked, about=about)

    # --- methods ----------------------------------------------------------------------------

    @property
    def methods(self) -> list[Method]:
        """The methods that can be used for the circle in hand, in their order."""
        card = self.card
        return [] if card is None else [
            item.method for item in card.alternatives if item.deviation is not None
        ]  # fmt: skip

    def next_method(self) -> Method | None:
        """Return the method after the one in use, or None where there is no choice."""
        methods = self.methods
        if self.card is None or len(methods) < 2:
            return None
        now = next(item.method for item in self.card.alternatives if item.chosen)
        return methods[(methods.index(now) + 1) % len(methods)]


def with_method(
    ways: HandWays, method: Method, feature: str, for_all: bool
) -> tuple[HandWays, str]:
    """Return the ways with a method for one feature or for all circles, and what was done."""
    title = METHOD_TITLES[method]
    if for_all:
        return replace(ways, method=method, own=()), tr("{method} for all circles", method=title)
    return ways.with_own(feature, method), tr(
        "{method} for “{feature}”", method=title, feature=feature
    )
