"""Moves of the hand, as data."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import count
from typing import TYPE_CHECKING, Literal

from holoptic.catalogue import Saying, english, mark
from holoptic.curves.vectors import Vec2, Vec3
from holoptic.job import Firming, Order, Strategy
from holoptic.plan.letter_widths import width_of
from holoptic.units import Unit
from holoptic.units.spoken import said

if TYPE_CHECKING:  # what finishes a drawing is made of the letters here
    from holoptic.plan.finish import Finish

Verb = Literal[
    "lay", "set off", "swing", "plot", "draw", "parallel", "square", "meet", "join",
    "circle", "arc", "same arc", "trammel", "curve", "freehand", "touch", "nearest",
    "firm in", "check", "go over", "head", "guides", "letter", "shade",
]  # fmt: skip

BORDER_CORNER = "lower left border corner"
BORDER_LINE = "lower border"
"""What is on a sheet with a printed border before the first move."""

PAPER_CORNER, LOWER_EDGE, LEFT_EDGE = "lower left paper corner", "lower edge", "left edge"
"""What a blank sheet has once it lies on the board."""

BORDER_MARK = "border mark"
"""Where the start point's upright stands on the lower border."""

FIGURE_MARK, FIGURE_UPRIGHT, FIGURE_BASE = (
    mark("figure mark {count}"), mark("figure upright {count}"), mark("figure base {count}"),
)  # fmt: skip
"""Begins the names of the marks on the lower border where auxiliary figures stand."""

FRAME = "frame "
"""Begins the names of the strokes of border and title block."""

OVER = "over "
"""Begins the names of the strokes over the light lines of numbers and list."""


def bears_letter(name: str) -> bool:
    """Say whether a point bears a letter on the paper."""
    return name[:1].isupper() and (len(name) == 1 or name[1:].isdigit())


HEAVY_LINES = "heavy lines"
"""The phase in which outlines are made heavy, for those who draw thick and thin."""

HIDDEN_LINES, CENTRE_LINES = "hidden lines", "centre lines"
"""Phases of views in which lines are gone over thinly, dashed or as chains."""

CUT_PLANE, CUT_FACE = "cutting plane", "cut face: "
"""The phase in which the plane of a cut is laid, and what those begin with that draw what it meets.
"""

_CARVING = ("carve: ", "part: ", CUT_FACE)


def feature_of(phase: str) -> str | None:
    """Return the feature, or the part of a whole, that a phase works on; None for no single one."""
    for kind in _CARVING:
        if phase.startswith(kind):
            return phase[len(kind) :]
    return None


CUTTING_LINES = "cutting lines"
HATCHING, DIMENSIONS, LETTERING, SHADING = "hatching", "dimensions", "lettering", "shading"
"""The phases of the last moves of a finished sheet."""


@dataclass(frozen=True)
class Letters:
    """A line of lettering: its place on its lower guide line, mm from the lower left border corner,
    the height of its capitals, mm, and where it begins from that place.

    It runs along a direction of `along_deg`; its uprights lean `lean_deg` forward from the square
    to that.
    """

    text: str
    at: Vec2
    height: float
    anchor: Literal["start", "middle", "end"] = "start"
    along_deg: float = 0.0
    lean_deg: float = 0.0

    @property
    def width(self) -> float:
        """How wide it is, mm."""
        return width_of(self.text, self.height)


@dataclass(frozen=True)
class BlankSheet:
    """A sheet without a printed border, sizes in mm: its name and paper, margins, title block."""

    name: str
    width: float
    height: float
    left: float
    low: float
    right: float
    high: float
    title_width: float
    title_height: float

    @property
    def inner(self) -> tuple[float, float]:
        """Width and height inside the border, mm."""
        return self.width - self.left - self.right, self.height - self.low - self.high


@dataclass(frozen=True)
class PartNumber:
    """The number of a part on its sheet: the middle of its circle, and the point of the part that
    its leader begins at, mm from the lower left border corner; the circle's radius, mm.
    """

    number: int
    part: str
    middle: Vec2
    spot: Vec2
    radius: float

    @property
    def edge(self) -> Vec2:
        """Where the leader ends at the circle."""
        (x, y), (u, v) = self.middle, self.spot
        share = self.radius / math.dist(self.middle, self.spot)
        return x + share * (u - x), y + share * (v - y)


@dataclass(frozen=True)
class PartsTable:
    """The ruling of a parts list, mm from the lower left border corner: uprights from the left to
    the border, level lines from the title block up; and what stands in its rows, one between two
    level lines each.
    """

    columns: tuple[float, ...]
    levels: tuple[float, ...]
    entries: tuple[str, ...]


