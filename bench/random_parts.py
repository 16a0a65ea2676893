"""Random parts for sweeps: steps, slopes, slots, holes and bosses, many on shared planes."""

from __future__ import annotations

import random

from holoptic.part import Ball, Corner, Crate, Face, Offset, Operation, Part, Prism, Round
from holoptic.units import Length

_length = Length.of


def random_part(seed: int, *, rounds: bool = True) -> Part:
    """Return a part of one to five operations; it may turn out to be impossible."""
    dice = random.Random(seed)
    crate = Crate(*(_length(round(dice.uniform(20, 90), 1)) for _ in range(3)))
    operations: list[Operation] = []
    for number in range(dice.randint(1, 5)):
        face = dice.choice(list(Face))
        deep = round(dice.uniform(0.2, 0.9) * crate.thickness(face), 1)
        end = None if dice.random() < 0.5 else _length(deep)
        if rounds and dice.random() < 0.35:
            operations.append(_round(dice, crate, face, number, end))
        else:
            operations.append(_prism(dice, crate, face, number, end))
    return Part(f"random {seed}", crate, tuple(operations))


def _round(dice: random.Random, crate: Crate, face: Face, number: int, end: Length | None) -> Round:
    width, height = crate.face_size(face)
    diameter = round(dice.uniform(4, min(width, height) * 0.6), 1)
    room = diameter / 2 + 0.2
    u, v = (Offset(_length(round(dice.uniform(room, size - room), 1))) for size in (width, height))
    mode = "cut" if dice.random() < 0.75 else "add"
    return Round(f"round {number}", mode, face, _length(diameter), u, v, _length(0), end)


def _prism(dice: random.Random, crate: Crate, face: Face, number: int, end: Length | None) -> Prism:
    width, height = crate.face_size(face)

    def place(size: float) -> float:
        usual = [0, size / 4, size / 3, size / 2, 2 * size / 3, 3 * size / 4, size]
        return round(dice.choice([*usual, dice.uniform(0, size)]), 1)

    kind = dice.random()
    if kind < 0.5:
        (a, b), (c, d) = (sorted((place(size), place(size))) for size in (width, height))
        corners = [(a, c), (b, c), (b, d), (a, d)]
    elif kind < 0.8:
        corners = [(place(width), place(height)) for _ in range(3)]
    else:  # a slope at 45°, edge-on in an isometric
        reach = round(min(width, height) * dice.uniform(0.2, 0.9), 1)
        corners = [(0, 0), (reach, 0), (0, reach)]
    outline = tuple(Corner(_length(u), _length(v)) for u, v in corners)
    mode = "cut" if dice.random() < 0.75 else "add"
    return Prism(f"prism {number}", mode, face, outline, _length(0), end)


def scattered_part(
    seed: int, columns: int | None = None, rows: int | None = None, most: int = 100
) -> Part:
    """Return a slab with bosses, pockets, holes, cones and hollows, each in a place of its own.

    They come in any order, up to `most` operations in all.
    """
    dice = random.Random(seed)
    columns, rows = columns or dice.randint(2, 4), rows or dice.randint(2, 3)
    crate = Crate(_length(24.0 * columns + 5), _length(23.0 * rows + 4), _length(31.5))
    ground = [(0, 0), (crate.length.mm, 0), (crate.length.mm, crate.depth.mm), (0, crate.depth.mm)]
    slab = tuple(Corner(_length(u), _length(v)) for u, v in ground)
    made: list[Operation] = [Prism("slab", "add", Face.BOTTOM, slab, _length(0), _length(17.5))]
    for column in range(columns):
        for row in range(rows):
            at = 14.5 + 24 * column, 13.5 + 23 * row
            made.append(_scattered(dice, at, len(made)))
    return Part(f"scattered {seed}", crate, tuple(made[:most]), begin="empty")


def _scattered(dice: random.Random, at: tuple[float, float], number: int) -> Operation:
    u, v = (Offset(_length(round(value + dice.uniform(-2, 2), 1))) for value in at)
    size, deep = round(dice.uniform(5, 17), 1), round(dice.uniform(18, 30), 1)
    kind = dice.choice(["boss", "hole", "pocket", "cone", "hollow"])
    name = f"{kind} {number}"
    if kind == "boss":
        return Round(name, "add", Face.TOP, _length(size), u, v, _length(4.5), _length(16.0))
    if kind == "hollow":
        return Ball(name, "cut", Face.TOP, _length(size), u, v, _length(14.0))
    if kind == "pocket":
        ways, half = ((-1, -1), (1, -1), (0.6, 1)), size / 2
        corners = [(round(at[0] + a * half, 1), round(at[1] + b * half, 1)) for a, b in ways]
        outline = tuple(Corner(_length(a), _length(b)) for a, b in corners)
        return Prism(name, "cut", Face.TOP, outline, _length(0), _length(deep))
    end_size = _length(size / 2) if kind == "cone" else None
    end = None if dice.random() < 0.3 and kind == "hole" else _length(deep)
    return Round(name, "cut", Face.TOP, _length(size), u, v, _length(0), end, end_size)
