"""The ellipses of a picture and the construction chosen for each."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.curves.drawn import ArcChain
from holoptic.curves.methods import METHOD_TITLES, METHODS, Method
from holoptic.curves.ovals import Construction, Ellipse, construct, why_not
from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.space import EllipticArc
from holoptic.curves.vectors import Vec2, Vec3, apply
from holoptic.job import HandWays, Outfit
from holoptic.part import Part, Source, Whole
from holoptic.pictorial import View
from holoptic.tolerance import ROUNDING
from holoptic.units.spoken import measure

RimKey = tuple[float, ...]
"""Centre, both half axes and normal of a circle in space: equal for all its pieces."""

_BY_HAND: tuple[Method, ...] = ("four-centre", "closer", "free-arcs", "offsets", "true")


@dataclass(frozen=True)
class Rim:
    """A circle or ellipse of the solid, and how its image is constructed.

    `axis` is the crate axis that its plane is square to, or None for a sloped plane; `feature`
    names what it belongs to; `why` says why this method and no simpler one.
    """

    key: RimKey
    arc: EllipticArc
    axis: int | None
    construction: Construction
    feature: str
    why: str = ""

    @property
    def centre(self) -> Vec3:
        """Its centre in space, mm."""
        return self.arc.centre


def rim_key(arc: EllipticArc) -> RimKey:
    """Return what all pieces of one circle have in common."""
    way = arc.normal
    if max(way, key=abs) < 0:
        way = -way[0], -way[1], -way[2]
    figures = (*arc.centre, arc.major, arc.minor, *way)
    return tuple(round(value, 5) + 0.0 for value in figures)


def square_axis(arc: EllipticArc) -> int | None:
    """Return the crate axis that a circle's plane is square to, or None."""
    for axis in range(3):
        if all(abs(arc.normal[other]) < ROUNDING for other in range(3) if other != axis):
            return axis
    return None


def ellipse_of(arc: EllipticArc, view: View) -> Ellipse:
    """Return the image of a whole circle, with the square about it where that lies along axes."""
    a, b = arc.image(view.matrix)
    whole = PaperArc(apply(view.matrix, arc.centre), a, b, 0.0, math.tau)
    axis = square_axis(arc)
    if axis is None or not arc.is_circle:
        return Ellipse.of(whole)
    sides: list[Vec2] = []
    for other in range(3):
        if other != axis:
            unit = [0.0, 0.0, 0.0]
            unit[other] = arc.major
            sides.append(apply(view.matrix, (unit[0], unit[1], unit[2])))
    return Ellipse.of(whole, (sides[0], sides[1]))


def feature_name(source: Source, operation: int | None, edge: int | None, body: int = 0) -> str:
    """Return the name of what a line belongs to: its operation's, else its edge's.

    `edge` is None for an outline. Of a whole the body's name comes first.
    """
    if isinstance(source, Whole):
        # the same feature of another body is another one
        return body_feature_name(source, operation, body)
    if operation is not None and isinstance(source, Part):
        return source.operations[operation].name
    return "outline" if edge is None else tr("edge {edge}", edge=edge + 1)


def body_feature_name(whole: Whole, operation: int | None, body: int) -> str:
    """Return the name of a feature of a body of a whole."""
    one = whole.bodies[body]
    if operation is None or not isinstance(one.source, Part):
        return one.name
    return f"{one.name}: {one.source.operations[operation].name}"


def rim_of(
    arc: EllipticArc, feature: str, view: View, ways: HandWays, scale: float
) -> Rim | None:  # fmt: skip
    """Return the rim that an arc is a piece of; None where it is seen edge-on.

    `scale` is paper over true size: the limit of `ways` holds on paper.
    """
    ellipse = ellipse_of(arc, view)
    if ellipse.is_flat:
        return None
    made, why = chosen(ellipse, ways, feature, scale)
    return Rim(rim_key(arc), arc, square_axis(arc), made, feature, why)


