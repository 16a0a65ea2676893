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
_ANY_OBJECTS = 2_000
_ALL_EACH_S = 60.0
_SELDOM = 1000
"""Times as long as looking through everything takes it is not done again."""
_GIVE_BACK_EACH_S = 20.0


class Tidying:
    """Looks for rings between two pieces of work, when nobody waits, and hardly during one."""

    def __init__(self) -> None:
        """Take what stands now for needed for good; let Python itself look very seldom."""
        gc.collect()
        gc.freeze()
        gc.set_threshold(_VERY_MANY)
        self._given_back = self._looked_through = time.monotonic()
        self._pause_s = _ALL_EACH_S

    def look(self) -> None:
        """Look through what is new if it is much; once a minute through everything.

        An export leaves rings that are few and large, so their number says nothing of their size.
        Now and then what was freed goes back to the system: the heap of a process that makes and
        drops pictures all day is full of holes otherwise.
        """
        now, fresh = time.monotonic(), gc.get_count()[0]
        if now - self._looked_through > self._pause_s and fresh > _ANY_OBJECTS:
            self._look_through_all()
        elif fresh > _FRESH_OBJECTS:
            gc.collect(1)
        if now - self._given_back > _GIVE_BACK_EACH_S:
            self._given_back = now
            _give_back()

    def rest(self) -> None:
        """Look through everything and give memory back: nobody has asked for a while."""
        self._look_through_all()
        self._given_back = time.monotonic()
        _give_back()

    def _look_through_all(self) -> None:
        begin = time.monotonic()
        gc.collect()
        self._looked_through = time.monotonic()
        # where much stands it takes longer, and must not be felt
        self._pause_s = max(_ALL_EACH_S, _SELDOM * (self._looked_through - begin))


def put_away() -> None:
    """Drop what large work that is done now has left, at once: rings that are new, free memory.

    A picture written as PNG leaves 28 MB in the heap, which otherwise stay for up to a minute.
    """
    gc.collect(1)
    _give_back()


def _give_back() -> None:
    """Give free memory back to the system (malloc_trim(3)); takes some milliseconds."""
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).malloc_trim(0)
