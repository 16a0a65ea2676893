"""Thick and thin: which parts of a stroke are drawn in the heavy line.

Thick-and-thin school: a line is thick where only one of its edge's two faces is seen, thin where
both are. An outline of a curved face is thick all along.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from holoptic.curves.space import Chord, Curve, EllipticArc, SampledCurve, Segment
from holoptic.curves.vectors import Vec3, dot, subtract, unit
from holoptic.solid.pieces import Piece, Span
from holoptic.tolerance import LEAST_SQUARE

_SHORTEST_MM = 0.05
"""A shorter part is a rounding sliver: where a face turns away is known no better."""
_ON_CURVE_MM = 0.02


def thick_spans(piece: Piece, thick: tuple[Curve, ...]) -> tuple[Span, ...]:
    """Return the spans of a piece's own curve that are thick.

    `thick` holds the thick parts of the whole edge that the piece belongs to.
    """
    curve = piece.curve
    if piece.edge is None or (thick and isinstance(curve, Chord)):
        return (curve.span,)  # an outline; or a curve seen edge-on, of which the nearer half counts
    if not thick:
        return ()
    if len(thick) == 1 and thick[0] is curve:
        return (curve.span,)  # most pieces are whole edges
    if isinstance(curve, SampledCurve):
        return _sampled(curve, thick)
    first, last = curve.span
    least = _SHORTEST_MM / (curve.major if isinstance(curve, EllipticArc) else 1.0)
    spans = []
    for low, high in _spans(curve, thick):
        low, high = max(low, first), min(high, last)  # noqa: PLW2901
        if high - low > least:
            start = first if low - first < least else low
            spans.append((start, last if last - high < least else high))
    return tuple(sorted(spans))


def _spans(curve: Segment | EllipticArc, thick: tuple[Curve, ...]) -> Iterator[Span]:
    for part in thick:
        if isinstance(curve, Segment) and isinstance(part, Segment) and curve.length:
            ends = sorted((_place(curve, part.start), _place(curve, part.end)))
            yield ends[0], ends[1]
        elif isinstance(curve, EllipticArc) and isinstance(part, EllipticArc):
            for turn in (-math.tau, 0.0, math.tau):
                yield part.first + turn, part.last + turn


def _place(line: Segment, point: Vec3) -> float:
    return dot(subtract(point, line.start), unit(subtract(line.end, line.start)))


def _sampled(curve: SampledCurve, thick: tuple[Curve, ...]) -> tuple[Span, ...]:
    """Return the runs of samples that lie on a thick part, whose samples are others."""
    on_thick = np.zeros(len(curve.points), bool)
    for part in thick:
        if isinstance(part, SampledCurve):
            on_thick |= _near(np.array(curve.points), np.array(part.points))
    turns = np.flatnonzero(np.diff(np.concatenate([[0], on_thick.astype(int), [0]])))
    return tuple((float(a), float(b - 1)) for a, b in turns.reshape(-1, 2) if b - a > 1)


def _near(points: np.ndarray, line: np.ndarray) -> np.ndarray:
    steps = np.diff(line, axis=0)
    sizes = np.maximum((steps**2).sum(axis=1), LEAST_SQUARE)
    away = points[:, None, :] - line[:-1]
    t = np.clip((away * steps).sum(axis=2) / sizes, 0, 1)
    gaps = np.linalg.norm(away - t[..., None] * steps, axis=2)
    return np.asarray(gaps.min(axis=1) < _ON_CURVE_MM)


def weighted_parts(curve: Curve, thick: tuple[Span, ...]) -> list[tuple[Curve, bool]]:
    """Return a curve cut into thick (True) and thin parts, in order."""
    first, last = curve.span
    if not thick:
        return [(curve, False)]
    parts: list[tuple[Curve, bool]] = []
    at = first
    for low, high in thick:
        if low > at:
            parts.append((curve.piece(at, low), False))
        parts.append((curve if (low, high) == (first, last) else curve.piece(low, high), True))
        at = high
    if last > at:
        parts.append((curve.piece(at, last), False))
    return parts
