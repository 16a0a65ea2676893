"""A command that is ended from outside leaves nothing behind: no worker, no half file.

A signal raises an error where the program happens to be. Where that is a call whose errors Python
ignores (an object being cleared away), the error is lost and the command would go on as if nothing
had been said; so it is said once more a little later, unless the command is on its way out.
"""

from __future__ import annotations

import signal
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from types import FrameType
from typing import NoReturn

_ENDING = (signal.SIGTERM, signal.SIGHUP, signal.SIGINT)
_ONCE_MORE_S = 1.5
"""Longer than tidying up takes, which must not be broken off."""
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
        signal.setitimer(signal.ITIMER_REAL, 0.0)
        for number, handler in before.items():
            signal.signal(number, handler)


def _leave(number: int, _: FrameType | None) -> NoReturn:
    signal.signal(signal.SIGALRM, lambda *_: _end(number))
    signal.setitimer(signal.ITIMER_REAL, _ONCE_MORE_S)
    _end(number)


def _end(number: int) -> NoReturn:
    if number == signal.SIGINT:
        raise KeyboardInterrupt
    raise SystemExit(_BY_SIGNAL + number)
