"""Exercise parts for reading: families of made-up parts as a drafter meets them."""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence

import numpy as np

from holoptic.part import (
    Arc,
    Ball,
    Corner,
    CornerCut,
    Crate,
    Face,
    Hole,
    Offset,
    Operation,
    Part,
    Polygon,
    Prism,
    Pyramid,
    Round,
    Slot,
)
from holoptic.reading.lines import DrawnView
from holoptic.reading.pieces import split
from holoptic.units import Length

Dice = random.Random
_UPRIGHT = (Face.FRONT, Face.RIGHT, Face.LEFT)
_CLEAR_MM = 0.1
_ZERO = Length("0", 0.0)


def _mm(value: float) -> Length:
    return Length.of(round(value, 1))


def _crate(dice: Dice) -> Crate:
    return Crate(*(_mm(dice.uniform(low, high)) for low, high in ((52, 96), (34, 58), (28, 52))))


def _outline(*corners: tuple[float, float]) -> tuple[Corner, ...]:
    return tuple(Corner(_mm(u), _mm(v)) for u, v in corners)


def _box(u: float, v: float, w: float, h: float) -> tuple[Corner, ...]:
    return _outline((u, v), (u + w, v), (u + w, v + h), (u, v + h))


def _prism(name: str, mode: str, face: Face, outline: tuple[Corner, ...],
           end: float | None = None, start: float = 0.0) -> Prism:  # fmt: skip
    return Prism(name, mode, face, outline, _mm(start), None if end is None else _mm(end))  # type: ignore[arg-type]


def _step(dice: Dice, crate: Crate, number: int) -> Operation:
    """Return a step at an upper edge or corner, through or part of the way."""
    face = dice.choice(_UPRIGHT)
    width, height = crate.face_size(face)
    wide, deep = width * dice.uniform(0.15, 0.42), height * dice.uniform(0.2, 0.6)
    at = dice.choice([0.0, width - wide])
    end = None if dice.random() < 0.6 else crate.thickness(face) * dice.uniform(0.3, 0.7)
    return _prism(f"step {number}", "cut", face, _box(at, height - deep, wide, deep), end)


def _groove(dice: Dice, crate: Crate, number: int) -> Operation:
    """Return a straight slot in the top, bottom or a side, through or blind."""
    face = dice.choice((Face.FRONT, Face.RIGHT, Face.TOP))
    width, height = crate.face_size(face)
    wide, deep = width * dice.uniform(0.14, 0.3), height * dice.uniform(0.2, 0.55)
    at = width * dice.uniform(0.1, 0.55)
    v = dice.choice([0.0, height - deep])
    end = None if dice.random() < 0.7 else crate.thickness(face) * dice.uniform(0.3, 0.7)
    return _prism(f"slot {number}", "cut", face, _box(at, v, wide, deep), end)


def _wedge(dice: Dice, crate: Crate, number: int) -> Operation:
    """Return a sloped cut at an upper corner."""
    face = dice.choice((Face.FRONT, Face.RIGHT))
    width, height = crate.face_size(face)
    run, rise = width * dice.uniform(0.2, 0.6), height * dice.uniform(0.25, 0.8)
    corners = [(width - run, height), (width, height), (width, height - rise)]
    if dice.random() < 0.5:
        corners = [(width - u, v) for u, v in corners]
    return _prism(f"slope {number}", "cut", face, _outline(*corners))


def _hole(dice: Dice, crate: Crate, number: int) -> Operation:
    """Return a hole of any sort from any of three faces."""
    face = dice.choice((Face.FRONT, Face.RIGHT, Face.TOP))
    width, height = crate.face_size(face)
    seat = dice.choice(["plain", "plain", "counterbored"])
    wide = min(width, height) * dice.uniform(0.12, 0.24)
    room = wide * 0.95 + 1.5
    u, v = (Offset(_mm(dice.uniform(room, size - room))) for size in (width, height))
    deep = crate.thickness(face)
    end = None if seat != "plain" or dice.random() < 0.6 else _mm(deep * dice.uniform(0.3, 0.7))
    more = (_mm(wide * 1.8), _mm(deep * 0.25)) if seat == "counterbored" else (None, None)
    return Hole(f"hole {number}", "cut", face, _mm(wide), u, v, _ZERO, end, seat, *more)  # type: ignore[arg-type]


def _block(dice: Dice, make: Callable[[Dice, Crate, int], Operation], count: int) -> Part:
    crate = _crate(dice)
    return Part("exercise", crate, tuple(make(dice, crate, k + 1) for k in range(count)))


