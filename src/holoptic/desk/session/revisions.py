"""What questions are about, by number: each time a thing is another, its number grows.

A question to the worker carries the revision of what it asks about. An answer of an earlier
revision is dropped where it arrives (`kernel_line`), so that it can change nothing.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Revision:
    """One state of a thing: of the figure in hand, a sheet, the views on the Read page."""

    thing: str
    number: int


class Revisions:
    """The present revision of each thing, by the thing's name."""

    def __init__(self) -> None:
        self._values: dict[str, object] = {}
        self._numbers: dict[str, int] = {}

    def note(self, thing: str, value: object) -> Revision:
        """Take what a thing is now, and return its revision; only a difference makes a new one."""
        known = thing in self._values
        if not known or (self._values[thing] is not value and self._values[thing] != value):
            self._numbers[thing] = self._numbers.get(thing, 0) + 1
        self._values[thing] = value
        return Revision(thing, self._numbers[thing])

    def of(self, thing: str) -> Revision | None:
        """Return the present revision of a thing, None where there is none."""
        return Revision(thing, self._numbers[thing]) if thing in self._values else None

    def forget(self, thing: str) -> None:
        """Take a thing as gone: no answer about it counts any more."""
        self._values.pop(thing, None)
        self._numbers[thing] = self._numbers.get(thing, 0) + 1

    def is_current(self, revision: Revision | None) -> bool:
        """Say whether a thing is still what it was; what is about nothing always is."""
        if revision is None:
            return True
        return revision.thing in self._values and \
            self._numbers[revision.thing] == revision.number  # fmt: skip
