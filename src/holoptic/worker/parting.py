"""A worker ends when its parent does, whatever it is doing then."""

from __future__ import annotations

import contextlib
import ctypes
import os
import signal

_PR_SET_PDEATHSIG = 1
"""Of prctl(2)."""


def end_with(parent: int) -> None:
    """Have the system end this process when its parent, of that number, ends.

    The closed line would be seen only after the present question, which may take minutes.
    """
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGKILL, 0, 0, 0)
    if os.getppid() != parent:  # it ended just before
        os._exit(0)
