"""Lengths inside sentences: they are marked where a sentence is made, and written in the reader's
unit where it is read.

A marked length is `⟦38.1⟧`, with its unit behind it `⟦38.1 u⟧`, as a rule can be set to it
`⟦38.123 r⟧`, or with the words it was given by `⟦38.1=L-2*R⟧`; all in mm.
"""

from __future__ import annotations

import re

from holoptic.regional import with_mark_in
from holoptic.units.formats import Unit, written, written_set

_MARK = re.compile(r"⟦(?P<mm>[-+0-9.einfa]+)(?P<unit> [ur])?(?:=(?P<words>[^⟧]*))?⟧")


def figure(mm: float) -> str:
    """Return a marked length that is read as its figure alone."""
    return f"⟦{float(mm)!r}⟧"


def measure(mm: float) -> str:
    """Return a marked length that is read with its unit behind it."""
    return f"⟦{float(mm)!r} u⟧"


def on_rule(mm: float) -> str:
    """Return a marked length that is read no finer than a rule, dividers or a compass are set.

    >>> said(on_rule(19.8347)), said(on_rule(37.0))
    ('19.8', '37')
    """
    return f"⟦{float(mm)!r} r⟧"


def worded(mm: float, words: str) -> str:
    """Return a marked length that is read with the words it was given by, where they differ."""
    return f"⟦{float(mm)!r}={words}⟧" if _MARK.search(words) is None else words


def said(text: str, unit: Unit = Unit.MM, *, plainly: bool = False) -> str:
    """Return a text with its marked lengths written in a unit.

    They have the decimal mark of who reads, or `plainly` a point.

    >>> said(f"Lift {worded(44.5, '18+26.5')}, {measure(25.4)} deep")
    'Lift 44.5 (18+26.5), 25.4 mm deep'
    >>> said(f"{measure(38.1)}", Unit.INCH_FRACTION)
    '1 1/2 in'
    """
    write = _written if plainly else lambda mark, unit: with_mark_in(_written(mark, unit))
    return _MARK.sub(lambda mark: write(mark, unit), text)


def _written(mark: re.Match[str], unit: Unit) -> str:
    mm = float(mark["mm"])
    is_set = mark["unit"] == " r" and written_set(mm, unit) != "0"
    words = written_set(mm, unit) if is_set else written(mm, unit)
    if words == "0" and mm and not is_set:  # too small for the usual places, and yet not nothing
        words = f"{mm / unit.mm:.2g}"
    if mark["unit"] == " u":
        return f"{words} {unit.label}"
    if mark["words"] is None:
        return words
    return words if mark["words"] == words else f"{words} ({mark['words']})"