def _rib(dice: Dice) -> Part:
    """Return a base plate and a wall with a rib between them."""
    crate = _crate(dice)
    length, depth, height = crate.sizes
    base, wall = height * dice.uniform(0.2, 0.3), depth * dice.uniform(0.2, 0.3)
    thick = length * dice.uniform(0.1, 0.2)
    at = length * dice.uniform(0.2, 0.6)
    rib = _outline((wall + 0.0, base), (depth * 0.9, base), (wall + 0.0, height * 0.9))
    return Part("exercise", crate, (
        _prism("base", "add", Face.BOTTOM, _box(0, 0, length, depth), base),
        _prism("wall", "add", Face.FRONT, _box(0, 0, length, height), wall),
        _prism("rib", "add", Face.LEFT, rib, at + thick, at),
    ), "empty")  # fmt: skip


def _round_end(dice: Dice) -> Part:
    """Return a plate with a round end and an eye, lying or standing on a foot."""
    width, deep = round(dice.uniform(26, 44), 1), round(dice.uniform(36, 56), 1)
    height = round(width / 2 + dice.uniform(16, 34), 1)
    crate = Crate(_mm(width), _mm(deep), _mm(height))
    thick = round(deep * dice.uniform(0.25, 0.45), 1)
    u = Length(f"{width / 2:g}", width / 2)
    shoulder = Length(f"{height - width / 2:g}", height - width / 2)
    zero, wide = _ZERO, _mm(width)
    outline = (Corner(zero, zero), Corner(wide, zero), Corner(wide, shoulder, Arc(u, "left")),
               Corner(zero, shoulder))  # fmt: skip
    eye = _mm(width * dice.uniform(0.3, 0.6))
    foot = round(height * dice.uniform(0.15, 0.25), 1)
    return Part("exercise", crate, (
        Prism("upright", "add", Face.FRONT, outline, zero, _mm(thick)),
        _prism("foot", "add", Face.BOTTOM, _box(0, 0, width, deep), foot),
        Hole("eye", "cut", Face.FRONT, eye, Offset(u), Offset(shoulder), zero, _mm(thick)),
    ), "empty")  # fmt: skip


def _polygon(dice: Dice) -> Part:
    """Return a polygon prism on a plate, with a bore or a smaller polygon on top."""
    crate = _crate(dice)
    length, depth, height = crate.sizes
    sides = dice.choice((5, 6, 8))
    size = _mm(min(length, depth) * dice.uniform(0.6, 0.9))
    u, v = Offset(_mm(length / 2)), Offset(_mm(depth / 2))
    plate = round(height * dice.uniform(0.25, 0.5), 1)
    turn = dice.choice((0.0, 15.0, 30.0))
    bore = Hole("bore", "cut", Face.TOP, _mm(size.mm * 0.4), u, v, _ZERO,
                None if dice.random() < 0.5 else _mm(height * 0.4))  # fmt: skip
    return Part("exercise", crate, (
        _prism("plate", "add", Face.BOTTOM, _box(0, 0, length, depth), plate),
        Polygon("polygon", "add", Face.BOTTOM, sides, size, "across corners", u, v, _ZERO, None,
                turn),
        bore,
    ), "empty")  # fmt: skip


def _mixed(dice: Dice) -> Part:
    crate = _crate(dice)
    makers = (_step, _groove, _wedge, _hole, _hole, _slot)
    chosen = [dice.choice(makers) for _ in range(dice.randint(2, 4))]
    return Part("exercise", crate, tuple(m(dice, crate, k + 1) for k, m in enumerate(chosen)))


def _slot(dice: Dice, crate: Crate, number: int) -> Operation:
    width, height = crate.face_size(Face.TOP)
    wide = height * dice.uniform(0.12, 0.2)
    long = width * dice.uniform(0.3, 0.45)
    u = Offset(_mm(dice.uniform(long / 2 + 2, width - long / 2 - 2)))
    v = Offset(_mm(dice.uniform(wide + 2, height - wide - 2)))
    return Slot(f"long hole {number}", "cut", Face.TOP, _mm(long), _mm(wide), u, v, _ZERO, None)


# --- faces that are parallel to no axis -------------------------------------------------------


def _plate(crate: Crate, share: float) -> tuple[Prism, float]:
    length, depth, height = crate.sizes
    thick = round(height * share, 1)
    return _prism("plate", "add", Face.BOTTOM, _box(0, 0, length, depth), thick), thick


def _middle(crate: Crate) -> tuple[Offset, Offset]:
    return Offset(_mm(crate.length.mm / 2)), Offset(_mm(crate.depth.mm / 2))


def _cone(dice: Dice) -> Part:
    """Return a cone or frustum on a plate, or a countersunk hole in a block."""
    crate = _crate(dice)
    room = min(crate.sizes[:2])
    if dice.random() < 0.35:
        wide = room * dice.uniform(0.2, 0.3)
        sink = Hole("hole", "cut", Face.TOP, _mm(wide), *_middle(crate), _ZERO, None, "countersunk",
                    _mm(wide * 1.8), None, 90.0)  # fmt: skip
        return Part("exercise", crate, (sink,))
    plate, thick = _plate(crate, dice.uniform(0.2, 0.35))
    end = 0.0 if dice.random() < 0.4 else room * dice.uniform(0.15, 0.35)
    cone = Round("cone", "add", Face.BOTTOM, _mm(room * dice.uniform(0.5, 0.85)), *_middle(crate),
                 _mm(thick), crate.height, _mm(end))  # fmt: skip
    return Part("exercise", crate, (plate, cone), "empty")


