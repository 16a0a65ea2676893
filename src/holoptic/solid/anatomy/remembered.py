"""What was found out about faces and edges of the kernel, kept for as long as they may be met.

An edit leaves most faces and edges of a solid as they were: the very same objects of the kernel.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, TypeVar, cast

from OCP.TopoDS import TopoDS_Shape

from holoptic.keeping import Cache

_Value = TypeVar("_Value")


class Remembered(Generic[_Value]):
    """Values by the kernel's shapes that they belong to, in a cache of their own."""

    def __init__(self, cache: Cache[int, object]) -> None:
        self._kept = cast("Cache[int, tuple[tuple[TopoDS_Shape, ...], _Value]]", cache)

    def of(self, look: Callable[..., _Value], *shapes: TopoDS_Shape) -> _Value:
        """Return the value of some shapes; `look(*shapes)` finds it where it is not known."""
        # a hash code takes no account of the way round, which a normal depends on
        key = hash(tuple([(hash(shape), shape.Orientation()) for shape in shapes]))
        known = self._kept.get(key)
        # what is kept keeps its shapes alive, so that no other can take their place
        if known is not None and all(map(TopoDS_Shape.IsEqual, known[0], shapes)):
            return known[1]
        value = look(*shapes)
        self._kept.keep(key, (shapes, value))
        return value
