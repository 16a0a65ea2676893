"""The parts list of an arrangement: number, name, quantity, material."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass

from holoptic.job import Arrangement, Job

COLUMNS = ("number", "name", "quantity", "material")


@dataclass(frozen=True)
class ListedPart:
    """A row of the list: its number, and the placed parts that it counts."""

    number: int
    part: str
    name: str
    quantity: int
    material: str
    placed: tuple[str, ...]


def parts_list(
    job: Job, arrangement: Arrangement, order: Iterable[str] = ()
) -> tuple[ListedPart, ...]:
    """Return the list of an arrangement's parts, numbered as they follow each other.

    `order` has placed parts by their ids; what is not named there follows. A placed part whose part
    is gone is counted nowhere.
    """
    known = {part.id: part for part in job.parts}
    placed = {item.id: item.part for item in arrangement.placed if item.part in known}
    sequence = dict.fromkeys([*(item for item in order if item in placed), *placed])
    standing: dict[str, list[str]] = {}
    for item in sequence:
        standing.setdefault(placed[item], []).append(item)
    return tuple(
        ListedPart(number, part, known[part].source.name, len(items), known[part].material,
                   tuple(items))
        for number, (part, items) in enumerate(standing.items(), 1)
    )  # fmt: skip


def parts_csv(rows: Iterable[ListedPart]) -> str:
    """Return the list as a table."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\n")
    writer.writerow(COLUMNS)
    for row in rows:
        writer.writerow([row.number, row.name, row.quantity, row.material])
    return buffer.getvalue()
