"""A sheet of plain text over the room: what Holoptic is made of, and the report after a crash."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtGui import QGuiApplication
from PyQt6.QtWidgets import (
    QCheckBox,
    QFileDialog,
    QPlainTextEdit,
)

from holoptic.catalogue import tr
from holoptic.desk.application.over_sheet import OverSheet
from holoptic.desk.widgets.folders import keep_folder, last_folder
from holoptic.diagnostics import folders, report, versions
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically

_REPORT_NAME = "holoptic-report.txt"


class ReportSheet(OverSheet):
    """Lies over the room until it is closed again.

    `close` goes back to the page, `job` returns the bytes of the job on the desk, `tell` says how
    saving went.
    """

    def __init__(
        self, close: Callable[[], None], job: Callable[[], bytes], tell: Callable[[str], None]
    ) -> None:
        super().__init__(close, tr("Close (Esc)"))
        self._job, self._tell = job, tell
        self.text = QPlainTextEdit()
        self.text.setReadOnly(True)
        self.text.setAccessibleName(tr("report"))
        self.with_job = QCheckBox(tr("with the job on the desk"))
        self.with_job.toggled.connect(self._fill)
        self.save_button = self.button(tr("Save the report …"), self._ask_save)
        self.copy_button = self.button(tr("Copy it"), self._copy)
        self._is_report = False
        self.lay_head(self.with_job, self.copy_button, self.save_button).addWidget(self.text, 1)

    def show_about(self) -> None:
        """Show versions, and where files lie."""
        self._is_report = False
        self.title.setText(tr("About Holoptic"))
        self._fill()

    def show_report(self) -> None:
        """Show the report of what went wrong, to be saved and sent."""
        self._is_report = True
        self.with_job.setChecked(False)  # nobody's drawing goes along unless it is wanted
        self.title.setText(tr("Report"))
        self._fill()

    def _fill(self) -> None:
        self.with_job.setVisible(self._is_report)
        self.save_button.setVisible(self._is_report)
        if self._is_report:
            drawing = self._job() if self.with_job.isChecked() else None
            words = tr(
                "Nothing of this is sent by itself. Save it, read it, and send it to whoever "
                "looks after Holoptic for you."
            )
            self.text.setPlainText(f"{words}\n\n{report(drawing)}")
        else:
            told = [f"{name} {version}" for name, version in versions()]
            told += ["", tr("Free software under the GPL, version 3 or later."), ""]
            told += [f"{name}: {place}" for name, place in folders()]
            self.text.setPlainText("\n".join(told))
        self.text.setFocus()

    def _copy(self) -> None:
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(self.text.toPlainText())
        self._tell(tr("Copied"))

    def _ask_save(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Save the report"), str(Path(last_folder(), _REPORT_NAME)), tr("Text (*.txt)")
        )
        if name:
            keep_folder(Path(name))
            self.save_to(Path(name))

    def save_to(self, path: Path) -> None:
        """Write what is shown to a file."""
        try:
            write_atomically(path, self.text.toPlainText().encode("utf-8"))
        except BadInput as error:
            self._tell(tr("Not saved: {error}", error=error))
            return
        self._tell(tr("Saved as {name}", name=path.name))
