"""Random parts for sweeps: steps, slopes, slots, holes and bosses, many on shared planes."""

from __future__ import annotations

import random

from holoptic.part import Corner, Crate, Face, Offset, Operation, Part, Prism, Round
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
