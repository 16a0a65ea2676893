"""The strip of first steps: five moves that lead from a crate to the first firm line."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QToolButton, QWidget

from holoptic.catalogue import tr
from holoptic.desk.look.settings import keep_setting, read_settings
from holoptic.desk.session.session import Session
from holoptic.desk.session.stepping import Stepping

_SETTING = tr("first steps")
STEPS = (
    ("crate", tr("Give the crate"), tr("Length, depth and height, on the Carve page (F3)")),
    (
        "carve",
        tr("Cut or add: Alt+C, Alt+A"),
        tr("A first outline; its corners lie on the crate face"),
    ),
    ("picture", tr("Choose the picture: F4"), tr("1 to 5 take a proposal")),
    ("sheet", tr("See the sheet: F6"), tr("Paper and scale, before the first line")),
    ("firm", tr("Draw: F7, then space"), tr("Move by move, until the first line is firm")),
)


class FirstSteps(QWidget):
    """Shows the steps, those that are done with a tick; the next one stands out.

    It comes with the first part somebody begins, goes when it is closed or all is done, and comes
    back from the sheet of keys.
    """

    def __init__(self, session: Session, walk: Stepping, page: Callable[[], str]) -> None:
        super().__init__()
        self.setObjectName("strip")
        self.session, self._walk, self._page = session, walk, page
        self.done: set[str] = set()
        self._wanted = False
        self._begun_crate: object = None
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 3, 8, 3)
        row.setSpacing(16)
        self.labels: dict[str, QLabel] = {}
        for name, _, tip in STEPS:
            label = QLabel()
            label.setToolTip(tip)
            row.addWidget(label)
            self.labels[name] = label
        row.addStretch(1)
        self.close_button = QToolButton()
        self.close_button.setText("×")
        self.close_button.setToolTip(
            tr("Put the first steps away; the sheet of keys (F1) has them")
        )
        self.close_button.setAccessibleName(tr("put the first steps away"))
        self.close_button.clicked.connect(lambda _=False: self.put_away())
        row.addWidget(self.close_button)
        session.document.part_begun.connect(self._begin)
        session.document.changed.connect(self.follow)
        walk.moved.connect(self.follow)
        self.hide()

    def _begin(self, wants_size: bool) -> None:
        part = self.session.document.part
        self._begun_crate = part.crate if part is not None and wants_size else None
        if read_settings().get(_SETTING) is not False:
            self._wanted = True
            self.follow()

    def bring_back(self) -> None:
        """Show the steps again, from the first one that is not done."""
        keep_setting(_SETTING, True)
        self.done = set()
        self._begun_crate = None
        self._wanted = True
        self.follow()

    def put_away(self) -> None:
        """Hide the steps for good, until they are asked for."""
        keep_setting(_SETTING, False)
        self._wanted = False
        self.hide()

    def follow(self) -> None:
        """Tick what is done."""
        if not self._wanted:
            return
        part = self.session.document.part
        if part is not None and (part.crate != self._begun_crate or part.operations):
            self.done.add("crate")
        if part is not None and part.operations:
            self.done.add("carve")
        if self._page() in ("picture", "sheet") and self.session.answers.picture is not None:
            self.done.add(self._page())
        if self._is_firm():
            self.done.add("firm")
        self.show()
        self._write()

    def _is_firm(self) -> bool:
        plan = self._walk.plan
        done = plan.moves[: self._walk.at] if plan is not None else ()
        return any(move.verb == "firm in" for move in done)

    def _write(self) -> None:
        left = [name for name, _, _ in STEPS if name not in self.done]
        short = self.width() < self.fontMetrics().averageCharWidth() * 128
        for number, (name, words, _) in enumerate(STEPS, 1):
            mark = "✓" if name in self.done else f"{number}"
            is_next = bool(left) and name == left[0]
            shown = words if is_next or not short else ""
            self.labels[name].setText(f"{mark}  {shown}".rstrip())
            self.labels[name].setObjectName("next" if is_next else "quiet")
            style = self.labels[name].style()
            if style is not None:
                style.unpolish(self.labels[name])
                style.polish(self.labels[name])
        if not left:
            self.labels[STEPS[-1][0]].setText(
                tr("✓  The first line is firm. That is the whole way.")
            )
            keep_setting(_SETTING, False)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Shorten what does not fit."""
        super().resizeEvent(event)
        self._write()
