"""The job as a value; every edit makes a new one."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import ClassVar, Literal, TypeVar

from holoptic.catalogue import tr
from holoptic.job.arrangements import Arrangement, Placed
from holoptic.job.figures import Figure, ViewSet
from holoptic.job.sheets import NOTHING_SAID, Sheet, TitleEntries
from holoptic.part import Operation, Part, PartSource
from holoptic.part.part import length_in_unit, with_lengths
from holoptic.units import Unit

Angle = Literal["third", "first"]
_MOST_DIGITS = 9
"""Of the number in an id; one with more is left to whoever wrote it."""

Colour = Literal["none", "brass", "iron", "slate", "rust", "moss", "sand"]


@dataclass(frozen=True)
class JobPart:
    """A part with what the parts list says of it.

    Its id never changes, whatever it is called. `colour` is a mark by which the list and the
    shelf tell parts apart.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    id: str
    source: PartSource = field(metadata={"discriminator": "type"})
    quantity: int = 1
    material: str = ""
    colour: Colour = "none"


@dataclass(frozen=True)
class Job:
    """A named set of parts with one unit, how they are put together, and the sheets with figures.

    `views` says how many orthographic views are shown, `angle` how they are laid out. `title` is
    what the title blocks of all sheets say. `id` tells the job from others wherever its file
    lies, empty until it has been in a file.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    name: str
    parts: tuple[JobPart, ...] = ()
    sheets: tuple[Sheet, ...] = ()
    arrangements: tuple[Arrangement, ...] = ()
    unit: Unit = Unit.MM
    angle: Angle = "third"
    views: ViewSet = "three"
    title: TitleEntries = NOTHING_SAID
    id: str = ""

    # --- finding ----------------------------------------------------------------------------

    @property
    def figures(self) -> tuple[Figure, ...]:
        """All figures, sheet by sheet."""
        return tuple(figure for sheet in self.sheets for figure in sheet.figures)

    @property
    def cover(self) -> Figure | None:
        """The pictorial by which the job is shown where there is room for one: its first."""
        for figure in self.figures:
            if figure.is_pictorial:
                return figure
        return self.main_figure(self.parts[0].id) if self.parts else None

    def part(self, part_id: str) -> JobPart:
        """Return a part. Raises KeyError."""
        return _found(self.parts, part_id)

    def part_index(self, part_id: str) -> int:
        """Return where a part stands among the parts. Raises KeyError."""
        return self.parts.index(self.part(part_id))

    def arrangement(self, arrangement_id: str) -> Arrangement:
        """Return an arrangement. Raises KeyError."""
        return _found(self.arrangements, arrangement_id)

    def is_arrangement(self, subject: str) -> bool:
        """Say whether a subject of figures is an arrangement, and no part."""
        return any(item.id == subject for item in self.arrangements)

    def title_of(self, subject: str) -> str:
        """Return the name of what a figure shows: a part or an arrangement. Raises KeyError."""
        if self.is_arrangement(subject):
            return self.arrangement(subject).name
        return self.part(subject).source.name

    def number_given(self, subject: str) -> str:
        """Return the number of a part or an arrangement. Raises KeyError."""
        if self.is_arrangement(subject):
            return self.arrangement(subject).number
        return self.part(subject).source.number

    def figure(self, figure_id: str) -> Figure:
        """Return a figure. Raises KeyError."""
        return _found(self.figures, figure_id)

    def sheet(self, sheet_id: str) -> Sheet:
        """Return a sheet. Raises KeyError."""
        return _found(self.sheets, sheet_id)

    def find(self, name: str) -> JobPart:
        """Return the first part called `name`. Raises KeyError."""
        for part in self.parts:
            if part.source.name == name:
                return part
        raise KeyError(name)

    def figures_of(self, subject: str) -> tuple[Figure, ...]:
        """Return the figures of a part or an arrangement, those first that were made first."""
        own = [figure for figure in self.figures if figure.subject == subject]
        return tuple(sorted(own, key=lambda figure: (not figure.is_pictorial, _number(figure.id))))

    def main_figure(self, subject: str) -> Figure:
        """Return the figure by which a part or an arrangement is shown: its first pictorial.

        One without is shown by a fresh one, which stands on no sheet until it is changed.
        """
        own = self.figures_of(subject)
        drawn = own and own[0].is_pictorial
        return own[0] if drawn else Figure(self.fresh_figure_id(), subject)

    def spread_figure(self, arrangement_id: str, *, apart: bool) -> Figure:
        """Return the first pictorial of an arrangement together or apart, or a fresh one."""
        for figure in self.figures_of(arrangement_id):
            if figure.is_pictorial and figure.apart == apart:
                return figure
        return Figure(self.fresh_figure_id(), arrangement_id, apart=apart)

    def sheet_of(self, figure: Figure) -> Sheet:
        """Return the sheet on which a figure stands, or a fresh one with it alone."""
        for sheet in self.sheets:
            if any(item.id == figure.id for item in sheet.figures):
                return sheet
        return Sheet(_fresh_id("s", self.sheets), (figure,))

    def number_of(self, sheet_id: str) -> str:
        """Return the number of a sheet as its title block has it, such as `2 of 3`."""
        ids = [sheet.id for sheet in self.sheets]
        return (
            tr("{index} of {ids}", index=ids.index(sheet_id) + 1, ids=len(ids))
            if sheet_id in ids
            else "1 of 1"
        )

    def fresh_figure_id(self) -> str:
        """Return an id that no figure has."""
        return _fresh_id("f", self.figures)

    def fresh_name(self, name: str) -> str:
        """Return a name that no part has: the one given, or that with a number behind it."""
        taken = {part.source.name for part in self.parts}
        tried = (name if k == 1 else f"{name} {k}" for k in range(1, len(taken) + 2))
        return next(item for item in tried if item not in taken)

    # --- parts ------------------------------------------------------------------------------

    def with_part(self, part: JobPart) -> Job:
        """Return the job with the part of the same id exchanged."""
        return replace(self, parts=_exchanged(self.parts, part))

    def with_source(self, part_id: str, source: PartSource) -> Job:
        """Return the job with one part's description exchanged."""
        return self.with_part(replace(self.part(part_id), source=source))

    def with_added(self, source: PartSource, figure: Figure | None = None) -> Job:
        """Return the job with one more part at the end, and a figure of it on a sheet of its own.

        A name that is there already gets a number. `figure` says how the part is seen; its ids
        are those of the job in any case.
        """
        named = replace(source, name=self.fresh_name(source.name))
        part = JobPart(_fresh_id("p", self.parts), named)
        job = replace(self, parts=(*self.parts, part))
        shown = figure or Figure("", part.id)
        return job.with_figure(replace(shown, id=job.fresh_figure_id(), subject=part.id))

    def without_part(self, part_id: str) -> Job:
        """Return the job without one part and its figures."""
        job = replace(self, parts=tuple(part for part in self.parts if part.id != part_id))
        for figure in self.figures_of(part_id):
            job = job.without_figure(figure.id)
        return job

    # --- arrangements -----------------------------------------------------------------------

    def with_arrangement(self, arrangement: Arrangement) -> Job:
        """Return the job with the arrangement of the same id exchanged, or with one more."""
        if all(item.id != arrangement.id for item in self.arrangements):
            return replace(self, arrangements=(*self.arrangements, arrangement))
        return replace(self, arrangements=_exchanged(self.arrangements, arrangement))

    def without_arrangement(self, arrangement_id: str) -> Job:
        """Return the job without an arrangement and its figures."""
        kept = tuple(item for item in self.arrangements if item.id != arrangement_id)
        job = replace(self, arrangements=kept)
        for figure in self.figures_of(arrangement_id):
            job = job.without_figure(figure.id)
        return job

    def fresh_arrangement(self, name: str, placed: tuple[Placed, ...] = ()) -> Arrangement:
        """Return an arrangement with an id and a name that no other has."""
        taken = {item.name for item in self.arrangements}
        tried = (name if k == 1 else f"{name} {k}" for k in range(1, len(taken) + 2))
        free = next(item for item in tried if item not in taken)
        return Arrangement(_fresh_id("a", self.arrangements), free, placed)

    # --- figures and sheets -----------------------------------------------------------------

    def with_figure(self, figure: Figure) -> Job:
        """Return the job with a figure exchanged; one that stands nowhere gets its own sheet."""
        return self.with_sheet(self.sheet_of(figure).with_figure(figure))

    def with_sheet(self, sheet: Sheet) -> Job:
        """Return the job with the sheet of the same id exchanged, or with one more sheet."""
        if all(item.id != sheet.id for item in self.sheets):
            return replace(self, sheets=(*self.sheets, sheet))
        return replace(self, sheets=_exchanged(self.sheets, sheet))

    def with_figure_on(self, sheet_id: str, figure: Figure) -> Job:
        """Return the job with one more figure, or one that stood elsewhere, on a sheet."""
        job = self
        if all(sheet_id != sheet.id for sheet in self.sheets):
            raise KeyError(sheet_id)
        for sheet in self.sheets:
            if sheet.id != sheet_id:
                job = job.with_sheet(sheet.without(figure.id))
        return job.with_sheet(job.sheet(sheet_id).with_figure(figure))._without_bare_sheets()

    def on_own_sheet(self, figure_id: str) -> Job:
        """Return the job with a figure moved from its sheet to one of its own behind it."""
        figure = self.figure(figure_id)
        before = self.sheet_of(figure)
        own = Sheet(_fresh_id("s", self.sheets), (figure,), before.wish)
        at = self.sheets.index(before) + 1
        sheets = (*self.sheets[: at - 1], before.without(figure_id), own, *self.sheets[at:])
        return replace(self, sheets=sheets)._without_bare_sheets()

    def without_figure(self, figure_id: str) -> Job:
        """Return the job without one figure, and without its sheet where that is empty then."""
        sheets = tuple(sheet.without(figure_id) for sheet in self.sheets)
        return replace(self, sheets=sheets)._without_bare_sheets()

    def _without_bare_sheets(self) -> Job:
        return replace(self, sheets=tuple(sheet for sheet in self.sheets if sheet.figures))

    # --- unit -------------------------------------------------------------------------------

    def in_unit(self, unit: Unit) -> Job:
        """Return the job with its lengths written for another unit; no size changes."""
        parts = tuple(
            replace(part, source=part.source.in_unit(self.unit, unit))
            if isinstance(part.source, Part)
            else part
            for part in self.parts
        )
        arrangements: tuple[Arrangement, ...] = with_lengths(
            self.arrangements, lambda length: length_in_unit(length, self.unit, unit)
        )
        return replace(self, parts=parts, arrangements=arrangements, unit=unit)


def job_of(name: str, sources: Iterable[PartSource], unit: Unit = Unit.MM) -> Job:
    """Return a job of some parts, each with an isometric on a sheet of its own."""
    job = Job(name, unit=unit)
    for source in sources:
        job = job.with_added(source)
    return job


_Item = TypeVar("_Item", JobPart, Figure, Sheet, Arrangement)


def _found(items: Iterable[_Item], item_id: str) -> _Item:
    for item in items:
        if item.id == item_id:
            return item
    raise KeyError(item_id)


def _exchanged(items: tuple[_Item, ...], new: _Item) -> tuple[_Item, ...]:
    return tuple(new if item.id == new.id else item for item in items)


def _fresh_id(letter: str, taken: Iterable[JobPart | Figure | Sheet | Arrangement]) -> str:
    """Return the next id: a letter with a number above all that are there."""
    return f"{letter}{max((_number(item.id) for item in taken), default=0) + 1}"


def _number(item_id: str) -> int:
    """Return the number in an id; other programs may write other ids."""
    digits = item_id[1:]
    return int(digits) if digits.isdecimal() and len(digits) <= _MOST_DIGITS else 0


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
