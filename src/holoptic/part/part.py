"""A part as its maker describes it, and solids that come from elsewhere."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any, ClassVar, Literal

from holoptic.catalogue import tr
from holoptic.errors import BadInput, ExpressionError, PartError, UnknownName
from holoptic.part.crate import AXIS_LETTERS, Crate, Face
from holoptic.part.naming import feature_names, with_name_changed, words_used
from holoptic.part.operations import CornerCut, Operation
from holoptic.tolerance import COINCIDENT_MM, SHARE
from holoptic.units import Length, Unit

Begin = Literal["block", "empty"]
Change = Callable[[Length], Length]


@dataclass(frozen=True)
class NamedLength:
    """A length of the part with a name that sums may use."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    name: str
    length: Length


@dataclass(frozen=True)
class Part:
    """A crate, what it begins as (a full block or empty space), and the operations in order.

    `names` are lengths that the sums of crate and operations may use; each may use those before it.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    name: str
    crate: Crate
    operations: tuple[Operation, ...] = ()
    begin: Begin = "block"
    number: str = ""
    names: tuple[NamedLength, ...] = ()
    type: Literal["part"] = "part"

    def __hash__(self) -> int:
        """Hash it once: caches ask for it again and again, and a part has hundreds of figures."""
        known: int | None = self.__dict__.get("_hash")
        if known is None:
            figures = (self.name, self.crate, self.operations, self.begin, self.number, self.names)
            known = hash(figures)
            object.__setattr__(self, "_hash", known)
        return known

    def __getstate__(self) -> dict[str, Any]:
        """Leave the hash out of what crosses to another process: there it is another one."""
        return {key: value for key, value in self.__dict__.items() if key != "_hash"}

    def own_names(self, count: int | None = None) -> dict[str, float]:
        """Return the named lengths in mm, or the first `count` of them."""
        return {item.name: item.length.mm for item in self.names[:count]}

    def scope(self, index: int | None = None) -> dict[str, float]:
        """Return what sums of operation `index` may use by name, mm; None: of a new one at the end.

        These are the named lengths, the crate's sizes and the places of the features before it.
        """
        found = {**self.own_names(), **self.crate.names}
        for operation in self.operations[:index]:
            found |= feature_names(operation, self.crate)
        return found

    def reread(self, unit: Unit, strict: bool = False) -> Part:
        """Return the part with every sum worked out afresh, for a changed length or unit.

        What used a name that is gone keeps its figure, unless one is `strict`. Raises PartError
        that names the operation whose sum no longer reads, ExpressionError for another sum.
        """

        def read(length: Length, names: Mapping[str, float]) -> Length:
            try:
                return Length.read(length.text, unit, names)
            except UnknownName:
                if strict:
                    raise
                return Length(f"{length.mm / unit.mm:.10g}", length.mm)

        return self._rewritten(read)

    def _rewritten(self, change: Callable[[Length, Mapping[str, float]], Length]) -> Part:
        """Return the part with its lengths changed, those first that others may use."""
        made = replace(self, names=(), operations=())
        for item in self.names:
            length = change(item.length, made.own_names())
            made = replace(made, names=(*made.names, replace(item, length=length)))
        own = made.own_names()
        made = replace(made, crate=_cratewith_lengths(self.crate, lambda size: change(size, own)))
        scope = made.scope()
        for index, operation in enumerate(self.operations):
            try:
                changed = _operationwith_lengths(operation, _with_names(change, scope))
            except ExpressionError as error:
                raise PartError(f"“{operation.name}”: {error}", index) from error
            made = replace(made, operations=(*made.operations, changed))
            scope |= feature_names(changed, made.crate)
        return made

    def in_unit(self, old: Unit, new: Unit) -> Part:
        """Return the same part with its lengths written for another unit; no size changes.

        Words that say the same in both units stay (`L/2`, `3 1/8"`); the others become a figure
        with its old unit behind it.
        """

        def rewrite(length: Length, names: Mapping[str, float]) -> Length:
            return length_in_unit(length, old, new, names)

        return self._rewritten(rewrite)

    def with_word_changed(self, old: str, new: str) -> Part:
        """Return the part with a name exchanged in the words of all its sums."""

        def rename(length: Length) -> Length:
            return Length(with_name_changed(length.text, old, new), length.mm)

        names = tuple(replace(item, length=rename(item.length)) for item in self.names)
        operations = tuple(_operationwith_lengths(o, rename) for o in self.operations)
        crate = _cratewith_lengths(self.crate, rename)
        return replace(self, names=names, crate=crate, operations=operations)

    def with_face_changed(self, index: int, face: Face, unit: Unit) -> Part:
        """Return the part with an operation on another crate face.

        What its words say by the size along an axis of the old face, they say by that of the new
        one: an outline at the top right corner is at the top right again. Raises PartError,
        ExpressionError.
        """
        old = self.operations[index]
        if isinstance(old, CornerCut):
            return self  # three faces at once
        letters = {
            AXIS_LETTERS[a]: AXIS_LETTERS[b]
            for a, b in zip((*old.face.axes, old.face.normal_axis),
                            (*face.axes, face.normal_axis), strict=True)
        }  # fmt: skip

        def carry(length: Length) -> Length:
            words = re.sub(r"\b[LDH]\b(?!\.)", lambda found: letters[found[0]], length.text)
            return length if words == length.text else Length(words, length.mm)

        changes: dict[str, Any] = {"face": face}
        if face.normal_axis != old.face.normal_axis and any(f.name == "base" for f in fields(old)):
            changes["base"] = None  # it says a place along another axis
        moved = replace(_operationwith_lengths(old, carry), **changes)
        operations = (*self.operations[:index], moved, *self.operations[index + 1 :])
        return replace(self, operations=operations).reread(unit)

    def uses_of(self, word: str) -> list[str]:
        """Return what uses a name: named lengths, the crate, operations, each by its own name."""
        found = [item.name for item in self.names if word in words_used(item.length.text)]
        if any(word in words_used(size.text) for size in _sizes(self.crate)):
            found.append(tr("the crate"))
        for operation in self.operations:
            if any(word in words_used(length.text) for length in lengths_in(operation)):
                found.append(operation.name)
        return found

    def require_honest_sums(self, unit: Unit) -> None:
        """Raise BadInput where a stored figure is not what its own words say."""
        fresh = self.reread(unit, strict=True)
        for old, new in zip(_all_lengths(self), _all_lengths(fresh), strict=True):
            # written this way round so that a stored NaN is refused too
            if not abs(old.mm - new.mm) <= SHARE * max(1.0, abs(new.mm)):
                raise BadInput(
                    tr(
                        "part “{name}”: “{text_}” is {mm:g} mm but stands as {mm2:g}",
                        name=self.name,
                        text_=old.text,
                        mm=new.mm,
                        mm2=old.mm,
                    )
                )


@dataclass(frozen=True)
class ImportedSolid:
    """One solid of a STEP file, or all of them together (index None); its shape is fixed.

    `path` is absolute in memory. A solid that was read from views stands in no file: `step` is its
    STEP text then, and `path` is empty.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    name: str
    path: str
    index: int | None
    number: str = ""
    type: Literal["step"] = "step"
    step: str = ""


