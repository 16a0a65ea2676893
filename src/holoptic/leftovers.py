"""How often Python looks for rings of objects that nobody needs any more."""

from __future__ import annotations

import gc

_FRESH_OBJECTS = 50_000
"""A picture is tens of thousands of objects, none of which is in a ring."""


def seldom_look_for_rings() -> None:
    """Take what stands now for needed for good, and look through new objects seldom."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(_FRESH_OBJECTS)
