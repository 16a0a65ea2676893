"""The construction card of one line: its construction drawn large, figures, alternatives.

A round edge shows how its oval is made and what the other ways would cost; a sloped one shows
the offsets it is found by, and what it becomes on paper.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

import numpy as np

from holoptic.catalogue import tr
from holoptic.construction.rims import (
    alternatives,
    ellipse_of,
    feature_name,
    oval_shortfall,
    rim_of,
)
from holoptic.curves.drawn import ArcChain
from holoptic.curves.methods import METHOD_TITLES, Method
from holoptic.curves.ovals import Construction, Ellipse
from holoptic.curves.space import EllipticArc, Segment
from holoptic.curves.vectors import Vec2, Vec3, apply, subtract
from holoptic.job import HandWays
from holoptic.part import Source
from holoptic.part.crate import AXIS_NAMES
from holoptic.pictorial import Picture, View
from holoptic.solid.pieces import SolidFacts
from holoptic.tolerance import COINCIDENT_MM, ROUNDING, SEEN_MM
from holoptic.units.spoken import figure

LineRole = Literal["true", "oval", "construction", "offset", "edge"]
Quantity = Literal["length", "angle", "area"]
_SAME_ANGLE = 0.05
"""Degrees; a smaller difference cannot be drawn."""
_BAND_POINTS = 180
_LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ"


@dataclass(frozen=True)
class CardLine:
    """A line of the drawing on the card; mm on the picture at 1:1."""

    path: tuple[Vec2, ...]
    role: LineRole


@dataclass(frozen=True)
class Figure:
    """A figure with its label; lengths in mm, angles in degrees, areas in mm².

    `drawn` is what it becomes in the construction, where that differs.
    """

    label: str
    value: float
    quantity: Quantity = "length"
    drawn: float | None = None


@dataclass(frozen=True)
class Alternative:
    """A way to draw the circle: how far it is off on paper, mm and as a share of the diameter.

    Where it cannot be used both are None and `note` says why.
    """

    method: Method
    title: str
    deviation: float | None
    share: float | None
    note: str
    chosen: bool


@dataclass(frozen=True)
class Gap:
    """How far the drawn curve lies outside (+) or inside (−) the true one at a place, mm at 1:1."""

    place: Vec2
    outward: Vec2
    gap: float


@dataclass(frozen=True)
class Card:
    """What the construction card of an edge shows. `remark` warns or explains."""

    edge: int
    feature: str
    title: str
    remark: str
    lines: tuple[CardLine, ...]
    marks: tuple[tuple[str, Vec2], ...]
    figures: tuple[Figure, ...]
    alternatives: tuple[Alternative, ...] = ()
    band: tuple[Gap, ...] = ()


def make_card(
    source: Source, facts: SolidFacts, picture: Picture, ways: HandWays, scale: float, edge: int
) -> Card | None:
    """Return the card of an edge or outline, or None where it has none: along an axis, edge-on.

    `edge` is a key as `Picture.picked` takes it. `scale` is paper over true size; figures that
    are set on paper hold there.
    """
    view, found = picture.view, picture.picked(edge, facts)
    if view.corner is None or found is None:
        return None
    curve, operation = found
    name = feature_name(source, operation, edge if edge >= 0 else None)
    if isinstance(curve, Segment):
        return None if edge < 0 else _slope_card(curve, view, scale, edge, name)
    if not isinstance(curve, EllipticArc):
        path = tuple(curve.path(view.matrix))
        return _general_card(curve.length, edge, name, path)
    rim = rim_of(curve, name, view, ways, scale)
    if rim is None:
        return None
    card = _circle_card(rim.construction, rim.why, curve, ways, scale, edge, name, view)
    return replace(card, remark=_ball_remark(curve, view)) if edge < 0 else card


def _ball_remark(arc: EllipticArc, view: View) -> str:
    """Say what a ball's outline becomes, and what its radius off a four-centre oval would cost."""
    drawn = ellipse_of(arc, view)
    if not drawn.is_circle:
        return tr("a ball's outline is an ellipse here: an isometric shows it as a circle")
    size = drawn.half_axes[0] / arc.major
    if abs(size - 1) < SEEN_MM:
        return tr("a ball's outline is a circle of its own radius here")
    short = oval_shortfall(arc.major, size, view)
    if short is None:
        return tr("a circle of {size:.4f} × the ball's radius", size=size)
    return tr(
        "a circle of {size:.4f} × the ball's radius; taken off a four-centre oval it would be "
        "{short:.1f} % small",
        size=size,
        short=100 * short,
    )


# --- circles --------------------------------------------------------------------------------


