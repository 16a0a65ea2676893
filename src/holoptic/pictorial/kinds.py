"""Every kind of pictorial in one place: its 2×3 matrix, its axes and its viewing direction.

A kind is a function from a near corner to a matrix M and the direction d toward the viewer,
with M · d = 0. To add a kind, add its function to `_FAMILIES`.
Source: ISO 5456-3 for the axonometric and oblique representations.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import Enum

from holoptic.catalogue import filled, tr
from holoptic.curves.vectors import Matrix23, Vec3, cross
from holoptic.errors import BadInput

_COS30 = math.sqrt(3) / 2
_SIN30 = 0.5
ISOMETRIC_SCALE = math.sqrt(2 / 3)
"""The axis scale of isometric projection."""


class NearCorner(Enum):
    """The corner of the crate nearest the viewer."""

    FRONT_RIGHT = "front-right"
    FRONT_LEFT = "front-left"
    REAR_RIGHT = "rear-right"
    REAR_LEFT = "rear-left"
    FRONT_RIGHT_BELOW = "front-right-below"
    FRONT_LEFT_BELOW = "front-left-below"
    REAR_RIGHT_BELOW = "rear-right-below"
    REAR_LEFT_BELOW = "rear-left-below"

    @property
    def title(self) -> str:
        """What a reader calls it."""
        return _CORNER_TITLES[self.value]

    @property
    def signs(self) -> tuple[int, int, int]:
        """+1 where the corner lies at the far end of the axis (right, rear, top), else −1."""
        return (
            1 if "right" in self.value else -1,
            -1 if "front" in self.value else 1,
            -1 if "below" in self.value else 1,
        )


_CORNER_TITLES = {
    "front-right": tr("front right"), "front-left": tr("front left"),
    "rear-right": tr("rear right"), "rear-left": tr("rear left"),
    "front-right-below": tr("front right below"), "front-left-below": tr("front left below"),
    "rear-right-below": tr("rear right below"), "rear-left-below": tr("rear left below"),
}  # fmt: skip


@dataclass(frozen=True)
class View:
    """A parallel projection with its name: how 3D (mm) goes to paper (mm, X right, Y up)."""

    kind: str
    title: str
    corner: NearCorner | None
    matrix: Matrix23
    toward_viewer: Vec3

    @property
    def short_title(self) -> str:
        """Its title where there is little room."""
        return tr("isometric") if self.kind == "isometric" else self.title

    def axis_scale(self, axis: int) -> float:
        """Return how long a unit along an axis becomes on paper."""
        return math.hypot(self.matrix[0][axis], self.matrix[1][axis])

    def axis_angle(self, axis: int) -> float:
        """Return the direction of an axis on paper, degrees from the right, in (−180, 180]."""
        angle = math.degrees(math.atan2(self.matrix[1][axis], self.matrix[0][axis]))
        return round(angle, 9) + 0.0


Projection = tuple[Matrix23, Vec3]


def view_of(kind: str, corner: NearCorner | str = NearCorner.FRONT_RIGHT) -> View:
    """Return the view of a kind such as `isometric` or `oblique:45:0.5` at a near corner.

    Raises BadInput for an unknown kind or corner, or for an impossible choice.
    """
    near = _corner(corner)
    name, *numbers = kind.split(":")
    if name not in _FAMILIES:
        raise BadInput(
            tr(
                "unknown kind “{kind}” (known: {known_kinds})",
                kind=kind,
                known_kinds=", ".join(_known_kinds()),
            )
        )
    family = _FAMILIES[name]
    values = [_number(kind, text) for text in numbers]
    if len(values) != len(family.parameters) and (values or not family.has_usual):
        raise BadInput(tr("“{kind}” should read {pattern}", kind=kind, pattern=family.pattern))
    matrix, toward_viewer = family.project(near, *values)
    title = filled(family.title_with, *values) if values else family.title
    return View(kind, title, near, matrix, toward_viewer)


def kind_families() -> tuple[Family, ...]:
    """Return every family of kinds, in the order in which they are offered."""
    return tuple(_FAMILIES.values())


def _isometric(corner: NearCorner, scale: float = 1.0) -> Projection:
    right, rear, above = corner.signs
    across, up = scale * _COS30, scale * _SIN30
    matrix = (
        (-rear * across, right * across, 0.0),
        (-right * above * up, -rear * above * up, scale),
    )
    return matrix, (float(right), float(rear), float(above))


def _isometric_projection(corner: NearCorner) -> Projection:
    return _isometric(corner, ISOMETRIC_SCALE)


def _oblique(corner: NearCorner, angle: float, ratio: float) -> Projection:
    if not 0 < angle < 90:
        raise BadInput(
            tr(
                "a receding angle of {angle:g}° is impossible: choose between 0° and 90°",
                angle=angle,
            )
        )
    if not 0 < ratio <= 2:
        raise BadInput(
            tr("a depth ratio of {ratio:g} is impossible: choose above 0 and up to 2", ratio=ratio)
        )
    right, rear, above = corner.signs
    across = ratio * (_COS45 if angle == 45 else math.cos(math.radians(angle)))
    up = ratio * (_COS45 if angle == 45 else math.sin(math.radians(angle)))
    matrix = (
        (float(-rear), right * across, 0.0),
        (0.0, -rear * above * up, 1.0),
    )
    return matrix, (right * across, float(rear), above * up)


_COS45 = math.sqrt(0.5)


def _cavalier(corner: NearCorner) -> Projection:
    return _oblique(corner, 45, 1)


def _cabinet(corner: NearCorner) -> Projection:
    return _oblique(corner, 45, 0.5)


def _dimetric(corner: NearCorner) -> Projection:
    """The engineering dimetric as it is drawn: length at 7°, depth at 42°, scales 1 : ½ : 1.

    These are the rounded values of ISO 5456-3 (7°10' and 41°25' would be square to the paper).
    """
    alpha, beta = math.radians(7), math.radians(42)
    across = math.cos(alpha), math.cos(beta) / 2
    up = math.sin(alpha), math.sin(beta) / 2
    return _seen_from(corner, across, up, 1.0)


def _trimetric(corner: NearCorner, alpha: float, beta: float) -> Projection:
    """Return the orthographic pictorial with length at alpha and depth at beta (degrees).

    An orthographic projection has rows that are square to each other and equally long. With
    length p·(1, −tan α), depth q·(1, tan β) and height (0, r) that gives q² = p²·tan α / tan β
    and r² = p²·(1 − tan² α) + q²·(1 − tan² β). The largest axis scale is brought to 1.
    """
    if not (alpha > 0 and beta > 0 and alpha + beta < 90):
        raise BadInput(
            tr(
                "axis angles of {alpha:g}° and {beta:g}° have no solution: "
                "both must be above 0° and together below 90°",
                alpha=alpha,
                beta=beta,
            )
        )
    a, b = math.tan(math.radians(alpha)), math.tan(math.radians(beta))
    p, q = 1.0, math.sqrt(a / b)
    r = math.sqrt(p * p * (1 - a * a) + q * q * (1 - b * b))
    unit = 1 / max(p * math.hypot(1, a), q * math.hypot(1, b), r)
    across, up = (p * unit, q * unit), (a * p * unit, b * q * unit)
    return _seen_from(corner, across, up, r * unit)


def _seen_from(
    corner: NearCorner, across: tuple[float, float], up: tuple[float, float], upright: float
) -> Projection:
    """Return the projection whose two level axes run `across` and `up` on paper (mm for each mm).

    The pair belongs to the front-right corner: length falls toward the viewer at the right,
    depth rises away; for the other corners left and right, near and far are changed over.
    """
    right, rear, above = corner.signs
    # what runs left-right on paper is the length from front and rear alike
    matrix = (
        (-rear * across[0], right * across[1], 0.0),
        (-right * above * up[0], -rear * above * up[1], upright),
    )
    row_x, row_y = matrix
    d = cross(row_x, row_y)
    towards = d if d[2] * above > 0 else (-d[0], -d[1], -d[2])
    size = max(abs(value) for value in towards)
    return matrix, (towards[0] / size, towards[1] / size, towards[2] / size)


def _plan_oblique(corner: NearCorner, turn: float = 45.0, ratio: float = 1.0) -> Projection:
    """The top face true, turned so that the length falls at `turn` degrees; heights × ratio."""
    if not 0 < turn < 90:
        raise BadInput(
            tr("a turn of {turn:g}° is impossible: choose between 0° and 90°", turn=turn)
        )
    if not 0 < ratio <= 2:
        raise BadInput(
            tr("a height ratio of {ratio:g} is impossible: choose above 0 and up to 2", ratio=ratio)
        )
    cosine, sine = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    return _seen_from(corner, (cosine, sine), (sine, cosine), ratio)


@dataclass(frozen=True)
class Parameter:
    """A figure that a kind is given: its name, its usual value, and the range worth offering."""

    name: str
    usual: float
    low: float
    high: float
    step: float


@dataclass(frozen=True)
class Family:
    """A kind, or kinds that differ by figures only. `has_usual`: the figures may be left out."""

    name: str
    title: str
    project: Callable[..., Projection]
    parameters: tuple[Parameter, ...] = ()
    title_with: str = ""
    has_usual: bool = False

    @property
    def pattern(self) -> str:
        """How the kind is written."""
        names = [parameter.name for parameter in self.parameters]
        with_figures = ":".join([self.name, *names])
        return f"{self.name}[:{':'.join(names)}]" if self.has_usual else with_figures

    def written(self, values: Sequence[float] = ()) -> str:
        """Return the kind as it is written with some figures; without, with the usual ones."""
        figures = values or [parameter.usual for parameter in self.parameters]
        return ":".join([self.name, *(f"{value:g}" for value in figures)])


_FAMILIES = {
    family.name: family
    for family in (
        Family("isometric", tr("isometric drawing"), _isometric),
        Family("isometric-projection", tr("isometric projection"), _isometric_projection),
        Family("dimetric", tr("dimetric 7°/42°"), _dimetric),
        Family(
            "trimetric", tr("trimetric"), _trimetric,
            (Parameter("A", 15.0, 1.0, 60.0, 1.0), Parameter("B", 35.0, 1.0, 60.0, 1.0)),
            tr("trimetric {0:g}°/{1:g}°"),
        ),
        Family("cabinet", tr("cabinet oblique"), _cabinet),
        Family("cavalier", tr("cavalier oblique"), _cavalier),
        Family(
            "oblique", tr("oblique"), _oblique,
            (Parameter("ANGLE", 30.0, 5.0, 85.0, 1.0), Parameter("RATIO", 0.75, 0.1, 1.5, 0.05)),
            tr("oblique {0:g}°, depth × {1:g}"),
        ),
        Family(
            "plan-oblique", tr("plan oblique"), _plan_oblique,
            (Parameter("TURN", 45.0, 5.0, 85.0, 1.0), Parameter("RATIO", 1.0, 0.1, 1.5, 0.05)),
            tr("plan oblique {0:g}°, height × {1:g}"), has_usual=True,
        ),
    )
}  # fmt: skip


def _known_kinds() -> list[str]:
    """Return how each kind is written."""
    return sorted(family.pattern for family in _FAMILIES.values())


def _corner(corner: NearCorner | str) -> NearCorner:
    try:
        return NearCorner(corner)
    except ValueError as error:
        known = ", ".join(item.value for item in NearCorner)
        raise BadInput(
            tr("unknown near corner “{corner}” (known: {known})", corner=corner, known=known)
        ) from error


def _number(kind: str, text: str) -> float:
    try:
        value = float(text)
    except ValueError as error:
        raise BadInput(tr("“{text_}” in “{kind}” is no number", text_=text, kind=kind)) from error
    if not math.isfinite(value):
        raise BadInput(tr("“{text_}” in “{kind}” is no finite number", text_=text, kind=kind))
    return value
