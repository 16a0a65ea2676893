"""Ways of carving: what is drawn between the crate and the strokes, and which way is usual."""

from __future__ import annotations

import math
from itertools import pairwise

from holoptic.catalogue import mark, ntr, tr
from holoptic.construction.intended import Bent, Intended
from holoptic.curves.vectors import Vec3
from holoptic.job import HandWays, Order, Strategy
from holoptic.part import Part, Polygon, basics
from holoptic.part.operations import extent_mm
from holoptic.plan.bench import Bench
from holoptic.plan.figure_work import FigureWork
from holoptic.plan.middles import find_middle
from holoptic.plan.moves import Way
from holoptic.plan.spots import spot_of
from holoptic.tolerance import COINCIDENT_MM, ROUNDING

STRATEGY_TITLES: dict[Strategy, str] = {
    "crate-and-carve": tr("crate and carve"),
    "faces-first": tr("faces first"),
    "centre-lines-first": tr("centre lines first"),
}
VIEWS_STRATEGY = tr("all views together")
"""What the way of working on orthographic views is called."""

ORDERS: tuple[Order, ...] = ("by-feature", "batched")
_FACES = (
    (mark("left face"), mark("right face")),
    (mark("front face"), mark("rear face")),
    (mark("bottom face"), mark("top face")),
)
_MOSTLY = 0.5
_ROUGHLY_MM = 1.0


def strategy_title(strategy: Strategy | None) -> str:
    """Return the name of a way of carving, or that of the way in which views are drawn."""
    return VIEWS_STRATEGY if strategy is None else STRATEGY_TITLES[strategy]


def usual_way(intended: Intended) -> Way:
    """Return how the work is gone about: as the user wishes, else by a rule of thumb."""
    ways = intended.ways
    if ways.strategy is not None:
        return _way(ways, ways.strategy, tr("as you chose"), is_own=True)
    share, count = _round_share(intended)
    if share > _MOSTLY:
        features = ntr("{count} round feature", "{count} round features", count)
        why = tr(
            "{share:.0f} % of what is seen hangs on the centres of {features}",
            share=100 * share,
            features=features,
        )
        return _way(ways, "centre-lines-first", why, is_own=False)
    seen = (
        tr("only {share:.0f} % of what is seen is round", share=100 * share)
        if count
        else tr("nothing is round")
    )
    return _way(
        ways, "crate-and-carve", tr("{seen}: the crate carries the rest", seen=seen), is_own=False
    )


def _way(ways: HandWays, strategy: Strategy, why: str, *, is_own: bool) -> Way:
    return Way(strategy, ways.order, ways.firming, why, is_own)


def _round_share(intended: Intended) -> tuple[float, int]:
    """Return how much of the visible length is curved or an outline, and how many rims there are.

    Two rims on one axis count as one feature.
    """
    bent = total = 0.0
    for made in intended.strokes.values():
        path = made.curve.path(made.first, made.last, _ROUGHLY_MM) if isinstance(
            made, Bent) else made.path  # fmt: skip
        length = sum(math.dist(a, b) for a, b in pairwise(path))
        total += length
        bent += length if isinstance(made, Bent) or made.generator else 0.0
    axes = {
        (rim.axis, *(round(v, 3) for k, v in enumerate(rim.centre) if k != rim.axis))
        for rim in intended.rims.values()
    }
    return bent / max(total, ROUNDING), len(axes)


def take_notes(bench: Bench, intended: Intended) -> None:
    """Tell the bench which places the picture needs, and what is symmetrical about a centre."""
    for stroke in intended.picture.visible:
        if stroke.is_straight:
            ends = map(spot_of, intended.line_ends(stroke))
            bench.want(stroke.origin.operation, ends)
    for rim in intended.rims.values():
        if rim.axis is None:
            continue
        for axis in range(3):
            if axis != rim.axis:
                _halve(bench, axis, spot_of(rim.centre)[axis], rim.arc.major)
    if isinstance(intended.source, Part):
        _take_notes_of_polygons(bench, intended.source)


def _halve(bench: Bench, axis: int, centre: float, half: float) -> None:
    pair = centre, round(half, 6)
    if pair not in bench.halves[axis]:
        bench.halves[axis].append(pair)


def _take_notes_of_polygons(bench: Bench, part: Part) -> None:
    """Tell the bench that the corners of polygons stand to both sides of their middle."""
    for operation in part.operations:
        for item in basics(operation, part.crate):
            if isinstance(item, Polygon):
                start, _ = extent_mm(item, part.crate)
                middle = item.centre_mm(part.crate)
                centre = spot_of(part.crate.place(item.face, *middle, start))
                for share in (0.0, 1.0) if item.end_size is not None else (0.0,):
                    for corner in item.corners_mm(part.crate, share):
                        for axis, at, mid in zip(item.face.axes, corner, middle, strict=True):
                            if abs(at - mid) > COINCIDENT_MM:
                                _halve(bench, axis, centre[axis], abs(at - mid))


def prepare(
    bench: Bench, intended: Intended, strategy: Strategy | None, figures: FigureWork
) -> None:
    """Write what a way of carving draws before the first stroke; `figures` are auxiliary ones."""
    if strategy == "faces-first":
        bench.near_only = True
        _draw_faces(bench, intended, figures)
    elif strategy == "centre-lines-first":
        bench.centres_first = True
        _draw_centre_lines(bench, intended)


def _near(bench: Bench, axis: int) -> float:
    return bench.frame.bound(axis, bench.frame.near[axis] > 0)


def _draw_faces(bench: Bench, intended: Intended, figures: FigureWork) -> None:
    """Draw the views on the crate's near faces: the feet of all corners that lie off them."""
    by_face: dict[int, dict[Vec3, int | None]] = {1: {}, 2: {}, 0: {}}
    for stroke in intended.picture.visible:
        if not stroke.is_straight or stroke.origin.edge is None:  # an outline stands in no view
            continue
        for spot in map(spot_of, intended.line_ends(stroke)):
            off = [axis for axis in range(3) if spot[axis] != _near(bench, axis)]
            if len(off) == 3:
                off.sort(key=lambda axis: abs(spot[axis] - _near(bench, axis)))
                for axis in off[:2]:
                    foot = bench.foot(axis, spot)
                    by_face[axis].setdefault(foot, stroke.origin.operation)
            else:
                on = next((axis for axis in (1, 2, 0) if axis not in off), 1)
                by_face[on].setdefault(spot, stroke.origin.operation)
    for axis, spots in by_face.items():
        bench.phase = f"face: {_FACES[axis][bench.frame.near[axis] > 0]}"
        for spot, operation in spots.items():
            figures.begin(operation)
            bench.ensure_point(spot)


def _draw_centre_lines(bench: Bench, intended: Intended) -> None:
    """Draw the centre lines of round features on the near face that they go in from."""
    bench.phase = "centre lines"
    for rim in intended.rims.values():
        if rim.axis is None:
            continue
        centre = spot_of(rim.centre)
        foot = bench.foot(rim.axis, centre)
        find_middle(bench, foot, rim.axis)
        for axis in range(3):
            if axis != rim.axis:
                bench.ensure_line(axis, foot)
        bench.ensure_point(foot)
        if foot != centre:
            bench.ensure_line(rim.axis, foot)