@dataclass(frozen=True)
class Setup:
    """How the picture stands on its sheet.

    `start` is the place of the start point in mm from the lower left border corner; `scale` is
    paper over true size (0.5 for half size). `rooms` are the free places beside the picture, the
    largest first, as (xmin, ymin, xmax, ymax) in mm from the same corner; `width` is how far the
    paper reaches to the right of it. `blank` is the sheet whose border is to be drawn first, None
    where it is printed. `scale_text` is the scale as the title block states it. `numbers` and
    `table` are what an arrangement gets last.
    """

    start: Vec2
    scale: float = 1.0
    rooms: tuple[tuple[float, float, float, float], ...] = ()
    width: float = 400.0
    blank: BlankSheet | None = None
    scale_text: str = ""
    numbers: tuple[PartNumber, ...] = ()
    table: PartsTable | None = None
    finish: Finish | None = None

    def on_sheet(self, path: Iterable[Vec2], start_on_picture: Vec2) -> tuple[Vec2, ...]:
        """Return picture points (mm at 1:1) where they lie on the sheet (mm from the border)."""
        return tuple(
            (
                self.start[0] + self.scale * (x - start_on_picture[0]),
                self.start[1] + self.scale * (y - start_on_picture[1]),
            )
            for x, y in path
        )


@dataclass(frozen=True)
class Lift:
    """Where a distance is lifted: a view, the two ends as points of the part, and the sum.

    One that stands in no view is worked out; `view` then has its plane alone.
    """

    view: str
    start: Vec3
    end: Vec3
    true_mm: float
    words: str
    is_worked_out: bool = False


@dataclass(frozen=True)
class Move:
    """One move. Lines are straight; a curve is whatever else has been drawn.

    lay: a blank sheet on the board; makes its corner, lower and left edge. `table` has its
        lower left and upper right corner, from where the border's lower left corner is to be.
    set off: from the point uses[0] along the line uses[1] in direction `angle_deg`, the
        distance `setting_mm` on paper; makes a point. With two more points in uses the distance
        is carried: it is taken between them with the dividers.
    swing: as set off, but to both sides: makes the point in direction `angle_deg`, then the
        other.
    plot: from the point uses[0] the offsets of `table` along the lines uses[1:], one row for each
        point made.
    draw: a line through the point uses[0] at `angle_deg`; makes the line, then the points where
        it meets the lines uses[1:].
    parallel: a line through the point uses[0] parallel to the line uses[1]; makes the line, then
        the points where it meets the lines uses[2:].
    square: a line through the point uses[0] square to the line uses[1]; makes the line, then
        the points where it meets the lines uses[2:].
    meet: makes the point where the lines or curves uses[0] and uses[1] cross; of several
        crossings the one nearest to the point uses[2].
    join: the straight line through the points uses[0] and uses[1], with the straightedge or with
        a square that has its angle, `angle_deg` then; makes the line, then the points where it
        meets the lines uses[2:].
    circle: about the point uses[0] with radius `setting_mm`; makes the curve.
    arc: about the point uses[0] from uses[1] counter-clockwise to uses[2]; the compass is set to
        `setting_mm`; makes the curve.
    same arc: the arc uses[1] again about the point uses[0], the compass left as it was.
    trammel: the ellipse with centre uses[0] and the ends uses[1], uses[2] of its half axes.
    curve: a smooth curve through the points uses; one that returns to its first point is closed.
    freehand: from uses[0] to uses[2], flat against the sides of the corner uses[1].
    touch: a straightedge laid on two curves, on a point and a curve, or along the line uses[0]
        against a curve; on the side of the curves that lies toward `angle_deg`. Makes the line,
        then the touching points.
    nearest: makes the point of the curve uses[0] nearest to the point uses[1].
    firm in: goes over the line uses[2] from the point uses[0] to uses[1], or over the curves
        uses[2:] counter-clockwise, open ones as they were drawn; makes a stroke.
    check: the rule must read `setting_mm`, give or take `tolerance_mm`, between the points
        uses[0] and uses[1].
    go over: goes thinly over the line uses[2]: in direction `angle_deg`, from so far on from the
        point uses[0] as `table` says first, to so far on from uses[1] as it says then (mm; less
        than nothing: back), both by eye; makes a stroke.
    head: a head by hand at the point uses[0], its body in direction `angle_deg`, along the line
        uses[1] where there is one.
    guides: light lines along the line uses[0], each so far to the left of it as `table` says (mm;
        less than nothing: to its right), as it runs in direction `angle_deg`; they are drawn
        about the point uses[1] of the line.
    letter: letters `letters` by hand, each upon one of the guide lines uses.
    shade: thin lines by eye, from end to end as `table` says (x, y, x, y, …), along the line
        uses[0] where there is one; makes the strokes.

    `template` is the sentence with its lengths marked (`units.spoken`), `rest` the part of it
    after the setting of dividers or compass, as that may change when settings are shared. `kept`
    says that dividers or compass are still set as the move needs them. `met` says a crossing at the
    end of the move that draws the first of its lines, or the second.
    """

    n: int
    phase: str
    verb: Verb
    instrument: str
    uses: tuple[str, ...]
    makes: tuple[str, ...]
    template: Saying
    setting_mm: float | None = None
    angle_deg: float | None = None
    lift: Lift | None = None
    table: tuple[tuple[float, ...], ...] = ()
    kept: bool = False
    tolerance_mm: float | None = None
    rest: Saying = ""
    letters: tuple[Letters, ...] = ()
    met: tuple[Saying, ...] = ()

    @property
    def text(self) -> str:
        """The sentence in mm."""
        return said(str(self.template))

    @property
    def english(self) -> str:
        """The sentence in mm as it was written, whatever language is shown."""
        return said(english(self.template), plainly=True)

    def said(self, unit: Unit) -> str:
        """Return the sentence in a unit."""
        return said(str(self.template), unit)


