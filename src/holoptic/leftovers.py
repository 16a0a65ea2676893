"""How often Python looks for rings of objects that nobody needs any more."""

from __future__ import annotations

import contextlib
import ctypes
import gc
import time

_FRESH_OBJECTS = 50_000
"""A picture is tens of thousands of objects, none of which is in a ring."""

_VERY_MANY = 1_000_000
"""Even the largest solids are hardly more: work that makes more must not fill the memory."""
_ALL_EACH = 10
_GIVE_BACK_EACH_S = 20.0


class Tidying:
    """Looks for rings between two pieces of work, when nobody waits, and hardly during one."""

    def __init__(self) -> None:
        """Take what stands now for needed for good; let Python itself look very seldom."""
        gc.collect()
        gc.freeze()
        gc.set_threshold(_VERY_MANY)
        self._times = 0
        self._given_back = time.monotonic()

    def look(self) -> None:
        """Look through what is new if it is much; each tenth time through everything.

        Now and then what was freed goes back to the system: the heap of a process that makes and
        drops pictures all day is full of holes otherwise.
        """
        now = time.monotonic()
        if now - self._given_back > _GIVE_BACK_EACH_S:
            self._given_back = now
            _give_back()
        if gc.get_count()[0] < _FRESH_OBJECTS:
            return
        self._times += 1
        gc.collect(2 if self._times % _ALL_EACH == 0 else 1)


def _give_back() -> None:
    """Give free memory back to the system (malloc_trim(3)); takes some milliseconds."""
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).malloc_trim(0)
