"""Built solids, kept on a shelf: the last few are not built again for another look."""

from __future__ import annotations

from collections import OrderedDict
from functools import partial
from pathlib import Path

from holoptic.curves.vectors import Vec3
from holoptic.errors import BadInput
from holoptic.part import ImportedSolid, Part, Source
from holoptic.part.provenance import operation_at
from holoptic.solid.build import build, tidy
from holoptic.solid.hidden import SeenSolid
from holoptic.solid.pieces import Seen
from holoptic.solid.step import read_solids, write_solid

_KEPT_SOLIDS = 24

_kept: OrderedDict[object, SeenSolid] = OrderedDict()


def look(source: Source, directions: tuple[Vec3, ...]) -> Seen:
    """Return what is seen of a part along each direction. Raises PartError or BadInput."""
    solid = _solid(source)
    return Seen(solid.facts, tuple(solid.look(direction) for direction in directions))


def save_step(source: Source, path: str) -> None:
    """Write a part's solid as a STEP file. Raises PartError or BadInput."""
    write_solid(_solid(source).shape, path, source.name)


def list_solids(path: str) -> tuple[ImportedSolid, ...]:
    """Return the solids that a STEP file holds. Raises BadInput."""
    stem = Path(path).stem
    count = len(read_solids(path))
    names = [stem] if count == 1 else [f"{stem} {number}" for number in range(1, count + 1)]
    return tuple(ImportedSolid(name, path, index) for index, name in enumerate(names))


def _solid(source: Source) -> SeenSolid:
    """Build a solid, or take it from the last few."""
    key = _key(source)
    if key not in _kept:
        _kept[key] = _build(source)
        if len(_kept) > _KEPT_SOLIDS:
            _kept.popitem(last=False)
    _kept.move_to_end(key)
    return _kept[key]


def _key(source: Source) -> object:
    if isinstance(source, Part):
        return source
    try:
        return source.path, source.index, Path(source.path).stat().st_mtime_ns
    except OSError:
        return source


def _build(source: Source) -> SeenSolid:
    if isinstance(source, Part):
        return SeenSolid(build(source), partial(operation_at, source))
    shapes = read_solids(source.path)
    if source.index >= len(shapes):
        raise BadInput(f"{Path(source.path).name} no longer holds solid {source.index + 1}")
    return SeenSolid(tidy(shapes[source.index]), _no_operation)


def _no_operation(point: Vec3) -> int | None:  # noqa: ARG001
    return None
