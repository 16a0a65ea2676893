"""Sizes in the views: which view shows each true, at which level it stands, and its line."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from holoptic.curves.vectors import Vec2, Vec3
from holoptic.part import Part
from holoptic.part.crate import AXIS_LETTERS
from holoptic.part.provenance import Given, operation_offsets
from holoptic.tolerance import COINCIDENT_MM
from holoptic.units import Unit, show
from holoptic.views.layout import PlacedView

_AXES = {"front": (0, 2), "rear": (0, 2), "top": (0, 1), "bottom": (0, 1), "right": (1, 2),
         "left": (1, 2)}  # fmt: skip
"""The axes that each view shows true: across and up."""
_MOST_LEVELS = 4
_FIRST, _STEP, _NAME = 1.15, 1.75, 1.6
"""Distances over the height of capitals: to the first size, to the next, for a view's name."""
_OVERALL_GAP_MM, _OVERALL_GAP = 7.0, 1.5
"""From the views to the overall sizes: at least so many mm, and so many capitals."""
_LONGEST = 14
"""Letters of a sum that is written as it was given; a longer one is written as its figure."""


@dataclass(frozen=True)
class SizeLine:
    """A size beside a view: the axis it lies along, its line in the layout (mm), what it says.

    One that `is_overall` is of the whole part, and stands outside all views.
    """

    axis: int
    start: Vec2
    end: Vec2
    words: str
    is_overall: bool = False

    @property
    def is_across(self) -> bool:
        """Whether it lies across the paper."""
        return self.start[1] == self.end[1]


@dataclass(frozen=True)
class Spacing:
    """What the lettering needs in the layout, mm: `letter` is the height of its capitals.

    `left` and `top` are how far the layout is seen.
    """

    letter: float
    left: float
    top: float

    @property
    def first(self) -> float:
        """From a view to the first size beside it."""
        return _FIRST * self.letter

    @property
    def step(self) -> float:
        """From one size to the next."""
        return _STEP * self.letter

    @property
    def name(self) -> float:
        """For the name over a view."""
        return _NAME * self.letter


def overall_gap(letter: float) -> float:
    """Return how far outside the views the overall sizes stand, mm, with capitals so high."""
    return max(_OVERALL_GAP_MM, _OVERALL_GAP * letter)


def overall_sizes(
    placed: Sequence[PlacedView], low: Vec3, high: Vec3, gap: float, unit: Unit
) -> list[SizeLine]:
    """Return length under the lower of front and top, depth under the side, height at the right.

    None among six views, where there is no room for them.
    """
    by_name = {view.name: view for view in placed}
    if len(by_name) > 3 or not {"front", "top", "right"} <= set(by_name):
        return []
    front, top, right = (by_name[name].extent for name in ("front", "top", "right"))
    lower = min(front, top, key=lambda box: box[1])
    outer = max(front, right, key=lambda box: box[2])
    lines = (
        ((lower[0], lower[1] - gap), (lower[2], lower[1] - gap)),
        ((right[0], right[1] - gap), (right[2], right[1] - gap)),
        ((outer[2] + gap, outer[1]), (outer[2] + gap, outer[3])),
    )
    return [
        SizeLine(
            axis,
            *line,
            f"{AXIS_LETTERS[axis]} {show(high[axis] - low[axis], unit)}",
            is_overall=True,
        )
        for axis, line in enumerate(lines)
    ]


def feature_sizes(
    part: Part, index: int, placed: Sequence[PlacedView], spacing: Spacing, unit: Unit
) -> Iterator[SizeLine]:
    """Yield the distances that an operation gives: along the length above a view, along depth and
    height at its left. What has no room is left out.
    """
    if index >= len(part.operations):
        return
    by_name = {view.name: view for view in placed}
    levels: dict[tuple[str, bool], int] = {}
    done: set[tuple[int, float]] = set()
    for given in operation_offsets(part, index):
        key = given.axis, round(given.at, 4)
        size = part.crate.sizes[given.axis]
        inside = COINCIDENT_MM < given.at < size - COINCIDENT_MM
        if given.derived or key in done or not inside:
            continue
        done.add(key)
        view = view_for(given.axis, part.operations[index].face.axes, by_name)
        if view is None:
            continue
        is_across = _AXES[view.name].index(given.axis) == 0
        level = levels[view.name, is_across] = levels.get((view.name, is_across), -1) + 1
        if level < min(_MOST_LEVELS, levels_that_fit(view, placed, is_across, spacing)):
            yield _line(view, given, size, level, spacing, unit)


def view_for(
    axis: int, face_axes: tuple[int, int], views: dict[str, PlacedView]
) -> PlacedView | None:
    """Return the view that shows a face true, if it shows the axis; else any that shows it."""
    true = [name for name in views if set(_AXES[name]) == set(face_axes)]
    usual = [name for name in ("front", "top", "right") if name in views]
    return next((views[name] for name in (*true, *usual) if axis in _AXES[name]), None)


def levels_that_fit(
    view: PlacedView, placed: Sequence[PlacedView], is_across: bool, spacing: Spacing
) -> int:
    """Return how many sizes have room above a view, or at its left, before the next one."""
    xmin, ymin, xmax, ymax = view.extent
    if is_across:
        nearest = min(
            (other.extent[1] for other in placed
             if other.extent[1] >= ymax and other.extent[0] < xmax and xmin < other.extent[2]),
            default=spacing.top)  # fmt: skip
        room = nearest - ymax - spacing.name
    else:
        nearest = max(
            (other.extent[2] for other in placed
             if other.extent[2] <= xmin and other.extent[1] < ymax and ymin < other.extent[3]),
            default=spacing.left)  # fmt: skip
        room = xmin - nearest
    return int((room - spacing.first) / spacing.step + 0.5)


def _line(
    view: PlacedView, given: Given, size: float, level: int, spacing: Spacing, unit: Unit
) -> SizeLine:
    """Return a size from the edge that it counts from."""
    begin = size if given.far else 0.0
    row = _AXES[view.name].index(given.axis)
    matrix = view.picture.view.matrix
    start, end = (matrix[row][given.axis] * at + view.origin[row] for at in (begin, given.at))
    xmin, _, _, ymax = view.extent
    off = spacing.first + spacing.step * level
    text = given.length.shown
    words = text if len(text) <= _LONGEST else show(given.length.mm, unit)
    if row == 0:
        up = ymax + off + spacing.name
        return SizeLine(given.axis, (start, up), (end, up), words)
    return SizeLine(given.axis, (xmin - off, start), (xmin - off, end), words)
