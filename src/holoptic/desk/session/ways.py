"""Whose hand draws, and the ways of working on the part compared."""

from __future__ import annotations

from dataclasses import asdict, replace

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.desk.look.settings import keep_setting, read_settings
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.revisions import Revisions
from holoptic.job import Outfit, SheetOrder
from holoptic.plan.hand import Hand
from holoptic.worker.messages import WaysCompared

_PURPOSE = "ways"
_MOST_SPREAD = 5.0


class Ways(QObject):
    """Keeps the hand, and has the worker compare the ways while somebody looks.

    Signals:
        changed: another hand draws, or the comparison is new.
    """

    changed = pyqtSignal()

    def __init__(
        self, kernel: KernelLine, revisions: Revisions, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._kernel = kernel
        self._revisions = revisions
        self._wanted = False
        self._asked: tuple[SheetOrder, str] | None = None
        self.compared: WaysCompared | None = None
        self.trouble: str | None = None
        settings = read_settings()
        self.hand = _read_hand(settings.get("hand"))
        self.outfit = _read_outfit(settings.get("outfit"))
        self.left_handed = settings.get("left_handed") is True

    def use_hand(self, hand: Hand) -> None:
        """Reckon with other spreads from now on."""
        self.hand = hand
        keep_setting("hand", asdict(hand))
        self.compared = None
        self._ask()
        self.changed.emit()

    def use_outfit(self, outfit: Outfit) -> None:
        """Draw with other instruments from now on."""
        self.outfit = outfit
        keep_setting("outfit", asdict(outfit))
        self.changed.emit()

    def use_left_hand(self, left: bool) -> None:
        """Lay the instruments for the left hand, or for the right one."""
        self.left_handed = left
        keep_setting("left_handed", left)
        self.changed.emit()

    def want(self, wanted: bool) -> None:
        """Say whether somebody looks at the comparison."""
        self._wanted = wanted
        self._ask()

    def take_order(self, order: SheetOrder, figure_id: str) -> None:
        """Take the figure that is planned; the comparison of another one is forgotten."""
        before, self._asked = self._asked, (order, figure_id)
        if before is None or before[1] != figure_id or \
                _all_but_way(*before) != _all_but_way(order, figure_id):  # fmt: skip
            self.compared = None
        self._ask()

    def take(self, compared: WaysCompared) -> None:
        """Take a comparison."""
        self.compared, self.trouble = compared, None
        self.changed.emit()

    def take_failure(self, purpose: str, line: str) -> bool:
        """Note why nothing is compared; says whether that was what failed."""
        if purpose == _PURPOSE:
            self.trouble = line
            self.changed.emit()
        return purpose == _PURPOSE

    def _ask(self) -> None:
        if self._wanted and self._asked is not None and self.compared is None:
            self.trouble = None
            about = self._revisions.note(_PURPOSE, (_all_but_way(*self._asked), self.hand))
            self._kernel.ask(_PURPOSE, "compare_ways", *self._asked, self.hand, about=about)


def _all_but_way(order: SheetOrder, figure_id: str) -> SheetOrder:
    """Return an order without the way of working on a figure, of which all are compared."""
    posed = order.of(figure_id)
    by_hand = replace(posed.figure.by_hand, strategy=None, order="by-feature")
    return order.with_posed(replace(posed, figure=replace(posed.figure, by_hand=by_hand)))


def _read_outfit(kept: object) -> Outfit:
    usual = Outfit()
    if not isinstance(kept, dict):
        return usual
    figures = [kept.get(name) for name in asdict(usual)]
    if not all(isinstance(value, int | float) for value in figures):
        return usual
    read = Outfit(*(float(value) for value in figures if isinstance(value, int | float)))
    return read if read.is_sound else usual


def _read_hand(kept: object) -> Hand:
    usual = Hand()
    if not isinstance(kept, dict):
        return usual
    figures = [kept.get(name) for name in ("setting_mm", "angle_deg", "compass_mm")]
    if not all(isinstance(value, int | float) and 0 <= value <= _MOST_SPREAD for value in figures):
        return usual
    return Hand(*(float(value) for value in figures if isinstance(value, int | float)))