@dataclass(frozen=True)
class Way:
    """How a plan goes about the work, and why so; `is_own` says that the user chose it.

    `strategy` is None for views, which are not carved.
    """

    strategy: Strategy | None
    order: Order
    firming: Firming
    why: str
    is_own: bool


@dataclass(frozen=True)
class Plan:
    """The moves in order, where each named point lies on the part, and what stays as it is.

    `true_gap_mm` is how far the drawing as constructed lies from the true picture, on paper, and
    `true_gap_at` names the feature where it does. `effort` is what the moves cost the hand,
    `saving` what batching them spares, None where they stand by feature. `budget` is the error
    to expect.
    """

    setup: Setup
    moves: tuple[Move, ...]
    spots: dict[str, Vec3]
    true_gap_mm: float = 0.0
    true_gap_at: str = ""
    way: Way | None = None
    effort: Effort | None = None
    saving: Saving | None = None
    budget: Budget | None = None

    @property
    def is_of_views(self) -> bool:
        """Whether it draws orthographic views."""
        return self.way is not None and self.way.strategy is None

    @property
    def phases(self) -> list[tuple[str, int, int]]:
        """(name, first move, one past the last) of each phase, as indices into `moves`."""
        bands: list[tuple[str, int, int]] = []
        for index, move in enumerate(self.moves):
            if bands and bands[-1][0] == move.phase:
                bands[-1] = (move.phase, bands[-1][1], index + 1)
            else:
                bands.append((move.phase, index, index + 1))
        return bands


@dataclass(frozen=True)
class Effort:
    """What a row of moves costs: settings of dividers, compass and rule, turns of the square,
    instruments taken in hand, and all of it with the drawing in seconds.
    """

    settings: int
    squares: int
    pick_ups: int
    seconds: float

    @property
    def changes(self) -> int:
        """Settings, squares and instruments together."""
        return self.settings + self.squares + self.pick_ups


@dataclass(frozen=True)
class Saving:
    """The same moves, control distances aside: as first written, as batched, and a bound on the
    effort that no order of them can beat.
    """

    written: Effort
    batched: Effort
    least: Effort


@dataclass(frozen=True)
class Budget:
    """The errors to expect, mm on paper, from `sheets` sheets drawn by a virtual hand.

    `points` has the root mean square error of each lettered point of a stroke, seen from the
    start point; `typical` is that of all of them, `worst` the largest with its point. `closure`
    is how far the back corner's check is likely to be off (one standard deviation), None without
    such a check.
    """

    sheets: int
    points: dict[str, float]
    typical: float
    worst: tuple[str, float]
    closure: float | None


def point_names() -> Iterator[str]:
    """Yield names for points: A to Z without I and O, then A1 to Z1 and so on."""
    letters = "ABCDEFGHJKLMNPQRSTUVWXYZ"
    yield from letters
    for turn in count(1):
        yield from (f"{letter}{turn}" for letter in letters)
