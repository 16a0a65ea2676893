"""Units of length and how a length is shown in them."""

from __future__ import annotations

import math
from enum import Enum
from fractions import Fraction

from holoptic.catalogue import tr
from holoptic.regional import with_mark
from holoptic.tolerance import FINE

MM_PER_INCH = 25.4


class Unit(Enum):
    """The unit a part is described in."""

    MM = "mm"
    INCH_DECIMAL = "inch"
    INCH_FRACTION = "inch-fraction"

    @property
    def mm(self) -> float:
        """How many mm one of it is."""
        return 1.0 if self is Unit.MM else MM_PER_INCH

    @property
    def title(self) -> str:
        """What a person calls it."""
        return {
            Unit.MM: "mm",
            Unit.INCH_DECIMAL: tr("decimal inches"),
            Unit.INCH_FRACTION: tr("inch fractions"),
        }[self]

    @property
    def label(self) -> str:
        """What stands behind a figure on screen."""
        return "mm" if self is Unit.MM else "in"


def show(mm: float, unit: Unit = Unit.MM) -> str:
    """Return a length as it is shown, without its unit: `written`, with the reader's decimal mark.

    >>> show(44.5)
    '44.5'
    """
    return with_mark(written(mm, unit))


def show_set(mm: float, unit: Unit = Unit.MM) -> str:
    """Return a length as a setting is shown: `written_set`, with the reader's decimal mark."""
    return with_mark(written_set(mm, unit))


def written(mm: float, unit: Unit = Unit.MM) -> str:
    """Return a length as a drafter writes it, without its unit, and as files and rules read it.

    mm and decimal inches drop trailing zeros; fractional inches go to the nearest 64th.

    >>> written(44.5), written(79.375, Unit.INCH_FRACTION)
    ('44.5', '3 1/8')
    """
    if unit is Unit.MM:
        return _trimmed(mm, 2)
    if unit is Unit.INCH_DECIMAL:
        return _trimmed(mm / MM_PER_INCH, 4)
    sixty_fourths = round(abs(mm) / MM_PER_INCH * 64)
    whole, rest = divmod(sixty_fourths, 64)
    sign = "-" if mm < 0 and sixty_fourths else ""
    if not rest:
        return f"{sign}{whole}"
    part = str(Fraction(rest, 64))
    return f"{sign}{whole} {part}" if whole else f"{sign}{part}"


def written_set(mm: float, unit: Unit = Unit.MM) -> str:
    """Return a length no finer than a rule can be set to it: a tenth of a mm, a hundredth of an
    inch, a 64th. What lies between two of them goes to the longer one, always: what is set off
    there and back must cancel out.

    >>> written_set(19.8347), written_set(24.25), written_set(50.8, Unit.INCH_DECIMAL)
    ('19.8', '24.3', '2')
    """
    if unit is Unit.MM:
        return _trimmed(_half_up(mm, 1), 1)
    if unit is Unit.INCH_DECIMAL:
        return _trimmed(_half_up(mm / MM_PER_INCH, 2), 2)
    return written(mm, unit)


def _half_up(value: float, places: int) -> float:
    """Return a number rounded, with halves away from zero; `round` takes the even neighbour."""
    steps = abs(value) * 10**places
    return math.copysign(math.floor(steps + 0.5 + FINE) / 10**places, value)


def _trimmed(value: float, places: int) -> str:
    text = f"{value:.{places}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
