"""The window's and the command line's end of the line to the worker process.

The client never imports the kernel. One request runs at a time; `fileno` lets an event loop
wait for the answer without blocking, `ask` waits for it in place.
"""

from __future__ import annotations

import contextlib
import logging
import os
import subprocess
import sys
import time
from collections.abc import Callable
from multiprocessing import Pipe
from multiprocessing.connection import Connection, wait
from typing import Any

from holoptic.catalogue import tr
from holoptic.errors import KernelTrouble
from holoptic.worker.messages import Answer, Progress, Request
from holoptic.worker.wire import Foreign, put, take

_LOG = logging.getLogger(__name__)
PATIENCE_S = 120.0
"""How long a command waits for the worker before it gives up."""

_TELL_EACH_S = 1.0
_BURIAL_S = 5.0
"""A killed process that does not end by then hangs in the system; nothing waits for it."""


class Worker:
    """A worker process that is started when first needed and again after it died."""

    def __init__(
        self,
        on_wait: Callable[[float], None] | None = None,
        on_progress: Callable[[Progress], None] | None = None,
    ) -> None:
        """Make a client.

        `on_wait` is told each second how long `ask` has waited, `on_progress` what is being done.
        """
        self._on_wait = on_wait
        self.on_progress = on_progress
        self._process: subprocess.Popen[bytes] | None = None
        self._line: Connection | None = None
        self._last_id = 0

    def start(self) -> None:
        """Start the process unless it runs.

        A fresh interpreter is started rather than a fork or a copy of this one: it shares
        nothing with the window but the line, whatever program the window runs in.
        """
        if self._process is not None and self._process.poll() is None:
            return
        self.stop()
        self._line, far_end = Pipe()
        self._process = subprocess.Popen(
            _command(far_end.fileno()), pass_fds=(far_end.fileno(),), stdin=subprocess.DEVNULL
        )
        far_end.close()  # so that the death of the process closes the line

    def stop(self) -> None:
        """Kill the process, whatever it is doing."""
        if self._process is not None:
            self._process.kill()
            with contextlib.suppress(subprocess.TimeoutExpired):
                self._process.wait(_BURIAL_S)
            self._process = None
        if self._line is not None:
            self._line.close()
            self._line = None

    @property
    def pid(self) -> int | None:
        """The process's number, or None where none runs."""
        return self._process.pid if self._process is not None else None

    def fileno(self) -> int:
        """Return the descriptor that becomes readable with an answer or with the worker's death.

        Raises KernelTrouble where no worker runs.
        """
        if self._line is None:
            raise KernelTrouble(tr("no worker is running"))
        return self._line.fileno()

    def send(self, task: str, *arguments: Any) -> int:
        """Send a request and return its number. Raises KernelTrouble where it cannot be sent."""
        self.start()
        assert self._line is not None
        self._last_id += 1
        try:
            put(self._line, Request(self._last_id, task, arguments))
        except (BrokenPipeError, OSError) as error:
            self.stop()
            raise KernelTrouble(tr("the solid worker stopped unexpectedly")) from error
        return self._last_id

    def receive(self) -> Answer | None:
        """Return the answer that waits on the line, or None where there is none yet.

        Raises KernelTrouble where the worker died; it is then ready to be started again.
        """
        if self._line is None:
            return None
        try:
            while self._line.poll():
                answer: Answer | Progress = take(self._line)
                if isinstance(answer, Answer):
                    if answer.trace:
                        _LOG.error("the worker: %s\n%s", answer.error, answer.trace)
                    return answer
                if self.on_progress is not None and isinstance(answer, Progress):
                    self.on_progress(answer)
        except Foreign as error:
            _LOG.error("the worker's answer was refused: %s", error)
            self.stop()
            raise KernelTrouble(tr("the answer of the solid worker was unreadable")) from error
        except (EOFError, OSError) as error:
            self.stop()
            _LOG.error("the worker stopped unexpectedly")
            raise KernelTrouble(tr("the solid worker stopped unexpectedly")) from error
        return None

    def ask(self, task: str, *arguments: Any, patience: float = PATIENCE_S) -> Any:
        """Send a request, wait, and return its value.

        Raises what the task raised, or KernelTrouble where the worker died or took too long.
        """
        number = self.send(task, *arguments)
        start = time.monotonic()
        while (waited := time.monotonic() - start) < patience:
            assert self._line is not None
            if not wait([self._line], min(_TELL_EACH_S, patience - waited)):
                if self._on_wait is not None:
                    self._on_wait(time.monotonic() - start)
                continue
            answer = self.receive()
            if answer is not None and answer.id == number:
                if answer.error is not None:
                    raise answer.error
                return answer.value
        self.stop()
        raise KernelTrouble(
            tr("no answer after {patience:g} s; the work was stopped", patience=patience)
        )

    def __enter__(self) -> Worker:
        return self

    def __exit__(self, *_: object) -> None:
        self.stop()

    def __del__(self) -> None:
        with contextlib.suppress(Exception):
            self.stop()


def _command(descriptor: int) -> list[str]:
    """Return what starts a worker; nothing that lies in the working folder is run for a module."""
    arguments = str(descriptor), str(os.getpid())
    return [sys.executable, "-P", "-m", "holoptic.worker", *arguments]
