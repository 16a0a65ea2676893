"""A part as its maker describes it, and solids that come from elsewhere."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any, ClassVar, Literal

from holoptic.errors import BadInput, ExpressionError, PartError
from holoptic.part.crate import Crate
from holoptic.part.operations import Operation
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import Length, Unit

Begin = Literal["block", "empty"]
Change = Callable[[Length], Length]


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
        crate = _crate_with_lengths(self.crate, lambda size: Length.read(size.text, unit))
        names = crate.names
        operations = []
        for index, operation in enumerate(self.operations):
            try:
                operations.append(
                    _operation_with_lengths(
                        operation, lambda length: Length.read(length.text, unit, names)
                    )
                )
            except ExpressionError as error:
                raise PartError(f"“{operation.name}”: {error}", index) from error
        return replace(self, crate=crate, operations=tuple(operations))

    def _with_lengths(self, change: Change) -> Part:
        return replace(
            self,
            crate=_crate_with_lengths(self.crate, change),
            operations=tuple(_operation_with_lengths(o, change) for o in self.operations),
        )

    def in_unit(self, old: Unit, new: Unit) -> Part:
        """Return the same part with its lengths written for another unit; no size changes.

        Words that say the same in both units stay (`L/2`, `3 1/8"`); the others become a figure
        with its old unit behind it.
        """
        names = self.crate.names

        def rewrite(length: Length) -> Length:
            try:
                if abs(Length.read(length.text, new, names).mm - length.mm) <= COINCIDENT_MM:
                    return length
            except ExpressionError:
                pass  # words that no longer read become a figure too
            suffix = "mm" if old is Unit.MM else "in"
            return Length(f"{length.mm / old.mm:.10g} {suffix}", length.mm)

        return self._with_lengths(rewrite)

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
    """One solid of a STEP file, or all of them together (index None); its shape is fixed.

    `path` is absolute in memory.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    name: str
    path: str
    index: int | None
    number: str = ""
    type: Literal["step"] = "step"


Source = Part | ImportedSolid


def _sizes(crate: Crate) -> tuple[Length, Length, Length]:
    return crate.length, crate.depth, crate.height


def _crate_with_lengths(crate: Crate, change: Change) -> Crate:
    return Crate(*(change(size) for size in _sizes(crate)))


def _operation_with_lengths(operation: Operation, change: Change) -> Operation:
    changed: Operation = _with_lengths(operation, change)
    return changed


def _with_lengths(value: Any, change: Change) -> Any:
    """Return a value with every length in it changed, in whatever it is made of."""
    if isinstance(value, Length):
        return change(value)
    if isinstance(value, tuple):
        return tuple(_with_lengths(item, change) for item in value)
    if is_dataclass(value):
        changes = {
            item.name: _with_lengths(getattr(value, item.name), change) for item in fields(value)
        }
        return replace(value, **changes)  # type: ignore[type-var]
    return value


def _all_lengths(part: Part) -> list[Length]:
    lengths: list[Length] = []

    def note(length: Length) -> Length:
        lengths.append(length)
        return length

    _with_lengths((part.crate, part.operations), note)
    return lengths
