"""Many curves at once: their boxes, and their images on paper."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.space import Box, Curve, EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import Matrix23, Vec2, Vec3


def arc_boxes(
    place: np.ndarray, x: np.ndarray, y: np.ndarray, low: np.ndarray, high: np.ndarray
) -> np.ndarray:
    """Return the boxes (n × 2k: low, high) of arcs place + x · cos t + y · sin t (each n × k), t
    from `low` to `high` (each n × 1): of their ends, and of the places where they turn.
    """
    turn = np.arctan2(y, x)
    found = [low + 0 * turn, high + 0 * turn]
    for turning in (turn, turn + math.pi):
        inside = low + np.mod(turning - low, 2 * math.pi)
        found.append(np.where(inside < high, inside, low))
    at = np.stack([place + x * np.cos(t) + y * np.sin(t) for t in found])
    return np.hstack([at.min(axis=0), at.max(axis=0)])


def extent_on_paper(curves: Sequence[Curve], matrix: Matrix23) -> Box:
    """Return (xmin, ymin, xmax, ymax) of the images of curves on paper, mm.

    Raises ValueError where there are none.
    """
    places, _ = _turning_points(curves, matrix)
    left, low_end = places.min(axis=0).tolist()
    right, high_end = places.max(axis=0).tolist()
    return left, low_end, right, high_end


def box_in_space(curves: Sequence[Curve]) -> tuple[Vec3, Vec3]:
    """Return the low and the high corner of the box of curves, mm. Raises ValueError: none."""
    left, front, right, rear = extent_on_paper(curves, ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0)))
    _, low, _, high = extent_on_paper(curves, ((1.0, 0.0, 0.0), (0.0, 0.0, 1.0)))
    return (left, front, low), (right, rear, high)


def extents_on_paper(
    curves: Sequence[Curve], owners: Sequence[int], matrix: Matrix23
) -> dict[int, Box]:
    """Return the extent of the images of the curves of each owner, as `extent_on_paper` does."""
    places, of_curve = _turning_points(curves, matrix)
    owner = np.array(owners, int)[of_curve]
    found = {}
    for one in dict.fromkeys(owners):
        own = places[owner == one]
        left, low_end = own.min(axis=0).tolist()
        right, high_end = own.max(axis=0).tolist()
        found[one] = (left, low_end, right, high_end)
    return found


def _turning_points(curves: Sequence[Curve], matrix: Matrix23) -> tuple[np.ndarray, np.ndarray]:
    """Return points (n × 2, mm) that bound the images of curves, and of which curve each is."""
    onto = np.array(matrix).T
    points: list[tuple[float, float, float]] = []
    of_curve: list[int] = []
    for k, curve in enumerate(curves):
        corners = _corners(curve)
        points += corners
        of_curve += [k] * len(corners)
    places = np.array(points).reshape(-1, 3) @ onto
    numbers = [k for k, curve in enumerate(curves) if isinstance(curve, EllipticArc)]
    if numbers:
        arcs = [curve for curve in curves if isinstance(curve, EllipticArc)]
        span = np.array([arc.span for arc in arcs])
        centres, a, b = arc_images(arcs, onto)
        boxes = arc_boxes(centres, a, b, span[:, :1], span[:, 1:])
        places = np.vstack([places, boxes[:, :2], boxes[:, 2:]])
        of_curve += numbers + numbers
    return places, np.array(of_curve, int)


def _corners(curve: Curve) -> Sequence[tuple[float, float, float]]:
    if isinstance(curve, Segment):
        return curve.start, curve.end
    return curve.points if isinstance(curve, SampledCurve) else ()


class Places:
    """Many curves, to be asked for many of their points at once."""

    def __init__(self, curves: Sequence[Curve]) -> None:
        self._curves = curves
        # point(t) = begin + t · along + cos t · x + sin t · y
        self._figures = np.zeros((len(curves), 4, 3))
        self._is_sampled = np.zeros(len(curves), bool)
        for number, curve in enumerate(curves):
            if isinstance(curve, Segment):
                along = np.subtract(curve.end, curve.start) / (curve.length or 1.0)
                self._figures[number, :2] = curve.start, along
            elif isinstance(curve, EllipticArc):
                y_axis = np.cross(curve.normal, curve.x_axis)
                x = curve.major * np.array(curve.x_axis)
                self._figures[number, [0, 2, 3]] = curve.centre, x, curve.minor * y_axis
            else:
                self._is_sampled[number] = True

    def at(self, owners: np.ndarray, parameters: np.ndarray) -> np.ndarray:
        """Return the points (n × 3, mm) at parameters of the curves of these numbers."""
        t = parameters[:, None]
        begin, along, x, y = self._figures[owners].transpose(1, 0, 2)
        found: np.ndarray = begin + t * along + np.cos(t) * x + np.sin(t) * y
        for k in np.flatnonzero(self._is_sampled[owners]).tolist():
            found[k] = self._curves[owners[k]].at(float(parameters[k]))
        return found


def chords_of_all(
    curves: Sequence[Curve], across: np.ndarray, steps: int
) -> tuple[np.ndarray, np.ndarray]:
    """Return the images of curves as chords (n × 4: from, to; mm), and of which curve each is.

    `across` (2 × 3) has the picture's axes as rows. An arc gets `steps` chords, a sampled curve
    those between its samples.
    """
    found, owners = [np.empty((0, 4))], [np.empty(0, int)]
    straight = [k for k, curve in enumerate(curves) if not isinstance(curve, EllipticArc)]
    corners = [_corners(curves[k]) for k in straight]
    if corners:
        owner = np.repeat(straight, [len(points) for points in corners])
        places = np.array([point for points in corners for point in points]) @ across.T
        on = owner[:-1] == owner[1:]
        found.append(np.hstack([places[:-1], places[1:]])[on])
        owners.append(owner[:-1][on])
    numbers = [k for k, curve in enumerate(curves) if isinstance(curve, EllipticArc)]
    if numbers:
        arcs = [curve for curve in curves if isinstance(curve, EllipticArc)]
        centres, a, b = arc_images(arcs, across.T)
        span = np.array([arc.span for arc in arcs])
        t = span[:, :1] + (span[:, 1:] - span[:, :1]) * np.linspace(0, 1, steps + 1)
        cos, sin = np.cos(t)[:, :, None], np.sin(t)[:, :, None]
        places = centres[:, None] + cos * a[:, None] + sin * b[:, None]
        found.append(np.concatenate([places[:, :-1], places[:, 1:]], axis=2).reshape(-1, 4))
        owners.append(np.repeat(numbers, steps))
    return np.concatenate(found), np.concatenate(owners)


def on_paper(
    curves: Sequence[Curve], matrix: Matrix23, origin: Vec2 = (0.0, 0.0)
) -> list[tuple[Vec2, ...] | PaperArc]:
    """Return the images of curves on paper, mm, moved by `origin`; those of arcs are arcs."""
    found: list[tuple[Vec2, ...] | PaperArc] = [()] * len(curves)
    onto = np.array(matrix).T
    straight = [k for k, curve in enumerate(curves) if not isinstance(curve, EllipticArc)]
    corners = [_corners(curves[k]) for k in straight]
    places = np.array([p for points in corners for p in points]).reshape(-1, 3) @ onto + origin
    points = list(zip(*places.T.tolist(), strict=True))
    first = 0
    for k, several in zip(straight, corners, strict=True):
        found[k] = tuple(points[first : first + len(several)])
        first += len(several)
    arcs = [(k, curve) for k, curve in enumerate(curves) if isinstance(curve, EllipticArc)]
    if arcs:
        centres, a, b = arc_images([arc for _, arc in arcs], onto)
        figures = zip((centres + origin).tolist(), a.tolist(), b.tolist(), arcs, strict=True)
        for (x, y), (ax, ay), (bx, by), (k, arc) in figures:
            found[k] = PaperArc((x, y), (ax, ay), (bx, by), arc.first, arc.last)
    return found


def arc_images(
    arcs: list[EllipticArc], onto: np.ndarray
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Return the centres and the two half diameters of arcs on paper (n × 2 each)."""
    axes = np.array([(*arc.centre, *arc.x_axis, *arc.normal) for arc in arcs])
    sizes = np.array([(arc.major, arc.minor) for arc in arcs])
    x = axes[:, 3:6]
    y = np.cross(axes[:, 6:], x)
    return axes[:, :3] @ onto, sizes[:, :1] * x @ onto, sizes[:, 1:] * y @ onto
