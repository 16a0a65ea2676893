"""A part as its maker describes it, and solids that come from elsewhere."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal

from holoptic.errors import BadInput, ExpressionError, PartError
from holoptic.part.crate import Crate
from holoptic.part.operations import Corner, Offset, Operation, Prism, Round
from holoptic.units import Length, Unit

Begin = Literal["block", "empty"]


@dataclass(frozen=True)
class Part:
    """A crate, what it begins as (a full block or empty space), and the operations in order."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    name: str
    crate: Crate
    operations: tuple[Operation, ...] = ()
    begin: Begin = "block"
    number: str = ""
    type: Literal["part"] = "part"

    def reread(self, unit: Unit) -> Part:
        """Return the part with every sum worked out afresh, for a changed crate or unit.

        Raises PartError that names the operation whose sum no longer reads.
        """
        crate = Crate(*(_read(size, unit, {}) for size in _sizes(self.crate)))
        operations = []
        for index, operation in enumerate(self.operations):
            try:
                operations.append(_reread_operation(operation, unit, crate.names))
            except ExpressionError as error:
                raise PartError(f"“{operation.name}”: {error}", index) from error
        return replace(self, crate=crate, operations=tuple(operations))

    def require_honest_sums(self, unit: Unit) -> None:
        """Raise BadInput where a stored figure is not what its own words say."""
        fresh = self.reread(unit)
        for old, new in zip(_all_lengths(self), _all_lengths(fresh), strict=True):
            # written this way round so that a stored NaN is refused too
            if not abs(old.mm - new.mm) <= 1e-6 * max(1.0, abs(new.mm)):
                raise BadInput(
                    f"part “{self.name}”: “{old.text}” is {new.mm:g} mm but stands as {old.mm:g}"
                )


@dataclass(frozen=True)
class ImportedSolid:
    """One solid of a STEP file; its shape is fixed. `path` is absolute in memory."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    name: str
    path: str
    index: int
    number: str = ""
    type: Literal["step"] = "step"


Source = Part | ImportedSolid


def _sizes(crate: Crate) -> tuple[Length, Length, Length]:
    return crate.length, crate.depth, crate.height


def _read(length: Length, unit: Unit, names: dict[str, float]) -> Length:
    return Length.read(length.text, unit, names)


def _reread_operation(operation: Operation, unit: Unit, names: dict[str, float]) -> Operation:
    changes: dict[str, Any] = {
        "start": _read(operation.start, unit, names),
        "end": None if operation.end is None else _read(operation.end, unit, names),
    }
    if isinstance(operation, Prism):
        changes["outline"] = tuple(
            Corner(_read(corner.u, unit, names), _read(corner.v, unit, names))
            for corner in operation.outline
        )
    else:
        changes["diameter"] = _read(operation.diameter, unit, names)
        for side in ("u", "v"):
            offset: Offset = getattr(operation, side)
            changes[side] = replace(offset, distance=_read(offset.distance, unit, names))
    return replace(operation, **changes)


def _all_lengths(part: Part) -> list[Length]:
    lengths = list(_sizes(part.crate))
    for operation in part.operations:
        lengths.append(operation.start)
        if operation.end is not None:
            lengths.append(operation.end)
        if isinstance(operation, Prism):
            lengths += [length for corner in operation.outline for length in (corner.u, corner.v)]
        elif isinstance(operation, Round):
            lengths += [operation.diameter, operation.u.distance, operation.v.distance]
    return lengths
