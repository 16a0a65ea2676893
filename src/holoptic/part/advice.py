"""What a careful drafter would ask about a part that can be made: nothing of it is an error."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from holoptic.catalogue import tr
from holoptic.part.crate import AXIS_NAMES
from holoptic.part.part import Part
from holoptic.part.provenance import given_offsets
from holoptic.tolerance import CHANGED_VOLUME_MM3, COINCIDENT_MM
from holoptic.units.spoken import measure

_NEAR_MM = 0.6
"""Two distances that differ by less are likely to be meant as one."""


@dataclass(frozen=True)
class Advice:
    """A remark, and the operation it is about; None: the part as a whole."""

    words: str
    operation: int | None = None


def advise(part: Part, volumes: Sequence[float], walls: Sequence[tuple[int | None, float]],
           limit_mm: float) -> tuple[Advice, ...]:  # fmt: skip
    """Return what is worth a look.

    `volumes` are those after each operation (mm³), `walls` the thinnest wall found at each
    operation's faces (mm).
    """
    return (
        *_idle_operations(part, volumes), *_thin_walls(part, walls, limit_mm),
        *_unused_names(part), *_near_misses(part),
    )  # fmt: skip


def _idle_operations(part: Part, volumes: Sequence[float]) -> Iterator[Advice]:
    """Yield operations that change nothing: what they cut is gone, what they add is there."""
    crate = part.crate.sizes
    before = crate[0] * crate[1] * crate[2] if part.begin == "block" else 0.0
    for index, (operation, after) in enumerate(zip(part.operations, volumes, strict=False)):
        if not operation.off and abs(after - before) < CHANGED_VOLUME_MM3:
            what = (
                tr("there is nothing to cut")
                if operation.mode == "cut"
                else tr("it is solid already")
            )
            yield Advice(
                tr(
                    "“{name}” changes nothing: {what} where it lies", name=operation.name, what=what
                ),
                index,
            )
        before = after


def _thin_walls(
    part: Part, walls: Sequence[tuple[int | None, float]], limit_mm: float
) -> Iterator[Advice]:
    for index, thickness in walls:
        if thickness < limit_mm - COINCIDENT_MM:
            name = tr("the block") if index is None else f"“{part.operations[index].name}”"
            yield Advice(
                tr(
                    "{name} leaves a wall of only {thickness}",
                    name=name,
                    thickness=measure(thickness),
                ),
                index,
            )


def _unused_names(part: Part) -> Iterator[Advice]:
    for item in part.names:
        if not part.uses_of(item.name):
            yield Advice(tr("the length “{name}” is used nowhere", name=item.name))


def _near_misses(part: Part) -> Iterator[Advice]:
    """Yield places that two operations give a hair apart: one dimension given differently."""
    placed = sorted(
        (given.axis, given.at, given.operation) for given in given_offsets(part)
        if given.operation is not None and not given.derived
    )  # fmt: skip
    told: set[tuple[int, int]] = set()
    for (axis, at, one), (other_axis, other_at, two) in pairwise(placed):
        apart = other_at - at
        if axis == other_axis and one != two and COINCIDENT_MM < apart < _NEAR_MM:
            pair = min(one, two), max(one, two)
            if pair not in told:
                told.add(pair)
                first, second = (part.operations[index].name for index in pair)
                yield Advice(
                    tr(
                        "“{first}” and “{second}” lie {apart} apart along the "
                        "{axis_names}: one dimension, given differently?",
                        first=first,
                        second=second,
                        apart=measure(apart),
                        axis_names=AXIS_NAMES[axis],
                    ),
                    pair[1],
                )
