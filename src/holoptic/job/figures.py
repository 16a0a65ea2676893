"""Figures: what is drawn of a part, seen how, with which lines, and how the hand goes about it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import ClassVar, Literal

from holoptic.catalogue import tr
from holoptic.curves.methods import USUAL_ORDINATES, Method
from holoptic.errors import BadInput
from holoptic.job.outfit import Outfit

Hidden = Literal["omit", "thin", "dashed"]
Outline = Literal["one-weight", "thick-and-thin"]
ViewSet = Literal["three", "six"]

DepthCopy = Literal["shift", "again"]
Raising = Literal["crate", "corners"]
Balls = Literal["ovals", "short"]
Strategy = Literal["crate-and-carve", "faces-first", "centre-lines-first"]
Order = Literal["by-feature", "batched"]
Firming = Literal["soon", "end"]
Lettering = Literal["by-hand", "leave"]

VIEWS = "views"
"""What orthographic views are called where a kind of pictorial is called by its name."""


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
    as soon as they are certain or all at the end. `lettering` says whether title block and captions
    are lettered by hand; None: where the sheet has dimensions. `balls` are drawn round their three
    ovals, or the short way, as a circle alone. `outfit` is that of whoever draws; it is put in
    when something is asked, and stands in no job file.
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
    lettering: Lettering | None = None
    balls: Balls = "ovals"
    outfit: Outfit = field(default_factory=Outfit)

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
class LineSchool:
    """Which lines are drawn, and how heavy."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    hidden: Hidden = "omit"
    outline: Outline = "one-weight"
    centre_lines: bool = True


PLAIN_LINES = LineSchool()
VIEW_LINES = LineSchool(hidden="dashed")
"""How pictorials are drawn where nothing is said, and how orthographic views are."""


@dataclass(frozen=True)
class Pictorial:
    """A pictorial: its kind and the near corner."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    kind: str = "isometric"
    corner: str = "front-right"
    type: Literal["pictorial"] = "pictorial"


@dataclass(frozen=True)
class Orthographic:
    """Orthographic views: three or six of them, None as many as the job shows."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    views: ViewSet | None = None
    type: Literal["orthographic"] = "orthographic"


@dataclass(frozen=True)
class Detail:
    """A round piece of a drawing shown larger beside it: its letter, its middle on the drawing and
    its radius, mm at 1:1, its own scale, and where a hand has put it, as `Figure.at`.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    letter: str
    middle: tuple[float, float]
    radius: float
    scale: float = 2.0
    at: tuple[float, float] | None = None


@dataclass(frozen=True)
class Section:
    """A section among orthographic views: its letter, and where it is cut (`part/cutting.py`)."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    letter: str
    cut: str


@dataclass(frozen=True)
class Figure:
    """What is drawn: its id, the id of its subject, how that is seen, and with which lines.

    The subject is a part, or an arrangement, which is drawn together or `apart`. `by_hand` is how
    the hand goes about it. `scale` is paper over true size, None that of the sheet. `numbers` says
    whether its parts are numbered and listed; None: where they are drawn apart. `at` is where a
    hand has put the lower left corner of its drawing, mm from the paper's own; None leaves it in
    its row. `details` are shown larger beside it. `cut` says where a pictorial is cut open
    (`part/cutting.py`), nothing where it is whole; `sections` stand among its views.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    id: str
    subject: str
    view: Pictorial | Orthographic = field(default=Pictorial(), metadata={"discriminator": "type"})
    lines: LineSchool = PLAIN_LINES
    by_hand: HandWays = HandWays()
    scale: float | None = None
    apart: bool = False
    numbers: bool | None = None
    at: tuple[float, float] | None = None
    details: tuple[Detail, ...] = ()
    cut: str = ""
    sections: tuple[Section, ...] = ()

    @property
    def is_numbered(self) -> bool:
        """Whether the parts of its arrangement are numbered and listed."""
        return self.is_pictorial and (self.apart if self.numbers is None else self.numbers)

    @property
    def is_pictorial(self) -> bool:
        """Whether it is a pictorial, which the hand is led through."""
        return isinstance(self.view, Pictorial)

    @property
    def pictorial(self) -> Pictorial:
        """How the part is seen in a picture; beside views that is the plain isometric."""
        return self.view if isinstance(self.view, Pictorial) else Pictorial()

    @property
    def kind(self) -> str:
        """The kind of its picture."""
        return self.pictorial.kind

    @property
    def corner(self) -> str:
        """The near corner of its picture."""
        return self.pictorial.corner

    @property
    def title(self) -> str:
        """What it is, in a word or two: its kind, or views."""
        return self.view.kind if isinstance(self.view, Pictorial) else VIEWS

    def seen(self, kind: str, corner: str) -> Figure:
        """Return the figure as a pictorial of a kind, from a near corner."""
        return replace(self, view=Pictorial(kind, corner))


def read_sections(texts: Sequence[str]) -> tuple[Section, ...]:
    """Return sections as they are written: `A=full:depth=22.5`. Raises BadInput."""
    made: list[Section] = []
    for text in texts:
        letter, equals, cut = text.partition("=")
        letter = letter.strip().upper()
        if not (equals and letter.isalpha() and len(letter) == 1):
            raise BadInput(tr("“{text}”: write it like A=full:depth=22.5", text=text))
        if any(one.letter == letter for one in made):
            raise BadInput(tr("there are two sections {letter}", letter=letter))
        made.append(Section(letter, cut.strip()))
    return tuple(made)


def written_sections(sections: Sequence[Section]) -> tuple[str, ...]:
    """Return sections as `read_sections` reads them."""
    return tuple(f"{one.letter}={one.cut}" for one in sections)


def detail_id(figure_id: str, letter: str) -> str:
    """Return the id by which the drawing of a detail stands on its sheet."""
    return f"{figure_id} {letter}"


def view_named(name: str, corner: str = "front-right") -> Pictorial | Orthographic:
    """Return how something is seen: `views`, or a kind of pictorial."""
    return Orthographic() if name == VIEWS else Pictorial(name, corner)
