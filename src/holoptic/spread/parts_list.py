"""The parts list of an arrangement: number, name, quantity, material."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass

from holoptic.part import Whole

COLUMNS = ("number", "name", "quantity", "material")


@dataclass(frozen=True)
class ListedPart:
    """A row of the list: its number, and the bodies that it counts, by their numbers."""

    number: int
    name: str
    quantity: int
    material: str
    bodies: tuple[int, ...]


def parts_list(whole: Whole, order: Iterable[int] = ()) -> tuple[ListedPart, ...]:
    """Return the list of the parts of a whole, numbered as they follow each other.

    `order` has bodies by their numbers; those not named there follow.
    """
    standing: dict[str, list[int]] = {}
    for number in dict.fromkeys([*order, *range(len(whole.bodies))]):
        standing.setdefault(whole.bodies[number].part, []).append(number)
    rows = []
    for number, bodies in enumerate(standing.values(), 1):
        one = whole.bodies[bodies[0]]
        rows.append(
            ListedPart(number, one.source.name, len(bodies), one.material, tuple(bodies))
        )  # fmt: skip
    return tuple(rows)


def parts_csv(rows: Iterable[ListedPart]) -> str:
    """Return the list as a table."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\n")
    writer.writerow(COLUMNS)
    for row in rows:
        writer.writerow([row.number, row.name, row.quantity, row.material])
    return buffer.getvalue()
