"""The scanner on the desk: a program of its own that says by lines how far it is, and what came."""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import QObject, QProcess, pyqtSignal

from holoptic.catalogue import tr
from holoptic.devices.scanner import LONGEST_LINE, Glass, glass_json, read_line
from holoptic.errors import BadInput
from holoptic.exchange.job_file import job_bytes
from holoptic.job import Job

_LEAST_SAID = "5"


class Scanner(QObject):
    """Takes the page that lies on the glass. Without a device the stand-in draws it.

    Signals:
        arrived(path): the page is taken, the picture of it lies in a file.
        refused(words): nothing came of it.
        changed: it began, ended or went on.
    """

    arrived = pyqtSignal(object)
    refused = pyqtSignal(str)
    changed = pyqtSignal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._process: QProcess | None = None
        self._folder: tempfile.TemporaryDirectory[str] | None = None
        self._rest = b""
        self._has_ended = False
        self.percent = ""

    @property
    def is_busy(self) -> bool:
        """Whether a page is being taken."""
        return self._process is not None

    @property
    def is_stand_in(self) -> bool:
        """Whether the stand-in is used: no device was named."""
        return not os.environ.get("HOLOPTIC_SCANNER")

    def scan(self, job: Job, glass: Glass, name: str = "sheet") -> None:
        """Take the page of a job's figure; a real device takes whatever lies on its glass.

        `name` is what the stand-in calls its file.
        """
        if self._process is not None:
            return
        self._put_away()
        self._folder = tempfile.TemporaryDirectory()
        folder = Path(self._folder.name)
        device = os.environ.get("HOLOPTIC_SCANNER")
        if device:
            self._start(device, [])
            return
        (folder / "job.holoptic").write_bytes(job_bytes(job))
        on_glass = replace(glass, job=str(folder / "job.holoptic"))
        (folder / "glass.json").write_text(glass_json(on_glass), "utf-8")
        files = str(folder / "glass.json"), str(folder / f"{name}.png")
        self._start(sys.executable, ["-P", "-m", "holoptic.devices.scanner_stand", *files])

    def _start(self, program: str, arguments: Sequence[str]) -> None:
        self._rest, self.percent, self._has_ended = b"", _LEAST_SAID, False
        process = self._process = QProcess(self)
        process.readyReadStandardOutput.connect(self._read)
        process.errorOccurred.connect(self._fail)
        process.finished.connect(self._finish)
        process.start(program, list(arguments))
        self.changed.emit()

    def stop(self) -> None:
        """Take the page away before it is taken."""
        if self._process is not None:
            self._process.blockSignals(True)
            self._process.kill()
            self._process.waitForFinished(2000)
            self._let_go()
            self.changed.emit()

    def close(self) -> None:
        """End the program and remove what it left."""
        self.stop()
        self._put_away()

    def _put_away(self) -> None:
        if self._folder is not None:
            self._folder.cleanup()
            self._folder = None

    def _let_go(self) -> None:
        process, self._process = self._process, None
        self.percent = ""
        if process is not None:
            process.deleteLater()

    # --- taking -----------------------------------------------------------------------------

    def _read(self) -> None:
        if self._process is None:
            return
        *lines, self._rest = (
            self._rest + bytes(self._process.readAllStandardOutput().data())
        ).split(b"\n")
        if len(self._rest) > LONGEST_LINE:
            self._rest = b""
        for line in lines:
            self._take(line.decode("utf-8", "replace"))

    def _take(self, line: str) -> None:
        try:
            found = read_line(line)
        except BadInput as error:
            self._end(str(error))
            return
        if found is None or self._has_ended:
            return
        if found.sort == "progress":
            self.percent = found.words
            self.changed.emit()
        elif found.sort == "trouble":
            self._end(found.words)
        else:
            self._has_ended = True
            self.arrived.emit(Path(found.words))

    def _end(self, words: str) -> None:
        if not self._has_ended:
            self._has_ended = True
            self.refused.emit(tr("The scanner: {words}", words=words))

    def _fail(self, _: object) -> None:
        if self._process is not None and self._process.state() == QProcess.ProcessState.NotRunning:
            self._end(self._process.errorString())
            self._let_go()
            self.changed.emit()

    def _finish(self) -> None:
        self._read()
        self._end(tr("it ended without a picture"))
        self._let_go()
        self.changed.emit()
