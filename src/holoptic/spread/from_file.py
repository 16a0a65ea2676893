"""An assembly that was read from a file, as an arrangement of a job."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace

from holoptic.curves.vectors import Vec3
from holoptic.job import Arrangement, Job, JobPart, Placed, Spread
from holoptic.job.arrangements import turn_of
from holoptic.part import ImportedSolid
from holoptic.solid.pieces import FoundSolid
from holoptic.tolerance import EXACT_MM
from holoptic.units import Length

_COUNTED = re.compile(r"[\s_:.#-]*\d+$")
"""The number with which files tell equal solids apart."""


def with_assembly(job: Job, stands: Sequence[FoundSolid]) -> Job:
    """Return a job of the solids of a file with an arrangement of how they stand there.

    Solids that are equal become one part that stands several times; parts get the names that the
    file gives them. Nested products stay together when the whole is drawn apart.
    """
    if len(stands) < 2:
        return job
    parts = {
        part.source.index: part for part in job.parts if isinstance(part.source, ImportedSolid)
    }
    placed = [
        Placed(f"b{number}", parts[stand.like].id, _at(stand.at), turn_of(stand.turning),
               stand.colour)
        for number, stand in enumerate(stands, 1)
    ]  # fmt: skip
    made = replace(job, parts=tuple(_named(part, stands) for part in job.parts))
    spread = Spread(groups=_groups(stands, placed))
    return made.with_arrangement(Arrangement("a1", job.name, tuple(placed), spread))


def _named(part: JobPart, stands: Sequence[FoundSolid]) -> JobPart:
    source = part.source
    if not isinstance(source, ImportedSolid) or source.index is None:
        return part
    equal = [stand.name for stand in stands if stand.like == source.index]
    name = _shared_name(equal) or stands[source.index].name or source.name
    return replace(part, source=replace(source, name=name), quantity=max(len(equal), 1))


def _shared_name(names: Sequence[str]) -> str:
    """Return the name of equal solids that differ in the number after it, or an empty text."""
    stems = {_COUNTED.sub("", name) for name in names}
    return stems.pop() if len(set(names)) > 1 and len(stems) == 1 else ""


def _groups(stands: Sequence[FoundSolid], placed: Sequence[Placed]) -> tuple[tuple[str, ...], ...]:
    """Return what stands in one product that is nested in the whole."""
    found: dict[tuple[str, ...], list[str]] = defaultdict(list)
    for stand, item in zip(stands, placed, strict=True):
        if len(stand.nested) > 1:
            found[stand.nested[:2]].append(item.id)
    return tuple(tuple(group) for group in found.values() if len(group) > 1)


def _at(place: Vec3) -> tuple[Length, Length, Length]:
    # in full: parts that fit together in the file must fit here
    x, y, z = (Length.read(f"{0.0 if abs(v) < EXACT_MM else v:.9f}".rstrip("0").rstrip("."))
               for v in place)  # fmt: skip
    return x, y, z
