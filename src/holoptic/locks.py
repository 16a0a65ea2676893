"""Locks that end with the process that holds them (flock(2))."""

from __future__ import annotations

import fcntl
import os
from pathlib import Path

_PRIVATE = 0o600


def lock(place: Path) -> int | None:
    """Return the descriptor of a lock, held until it is closed or the process ends.

    None where somebody else holds it, or where there are no locks.
    """
    try:
        handle = os.open(place, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, _PRIVATE)
    except OSError:
        return None
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(handle)
        return None
    return handle


def is_held(place: Path) -> bool:
    """Say whether somebody holds a lock."""
    try:
        handle = os.open(place, os.O_RDWR | os.O_CLOEXEC)
    except OSError:
        return False
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return True
    except OSError:
        return False
    finally:
        os.close(handle)
    return False
