"""Exceptions that nobody caught: the job is kept safe, one line is told, the log has the rest.

Qt ends a program whose slot or paint event raises, unless an exception hook of its own is there.
The module is read before the first paint, so it imports little.
"""

from __future__ import annotations

import contextlib
import logging
import sys
import threading
import time
from collections.abc import Callable
from types import TracebackType

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QApplication

from holoptic.catalogue import tr
from holoptic.places import state_folder

_LOG = logging.getLogger(__name__)
_QUIET_S = 10.0
"""A paint event that fails does so with every repaint: each cause is told seldom."""
_INTERRUPTED = 130


class Mishaps:
    """Takes every exception that would otherwise end the program."""

    def __init__(self) -> None:
        self._keep_safe: Callable[[], None] = lambda: None
        self._tell: Callable[[str], None] = lambda _: None
        self._last: dict[str, float] = {}

    def install(self) -> None:
        """Take exceptions from now on, those of threads too."""
        sys.excepthook = self.take
        threading.excepthook = lambda caught: self.take(
            caught.exc_type, caught.exc_value, caught.exc_traceback
        )

    def serve(self, keep_safe: Callable[[], None], tell: Callable[[str], None]) -> None:
        """Say how the job is kept safe, and where the line is told."""
        self._keep_safe, self._tell = keep_safe, tell

    def take(
        self,
        kind: type[BaseException],
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        """Keep the job, write the log, and tell; never raises."""
        if issubclass(kind, KeyboardInterrupt):
            QApplication.exit(_INTERRUPTED)
            return
        cause = cause_of(kind, trace)
        now = time.monotonic()
        if now - self._last.get(cause, -_QUIET_S) < _QUIET_S:
            return
        self._last[cause] = now
        with contextlib.suppress(Exception):
            self._keep_safe()
        with contextlib.suppress(Exception):
            _LOG.critical("%s", cause, exc_info=(kind, error or kind(), trace))
        print(
            tr("holoptic: {name}: {error} ({cause})", name=kind.__name__, error=error, cause=cause),
            file=sys.stderr,
        )
        # not now: it may be in the midst of a paint event
        QTimer.singleShot(0, self._tell_later)

    def _tell_later(self) -> None:
        with contextlib.suppress(Exception):
            self._tell(
                tr(
                    "Something went wrong inside Holoptic. Your job is kept; undo "
                    "or go on. The log {log_name} says what it was.",
                    log_name=state_folder() / "log.txt",
                )
            )


def cause_of(kind: type[BaseException], trace: TracebackType | None) -> str:
    """Return what tells one mishap from another: its type, and the line of ours it came from."""
    place = ""
    while trace is not None:
        code = trace.tb_frame.f_code
        if "holoptic" in code.co_filename:
            place = f"{code.co_filename.rpartition('holoptic')[2][1:]}:{trace.tb_lineno}"
        trace = trace.tb_next
    return tr("{name} in {place}", name=kind.__name__, place=place or "Qt")
