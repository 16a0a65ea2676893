"""A length that remembers how it was written."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from holoptic.regional import with_mark_in
from holoptic.units.expression import UNIT_WORDS, evaluate
from holoptic.units.formats import Unit, written

_WORD = re.compile(r"[A-Za-z_][A-Za-z_0-9.]*")


@dataclass(frozen=True)
class Length:
    """A length in mm with the user's own words for it, such as `18+26.5`."""

    text: str
    mm: float

    @classmethod
    def read(
        cls, text: str, unit: Unit = Unit.MM, names: Mapping[str, float] | None = None
    ) -> Length:
        """Read `text` in `unit`; it is kept with points for decimals. Raises ExpressionError.

        >>> Length.read(" 26,5+3 ")
        Length(text='26.5+3', mm=29.5)
        """
        mm = evaluate(text, unit, names)
        return cls(text.strip().replace(",", "."), mm)

    @classmethod
    def of(cls, mm: float, unit: Unit = Unit.MM) -> Length:
        """Make a length from a bare value; the text is rounded, so the value follows the text."""
        return cls.read(written(mm, unit), unit)

    @property
    def is_sum(self) -> bool:
        """Whether the text says more than the figure does."""
        named = any(word not in UNIT_WORDS for word in _WORD.findall(self.text))
        return named or any(mark in self.text for mark in "+*/(") or "-" in self.text[1:]

    @property
    def shown(self) -> str:
        """The text with the decimal mark of who reads it."""
        return with_mark_in(self.text)

    def __str__(self) -> str:
        return self.text
