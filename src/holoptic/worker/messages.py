"""What crosses the line between the window's process and the worker: plain data only."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from holoptic.catalogue import tr
from holoptic.checking.report import CheckReport
from holoptic.construction.cards import Card
from holoptic.curves.vectors import Vec2, Vec3
from holoptic.errors import PartError
from holoptic.job import Angle, Posed
from holoptic.paper.axis_levels import Levels
from holoptic.part import Whole
from holoptic.part.advice import Advice
from holoptic.pictorial import Picture
from holoptic.pictorial.proposal import Appraisal
from holoptic.plan import Drafter, Plan
from holoptic.plan.critic import Remark
from holoptic.plan.moves import Budget, Effort, Way
from holoptic.reading.arrangement import Arrangement
from holoptic.reading.lines import Box
from holoptic.reading.result import Check, Reading
from holoptic.reading.sketch import Sketch
from holoptic.sheet import Drawing, Paper
from holoptic.sheet.drawing import Ink, Words
from holoptic.sheet.planning import Item, Layout, Misfit
from holoptic.solid.pieces import Overlap, SolidFacts
from holoptic.spread import Parting
from holoptic.units.spoken import measure
from holoptic.views import PlacedView


@dataclass(frozen=True)
class Request:
    """A question: the name of a task and its arguments."""

    id: int
    task: str
    arguments: tuple[Any, ...]


@dataclass(frozen=True)
class Progress:
    """How far the work on a request is; `share` from 0 to 1, or None where it is not known."""

    id: int
    words: str
    share: float | None = None

    def __str__(self) -> str:
        return self.words if self.share is None else f"{self.words}, {100 * self.share:.0f} %"


@dataclass(frozen=True)
class Answer:
    """The outcome of a request: a value, or the error that a task raised on purpose.

    `trace` says where an error that nobody meant came from; it goes to the log.
    """

    id: int
    value: Any = None
    error: Exception | None = None
    trace: str = ""


@dataclass(frozen=True)
class Presented:
    """What a page shows of a figure first: facts and picture; the views follow.

    `made` has its part without the operations that cannot be made, `troubles` say why.
    """

    made: Posed
    troubles: tuple[PartError, ...]
    facts: SolidFacts
    picture: Picture


@dataclass(frozen=True)
class Arranged:
    """How an arrangement stands and comes apart.

    `whole` is what can be made of it, each body moved as it is drawn apart; `troubles` say what
    cannot. `features` is how many features tell something in the picture, `unseen` those that are
    hidden with this gap (mm); bodies go by their numbers. Where the sheet has no room for it, the
    gap is less than the one that is `needed`. The order is known before the gap: until then the gap
    is None, and nothing is moved.
    """

    whole: Whole
    troubles: tuple[PartError, ...]
    parting: Parting
    overlaps: tuple[Overlap, ...]
    gap: float | None = None
    features: int = 0
    unseen: tuple[tuple[int, int | None], ...] = ()
    needed: float | None = None

    @property
    def is_narrowed(self) -> bool:
        """Whether the sheet keeps the gap from being as wide as it should be."""
        return self.gap is not None and self.needed is not None and self.gap < self.needed


def narrowed_words(arranged: Arranged) -> str:
    """Return what is to be said of a gap that the sheet narrowed, its lengths marked; empty where
    it did not.
    """
    if not arranged.is_narrowed or arranged.gap is None or arranged.needed is None:
        return ""
    return tr(
        "At its scale the sheet has room for a gap of {gap} only; {needed} would show the most.",
        gap=measure(arranged.gap),
        needed=measure(arranged.needed),
    )


@dataclass(frozen=True)
class SpreadProposed:
    """One way of drawing an arrangement apart, as a picture with its reasons.

    `axis` and `gap` (mm) are what taking it asks for; `reasons` has its lengths marked.
    """

    axis: str
    gap: float
    title: str
    reasons: str
    picture: Picture


@dataclass(frozen=True)
class CutProposed:
    """A cut that is proposed: its words, sort and course, what it shows, and the picture."""

    words: str
    titles: tuple[str, str]
    reasons: str
    picture: Picture


@dataclass(frozen=True)
class Viewed:
    """The views of a part or a whole, laid out in third or first angle; the box that holds it."""

    placed: tuple[PlacedView, ...]
    angle: Angle
    low: Vec3
    high: Vec3


@dataclass(frozen=True)
class PictureRead:
    """The picture under views that were found in it: flat, as JPEG, with so many dots per mm of
    paper and so much of what lies outside its border (mm) around; how large the paper is within
    the border (mm), where that has its corners in the picture (dots) and whether it was found;
    boxes about the views (mm of paper) and their names; the levels along length, depth and height;
    how much larger the views are than the paper. `others` are the views with their levels taken
    otherwise. Where no views were found, `trouble` says why; the name of its paper; of a sketch the
    levels (axis, where measured) that no figure tells yet, and whether it is one.
    """

    jpeg: bytes
    per_mm: float
    around: float
    size: Vec2
    corners: tuple[Vec2, ...]
    has_border: bool
    boxes: tuple[Box, ...]
    names: tuple[str, ...]
    levels: tuple[Levels, ...]
    scale: float
    others: tuple[Arrangement, ...] = ()
    trouble: str = ""
    paper: str = ""
    asked: tuple[tuple[int, float], ...] = ()
    is_sketch: bool = False


@dataclass(frozen=True)
class SheetRead:
    """A drawing file, how its lines are told apart, the views found on it, and what is odd; how
    many pages it has, and its picture, if it was read from one.
    """

    path: str
    sketch: Sketch
    arrangement: Arrangement
    checks: tuple[Check, ...]
    pages: int = 1
    picture: PictureRead | None = None


@dataclass(frozen=True)
class ReadOneOf:
    """What was read of one of several ways in which views may be meant: its number, 0 where none
    reads better than the first.
    """

    number: int
    reading: Reading


@dataclass(frozen=True)
class PlacedSize:
    """A dimension on a page: its key, what it says, the room of its words (mm), and the figure from
    whose origin places wanted for it are told.
    """

    key: str
    text: str
    box: tuple[float, float, float, float]
    figure: str


@dataclass(frozen=True)
class GoodPlace:
    """A place to which a dimension may be dragged: the middle of its words, mm, and its ink."""

    at: Vec2
    inks: tuple[Ink, ...]
    words: Words


@dataclass(frozen=True)
class GoodPlaces:
    """All places of a page to which a dimension may be dragged, the best first."""

    key: str
    places: tuple[GoodPlace, ...]


@dataclass(frozen=True)
class SizesTold:
    """What is missing or doubled among the sizes of a sheet, in lines; how many stand there, and
    how many of them overlap something; where they are `shown`.

    `lost` are the keys of dimensions that something is asked of, and that are not there any more.
    """

    lines: tuple[str, ...]
    count: int
    overlapping: int
    shown: tuple[PlacedSize, ...] = ()
    lost: tuple[str, ...] = ()

    @property
    def is_complete(self) -> bool:
        """Whether they suffice to make the parts, and none follows from others."""
        return not self.lines


@dataclass(frozen=True)
class SheetPlanned:
    """The figures that are to stand on a sheet, and the layouts that hold them.

    `layout` is in use, None with a misfit. `layouts` are those that fit, the best first, or those
    of the ways out; `pages` shows each of them. `sizes` tells what the sizes on the first page
    suffice for, None where nothing fits; `troubles` says what cannot be cut as it is asked.
    """

    items: tuple[Item, ...]
    layout: Layout | None
    layouts: tuple[Layout, ...]
    pages: tuple[Drawing, ...]
    misfit: Misfit | None = None
    sizes: SizesTold | None = None
    troubles: tuple[str, ...] = ()


@dataclass(frozen=True)
class SheetSet:
    """All sheets of a job as pages, with the list of them before; `troubles` says of those that
    are not there why.
    """

    pages: tuple[Drawing, ...]
    troubles: tuple[str, ...] = ()


@dataclass(frozen=True)
class Planned:
    """The plan of a figure, its sheet, and where its start point lies on the picture, mm at 1:1.

    `drafted` is what the virtual drafter has on the paper in the end.
    """

    figure: str
    plan: Plan
    layout: Layout
    start: Vec2
    drafted: Drafter

    @property
    def paper(self) -> Paper:
        """The paper that the plan is for."""
        return self.layout.paper


@dataclass(frozen=True)
class WayCompared:
    """What one way of working costs and how sure it is."""

    way: Way
    moves: int
    effort: Effort
    budget: Budget


@dataclass(frozen=True)
class WaysCompared:
    """The ways of working on a figure, side by side."""

    figure: str
    ways: tuple[WayCompared, ...]


@dataclass(frozen=True)
class Criticised:
    """What the critic has to say of a figure's plan."""

    figure: str
    remarks: tuple[Remark, ...]


