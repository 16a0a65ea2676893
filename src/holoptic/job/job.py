"""The job as a value; every edit makes a new one."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import ClassVar, Literal

from holoptic.curves.methods import USUAL_ORDINATES, Method
from holoptic.part import Operation, Part, Source
from holoptic.units import Unit

Hidden = Literal["omit", "thin", "dashed"]
Outline = Literal["one-weight", "thick-and-thin"]
Angle = Literal["third", "first"]
ViewSet = Literal["three", "six"]


DepthCopy = Literal["shift", "again"]
Raising = Literal["crate", "corners"]
Strategy = Literal["crate-and-carve", "faces-first", "centre-lines-first"]
Order = Literal["by-feature", "batched"]
Firming = Literal["soon", "end"]
FrameBy = Literal["draw", "printed"]
Series = Literal["ISO", "ANSI", "architectural"]


@dataclass(frozen=True)
class OwnMethod:
    """The way in which one feature's circles are drawn; `feature` is its name."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    feature: str
    method: Method


@dataclass(frozen=True)
class HandWays:
    """How a picture is drawn by hand.

    `method` None takes the usual one: the simplest that stays within `limit_mm` of the true
    ellipse on paper, or without a limit the four-centre oval where it can be had.
    `depth_copy` says how a circle is repeated at another depth: its centres shifted, or
    constructed again. `raising` says how a polygon is: the offsets repeated on the crate above, or
    each corner raised by itself. `strategy` is the way of carving, None leaves it to the part;
    `order` draws feature by feature or batches what one instrument does; `firming` firms lines in
    as soon as they are certain or all at the end.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    method: Method | None = None
    limit_mm: float | None = None
    ordinates: int = USUAL_ORDINATES
    depth_copy: DepthCopy = "shift"
    raising: Raising = "crate"
    own: tuple[OwnMethod, ...] = ()
    strategy: Strategy | None = None
    order: Order = "by-feature"
    firming: Firming = "soon"

    def method_for(self, feature: str) -> Method | None:
        """Return the method asked for a feature, or None."""
        for item in self.own:
            if item.feature == feature:
                return item.method
        return self.method

    def with_own(self, feature: str, method: Method | None) -> HandWays:
        """Return the ways with one feature's method set, or left to the usual one again."""
        own = tuple(item for item in self.own if item.feature != feature)
        return replace(self, own=own if method is None else (*own, OwnMethod(feature, method)))


@dataclass(frozen=True)
class SheetWish:
    """What is asked of the sheet; None leaves a thing to what fits best.

    `series` is the family of papers to choose from, `paper` a paper's name, `upright` whether it
    stands on its short side, `scale` paper over true size. `margin_mm` is kept free inside the
    border, `dimensions_mm` about each drawing for its dimensions, `caption_mm` below it for its
    name. `frame` says whether border and title block are drawn or printed on the sheet. `company`
    names what stands on the same sheet: kinds of pictorial, or "views".
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    series: Series = "ISO"
    paper: str | None = None
    upright: bool | None = None
    scale: float | None = None
    margin_mm: float = 8.0
    dimensions_mm: float = 0.0
    caption_mm: float = 0.0
    frame: FrameBy = "draw"
    company: tuple[str, ...] = ()


@dataclass(frozen=True)
class Choice:
    """How a part is pictured: kind, near corner, line weights, the ways by hand, the sheet."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    kind: str = "isometric"
    corner: str = "front-right"
    hidden: Hidden = "omit"
    outline: Outline = "one-weight"
    centre_lines: bool = True
    by_hand: HandWays = HandWays()
    sheet: SheetWish = SheetWish()


Colour = Literal["none", "brass", "iron", "slate", "rust", "moss", "sand"]


@dataclass(frozen=True)
class JobPart:
    """A part with the choices for its picture, and what the parts list says of it.

    `colour` is a mark by which the list and the shelf tell parts apart.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    source: Source = field(metadata={"discriminator": "type"})
    choice: Choice = Choice()
    quantity: int = 1
    material: str = ""
    colour: Colour = "none"


@dataclass(frozen=True)
class Job:
    """A named set of parts with one unit; `date` and `drawn_by` stand in the title block.

    `views` says how many orthographic views are shown, `angle` how they are laid out.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    name: str
    parts: tuple[JobPart, ...] = ()
    unit: Unit = Unit.MM
    date: str = ""
    angle: Angle = "third"
    views: ViewSet = "three"
    drawn_by: str = ""

    def with_part(self, index: int, part: JobPart) -> Job:
        """Return the job with one part exchanged."""
        parts = list(self.parts)
        parts[index] = part
        return replace(self, parts=tuple(parts))

    def with_source(self, index: int, source: Source) -> Job:
        """Return the job with one part's description exchanged."""
        return self.with_part(index, replace(self.parts[index], source=source))

    def with_choice(self, index: int, choice: Choice) -> Job:
        """Return the job with one part pictured in another way."""
        return self.with_part(index, replace(self.parts[index], choice=choice))

    def with_added(self, part: JobPart) -> Job:
        """Return the job with one more part at the end."""
        return replace(self, parts=(*self.parts, part))

    def without(self, index: int) -> Job:
        """Return the job without one part."""
        return replace(self, parts=self.parts[:index] + self.parts[index + 1 :])

    def in_unit(self, unit: Unit) -> Job:
        """Return the job with its lengths written for another unit; no size changes."""
        parts = tuple(
            replace(part, source=part.source.in_unit(self.unit, unit))
            if isinstance(part.source, Part)
            else part
            for part in self.parts
        )
        return replace(self, parts=parts, unit=unit)

    def find(self, name: str) -> int:
        """Return the index of the part called `name`. Raises KeyError."""
        for index, part in enumerate(self.parts):
            if part.source.name == name:
                return index
        raise KeyError(name)


def with_operation(part: Part, index: int, operation: Operation) -> Part:
    """Return the part with one operation exchanged."""
    operations = list(part.operations)
    operations[index] = operation
    return replace(part, operations=tuple(operations))


def with_inserted(part: Part, index: int, operation: Operation) -> Part:
    """Return the part with an operation put in before `index`."""
    operations = part.operations
    return replace(part, operations=(*operations[:index], operation, *operations[index:]))


def without_operation(part: Part, index: int) -> Part:
    """Return the part without one operation."""
    return replace(part, operations=part.operations[:index] + part.operations[index + 1 :])


def with_moved(part: Part, index: int, to: int) -> Part:
    """Return the part with the operation at `index` moved to stand at `to`."""
    operations = list(part.operations)
    operations.insert(to, operations.pop(index))
    return replace(part, operations=tuple(operations))
