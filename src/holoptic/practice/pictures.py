"""Pictures and views of parts as figures of exercises, and as steps from dot to dot."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.part import Part
from holoptic.pictorial import Picture
from holoptic.practice.exercise import Dot, Figure, Grid, NotMade, Step, all_steps
from holoptic.practice.eye import Eye
from holoptic.practice.shapes import CELL_MM, Block
from holoptic.practice.sketching import step_inks
from holoptic.sheet.drawing import Ink

PITCH_MM = 5.0
"""A square of the grid as it is drawn."""
SCALE = PITCH_MM / CELL_MM
VIEWS = ("front", "top", "right")
_GAP = 2
"""Squares between views."""
_OFF = 0.02
"""So far off a dot (of its step) an end of a line may lie by reckoning."""
_SAME_VOLUME = 1.0


def sound_block(block: Block, eye: Eye) -> Part:
    """Return the part of a block that is one body, fills its crate, and needs each feature.

    Raises NotMade.
    """
    part = block.part
    facts = eye.facts(part)
    wide = zip(facts.low, facts.high, part.crate.sizes, strict=True)
    if facts.bodies != 1 or any(high - low < size - _SAME_VOLUME for low, high, size in wide):
        raise NotMade("it is not one body, or does not fill its crate")
    for number in range(len(block.operations)):
        rest = (*block.operations[:number], *block.operations[number + 1 :])
        without = eye.facts(Block(block.size, rest).part)
        if abs(without.volume - facts.volume) < _SAME_VOLUME:
            raise NotMade("a feature changes nothing")
    return part


def picture_figure(picture: Picture, scale: float = SCALE, caption: str = "") -> Figure:
    """Return the visible lines of a picture as a figure."""
    return Figure(_inks(picture, ("visible",), scale), caption=caption)


def view_figure(picture: Picture, scale: float = SCALE, caption: str = "") -> Figure:
    """Return the visible and hidden lines of a view as a figure."""
    return Figure(_inks(picture, ("visible", "hidden"), scale), caption=caption)


def _inks(picture: Picture, roles: Sequence[str], scale: float) -> tuple[Ink, ...]:
    return tuple(
        Ink(stroke.role, tuple((scale * x, scale * y) for x, y in stroke.path))
        for stroke in picture.strokes if stroke.role in roles
    )  # fmt: skip


_TURNED = (
    ("front-right", tr("the part from the front right")),
    ("front-left", tr("from the front left")),
    ("rear-right", tr("from the rear right")),
    ("front-right-below", tr("from below")),
)


def turned_figures(part: Part, eye: Eye) -> tuple[Figure, ...]:
    """Return a part from several sides, for whoever wants to see why."""
    return tuple(
        picture_figure(eye.picture(part, "isometric", corner), caption=caption)
        for corner, caption in _TURNED
    )


def lines_of(picture: Picture, role: str) -> set[tuple[Vec2, ...]]:
    """Return the lines of a role, rounded so that equal pictures have equal ones."""
    found = set()
    for stroke in picture.strokes:
        if stroke.role == role:
            path = tuple((round(x, 1) + 0.0, round(y, 1) + 0.0) for x, y in stroke.path)
            found.add(min(path, path[::-1]))
    return found


def look_alike(one: Picture, other: Picture) -> bool:
    """Say whether two pictures show the same lines in sight."""
    return lines_of(one, "visible") == lines_of(other, "visible")


# --- from dot to dot ------------------------------------------------------------------------


def square_steps(picture: Picture, role: str) -> frozenset[Step]:
    """Return the lines of a view as steps on the square grid of its part. Raises NotMade where one
    is curved or ends between dots.
    """
    return _steps(picture, role, (CELL_MM, CELL_MM))


def grid_steps(picture: Picture, role: str, is_isometric: bool) -> frozenset[Step]:
    """Return the lines of a pictorial as steps on an isometric grid, or on one of half squares.

    Raises NotMade where one is curved or ends between dots.
    """
    across = CELL_MM * 0.75**0.5 if is_isometric else CELL_MM / 2
    return _steps(picture, role, (across, CELL_MM / 2))


def _steps(picture: Picture, role: str, step: Vec2) -> frozenset[Step]:
    lines: list[tuple[Dot, Dot]] = []
    for stroke in picture.strokes:
        if stroke.role != role:
            continue
        if not stroke.is_straight:
            raise NotMade("a line is curved")
        start, end = (_dot(place, step) for place in (stroke.path[0], stroke.path[-1]))
        lines.append((start, end))
    return all_steps(lines)


def _dot(place: Vec2, step: Vec2) -> Dot:
    x, y = place[0] / step[0], place[1] / step[1]
    column, row = round(x), round(y)
    if abs(x - column) > _OFF or abs(y - row) > _OFF:
        raise NotMade("a line ends between dots")
    return column, row


def dot_of(place: Vec2) -> Dot:
    """Return the dot of the square grid that a place of a view (mm) lies on. Raises NotMade."""
    return _dot(place, (CELL_MM, CELL_MM))


@dataclass(frozen=True)
class SquareView:
    """A view from dot to dot: its name, its size in squares, its lines, and where it stands among
    the others, in squares.
    """

    name: str
    size: tuple[int, int]
    visible: frozenset[Step]
    hidden: frozenset[Step]
    at: Dot

    def placed(self, steps: Iterable[Step]) -> frozenset[Step]:
        """Return steps of the view as they lie among the others."""
        x, y = self.at
        return frozenset(((a + x, b + y), (c + x, d + y)) for (a, b), (c, d) in steps)


def square_views(block: Block, eye: Eye, names: Sequence[str] = VIEWS) -> dict[str, SquareView]:
    """Return views of a block in third angle, from dot to dot. Raises NotMade, HolopticError."""
    length, depth, height = block.size
    sizes = {"front": (length, height), "top": (length, depth), "right": (depth, height)}
    places = {"front": (0, 0), "top": (0, height + _GAP), "right": (length + _GAP, 0)}
    found = {}
    for name, picture in eye.views(block.part, names).items():
        origin = _low(picture)
        visible, hidden = (
            frozenset(_less(step, origin) for step in square_steps(picture, role))
            for role in ("visible", "hidden")
        )
        found[name] = SquareView(name, sizes[name], visible, hidden - visible, places[name])
    return found


def _low(picture: Picture) -> Dot:
    left, low, _, _ = picture.extent
    return _dot((left, low), (CELL_MM, CELL_MM))


def _less(step: Step, by: Dot) -> Step:
    (a, b), (c, d) = step
    return (a - by[0], b - by[1]), (c - by[0], d - by[1])


def view_grid(views: Iterable[SquareView]) -> Grid:
    """Return the grid that views stand on."""
    some = list(views)
    columns = max(view.at[0] + view.size[0] for view in some)
    rows = max(view.at[1] + view.size[1] for view in some)
    return Grid("square", (0.0, 0.0), PITCH_MM, columns, rows)


def square_figure(views: Iterable[SquareView], caption: str = "") -> Figure:
    """Return views on the dots that they are drawn on."""
    some = list(views)
    grid = view_grid(some)
    inks = [ink for view in some for ink in step_inks(view.placed(view.visible), grid)]
    inks += [ink for view in some for ink in step_inks(view.placed(view.hidden), grid, "hidden")]
    return Figure(tuple(inks), dots=tuple(map(grid.at, grid.dots())), caption=caption)
