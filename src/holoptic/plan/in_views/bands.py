"""Views on a sheet: each the crossing of a column and a row, which neighbours share."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace

from holoptic.curves.vectors import Vec2, Vec3
from holoptic.pictorial import Picture
from holoptic.plan.moves import Setup
from holoptic.tolerance import FINE
from holoptic.views import PlacedView


@dataclass(frozen=True)
class Band:
    """A column or a row of views: along it runs one axis of the part.

    A place p of the sheet (mm from the lower left border corner, to the right in a column, up in a
    row) and a value v along the axis (mm) belong together as p = origin + per_mm · v.
    """

    axis: int
    is_column: bool
    origin: float
    per_mm: float
    views: tuple[str, ...]

    def place(self, value: float) -> float:
        """Return where a value along the axis lies on the sheet, mm."""
        return self.origin + self.per_mm * value

    def value(self, place: float) -> float:
        """Return the value along the axis that lies at a place, mm."""
        return (place - self.origin) / self.per_mm

    def bounds(self, low: Vec3, high: Vec3) -> tuple[float, float]:
        """Return where a crate lies in the band: the lower place and the higher one, mm."""
        ends = self.place(low[self.axis]), self.place(high[self.axis])
        return min(ends), max(ends)

    def is_across_from(self, other: Band) -> bool:
        """Say whether a place can be brought from one to the other over a 45° line."""
        return self.axis == other.axis and self.is_column != other.is_column


@dataclass(frozen=True)
class ViewOnSheet:
    """A view where it stands on its sheet; `origin` is where its own origin lies, mm."""

    name: str
    picture: Picture
    column: Band
    row: Band
    origin: Vec2
    scale: float

    def on_sheet(self, place: Vec2) -> Vec2:
        """Return where a place of the view (mm at 1:1) lies on the sheet, mm."""
        x, y = self.origin
        return x + self.scale * place[0], y + self.scale * place[1]

    def spot(self, place: Vec2, low: Vec3) -> Vec3:
        """Return the spot of the part at a place of the sheet, its depth that of `low`."""
        spot = list(low)
        spot[self.column.axis] = self.column.value(place[0])
        spot[self.row.axis] = self.row.value(place[1])
        return spot[0], spot[1], spot[2]


def with_whole_gaps(
    placed: Sequence[PlacedView], low: Vec3, high: Vec3, scale: float
) -> tuple[PlacedView, ...]:
    """Return views moved a little, so that their crates stand whole millimetres apart on paper."""
    moved = list(placed)
    for index in (0, 1):
        axes = [next(a for a in range(3) if abs(v.picture.view.matrix[index][a]) > FINE)
                for v in placed]  # fmt: skip
        ends = []
        for view, axis in zip(placed, axes, strict=True):
            sign = view.picture.view.matrix[index][axis]
            both = sorted(view.origin[index] + sign * value for value in (low[axis], high[axis]))
            ends.append((both[0], both[1]))
        front = ends[next(k for k, view in enumerate(placed) if view.name == "front")]
        shifts = {front: 0.0}
        for way in (1, -1):
            at, shift = front[1 if way > 0 else 0], 0.0
            for pair in sorted(
                {e for e in ends if way * (e[0] - front[0]) > FINE}, reverse=way < 0
            ):
                near, far = pair if way > 0 else pair[::-1]
                gap = scale * abs(near - at)
                shift += way * (round(gap) - gap) / scale
                shifts[pair], at = shift, far
        for k, view in enumerate(moved):
            origin = list(view.origin)
            origin[index] += shifts[ends[k]]
            moved[k] = replace(view, origin=(origin[0], origin[1]))
    return tuple(moved)


def views_on_sheet(
    placed: Sequence[PlacedView], setup: Setup, start: Vec2
) -> tuple[ViewOnSheet, ...]:
    """Return views where they stand on their sheet; `start` is the start point in the layout."""
    ways: list[tuple[tuple[int, float, float], tuple[int, float, float]]] = []
    origins = [setup.on_sheet((view.origin,), start)[0] for view in placed]
    for view, origin in zip(placed, origins, strict=True):
        across, up = view.picture.view.matrix
        ways.append((_way(across, origin[0], setup.scale), _way(up, origin[1], setup.scale)))
    columns, rows = defaultdict(list), defaultdict(list)
    for view, (column, row) in zip(placed, ways, strict=True):
        columns[column].append(view.name)
        rows[row].append(view.name)
    return tuple(
        ViewOnSheet(
            view.name, view.picture,
            Band(column[0], True, column[1], column[2], tuple(columns[column])),
            Band(row[0], False, row[1], row[2], tuple(rows[row])), origin, setup.scale,
        )
        for view, origin, (column, row) in zip(placed, origins, ways, strict=True)
    )  # fmt: skip


def _way(along: Vec3, origin: float, scale: float) -> tuple[int, float, float]:
    """Return the axis that runs along a direction of the sheet, where its zero lies, its scale."""
    axis = next(axis for axis in range(3) if abs(along[axis]) > FINE)
    return axis, round(origin, 9), scale * along[axis]
