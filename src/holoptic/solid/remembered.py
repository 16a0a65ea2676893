"""What was found out about faces and edges of the kernel, kept for as long as they may be met.

An edit leaves most faces and edges of a solid as they were: the very same objects of the kernel.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

from OCP.TopoDS import TopoDS_Shape

_Key = TypeVar("_Key", bound=Hashable)
_Value = TypeVar("_Value")


class Kept(Generic[_Key, _Value]):
    """The last values, those used longest ago let go."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._values: OrderedDict[_Key, _Value] = OrderedDict()

    def get(self, key: _Key) -> _Value | None:
        """Return the value of a key, or None."""
        if key in self._values:
            self._values.move_to_end(key)
        return self._values.get(key)

    def keep(self, key: _Key, value: _Value) -> _Value:
        """Keep a value and return it."""
        self._values[key] = value
        if len(self._values) > self._most:
            self._values.popitem(last=False)
        return value


class Remembered(Generic[_Value]):
    """Values by the kernel's shapes that they belong to, the last `most` of them."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._kept: dict[int, tuple[tuple[TopoDS_Shape, ...], _Value]] = {}

    def of(self, look: Callable[..., _Value], *shapes: TopoDS_Shape) -> _Value:
        """Return the value of some shapes; `look(*shapes)` finds it where it is not known."""
        # a hash code takes no account of the way round, which a normal depends on
        key = hash(tuple([(hash(shape), shape.Orientation()) for shape in shapes]))
        known = self._kept.get(key)
        # what is kept keeps its shapes alive, so that no other can take their place
        if known is not None and all(map(TopoDS_Shape.IsEqual, known[0], shapes)):
            return known[1]
        value = look(*shapes)
        self._kept[key] = shapes, value
        if len(self._kept) > self._most:
            del self._kept[next(iter(self._kept))]
        return value
