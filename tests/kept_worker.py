"""A worker that goes on from one window or command to the next."""

from __future__ import annotations

from typing import Any, ClassVar

from holoptic.worker.client import Worker
from holoptic.worker.messages import Answer

_MOST_KEPT = 2
"""A desk has one for its solids and one for its checks."""


class KeptWorker(Worker):
    """A worker whose idle process goes on to the next window: loading the kernel takes seconds."""

    kept: ClassVar[list[tuple[Any, Any, int]]] = []

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

    def stop(self) -> None:
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
