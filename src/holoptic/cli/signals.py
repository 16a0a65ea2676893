"""A command that is ended from outside leaves nothing behind: no worker, no half file."""

from __future__ import annotations

import signal
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from types import FrameType
from typing import NoReturn

_ENDING = (signal.SIGTERM, signal.SIGHUP)
_BY_SIGNAL = 128
"""What shells add to a signal's number for the exit code."""


@contextmanager
def ended_by_signals() -> Iterator[None]:
    """Let signals that end a process unwind it, so that it tidies up on its way out."""
    if threading.current_thread() is not threading.main_thread():
        yield
        return
    before = {number: signal.signal(number, _leave) for number in _ENDING}
    try:
        yield
    finally:
        for number, handler in before.items():
            signal.signal(number, handler)


def _leave(number: int, _: FrameType | None) -> NoReturn:
    raise SystemExit(_BY_SIGNAL + number)