def chosen(
    ellipse: Ellipse, ways: HandWays, feature: str, scale: float
) -> tuple[Construction, str]:
    """Return the construction for an ellipse by what is asked, and why it is this one.

    What is asked is taken where it can be had; else the simplest by hand within the limit, else
    the next best after the four-centre oval.
    """
    if ellipse.is_circle:
        made = construct("compass", ellipse)
        if not _too_wide(made, scale, ways.outfit):
            return made, tr("its image is a true circle")
        return construct("offsets", ellipse, ways.ordinates), _no_reach(ways.outfit)
    asked = ways.method_for(feature)
    refused = why_not(asked, ellipse) if asked is not None else ""
    if asked is not None and not refused:
        is_wide = _too_wide(construct(asked, ellipse, 12), scale, ways.outfit)
        refused = _no_reach(ways.outfit) if is_wide else ""
    if asked is not None and not refused:
        return construct(asked, ellipse, ways.ordinates), tr("chosen")
    note = (
        ""
        if asked is None
        else tr("no {method}: {why_not}", method=METHOD_TITLES[asked], why_not=refused)
    )
    made, why = _usual(ellipse, ways, scale)
    return made, "; ".join(dict.fromkeys(filter(None, (note, why))))


def _usual(ellipse: Ellipse, ways: HandWays, scale: float) -> tuple[Construction, str]:
    """Return the construction that is taken where none can be had by name, and why."""
    fitting = [method for method in _BY_HAND if not why_not(method, ellipse)]

    def within_reach() -> Iterator[Method]:
        for method in fitting:
            if not _too_wide(construct(method, ellipse, 12), scale, ways.outfit):
                yield method

    if ways.limit_mm is not None:
        for method in within_reach():
            made = construct(method, ellipse, ways.ordinates)
            if made.deviation * scale <= ways.limit_mm:
                return made, tr("the simplest within {limit_mm}", limit_mm=measure(ways.limit_mm))
    best = next(within_reach())
    if ellipse.half_sides is None:
        best = "offsets"  # a sloped circle has no axes on its face to work from
        return construct(best, ellipse, ways.ordinates), why_not("four-centre", ellipse)
    if best != fitting[0]:
        return construct(best, ellipse, ways.ordinates), _no_reach(ways.outfit)
    if best == "four-centre":
        return construct(best, ellipse), tr("the usual one on the board")
    return construct(best, ellipse), tr(
        "no {method}: {why_not}",
        method=METHOD_TITLES["four-centre"],
        why_not=why_not("four-centre", ellipse),
    )


def _too_wide(made: Construction, scale: float, outfit: Outfit) -> bool:
    """Say whether a construction has arcs that no compass opens to."""
    curve = made.curve
    if not isinstance(curve, ArcChain):
        return False
    return max(arc.radius for arc in curve.arcs) * scale > outfit.largest_radius


def _no_reach(outfit: Outfit) -> str:
    return tr("no compass opens that far: beyond {longest}", longest=measure(outfit.largest_radius))


def alternatives(ellipse: Ellipse, ways: HandWays) -> list[tuple[Method, Construction | str]]:
    """Return every method with its construction, or with why it cannot be used."""
    found: list[tuple[Method, Construction | str]] = []
    for method in METHODS:
        refused = why_not(method, ellipse)
        found.append((method, refused or construct(method, ellipse, ways.ordinates)))
    return found


def oval_shortfall(radius: float, size: float, view: View) -> float | None:
    """Return how much too small, as a share, a ball's outline is when taken off a four-centre oval.

    `size` is the outline's radius over the ball's; None where no such oval can be had.
    """
    level = EllipticArc(
        (0.0, 0.0, 0.0), (0.0, 0.0, 1.0), (1.0, 0.0, 0.0), radius, radius, 0.0, math.tau
    )
    ellipse = ellipse_of(level, view)
    if why_not("four-centre", ellipse):
        return None
    return 1 - construct("four-centre", ellipse).axes[0] / 2 / (size * radius)
