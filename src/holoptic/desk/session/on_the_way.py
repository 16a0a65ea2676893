"""The picture of an arrangement on its way between together and apart, for each slider place.

A picture takes the worker longer than the screen needs for one. So the places that nobody looked
at yet are drawn ahead while the worker has nothing else to do, and a slider that is dragged then
finds its pictures ready. What is shown is always the exact picture of its place.
"""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.revisions import Revision
from holoptic.job import Posed
from holoptic.pictorial import Picture

STEPS = 100
"""So many steps lead from together to apart."""

_MOST_STROKES = 60_000
"""All pictures that are kept together have no more: some 50 MB."""
_AT_REST_MS = 300


def _coarse_first() -> tuple[int, ...]:
    """Return the places in an order in which few of them soon lie near every other."""
    return tuple(sorted(range(STEPS + 1), key=lambda step: -((step & -step) or STEPS)))


class OnTheWay(QObject):
    """Has pictures drawn on the way, and keeps them as long as nothing else changes.

    Signals:
        moved: the picture shown is another.
    """

    moved = pyqtSignal()

    def __init__(self, kernel: KernelLine, purpose: str, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._kernel, self.purpose, self.ahead = kernel, purpose, f"{purpose} ahead"
        self._apart: Posed | None = None
        self._about: Revision | None = None
        self._kept: dict[int, Picture] = {}
        self._asked = self._asked_ahead = self.step = STEPS
        self.picture: Picture | None = None
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(_AT_REST_MS)
        self._rest.timeout.connect(self._draw_ahead)

    @property
    def share(self) -> float:
        """How far it is drawn out: from together (0) to apart (1)."""
        return self.step / STEPS

    @property
    def kept(self) -> int:
        """How many places of the slider have their picture ready."""
        return len(self._kept)

    def follow(self, apart: Posed | None, about: Revision | None) -> None:
        """Begin with another arrangement, apart, or with none; `about` is the question's."""
        self._apart, self._about, self.picture, self.step = apart, about, None, STEPS
        self._kept = {}
        self._rest.stop()
        if apart is not None:
            self._ask()

    def rest(self) -> None:
        """Draw nothing ahead any more: nobody looks."""
        self._rest.stop()

    def wake(self) -> None:
        """Go on drawing ahead: somebody looks again."""
        self._rest.start()

    def draw_out(self, share: float) -> None:
        """Show the arrangement part of the way from together (0) to apart (1)."""
        self.step = round(STEPS * min(max(share, 0.0), 1.0))
        kept = self._kept.get(self.step)
        if kept is not None:
            self.picture = kept
            self.moved.emit()
        elif not self._kernel.is_asked(self.purpose):
            self._ask()

    def take(self, picture: Picture) -> None:
        """Take the picture that was asked for last."""
        self._keep(self._asked, picture)
        if self.step == self._asked:
            self.picture = picture
        elif self.step not in self._kept:
            self.picture = picture
            self._ask()  # the hand has gone on meanwhile
        self._rest.start()
        self.moved.emit()

    def take_ahead(self, picture: Picture) -> None:
        """Take a picture that nobody looks at yet, and have the next one drawn."""
        self._keep(self._asked_ahead, picture)
        if self._kernel.is_busy:
            self._rest.start()
        else:
            self._draw_ahead()

    def _keep(self, step: int, picture: Picture) -> None:
        if len(picture.strokes) * (STEPS + 1) <= _MOST_STROKES:
            self._kept[step] = picture

    def _ask(self) -> None:
        self._asked = self.step
        self._send(self.purpose, self.step, ahead=False)

    def _draw_ahead(self) -> None:
        if not self._kept or self._kernel.is_asked(self.ahead):
            return
        if self._kernel.is_busy:
            self._rest.start()
            return
        missing = next((step for step in _COARSE_FIRST if step not in self._kept), None)
        if missing is not None:
            self._asked_ahead = missing
            self._send(self.ahead, missing, ahead=True)

    def _send(self, purpose: str, step: int, *, ahead: bool) -> None:
        if self._apart is not None:
            figure = self._apart.figure
            self._kernel.ask(
                purpose, "candidate", replace(self._apart, share=step / STEPS), figure.kind,
                figure.corner, about=self._about, ahead=ahead,
            )  # fmt: skip


_COARSE_FIRST = _coarse_first()