def _circle_card(
    made: Construction, why: str, arc: EllipticArc, ways: HandWays, scale: float, edge: int,
    name: str, view: View,
) -> Card:  # fmt: skip
    ellipse = ellipse_of(arc, view)
    lines, marks = _drawing(made, ellipse)
    ways_found = []
    for method, found in alternatives(ellipse, ways):
        if isinstance(found, str):
            ways_found.append(Alternative(method, METHOD_TITLES[method], None, None, found, False))
            continue
        off = found.deviation
        ways_found.append(
            Alternative(method, METHOD_TITLES[method], off * scale, off / (2 * arc.major), "",
                        method == made.method)
        )  # fmt: skip
    return Card(
        edge,
        name,
        tr(
            "{method_titles} for ⌀ {major}",
            method_titles=METHOD_TITLES[made.method],
            major=figure(2 * arc.major),
        ),
        f"{why}",
        lines,
        marks,
        _circle_figures(made, ellipse, arc, scale),
        tuple(ways_found),
        _band(made),
    )


def _circle_figures(
    made: Construction, ellipse: Ellipse, arc: EllipticArc, scale: float
) -> tuple[Figure, ...]:
    a, b = ellipse.half_axes
    own = made.axes if made.deviation > 0 else None

    def drawn(index: int, true: float) -> float | None:
        return own[index] * scale if own and abs(own[index] - true) > SEEN_MM else None

    figures = [
        Figure(tr("true diameter"), 2 * arc.major),
        Figure(tr("long axis"), 2 * a * scale, drawn=drawn(0, 2 * a)),
        Figure(tr("short axis"), 2 * b * scale, drawn=drawn(1, 2 * b)),
    ]
    if isinstance(made.curve, ArcChain):
        radii = [radius * scale for radius in made.radii]
        reach = [math.dist(centre, ellipse.centre) * scale for centre in made.centres]
        for name, k in (("small", radii.index(min(radii))), ("large", radii.index(max(radii)))):
            figures.append(Figure(tr("{name} radius", name=name), radii[k]))
            figures.append(Figure(tr("its centre, out"), reach[k]))
    area = math.pi * a * b * scale * scale
    figures.append(Figure("area", area, "area", made.area * scale * scale if own else None))
    return tuple(figures)


def _drawing(
    made: Construction, ellipse: Ellipse
) -> tuple[tuple[CardLine, ...], tuple[tuple[str, Vec2], ...]]:
    """Return the lines and the lettered points of a construction."""
    lines: list[CardLine] = []
    lettered: list[Vec2] = []
    x, y = ellipse.centre
    if ellipse.half_sides is not None:
        p, q = ellipse.half_sides
        corners = [
            (x + i * p[0] + j * q[0], y + i * p[1] + j * q[1])
            for i, j in ((1, 1), (-1, 1), (-1, -1), (1, -1))
        ]
        lines.append(CardLine((*corners, corners[0]), "construction"))
        for side in (p, q):
            ends = (x - side[0], y - side[1]), (x + side[0], y + side[1])
            lines.append(CardLine(ends, "construction"))
        if made.method in ("four-centre", "sketch"):
            lettered += corners
    if made.method in ("closer", "free-arcs", "true"):
        for axis in (ellipse.major, ellipse.minor):
            reach = (x - axis[0], y - axis[1]), (x + axis[0], y + axis[1])
            lines.append(CardLine(reach, "construction"))
    if made.centres:
        count = len(made.centres)
        for k, centre in enumerate(made.centres):
            for join in (made.joins[k], made.joins[(k + 1) % count]):
                lines.append(CardLine((centre, join), "construction"))
    if made.method == "offsets" and ellipse.half_sides is not None:
        lines += [CardLine(_ordinate(point, ellipse), "offset") for point in made.joins]
    lines.append(CardLine(tuple(ellipse_path(ellipse)), "true"))
    if made.deviation > 0:
        curve = made.curve
        lines.append(CardLine(tuple(curve.path(curve.first, curve.last)), "oval"))
    for point in (*made.joins, *made.centres):
        if all(math.dist(point, other) > COINCIDENT_MM for other in lettered):
            lettered.append(point)
    return tuple(lines), tuple(zip(_LETTERS, lettered, strict=False))


def _ordinate(point: Vec2, ellipse: Ellipse) -> tuple[Vec2, Vec2]:
    """Return the offset from a point to the first centre line, along the second."""
    assert ellipse.half_sides is not None
    p, q = ellipse.half_sides
    sine = p[0] * q[1] - p[1] * q[0]
    dx, dy = point[0] - ellipse.centre[0], point[1] - ellipse.centre[1]
    along = (dx * q[1] - dy * q[0]) / sine
    return point, (ellipse.centre[0] + along * p[0], ellipse.centre[1] + along * p[1])


def ellipse_path(ellipse: Ellipse) -> list[Vec2]:
    """Return a closed polyline of the true ellipse, mm."""
    return [ellipse.arc.at(math.tau * k / 180) for k in range(181)]


