"""The named lengths of a part as a line of text: `base = 14.5; eye_r = 42/2`."""

from __future__ import annotations

from dataclasses import replace

from holoptic.catalogue import tr
from holoptic.errors import ExpressionError
from holoptic.part.naming import why_not_a_name
from holoptic.part.part import NamedLength, Part
from holoptic.units import Length, Unit


def names_text(part: Part) -> str:
    """Return the named lengths in their own words."""
    return "; ".join(f"{item.name} = {item.length.text}" for item in part.names)


def read_names(text: str, unit: Unit) -> tuple[NamedLength, ...]:
    """Return the named lengths that a text says. Raises ExpressionError with the column."""
    found: list[NamedLength] = []
    column = 0
    for piece in text.split(";"):
        if piece.strip():
            found.append(_read_one(piece, column, unit, found))
        column += len(piece) + 1
    return tuple(found)


def _read_one(piece: str, column: int, unit: Unit, before: list[NamedLength]) -> NamedLength:
    name, equals, words = piece.partition("=")
    if not equals:
        raise ExpressionError(tr("a named length is written like base = 14.5"), column)
    known = {item.name: item.length.mm for item in before}
    trouble = why_not_a_name(name.strip(), known)
    if trouble:
        raise ExpressionError(f"“{name.strip()}”: {trouble}", column)
    try:
        return NamedLength(name.strip(), Length.read(words, unit, known))
    except ExpressionError as error:
        at = column + len(name) + 1 + error.column
        raise ExpressionError(str(error), at) from error


def with_names(part: Part, names: tuple[NamedLength, ...], unit: Unit) -> Part:
    """Return the part with other named lengths; all that hangs on them follows.

    Where one of them alone was renamed, the sums that use it are too. Raises PartError where an
    operation's sum no longer reads.
    """
    old, new = [item.name for item in part.names], [item.name for item in names]
    changed = [(a, b) for a, b in zip(old, new, strict=False) if a != b]
    if len(old) == len(new) and len(changed) == 1 and changed[0][1] not in old:
        part = part.with_word_changed(*changed[0])
    return replace(part, names=names).reread(unit)