@dataclass(frozen=True)
class Advised:
    """What is worth a look about a part."""

    remarks: tuple[Advice, ...]


@dataclass(frozen=True)
class Shelved:
    """A figure's picture for the shelf, None where nothing of it can be made."""

    figure: str
    picture: Picture | None


@dataclass(frozen=True)
class Carded:
    """The construction card of an edge, or None where it has none; `scale` is its figure's."""

    figure: str
    edge: int
    card: Card | None
    scale: float


@dataclass(frozen=True)
class Appraised:
    """What a part shows in one kind, from several corners."""

    found: tuple[Appraisal, ...]


@dataclass(frozen=True)
class Candidate:
    """A figure's picture as it would be with another (kind, corner); `refused` says why it is not
    cut as it was asked; `bodies` are the ids of those of an arrangement that a cut leaves.
    """

    figure: str
    choice: tuple[str, str]
    picture: Picture
    refused: str = ""
    bodies: tuple[str, ...] = ()


@dataclass(frozen=True)
class SheetTaken:
    """The picture of a drawn sheet, as a PNG file."""

    figure: str
    png: bytes


@dataclass(frozen=True)
class SheetFound:
    """A drawn sheet as it lies in its picture, and what is off on it, without causes yet.

    `jpeg` is its picture made straight, `per_mm` dots per mm, with `around` mm of what lies outside
    the border on every side.
    """

    figure: str
    jpeg: bytes
    per_mm: float
    around: float
    report: CheckReport


@dataclass(frozen=True)
class PictureShown:
    """A picture as it was handed over, to be looked at: a JPEG file, `share` as large as it is."""

    jpeg: bytes
    share: float
