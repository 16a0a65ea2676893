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
    """Reads jobs; each is handed on as it is read."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._waiting: list[tuple[threading.Thread, list[Outcome], Callable[[Outcome], None]]] = []
        self._timer = QTimer(self)
        self._timer.setInterval(_LOOK_EACH_MS)
        self._timer.timeout.connect(self._look)

    @property
    def is_busy(self) -> bool:
        """Whether a job is being read."""
        return bool(self._waiting)

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
        if not thread.is_alive():
            then(outcome[0])
            return
        self._waiting.append((thread, outcome, then))
        self._timer.start()

    def _look(self) -> None:
        read = [one for one in self._waiting if not one[0].is_alive()]
        self._waiting = [one for one in self._waiting if one not in read]
        if not self._waiting:
            self._timer.stop()
        for _, outcome, then in read:
            then(outcome[0])
