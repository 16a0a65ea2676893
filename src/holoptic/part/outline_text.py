"""Outlines as text: `0, 0; L, 0; L, 18+26.5` reads corner by corner."""

from __future__ import annotations

from collections.abc import Mapping

from holoptic.errors import ExpressionError
from holoptic.part.operations import Corner
from holoptic.units import Length, Unit


def outline_text(outline: tuple[Corner, ...]) -> str:
    """Return an outline in its own words."""
    return "; ".join(f"{corner.u.text}, {corner.v.text}" for corner in outline)


def read_outline(text: str, unit: Unit, names: Mapping[str, float]) -> tuple[Corner, ...]:
    """Return the corners that a text says. Raises ExpressionError with the column."""
    corners = []
    column = 0
    for piece in text.split(";"):
        if piece.strip():
            corners.append(_read_corner(piece, column, unit, names))
        column += len(piece) + 1
    return tuple(corners)


def _read_corner(piece: str, column: int, unit: Unit, names: Mapping[str, float]) -> Corner:
    parts = piece.split(",")
    if len(parts) != 2:
        raise ExpressionError("a corner is two lengths with a comma between", column)
    lengths = []
    for part in parts:
        try:
            lengths.append(Length.read(part, unit, names))
        except ExpressionError as error:
            raise ExpressionError(str(error), column + error.column) from error
        column += len(part) + 1
    return Corner(lengths[0], lengths[1])
