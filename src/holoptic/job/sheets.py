"""Sheets: figures that stand on one paper, what is asked of it, and what its title block says."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from typing import ClassVar, Literal

from holoptic.job.figures import Figure

FrameBy = Literal["draw", "printed"]
Series = Literal["ISO", "ANSI", "architectural"]
Dimensioned = Literal["none", "auto"]
Run = Literal["given", "chain", "edge"]
"""How lengths follow each other: as given, each from the one before, or all from one edge."""
DimensionStyle = Literal["ISO", "ASME"]
Lettered = Literal["sheared", "upright"]
LineEnd = Literal["arrow", "slash", "dot"]
Shade = Literal["none", "left", "right"]
"""From where the light falls on pictorials that are shaded."""
AxisAngles = Literal["none", "show"]


@dataclass(frozen=True)
class SheetWish:
    """What is asked of the sheet; None leaves a thing to what fits best.

    `series` is the family of papers to choose from, `paper` a paper's name, `upright` whether it
    stands on its short side, `scale` paper over true size. `margin_mm` is kept free inside the
    border, `dimensions_mm` about each drawing for its dimensions, `caption_mm` below it for its
    name. `frame` says whether border and title block are drawn or printed on the sheet.
    `dimensions` says whether the parts' sizes are proposed on it, how their lengths `run`, by the
    habits of which `style`,
    and whether their words are sheared into the plane of the size or stand upright; `shade` from
    where the light falls on pictorials that are shaded; `axis_angles` whether the angles of their
    axes are marked, `ends` how the lines of lengths end.
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
    dimensions: Dimensioned = "none"
    run: Run = "given"
    style: DimensionStyle = "ISO"
    text: Lettered = "sheared"
    shade: Shade = "none"
    axis_angles: AxisAngles = "none"
    ends: LineEnd = "arrow"


@dataclass(frozen=True)
class SizeWish:
    """What is asked of one dimension, by its key: what stands beside its figure, and where it is.

    `near` is where its words are wanted, mm on paper from the origin of the part's first figure;
    `passed` is how many good places are passed over. One that is a `reference` is in brackets, and
    makes nothing complete.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    key: str
    prefix: str = ""
    suffix: str = ""
    tolerance: str = ""
    reference: bool = False
    near: tuple[float, float] | None = None
    passed: int = 0

    @property
    def says_nothing(self) -> bool:
        """Whether the dimension is as it is proposed."""
        return self == SizeWish(self.key)

    def lettered(self, figure: str) -> str:
        """Return what is lettered for a figure; the figure itself follows the part."""
        words = f"{self.prefix}{figure}{self.suffix}"
        if self.tolerance:
            words = f"{words} {self.tolerance}"
        return f"({words})" if self.reference else words


@dataclass(frozen=True)
class OwnEntry:
    """A field of the company's own in the title block: what it is called, and what it says."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    label: str
    value: str = ""


@dataclass(frozen=True)
class Revision:
    """A row of the revision table: its letter, what changed, when, and by whom."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    letter: str
    change: str = ""
    date: str = ""
    by: str = ""


@dataclass(frozen=True)
class TitleEntries:
    """What is written in a title block; None leaves an entry to what the job says.

    The job's own entries hold for all its sheets, a sheet's for itself.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    work: str | None = None
    part: str | None = None
    number: str | None = None
    drawn_by: str | None = None
    checked_by: str | None = None
    revision: str | None = None
    date: str | None = None
    notes: str | None = None
    own: tuple[OwnEntry, ...] | None = None

    def over(self, other: TitleEntries) -> TitleEntries:
        """Return these entries, with another's where these say nothing."""
        return TitleEntries(*(
            getattr(other, item.name) if getattr(self, item.name) is None
            else getattr(self, item.name)
            for item in fields(self)
        ))  # fmt: skip


AS_FITS = SheetWish()
"""A sheet of which nothing is asked."""

NOTHING_SAID = TitleEntries()


@dataclass(frozen=True)
class Sheet:
    """A paper with the figures that stand on it, in their order; revisions from the first on."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    id: str
    figures: tuple[Figure, ...] = ()
    wish: SheetWish = AS_FITS
    title: TitleEntries = NOTHING_SAID
    sizes: tuple[SizeWish, ...] = ()
    revisions: tuple[Revision, ...] = ()

    def size(self, key: str) -> SizeWish:
        """Return what is asked of a dimension."""
        return next((one for one in self.sizes if one.key == key), SizeWish(key))

    def with_size(self, wish: SizeWish) -> Sheet:
        """Return the sheet with something else asked of a dimension."""
        others = tuple(one for one in self.sizes if one.key != wish.key)
        return replace(self, sizes=others if wish.says_nothing else (*others, wish))

    def with_figure(self, figure: Figure) -> Sheet:
        """Return the sheet with a figure exchanged, or with one more."""
        if all(item.id != figure.id for item in self.figures):
            return replace(self, figures=(*self.figures, figure))
        kept = tuple(figure if item.id == figure.id else item for item in self.figures)
        return replace(self, figures=kept)

    def without(self, figure_id: str) -> Sheet:
        """Return the sheet without one figure."""
        return replace(self, figures=tuple(f for f in self.figures if f.id != figure_id))
