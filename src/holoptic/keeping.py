"""Keeping what was worked out: one sort of cache, bounded, shared fairly between bodies.

Whoever works for a body says so (`about`). Where a cache is full, the body with the most in it
gives up what it used longest ago: parts that take turns do not push each other out.
"""

from __future__ import annotations

from collections import OrderedDict, deque
from collections.abc import Hashable, Iterator
from contextlib import contextmanager
from typing import Any, Generic, TypeVar

_Key = TypeVar("_Key", bound=Hashable)
_Value = TypeVar("_Value")
_REMEMBERED = 16


class _InHand:
    body: str = ""


@contextmanager
def about(body: str) -> Iterator[None]:
    """Let what is worked out meanwhile be kept for a body, by its id."""
    before, _InHand.body = _InHand.body, body
    try:
        yield
    finally:
        _InHand.body = before


class Cache(Generic[_Key, _Value]):
    """Values by key, `most` in all and `each` for one body (None: as many as there is room for).

    `what` and `why` say what it holds, and why that is worth its memory. Where `usual` is given, no
    more than that are kept (in all, for one body) until somebody asks for more room.
    """

    def __init__(
        self, what: str, most: int, why: str, each: int | None = None,
        usual: tuple[int, int] | None = None,
    ) -> None:  # fmt: skip
        self.what, self.why = what, why
        self._largest = most, most if each is None else each
        self._usual = usual or self._largest
        self.most, self.each = self._usual
        self._asked: deque[int] = deque(maxlen=_REMEMBERED)
        self._bodies: OrderedDict[str, OrderedDict[_Key, _Value]] = OrderedDict()
        self._count = 0
        _all.append(self)

    def get(self, key: _Key) -> _Value | None:
        """Return the value of a key, or None."""
        own = self._bodies.get(_InHand.body)
        if own is None:
            return None
        value = own.get(key)
        if value is not None:
            own.move_to_end(key)
        return value

    def keep(self, key: _Key, value: _Value) -> _Value:
        """Keep a value for the body in hand, and return it."""
        own = self._bodies.get(_InHand.body)
        if own is None:
            own = self._bodies[_InHand.body] = OrderedDict()
        before = len(own)
        own.pop(key, None)  # some keys are long in hashing: once here, once below
        own[key] = value
        self._count += len(own) - before
        while len(own) > self.each:
            own.popitem(last=False)
            self._count -= 1
        while self._count > self.most:
            self._give_up()
        return value

    def make_room(self, count: int) -> None:
        """Let a body have so many, and as many that it had before an edit; as long as some body
        lately was as large.
        """
        self._asked.append(2 * count)
        wanted = max(self._asked)
        (most, each), (usual_most, usual_each) = self._largest, self._usual
        self.each = min(max(usual_each, wanted), each)
        self.most = min(max(usual_most, wanted + usual_most - usual_each), most)

    def _give_up(self) -> None:
        body = max(self._bodies, key=lambda name: len(self._bodies[name]))
        self._bodies[body].popitem(last=False)
        self._count -= 1
        if not self._bodies[body]:
            del self._bodies[body]

    def clear(self) -> None:
        """Forget everything."""
        self._bodies.clear()
        self._count = 0

    def __len__(self) -> int:
        return self._count


_all: list[Cache[Any, Any]] = []


def caches() -> tuple[Cache[Any, Any], ...]:
    """Return all caches of this process."""
    return tuple(_all)


def forget_everything() -> None:
    """Empty all caches."""
    for cache in _all:
        cache.clear()
