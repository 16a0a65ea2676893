"""The crate and its six faces.

Coordinates: x = length, to the right along the front; y = depth, going back; z = height, up.
The crate stands with its front-left-bottom corner at the origin.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import ClassVar

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3
from holoptic.units import Length

X, Y, Z = 0, 1, 2
AXIS_NAMES = (tr("length"), tr("depth"), tr("height"))
AXIS_LETTERS = ("L", "D", "H")


class Face(Enum):
    """A face of the crate, with the two axes a drawing on it uses.

    Distances on a face are always counted from the crate's left, front and bottom, whichever
    side the face is looked at from; depth is counted from the face inward.
    """

    FRONT = "front", Y, False
    REAR = "rear", Y, True
    LEFT = "left", X, False
    RIGHT = "right", X, True
    TOP = "top", Z, True
    BOTTOM = "bottom", Z, False

    normal_axis: int
    """The axis that the face is square to."""
    is_far: bool
    """Whether the face is at the far end of its normal axis (rear, right, top)."""
    axes: tuple[int, int]
    """The axes (u, v) of a drawing on the face."""

    def __new__(cls, value: str, normal_axis: int, is_far: bool) -> Face:
        """Make a member whose value is its name in files."""
        face = object.__new__(cls)
        face._value_ = value
        face.normal_axis = normal_axis
        face.is_far = is_far
        first, second = (axis for axis in (X, Y, Z) if axis != normal_axis)
        face.axes = first, second
        return face

    @property
    def title(self) -> str:
        """What a reader calls it."""
        return tr(self.value)

    @property
    def edge_names(self) -> tuple[tuple[str, str], tuple[str, str]]:
        """Names of the edges that u and v are counted from: ((u near, u far), (v near, v far))."""
        names = (
            (tr("left"), tr("right")), (tr("front"), tr("rear")), (tr("bottom"), tr("top")),
        )  # fmt: skip
        u, v = self.axes
        return names[u], names[v]


@dataclass(frozen=True)
class Crate:
    """The bounding crate: overall length, depth and height."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    length: Length
    depth: Length
    height: Length

    @property
    def sizes(self) -> Vec3:
        """(length, depth, height) in mm."""
        return self.length.mm, self.depth.mm, self.height.mm

    @property
    def names(self) -> dict[str, float]:
        """The lengths that sums may use by name."""
        return dict(zip(AXIS_LETTERS, self.sizes, strict=True))

    def face_size(self, face: Face) -> tuple[float, float]:
        """Width and height in mm of a face, along its u and v."""
        u, v = face.axes
        return self.sizes[u], self.sizes[v]

    def thickness(self, face: Face) -> float:
        """How far it is through the crate from a face, mm."""
        return self.sizes[face.normal_axis]

    def place(self, face: Face, u: float, v: float, w: float) -> Vec3:
        """Return the point at (u, v) on a face and w inward from it, in crate coordinates, mm."""
        point = [0.0, 0.0, 0.0]
        point[face.axes[0]] = u
        point[face.axes[1]] = v
        point[face.normal_axis] = self.thickness(face) - w if face.is_far else w
        return point[0], point[1], point[2]

    def on_face(self, face: Face, point: Vec3) -> tuple[float, float, float]:
        """Return (u, v, w) of a point: the inverse of `place`."""
        w = point[face.normal_axis]
        if face.is_far:
            w = self.thickness(face) - w
        return point[face.axes[0]], point[face.axes[1]], w
