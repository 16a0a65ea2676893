"""Whose hand draws, and the ways of working on the part compared."""

from __future__ import annotations

from dataclasses import asdict

from PyQt6.QtCore import QObject, pyqtSignal

from holoptic.desk.look.settings import keep_setting, read_settings
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.job import Angle, JobPart, ViewSet
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

    def __init__(self, kernel: KernelLine, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._kernel = kernel
        self._wanted = False
        self._asked: tuple[JobPart, ViewSet, Angle] | None = None
        self.compared: WaysCompared | None = None
        settings = read_settings()
        self.hand = _read_hand(settings.get("hand"))
        self.left_handed = settings.get("left_handed") is True

    def use_hand(self, hand: Hand) -> None:
        """Reckon with other spreads from now on."""
        self.hand = hand
        keep_setting("hand", asdict(hand))
        self.compared = None
        self._ask()
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

    def take_part(self, part: JobPart, views: ViewSet, angle: Angle) -> None:
        """Take the part that is planned; the comparison of another one is forgotten."""
        before, self._asked = self._asked, (part, views, angle)
        if before is None or not _same_but_way(before[0], part):
            self.compared = None
        self._ask()

    def take(self, compared: WaysCompared) -> None:
        """Take a comparison, if it is still about the part on the desk."""
        if self._asked is not None and _same_but_way(compared.part, self._asked[0]):
            self.compared = compared
            self.changed.emit()

    def take_failure(self, purpose: str) -> bool:
        """Go on without a comparison; says whether that was what failed."""
        return purpose == _PURPOSE

    def _ask(self) -> None:
        if self._wanted and self._asked is not None and self.compared is None:
            part, views, angle = self._asked
            self._kernel.ask(_PURPOSE, "compare_ways", part, self.hand, views, angle)


def _same_but_way(one: JobPart, other: JobPart) -> bool:
    """Say whether two parts differ in the way of working at most, which all are compared of."""

    def rest(part: JobPart) -> object:
        ways = part.choice.by_hand
        return (part.source, part.choice.kind, part.choice.corner, part.choice.sheet, ways.method,
                ways.limit_mm, ways.ordinates, ways.depth_copy, ways.raising, ways.own,
                ways.firming)  # fmt: skip

    return rest(one) == rest(other)


def _read_hand(kept: object) -> Hand:
    usual = Hand()
    if not isinstance(kept, dict):
        return usual
    figures = [kept.get(name) for name in ("setting_mm", "angle_deg", "compass_mm")]
    if not all(isinstance(value, int | float) and 0 <= value <= _MOST_SPREAD for value in figures):
        return usual
    return Hand(*(float(value) for value in figures if isinstance(value, int | float)))