def _sphere(dice: Dice) -> Part:
    """Return half a ball on a plate, or a spherical hollow in a block."""
    crate = _crate(dice)
    room = min(crate.sizes[:2])
    if dice.random() < 0.5:
        ball = Ball("hollow", "cut", Face.TOP, _mm(room * dice.uniform(0.4, 0.7)), *_middle(crate),
                    _ZERO)  # fmt: skip
        return Part("exercise", crate, (ball,))
    across = 2 * round(min(room * 0.4, crate.height.mm * 0.65) * dice.uniform(0.7, 0.95), 1)
    thick = round(dice.uniform(7, 14), 1)
    crate = Crate(crate.length, crate.depth, _mm(thick + across / 2))
    plate = _prism("plate", "add", Face.BOTTOM, _box(0, 0, *crate.sizes[:2]), thick)
    ball = Ball("dome", "add", Face.TOP, _mm(across), *_middle(crate), _mm(across / 2),
                "outer half")  # fmt: skip
    return Part("exercise", crate, (plate, ball), "empty")


def _pyramid(dice: Dice) -> Part:
    """Return a pyramid or frustum, four-sided or many-sided, on a plate."""
    crate = _crate(dice)
    length, depth, _ = crate.sizes
    plate, thick = _plate(crate, dice.uniform(0.2, 0.35))
    top = 0.0 if dice.random() < 0.5 else dice.uniform(0.2, 0.5)
    ends = _mm(thick), crate.height
    if dice.random() < 0.5:
        a, b = length * dice.uniform(0.5, 0.8), depth * dice.uniform(0.5, 0.8)
        body: Operation = Pyramid("pyramid", "add", Face.BOTTOM, _mm(a), _mm(b), *_middle(crate),
                                  *ends, _mm(a * top), _mm(b * top))  # fmt: skip
    else:
        size = min(length, depth) * dice.uniform(0.5, 0.85)
        body = Polygon("pyramid", "add", Face.BOTTOM, dice.choice((3, 5, 6)), _mm(size),
                       "across corners", *_middle(crate), *ends, 0.0, _mm(size * top))  # fmt: skip
    return Part("exercise", crate, (plate, body), "empty")


def _corner(dice: Dice) -> Part:
    """Return a block with one or two skew corner cuts, and perhaps a step."""
    crate = _crate(dice)
    operations: list[Operation] = []
    for number, right in enumerate(dice.sample((True, False), dice.choice((1, 2)))):
        along, back, up = (_mm(size * dice.uniform(0.2, 0.45)) for size in crate.sizes)
        operations.append(CornerCut(f"corner {number + 1}", "cut", right, dice.random() < 0.3, True,
                                    along, back, up))  # fmt: skip
    if dice.random() < 0.4:
        length, depth, _ = crate.sizes
        low = _box(length * 0.3, 0, length * 0.2, depth * 0.25)
        operations.append(_prism("notch", "cut", Face.TOP, low))
    return Part("exercise", crate, tuple(operations))


PLAIN_FAMILIES: dict[str, Callable[[Dice], Part]] = {
    "steps": lambda dice: _block(dice, _step, dice.randint(1, 3)),
    "slots": lambda dice: _block(dice, _groove, dice.randint(1, 3)),
    "holes": lambda dice: _block(dice, _hole, dice.randint(1, 3)),
    "ribs": _rib,
    "wedges": lambda dice: _block(dice, _wedge, dice.randint(1, 2)),
    "rounded ends": _round_end,
    "polygon prisms": _polygon,
    "mixed": _mixed,
}
"""Every face is parallel to an axis."""

SKEW_FAMILIES: dict[str, Callable[[Dice], Part]] = {
    "cones": _cone,
    "spheres": _sphere,
    "pyramids": _pyramid,
    "skew corners": _corner,
}


def has_clear_levels(views: Sequence[DrawnView]) -> bool:
    """Say whether no two levels of a part lie so close that nobody could draw them apart."""
    for view in views:
        for axis in (0, 1):
            values = np.array([end[axis] for piece in split(view.lines)
                               for end in (piece.start, piece.end)])  # fmt: skip
            gaps = np.diff(np.sort(values))
            if ((gaps > 2e-3) & (gaps < _CLEAR_MM)).any():
                return False
    return True


def exercise(family: str, seed: int) -> Part:
    """Return a part of a family; of the mixed ones some turn out to be impossible."""
    make = {**PLAIN_FAMILIES, **SKEW_FAMILIES}[family]
    return make(random.Random(f"{family} {seed}"))
