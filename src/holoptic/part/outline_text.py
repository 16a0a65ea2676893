"""Outlines as text, corner by corner, divided by semicolons.

0, 0                          across and up from the face's near edges
0, 0 arc 21 left              the side that begins here is an arc: radius, and which way one
                              turns along it; `large` behind it takes the longer arc
0, 0 arc bulge 8 left         an arc that stands 8 off its chord
0, 0 arc smooth               an arc that goes on from the side before without a bend
angle 30 length 25            from the corner before: a slope of 30° for a length, a `run`
angle 30 run 18+2             (along) or a `rise` (up)
run 18 rise -6.5              the same by both offsets

A `|` instead of a semicolon begins a further path, in a strip.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from itertools import pairwise
from typing import Literal

from holoptic.catalogue import tr
from holoptic.errors import ExpressionError
from holoptic.part.operations import Arc, Corner, OutlinePoint, Slope
from holoptic.regional import decimal_mark
from holoptic.units import Length, Unit

_ARC = re.compile(r"(?P<head>.*?)\barc\b(?P<radius>.*?)\b(?P<way>left|right)\b(?P<large>.*)", re.S)
_SMOOTH = re.compile(r"(?P<head>.*?)\barc\s+smooth\s*", re.S)
_WORD = re.compile(r"\b(angle|length|run|rise)\b")


def outline_text(outline: tuple[OutlinePoint, ...], starts: tuple[int, ...] = ()) -> str:
    """Return an outline in its own words; at `starts` further paths begin."""
    bounds = [0, *starts, len(outline)]
    paths = [outline[first:last] for first, last in pairwise(bounds)]
    return " | ".join("; ".join(_point_text(point) for point in path) for path in paths)


def _point_text(point: OutlinePoint) -> str:
    if isinstance(point, Corner):
        text = f"{point.u.text}, {point.v.text}"
    else:
        given = {"length": point.length, "run": point.run, "rise": point.rise}
        words = [] if point.angle is None else [f"angle {point.angle:g}"]
        words += [f"{name} {length.text}" for name, length in given.items() if length is not None]
        text = " ".join(words)
    if point.arc is None:
        return text
    return f"{text} {_arc_text(point.arc)}"


def _arc_text(arc: Arc) -> str:
    if arc.is_smooth:
        return "arc smooth"
    if arc.bulge is not None:
        return f"arc bulge {arc.bulge.text} {arc.way}"
    assert arc.radius is not None
    return f"arc {arc.radius.text} {arc.way}{' large' if arc.large else ''}"


def read_outline(
    text: str, unit: Unit, names: Mapping[str, float], column: int = 0
) -> tuple[OutlinePoint, ...]:
    """Return the corners that a text says, which begins at `column`. Raises ExpressionError with
    the column.
    """
    points = []
    for piece in text.split(";"):
        if piece.strip():
            points.append(_read_point(piece, column, unit, names))
        column += len(piece) + 1
    return tuple(points)


def read_paths(
    text: str, unit: Unit, names: Mapping[str, float]
) -> tuple[tuple[OutlinePoint, ...], tuple[int, ...]]:
    """Return the corners of one or several paths, and the numbers of those that begin a further
    one. Raises ExpressionError with the column.
    """
    found: list[OutlinePoint] = []
    starts: list[int] = []
    column = 0
    for piece in text.split("|"):
        points = read_outline(piece, unit, names, column)
        if found and points:
            starts.append(len(found))
        found += points
        column += len(piece) + 1
    return tuple(found), tuple(starts)


def _read_point(piece: str, column: int, unit: Unit, names: Mapping[str, float]) -> OutlinePoint:
    piece, arc = read_arc(piece, unit, names, column)
    if _WORD.search(piece):
        return _read_slope(piece, column, unit, names, arc)
    parts = piece.split(",")
    if len(parts) != 2:
        raise ExpressionError(_two_lengths(), column)
    u = _length(parts[0], column, unit, names)
    v = _length(parts[1], column + len(parts[0]) + 1, unit, names)
    return Corner(u, v, arc)


def _two_lengths() -> str:
    """Say how two lengths stand beside each other, where a comma could be taken for another."""
    if decimal_mark() == ",":
        return tr("a corner is two lengths with a comma and a space between: 26,5, 12")
    return tr("a corner is two lengths with a comma between; decimals have a point: 26.5, 12")


def read_arc(
    piece: str, unit: Unit, names: Mapping[str, float], column: int = 0
) -> tuple[str, Arc | None]:
    """Return what stands before an arc, and the arc that a text ends with, or None.

    `column` is where the text begins. Raises ExpressionError.
    """
    if smooth := _SMOOTH.fullmatch(piece):
        return smooth["head"], Arc(None, "left")
    match = _ARC.fullmatch(piece)
    if match is None:
        if re.search(r"\barc\b", piece):
            raise ExpressionError(
                tr("an arc needs its radius, or bulge and how far, and left or right; or smooth"),
                column,
            )
        return piece, None
    if match["large"].strip() not in ("", "large"):
        raise ExpressionError(
            tr("after left or right only “large” may follow"), column + match.start("large")
        )
    words, at = match["radius"], column + match.start("radius")
    bulges = words.strip().startswith("bulge")
    if bulges:
        at += words.index("bulge") + len("bulge")
        words = words.strip().removeprefix("bulge")
    size = _length(words, at, unit, names)
    way: Literal["left", "right"] = "left" if match["way"] == "left" else "right"
    large = bool(match["large"].strip())
    if large and bulges:
        raise ExpressionError(
            tr("a bulge says itself which arc it is"), column + match.start("large")
        )
    return match["head"], Arc(None, way, bulge=size) if bulges else Arc(size, way, large)


def _read_slope(
    piece: str, column: int, unit: Unit, names: Mapping[str, float], arc: Arc | None
) -> Slope:
    marks = list(_WORD.finditer(piece))
    if piece[: marks[0].start()].strip():
        raise ExpressionError(tr("a slope begins with angle, run or rise"), column)
    angle: float | None = None
    lengths: dict[str, Length] = {}
    for mark, after in zip(marks, [*marks[1:], None], strict=True):
        words = piece[mark.end() : after.start() if after else len(piece)]
        at = column + mark.end()
        if mark[1] in lengths or (mark[1] == "angle" and angle is not None):
            raise ExpressionError(tr("“{word}” is said twice", word=mark[1]), at)
        if mark[1] == "angle":
            angle = _degrees(words, at)
        else:
            lengths[mark[1]] = _length(words, at, unit, names)
    slope = Slope(angle, lengths.get("length"), lengths.get("run"), lengths.get("rise"), arc)
    try:
        slope.step_mm()
    except ValueError as error:
        raise ExpressionError(str(error), column) from error
    return slope


def _degrees(words: str, column: int) -> float:
    try:
        value = float(words.strip().removesuffix("°"))
    except ValueError as error:
        raise ExpressionError(
            tr("“{words}” is no angle in degrees", words=words.strip()), column
        ) from error
    if not -360 <= value <= 360:
        raise ExpressionError(tr("an angle lies between -360° and 360°"), column)
    return value


def _length(text: str, column: int, unit: Unit, names: Mapping[str, float]) -> Length:
    try:
        return Length.read(text, unit, names)
    except ExpressionError as error:
        raise ExpressionError(str(error), column + error.column) from error
