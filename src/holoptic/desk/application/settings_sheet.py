"""The sheet of settings: what a user chooses once for all jobs, in one place."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import (
    QFileDialog,
    QFrame,
    QGridLayout,
    QLabel,
    QLineEdit,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from holoptic.bounded import read_bounded
from holoptic.catalogue import tr
from holoptic.desk.application.over_sheet import OverSheet
from holoptic.desk.look.preferences import (
    DRAWN_BY,
    GROUPS,
    choose,
    drawn_by,
    exported,
    preference,
    reset,
    take_over,
)
from holoptic.desk.look.settings import keep_setting
from holoptic.desk.look.theme import px
from holoptic.desk.widgets.folders import keep_folder, last_folder
from holoptic.desk.widgets.rows import Row
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.places import config_folder
from holoptic.quoting import name_of

_FILE = "holoptic-settings.json"
_LARGEST = 200_000
_WIDEST = 860
_LONGEST_NAME = 60


class SettingsSheet(OverSheet):
    """Lies over the room until it is closed again.

    `close` goes back to the page, `tell` says how writing and reading files went.
    """

    def __init__(self, close: Callable[[], None], tell: Callable[[str], None]) -> None:
        super().__init__(close, tr("Close (Esc)"))
        self.title.setText(tr("Settings"))
        self._tell = tell
        self.rows: dict[str, Row] = {}
        self.take_button = self.button(tr("Take from a file …"), self._ask_take)
        self.write_button = self.button(tr("Write to a file …"), self._ask_write)
        self.reset_button = self.button(tr("As it was at first"), self._reset)
        self._lay_out()

    def _lay_out(self) -> None:
        column = self.lay_head(self.take_button, self.write_button, self.reset_button)
        card = QFrame()
        card.setObjectName("card")
        card.setMaximumWidth(px(_WIDEST))
        grid = QGridLayout(card)
        grid.setContentsMargins(16, 12, 16, 14)
        grid.setVerticalSpacing(px(10))
        grid.setHorizontalSpacing(px(14))
        for title, several in GROUPS:
            heading = QLabel(title)
            heading.setObjectName("heading")
            grid.addWidget(heading, grid.rowCount(), 0, 1, 3)
            for one in several:
                row = Row(one.choices, partial(self._choose, one.name), one.title)
                self._add_row(grid, one.title, row, one.note)
                self.rows[one.name] = row
        self.drawn_by = QLineEdit()
        self.drawn_by.setMaxLength(_LONGEST_NAME)
        self.drawn_by.setAccessibleName(tr("drawn by"))
        self.drawn_by.textEdited.connect(lambda name: keep_setting(DRAWN_BY, name))
        self._add_row(grid, tr("Drawn by"), self.drawn_by, tr("in the title block of new jobs"))
        grid.setColumnStretch(1, 1)
        inner = QWidget()
        inner.setObjectName("body")
        around = QVBoxLayout(inner)
        around.setContentsMargins(0, px(8), 0, 0)
        around.addWidget(card)
        where = QLabel(
            tr(
                "They stand in {file}. Unit, views and papers of a job stand in the job, the "
                "spread of your hand and your instruments on the Draw page (W).",
                file=_shortly(config_folder() / "settings.json"),
            )
        )
        where.setObjectName("quiet")
        where.setWordWrap(True)
        around.addWidget(where)
        around.addStretch(1)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setWidget(inner)
        column.addWidget(area, 1)

    def _add_row(self, grid: QGridLayout, title: str, widget: QWidget, note: str) -> None:
        number = grid.rowCount()
        label, quiet = QLabel(title), QLabel(note)
        label.setObjectName("key")
        quiet.setObjectName("quiet")
        grid.addWidget(label, number, 0)
        grid.addWidget(widget, number, 1)
        grid.addWidget(quiet, number, 2)

    def refresh(self) -> None:
        """Show what is chosen."""
        self.drawn_by.setText(drawn_by())
        for name, row in self.rows.items():
            row.show_value(preference(name))

    def _choose(self, name: str, value: object) -> None:
        choose(name, value)
        self.refresh()

    def _reset(self) -> None:
        reset()
        self.refresh()
        self._tell(tr("All settings are as they were at first."))

    # --- files ------------------------------------------------------------------------------

    def _ask_write(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Write the settings"), str(Path(last_folder(), _FILE)), _FILES
        )
        if name:
            self.write_to(Path(name))

    def write_to(self, path: Path) -> None:
        """Write the settings to a file."""
        keep_folder(path)
        try:
            write_atomically(path, exported())
        except BadInput as error:
            self._tell(tr("Not written: {error}", error=error))
            return
        self._tell(tr("Written to {path}", path=name_of(path)))

    def _ask_take(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, tr("Take settings"), last_folder(), _FILES)
        if name:
            self.take_from(Path(name))

    def take_from(self, path: Path) -> None:
        """Take the settings of a file; what is none leaves all as it is."""
        try:
            take_over(read_bounded(path, _LARGEST))
        except BadInput as error:
            self._tell(tr("Not taken: {error}", error=error))
            return
        self.refresh()
        self._tell(tr("Settings taken from {path}", path=name_of(path)))


_FILES = tr("Settings (*.json)")


def _shortly(path: Path) -> str:
    """Return a path with the user's own folder as people write it."""
    home = Path.home()
    return f"~/{path.relative_to(home)}" if path.is_relative_to(home) else str(path)
