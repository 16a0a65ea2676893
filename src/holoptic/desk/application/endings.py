"""Signals that end the program reach the event loop, which can then keep the work."""

from __future__ import annotations

import contextlib
import os
import signal
import socket
from collections.abc import Callable

from PyQt6 import sip
from PyQt6.QtCore import QObject, QSocketNotifier

_ENDING = (signal.SIGTERM, signal.SIGHUP, signal.SIGINT)


class Endings(QObject):
    """Takes SIGTERM, SIGHUP and SIGINT while the desk is open.

    Python runs its handlers only between its own steps, and Qt's loop may not come to one for
    long; so Python writes the signal to a socket that the loop listens to.
    """

    def __init__(self, end: Callable[[], None]) -> None:
        super().__init__()
        self._end = end
        self._read, self._write = socket.socketpair()
        for half in (self._read, self._write):
            half.setblocking(False)
        self._wakeup = signal.set_wakeup_fd(self._write.fileno())
        self._before = {number: signal.signal(number, _nothing) for number in _ENDING}
        self._notifier = QSocketNotifier(
            sip.voidptr(self._read.fileno()), QSocketNotifier.Type.Read, self
        )
        self._notifier.activated.connect(self._take)

    def close(self) -> None:
        """Give the signals back."""
        self._notifier.setEnabled(False)
        for number, handler in self._before.items():
            signal.signal(number, handler)
        signal.set_wakeup_fd(self._wakeup)
        self._read.close()
        self._write.close()

    def _take(self) -> None:
        with contextlib.suppress(BlockingIOError, OSError):
            os.read(self._read.fileno(), 64)
        self._end()


def _nothing(*_: object) -> None:
    """Let the socket tell of it."""
