"""What large work leaves is dropped when it is done."""

from __future__ import annotations

import gc
import weakref

from holoptic.leftovers import put_away


class _Ring:
    def __init__(self) -> None:
        self.itself = self


def test_rings_of_work_that_is_done_go_at_once_and_what_stands_stays() -> None:
    gc.disable()  # none may go by chance
    try:
        ring, standing = weakref.ref(_Ring()), _Ring()
        kept = weakref.ref(standing)
        assert ring() is not None
        put_away()
        assert ring() is None
        assert kept() is standing
    finally:
        gc.enable()
