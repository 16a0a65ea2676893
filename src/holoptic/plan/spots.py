"""Places of the part on the drawing board: spots, the axis lines through them, and the crate."""

from __future__ import annotations

from dataclasses import dataclass

from holoptic.curves.vectors import Vec3

LineKey = tuple[int, float, float]
"""An axis line: its axis and the two other coordinates."""


def spot_of(point: Vec3) -> Vec3:
    """Return the point rounded so that equal places compare equal."""
    x, y, z = point
    return round(x, 6) + 0.0, round(y, 6) + 0.0, round(z, 6) + 0.0


@dataclass(frozen=True)
class CrateFrame:
    """The crate on the drawing board: its bounds, and the corner the work starts from."""

    low: Vec3
    high: Vec3
    near: tuple[int, int, int]

    def bound(self, axis: int, far: bool) -> float:
        """Return the coordinate of one end of the crate along an axis."""
        return self.high[axis] if far else self.low[axis]

    def start_corner(self) -> Vec3:
        """Return the end of the near upright edge that the three axes start from."""
        above = self.near[2] > 0
        return (
            self.bound(0, self.near[0] > 0),
            self.bound(1, self.near[1] > 0),
            self.bound(2, not above),
        )

    def is_bound(self, axis: int, value: float) -> bool:
        """Say whether a coordinate lies on the crate."""
        return value in (self.low[axis], self.high[axis])

    def inner_axes(self, spot: Vec3) -> list[int]:
        """Return the axes along which a spot lies between the crate's ends."""
        return [axis for axis in range(3) if not self.is_bound(axis, spot[axis])]

    def on_hidden_side(self, axis: int, far: bool) -> bool:
        """Say whether one end of the crate along an axis is turned away from the viewer."""
        return far != (self.near[axis] > 0)


def line_key(axis: int, spot: Vec3) -> LineKey:
    """Return the key of the axis line through a spot."""
    one, two = (spot[other] for other in range(3) if other != axis)
    return axis, one, two


def replace_axis(spot: Vec3, axis: int, value: float) -> Vec3:
    """Return the spot with one coordinate changed."""
    changed = list(spot)
    changed[axis] = value
    return changed[0], changed[1], changed[2]
