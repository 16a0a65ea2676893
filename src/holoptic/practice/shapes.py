"""Parts for exercises, in whole squares of a grid: blocks with steps, slots, wedges, ribs, holes.

They look like things that somebody makes: features start from the outside, run through or stop at
a plane that is there, and there are no more of them than a level wants.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.part import (
    Arc,
    Corner,
    Crate,
    Face,
    Mode,
    Offset,
    Operation,
    Part,
    Polygon,
    Prism,
    Round,
)
from holoptic.practice.exercise import NotMade
from holoptic.units import Length

CELL_MM = 10.0
"""A square of the grid, in mm of the part."""
Place = tuple[int, int]
UPRIGHT = (Face.FRONT, Face.RIGHT)


def squares(count: float) -> Length:
    """Return a length of some squares."""
    return Length.of(count * CELL_MM)


@dataclass(frozen=True)
class Block:
    """A crate in squares, with operations on it."""

    size: tuple[int, int, int]
    operations: tuple[Operation, ...] = ()

    @property
    def part(self) -> Part:
        """The part that it is."""
        crate = Crate(*(squares(size) for size in self.size))
        return Part(tr("exercise"), crate, self.operations)

    def face_size(self, face: Face) -> Place:
        """Return the size of a face in squares, along its u and v."""
        u, v = face.axes
        return self.size[u], self.size[v]

    def thickness(self, face: Face) -> int:
        """Return how many squares it is through from a face."""
        return self.size[face.normal_axis]


def prism(name: str, face: Face, outline: tuple[Place, ...], start: int = 0,
          end: int | None = None, mode: Mode = "cut") -> Prism:  # fmt: skip
    """Return an outline in squares carried inward."""
    points = tuple(Corner(squares(u), squares(v)) for u, v in outline)
    return Prism(name, mode, face, points, squares(start), None if end is None else squares(end))


def box(u: Place, v: Place) -> tuple[Place, ...]:
    """Return a rectangle from u to u and v to v."""
    return (u[0], v[0]), (u[1], v[0]), (u[1], v[1]), (u[0], v[1])


# --- features -------------------------------------------------------------------------------

Feature = Callable[[Block, random.Random, int], Operation]
"""Makes a feature of a block, called by a number. Raises NotMade where there is no room."""


def step(block: Block, dice: random.Random, number: int) -> Operation:
    """A step or shoulder along the whole of the block."""
    face = dice.choice(UPRIGHT)
    wide, high = block.face_size(face)
    across, down = _inside(wide, dice), _inside(high, dice)
    u = (0, across) if dice.random() < 0.5 else (wide - across, wide)
    return prism(f"{number}", face, box(u, (high - down, high)))


def notch(block: Block, dice: random.Random, number: int) -> Operation:
    """A corner of the plan cut out, down to a depth or through."""
    wide, deep = block.face_size(Face.TOP)
    across, back = _inside(wide, dice), _inside(deep, dice)
    u = (0, across) if dice.random() < 0.5 else (wide - across, wide)
    v = (0, back) if dice.random() < 0.7 else (deep - back, deep)
    high = block.thickness(Face.TOP)
    end = None if dice.random() < 0.3 else _inside(high, dice)
    return prism(f"{number}", Face.TOP, box(u, v), 0, end)


def slot(block: Block, dice: random.Random, number: int) -> Operation:
    """A groove along the block, open above."""
    face = dice.choice(UPRIGHT)
    wide, high = block.face_size(face)
    if wide < 3:
        raise NotMade("no room for a slot")
    across = dice.randint(1, wide - 2)
    left = dice.randint(1, wide - across - 1)
    return prism(f"{number}", face, box((left, left + across), (high - _inside(high, dice), high)))


def opening(block: Block, dice: random.Random, number: int) -> Operation:
    """A rectangular opening through the block, or up to a plane within it."""
    face = dice.choice((Face.FRONT, Face.RIGHT, Face.TOP))
    wide, high = block.face_size(face)
    if min(wide, high) < 3:
        raise NotMade("no room for an opening")
    u, v = _between(wide, dice), _between(high, dice)
    end = None if dice.random() < 0.5 else _inside(block.thickness(face), dice)
    return prism(f"{number}", face, box(u, v), 0, end)


def tenon(block: Block, dice: random.Random, number: int) -> Operation:
    """What is cut away under the block, along it: an undercut or a groove below."""
    face = dice.choice(UPRIGHT)
    wide, high = block.face_size(face)
    across, up = _inside(wide, dice), _inside(high, dice)
    left = dice.randint(0, wide - across)
    return prism(f"{number}", face, box((left, left + across), (0, up)))


def wedge(block: Block, dice: random.Random, number: int) -> Operation:
    """A slope along the block, at a corner of its outline."""
    face = dice.choice((*UPRIGHT, Face.TOP))
    wide, high = block.face_size(face)
    across, down = _up_to(wide, dice), _up_to(high, dice)
    is_right = dice.random() < 0.5
    edge, way = (wide, -1) if is_right else (0, 1)
    top = high if face != Face.TOP or dice.random() < 0.5 else 0
    low = top - down if top else down
    outline = ((edge, top), (edge + way * across, top), (edge, low))
    end = None if face != Face.TOP or dice.random() < 0.7 else _inside(block.thickness(face), dice)
    return prism(f"{number}", face, outline, 0, end)


def rib(block: Block, dice: random.Random, number: int) -> Operation:
    """A sloping web that stands on what a step has left; it needs one that was cut before."""
    for operation in block.operations:
        if not isinstance(operation, Prism) or operation.mode != "cut":
            continue
        if operation.face in UPRIGHT and len(operation.outline) == 4 and operation.end is None:
            return _rib_in(operation, block, dice, number)
    raise NotMade("no step for a rib to stand on")


def _rib_in(cut: Prism, block: Block, dice: random.Random, number: int) -> Operation:
    places = [(round(u / CELL_MM), round(v / CELL_MM)) for u, v in cut.outline_mm()]
    us, vs = sorted({u for u, _ in places}), sorted({v for _, v in places})
    wide, high = block.face_size(cut.face)
    deep = block.thickness(cut.face)
    if vs[-1] != high or (us[0] == 0) == (us[-1] == wide) or deep < 2 or vs[0] == 0:
        raise NotMade("no corner for a rib to stand in")
    wall, way = (us[-1], -1) if us[0] == 0 else (us[0], 1)
    run, rise = _up_to(us[-1] - us[0], dice), _up_to(vs[-1] - vs[0], dice)
    start = dice.randint(0, deep - 1)
    outline = ((wall, vs[0]), (wall + way * run, vs[0]), (wall, vs[0] + rise))
    return prism(f"{number}", cut.face, outline, start, start + 1, "add")


def hole(block: Block, dice: random.Random, number: int) -> Operation:
    """A round hole, through or down to a depth."""
    return _round(block, dice, number, "cut")


def _round(block: Block, dice: random.Random, number: int, mode: Mode) -> Operation:
    face = dice.choice((Face.FRONT, Face.RIGHT, Face.TOP))
    wide, high = block.face_size(face)
    if min(wide, high) < 2:
        raise NotMade("no room for a hole")
    size = dice.choice((1.0, 1.2, 1.4) if min(wide, high) < 4 else (1.2, 1.6, 2.0, 2.4))
    room = size / 2 + 0.3
    u, v = (dice.choice(_places(edge, room)) for edge in (wide, high))
    end = None if dice.random() < 0.7 else squares(_inside(block.thickness(face), dice))
    return Round(f"{number}", mode, face, squares(size), Offset(squares(u)), Offset(squares(v)),
                 squares(0), end)  # fmt: skip


def six_sided(block: Block, dice: random.Random, number: int) -> Operation:
    """A hexagonal hole."""
    face = dice.choice((Face.FRONT, Face.TOP))
    wide, high = block.face_size(face)
    if min(wide, high) < 3:
        raise NotMade("no room for a hexagon")
    room = 1.1
    u, v = (dice.choice(_places(edge, room)) for edge in (wide, high))
    return Polygon(f"{number}", "cut", face, 6, squares(1.4), "across flats", Offset(squares(u)),
                   Offset(squares(v)), squares(0), None)  # fmt: skip


def round_end(block: Block, _dice: random.Random, number: int) -> Operation:
    """An end of the plan rounded to a half circle: what stands outside of it is cut away."""
    wide, deep = block.face_size(Face.TOP)
    if wide <= deep:
        raise NotMade("no end to round")
    half = deep / 2
    points = (
        Corner(squares(wide - half), squares(0)), Corner(squares(wide), squares(0)),
        Corner(squares(wide), squares(deep)),
        Corner(squares(wide - half), squares(deep), Arc(squares(half), "right")),
    )  # fmt: skip
    return Prism(f"{number}", "cut", Face.TOP, points, squares(0), None)


def _places(edge: int, room: float) -> list[float]:
    found = [k / 2 for k in range(1, 2 * edge) if room <= k / 2 <= edge - room]
    if not found:
        raise NotMade("no room")
    return found


def _inside(size: int, dice: random.Random) -> int:
    """Return a number of squares that leaves something. Raises NotMade."""
    if size < 2:
        raise NotMade("no room")
    return dice.randint(1, size - 1)


def _up_to(size: int, dice: random.Random) -> int:
    return dice.randint(1, size)


def _between(size: int, dice: random.Random) -> Place:
    low = dice.randint(1, size - 2)
    return low, dice.randint(low + 1, size - 1)


STRAIGHT: tuple[tuple[Feature, ...], ...] = (
    (step, slot), (step, slot, notch), (step, slot, notch, wedge, tenon),
    (step, slot, notch, wedge, tenon, opening, rib),
    (step, slot, notch, wedge, opening, rib, tenon),
)  # fmt: skip
"""The features of straight edges, level by level."""
LEVEL_AND_UPRIGHT: tuple[tuple[Feature, ...], ...] = (
    (step, slot), (step, slot, notch), (step, slot, notch, tenon),
    (step, slot, notch, tenon, opening), (step, slot, notch, tenon, opening),
)  # fmt: skip
"""The features whose faces all lie along the axes, level by level."""
ALL: tuple[tuple[Feature, ...], ...] = (
    (step, slot, hole), (step, notch, slot, hole), (step, slot, notch, wedge, hole, round_end),
    (step, slot, notch, wedge, rib, hole, six_sided, opening, round_end),
    (step, slot, notch, wedge, rib, hole, six_sided, opening, round_end, tenon),
)  # fmt: skip
"""All features, level by level."""
_COUNTS = ((1, 1), (1, 2), (2, 2), (2, 3), (3, 4))
_SIZES = ((2, 4), (2, 4), (3, 5), (3, 5), (3, 6))


def block_of(
    level: int, dice: random.Random, features: tuple[tuple[Feature, ...], ...] = STRAIGHT,
    more: int = 0,
) -> Block:  # fmt: skip
    """Return a block with features as a level wants it; it may turn out not to be one body.

    Raises NotMade where a feature finds no room.
    """
    least, most = _SIZES[level - 1]
    block = Block((dice.randint(max(least, 3), most + 1), dice.randint(least, most),
                   dice.randint(least, most)))  # fmt: skip
    count = dice.randint(*_COUNTS[level - 1]) + more
    for number in range(1, count + 1):
        feature = dice.choice(features[level - 1])
        block = Block(block.size, (*block.operations, feature(block, dice, number)))
    return block