def _band(made: Construction) -> tuple[Gap, ...]:
    """Return how far the curve lies off the ellipse all the way round, in even steps."""
    if made.deviation == 0:
        return ()
    curve, ellipse = made.curve, made.ellipse
    places = curve.many(np.linspace(curve.first, curve.last, _BAND_POINTS + 1))
    gaps = ellipse.distances(places)
    slopes = curve.slopes(np.linspace(curve.first, curve.last, _BAND_POINTS + 1))
    normals = np.column_stack((slopes[:, 1], -slopes[:, 0]))
    normals /= np.hypot(normals[:, 0], normals[:, 1])[:, None]
    return tuple(
        Gap((float(x), float(y)), (float(u), float(v)), float(gap))
        for (x, y), (u, v), gap in zip(places, normals, gaps, strict=True)
    )


# --- slopes ---------------------------------------------------------------------------------


def _slope_card(line: Segment, view: View, scale: float, edge: int, name: str) -> Card | None:
    way = subtract(line.end, line.start)
    axes = [axis for axis in range(3) if abs(way[axis]) > COINCIDENT_MM]
    if len(axes) < 2:
        return None
    places = [apply(view.matrix, spot) for spot in _steps(line, axes)]
    lines = [
        *(CardLine(pair, "offset") for pair in pairwise(places)),
        CardLine((places[0], places[-1]), "edge"),
    ]
    drawn = math.dist(places[0], places[-1])
    paper_angle = _turn(places[0], places[-1])
    figures = [Figure(tr("true length"), line.length)]
    title = tr("skew edge by three offsets")
    remark = tr("Measure the offsets along the axes only and join the ends.")
    if len(axes) == 2:
        run, rise = abs(way[axes[0]]), abs(way[axes[1]])
        true_angle = math.degrees(math.atan2(rise, run))
        figures.append(
            Figure(
                tr("true angle to the {axis_names}", axis_names=AXIS_NAMES[axes[0]]),
                true_angle,
                "angle",
            )
        )
        title = tr("slope of {true_angle:.4g}° by two offsets", true_angle=true_angle)
        remark = _protractor(view, axes, way, true_angle, paper_angle)
    figures += [
        Figure(tr("offset along the {axis_names}", axis_names=AXIS_NAMES[axis]),
               abs(way[axis]) * view.axis_scale(axis) * scale)
        for axis in axes
    ]  # fmt: skip
    figures += [
        Figure(tr("drawn length"), drawn * scale),
        Figure(tr("drawn angle"), paper_angle, "angle"),
    ]
    return Card(edge, name, title, remark, tuple(lines),
                tuple(zip(_LETTERS, places, strict=False)), tuple(figures))  # fmt: skip


def _steps(line: Segment, axes: list[int]) -> list[Vec3]:
    """Return the way from one end to the other along one axis after the other."""
    spots, here = [line.start], list(line.start)
    for axis in axes:
        here[axis] = line.end[axis]
        spots.append((here[0], here[1], here[2]))
    return spots


def _turn(start: Vec2, end: Vec2) -> float:
    """Return the angle of a line on paper to the horizontal, 0 to 180 degrees."""
    return math.degrees(math.atan2(end[1] - start[1], end[0] - start[0])) % 180


def _protractor(view: View, axes: list[int], way: Vec3, true: float, drawn: float) -> str:
    """Say whether the true angle may be laid off on paper with a protractor."""
    axis_turn = view.axis_angle(axes[0]) % 180
    between = abs(drawn - axis_turn)
    between = min(between, 180 - between)
    scales = [view.axis_scale(axis) for axis in axes]
    square = abs(abs(view.axis_angle(axes[0]) - view.axis_angle(axes[1])) % 180 - 90) < ROUNDING
    if square and abs(scales[0] - scales[1]) < ROUNDING:
        return tr("This face is shown true: the angle holds and a protractor may be used.")
    del way
    if abs(between - true) < _SAME_ANGLE:
        return tr("The angle happens to look true here; set off the offsets all the same.")
    return tr(
        "No protractor here: {true:.4g}° becomes {between:.4g}° to the "
        "{axis_names}. Set off the offsets and join.",
        true=true,
        between=between,
        axis_names=AXIS_NAMES[axes[0]],
    )


def _general_card(length: float, edge: int, name: str, path: tuple[Vec2, ...]) -> Card:
    return Card(
        edge,
        name,
        tr("general curve by offset points"),
        tr(
            "Neither line nor circle: points of it are set off by three "
            "offsets, a French curve joins."
        ),
        (CardLine(path, "edge"),),
        (("A", path[0]), ("B", path[-1])),
        (Figure(tr("true length"), length),),
    )