def length_in_unit(
    length: Length, old: Unit, new: Unit, names: Mapping[str, float] | None = None
) -> Length:
    """Return the same length with words that read in another unit.

    Words that say the same in both units stay; the others become a figure with its old unit.
    """
    try:
        if abs(Length.read(length.text, new, names).mm - length.mm) <= COINCIDENT_MM:
            return length
    except ExpressionError:
        pass  # words that no longer read become a figure too
    suffix = "mm" if old is Unit.MM else "in"
    return Length(f"{length.mm / old.mm:.10g} {suffix}", length.mm)


def _with_names(
    change: Callable[[Length, Mapping[str, float]], Length], names: Mapping[str, float]
) -> Change:
    return lambda length: change(length, names)


def _sizes(crate: Crate) -> tuple[Length, Length, Length]:
    return crate.length, crate.depth, crate.height


def _cratewith_lengths(crate: Crate, change: Change) -> Crate:
    return Crate(*(change(size) for size in _sizes(crate)))


def _operationwith_lengths(operation: Operation, change: Change) -> Operation:
    changed: Operation = with_lengths(operation, change)
    return changed


def with_lengths(value: Any, change: Change) -> Any:
    """Return a value with every length in it changed, in whatever it is made of."""
    if isinstance(value, Length):
        return change(value)
    if isinstance(value, tuple):
        return tuple(with_lengths(item, change) for item in value)
    if is_dataclass(value):
        changes = {
            item.name: with_lengths(getattr(value, item.name), change) for item in fields(value)
        }
        return replace(value, **changes)  # type: ignore[type-var]
    return value


def _all_lengths(part: Part) -> list[Length]:
    return lengths_in((part.names, part.crate, part.operations))


def lengths_in(value: Any) -> list[Length]:
    """Return every length in a value, in whatever it is made of."""
    lengths: list[Length] = []

    def note(length: Length) -> Length:
        lengths.append(length)
        return length

    with_lengths(value, note)
    return lengths
