"""Job files are read in a thread, so that a large or a slow one does not hold the window."""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer

from holoptic.exchange.job_file import read_job
from holoptic.job import Job

_AT_ONCE_S = 0.04
"""A job that is read so soon is there when the call returns, as most are."""
_LOOK_EACH_MS = 20

Outcome = Job | Exception


class JobLoader(QObject):
    """Reads one job after another; of those asked for the newest."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._waiting: tuple[threading.Thread, list[Outcome], Callable[[Outcome], None]] | None
        self._waiting = None
        self._timer = QTimer(self)
        self._timer.setInterval(_LOOK_EACH_MS)
        self._timer.timeout.connect(self._look)

    @property
    def is_busy(self) -> bool:
        """Whether a job is being read."""
        return self._waiting is not None

    def load(self, path: Path, then: Callable[[Outcome], None]) -> None:
        """Read a job; `then` takes it, or what went wrong."""
        outcome: list[Outcome] = []

        def read() -> None:
            try:
                outcome.append(read_job(path))
            except Exception as error:
                outcome.append(error)

        thread = threading.Thread(target=read, daemon=True)
        thread.start()
        thread.join(_AT_ONCE_S)
        self._waiting = thread, outcome, then
        self._look()
        if self._waiting is not None:
            self._timer.start()

    def _look(self) -> None:
        if self._waiting is None or self._waiting[0].is_alive():
            return
        (_, outcome, then), self._waiting = self._waiting, None
        self._timer.stop()
        then(outcome[0])
