"""A worker that goes on from one window or command to the next."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from typing import Any, ClassVar

from holoptic.errors import KernelTrouble
from holoptic.worker.client import Worker
from holoptic.worker.messages import Answer

_PATIENCE_S, _LOOK_S = 4.0, 0.1
_MOST_KEPT = 2
"""A desk has one for its solids and one for its checks."""


class KeptWorker(Worker):
    """A worker whose idle process goes on to the next window: loading the kernel takes seconds."""

    kept: ClassVar[list[tuple[Any, Any, int]]] = []
    patience_s: ClassVar[float] = 0.0
    """How long one that is at work may take to end it before it is given up."""

    def __init__(self, *arguments: Any, **options: Any) -> None:
        super().__init__(*arguments, **options)
        self._due: int | None = None

    def start(self) -> None:
        if self._process is None and self.kept:
            self._process, self._line, self._last_id = self.kept.pop()
        super().start()

    def send(self, task: str, *arguments: Any) -> int:
        self._due = super().send(task, *arguments)
        return self._due

    def receive(self) -> Answer | None:
        answer = super().receive()
        if answer is not None:
            self._due = None
        return answer

    @classmethod
    @contextmanager
    def patient(cls) -> Iterator[None]:
        """Wait for workers at work: most are done sooner than another one has loaded the kernel."""
        cls.patience_s = _PATIENCE_S
        try:
            yield
        finally:
            cls.patience_s = 0.0

    def stop(self) -> None:
        until = time.monotonic() + self.patience_s
        with suppress(KernelTrouble):
            while self._due is not None and self._line is not None and time.monotonic() < until:
                if self._line.poll(_LOOK_S):
                    self.receive()
        is_idle = self._process is not None and self._process.poll() is None and self._due is None
        if is_idle and len(self.kept) < _MOST_KEPT:
            self.kept.append((self._process, self._line, self._last_id))
            self._process = self._line = None
        super().stop()

    @classmethod
    def end(cls) -> None:
        """End the process that nobody takes over any more."""
        for process, line, _ in cls.kept:
            line.close()
            process.kill()
            process.wait()
        cls.kept.clear()
