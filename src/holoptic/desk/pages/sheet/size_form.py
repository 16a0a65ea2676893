"""The dimension in hand: what stands beside its figure, and where it stands."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PyQt6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.look.theme import px
from holoptic.desk.session.session import Session
from holoptic.desk.widgets.pressed import on_toggle, show_down
from holoptic.job import SizeWish
from holoptic.worker.messages import PlacedSize

_MOST_LETTERS = 24
_WORDS = (
    ("prefix", tr("before it")),
    ("suffix", tr("behind it")),
    ("tolerance", tr("tolerance")),
)


class SizeForm(QWidget):
    """Fields for the dimension in hand; its figure itself is never typed."""

    def __init__(self, session: Session, redraw: Callable[[], None]) -> None:
        super().__init__()
        self.session, self._redraw = session, redraw
        self.chosen = ""
        self.title = QLabel()
        self.fields: dict[str, QLineEdit] = {}
        grid = QGridLayout()
        grid.setSpacing(px(4))
        for row, (name, words) in enumerate(_WORDS):
            field = QLineEdit()
            field.setMaxLength(_MOST_LETTERS)
            field.setAccessibleName(tr("{what}, beside the figure", what=words))
            field.editingFinished.connect(lambda name=name: self._written(name))
            grid.addWidget(QLabel(words), row, 0)
            grid.addWidget(field, row, 1)
            self.fields[name] = field
        self.reference = QCheckBox(tr("in brackets, for reference"))
        on_toggle(self.reference, lambda on: self._ask(reference=on))
        self.next = QPushButton(tr("Next place  (.)"))
        self.next.clicked.connect(self.pass_over)
        self.reset = QPushButton(tr("As proposed"))
        self.reset.clicked.connect(self.as_proposed)
        buttons = QHBoxLayout()
        buttons.setSpacing(px(4))
        for button in (self.next, self.reset):
            buttons.addWidget(button, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(px(4))
        column.addWidget(self.title)
        column.addLayout(grid)
        column.addWidget(self.reference)
        column.addLayout(buttons)

    @property
    def shown(self) -> tuple[PlacedSize, ...]:
        """The dimensions on the sheet."""
        laid = self.session.answers.laid
        return () if laid is None or laid.sizes is None else laid.sizes.shown

    @property
    def in_hand(self) -> PlacedSize | None:
        """The dimension in hand."""
        return next((one for one in self.shown if one.key == self.chosen), None)

    @property
    def _is_awaited(self) -> bool:
        """Whether the sheet is still being worked out."""
        sheet, answers = self.session.document.sheet, self.session.answers
        wanted = sheet is not None and sheet.wish.dimensions == "auto"
        return wanted and answers.laid is None and "sheet" not in answers.failed

    @property
    def _wish(self) -> SizeWish:
        sheet = self.session.document.sheet
        return SizeWish(self.chosen) if sheet is None else sheet.size(self.chosen)

    def choose(self, key: str) -> None:
        """Take a dimension in hand, or none."""
        self.chosen = key
        self.refresh()
        self._redraw()

    def step(self, way: int) -> None:
        """Take the next dimension in hand, or the one before."""
        keys = [one.key for one in self.shown]
        if keys:
            at = keys.index(self.chosen) + way if self.chosen in keys else (0 if way > 0 else -1)
            self.choose(keys[at % len(keys)])

    def refresh(self) -> None:
        """Show the dimension in hand."""
        size, wish = self.in_hand, self._wish
        if self.chosen and self.isVisible() and self._is_awaited:
            return  # what is typed meanwhile must not go elsewhere
        self.setVisible(size is not None)
        if size is None:
            return
        self.title.setText(tr("In hand: {size}", size=size.text))
        for name, field in self.fields.items():
            if not field.hasFocus():
                field.setText(getattr(wish, name))
        show_down(self.reference, wish.reference)
        self.reset.setEnabled(not wish.says_nothing)

    # --- what the hand does -----------------------------------------------------------------

    def _written(self, name: str) -> None:
        words = self.fields[name].text()
        if words != getattr(self._wish, name):
            self._ask(**{name: words})

    def pass_over(self) -> None:
        """Have it stand at the next good place."""
        if self.in_hand is not None:
            self._ask(passed=self._wish.passed + 1, near=None)

    def put(self, key: str, at: tuple[float, float]) -> None:
        """Have a dimension stand near a place of the page: it snaps to the nearest good one."""
        self.choose(key)
        size, laid = self.in_hand, self.session.answers.laid
        if size is not None and laid is not None and laid.layout is not None:
            x, y = laid.layout.of(size.figure).origin
            self._ask(near=(round(at[0] - x, 2), round(at[1] - y, 2)), passed=0)

    def as_proposed(self) -> None:
        """Ask nothing of it any more."""
        self._take(SizeWish(self.chosen))

    def _ask(self, **changes: object) -> None:
        self._take(replace(self._wish, **changes))  # type: ignore[arg-type]

    def _take(self, wish: SizeWish) -> None:
        sheet = self.session.document.sheet
        if sheet is not None and self.chosen:
            self.session.document.edit_sheet(sheet.with_size(wish), tr("dimension"))
