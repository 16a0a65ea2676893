"""Telling how far long work is: whoever works calls `tell`, whoever waits has set a listener."""

from __future__ import annotations

import time
from collections.abc import Callable

Listener = Callable[[str, float | None], None]

_EACH_S = 0.1
"""No more often than this, however often `tell` is called."""


class _Line:
    listener: Listener | None = None
    last: float = 0.0


def listen(listener: Listener | None) -> None:
    """Set who is told; None: nobody."""
    _Line.listener = listener


def tell(words: str, share: float | None = None) -> None:
    """Say what is being done, and how much of it is done (0 to 1), if that is known."""
    now = time.monotonic()
    if _Line.listener is not None and now - _Line.last > _EACH_S:
        _Line.last = now
        _Line.listener(words, share)
