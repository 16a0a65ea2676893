"""Which kind and near corner to choose: what each candidate shows, ranked, with the reasons.

A candidate is judged by what is seen (features, edges, circles in their true shape), by how much
detail is hidden, and by lines that fall on one another or lie too close to be told apart.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from holoptic.catalogue import ntr, tr
from holoptic.curves.space import EllipticArc, Segment
from holoptic.curves.vectors import apply
from holoptic.pictorial.kinds import NearCorner, View, view_of
from holoptic.pictorial.picture import Picture
from holoptic.solid.pieces import Look, Piece, SolidFacts
from holoptic.tolerance import APART_MM, ROUNDING, SHARE, SLIGHT

KINDS = ("isometric", "dimetric", "cabinet", "cavalier", "plan-oblique")
_FEW_KINDS = ("isometric", "dimetric", "cabinet")
_MANY_EDGES = 150
"""A solid with more edges is looked at from fewer sides, as each look takes long."""

_USUAL = {"isometric": 0.3, "cabinet": 0.15, "dimetric": 0.15, "cavalier": -0.15}
"""What a reader is used to counts a little."""
_REAR, _BELOW = -0.3, -0.45
"""The front should be shown, and a part seen from above, unless more is seen otherwise."""

_TOO_CLOSE_MM = 0.7
"""Lines nearer than this run together in ink; in mm on paper at scale 1:1."""
_ALONG_MM = 2.0
"""Lines that run beside each other for less than this are no trouble."""
_TOUCH_MM = 0.02
_MOST_LINES = 1500
"""Above this many lines coincidences are not looked for: there would be no end of them."""


@dataclass(frozen=True)
class Appraisal:
    """What one candidate shows; pairs of edges are given by their indices."""

    kind: str
    corner: str
    title: str
    features: int
    features_seen: int
    unseen: tuple[int, ...]
    edges: int
    edges_seen: int
    rounds_seen: int
    rounds_true: int
    hidden_share: float
    on_one_line: tuple[tuple[int, int], ...]
    too_close: int
    edge_on: int

    @property
    def score(self) -> float:
        """The higher, the better; about 5 where everything is seen and nothing collides."""
        score = 2.0 * self.edges_seen / max(self.edges, 1)
        score += 2.5 * self.features_seen / max(self.features, 1) if self.features else 1.0
        score += 0.5 * self.rounds_true / max(self.rounds_seen, 1)
        score -= 0.6 * self.hidden_share
        score -= min(0.12 * len(self.on_one_line), 0.9) + min(0.08 * self.too_close, 0.4)
        score -= min(0.2 * self.edge_on, 0.6)
        score += _USUAL.get(self.kind, 0.0)
        return score + _REAR * ("rear" in self.corner) + _BELOW * ("below" in self.corner)

    @property
    def collides(self) -> bool:
        """Whether distinct edges fall on one line, or a face is seen edge-on."""
        return bool(self.on_one_line) or self.edge_on > 0


def candidates(facts: SolidFacts) -> list[View]:
    """Return the views that are worth appraising for a solid."""
    if len(facts.edges) > _MANY_EDGES:
        corners = [corner for corner in NearCorner if corner.signs[2] > 0]
        return [view_of(kind, corner) for kind in _FEW_KINDS for corner in corners]
    return [view_of(kind, corner) for kind in KINDS for corner in NearCorner]


def appraise(facts: SolidFacts, look: Look, picture: Picture) -> Appraisal:
    """Return what a picture shows of a solid."""
    view = picture.view
    seen = {stroke.origin.edge for stroke in picture.visible if stroke.origin.edge is not None}
    features = {edge.operation for edge in facts.edges if edge.operation is not None}
    features_seen = {facts.edges[edge].operation for edge in seen} & features
    features_seen |= {s.origin.operation for s in picture.visible} & features
    rounds = {
        stroke.origin.edge: _is_true(stroke.curve, view)
        for stroke in picture.visible
        if isinstance(stroke.curve, EllipticArc)
    }
    hidden, visible = (
        sum(math.dist(a, b) for s in picture.of_role(role) for a, b in pairwise(s.path))
        for role in ("hidden", "visible")
    )
    pairs, close = _collisions(look.pieces, view)
    unseen = tuple(sorted(f for f in features - features_seen if f is not None))
    return Appraisal(
        view.kind, view.corner.value if view.corner else "", view.title,
        len(features), len(features_seen), unseen,
        len(facts.edges), len(seen), len(rounds), sum(rounds.values()),
        hidden / max(hidden + visible, ROUNDING), pairs, close, len(seen & look.edge_on),
    )  # fmt: skip


def ranked(found: Sequence[Appraisal], count: int) -> list[Appraisal]:
    """Return the best candidates, best first: less than half of them of one kind."""
    chosen: list[Appraisal] = []
    for item in sorted(found, key=lambda appraisal: -appraisal.score):
        if sum(item.kind == other.kind for other in chosen) < max(count // 2, 1):
            chosen.append(item)
    return chosen[:count]


def better(found: Sequence[Appraisal], than: Appraisal) -> Appraisal | None:
    """Return the best candidate without collisions that shows no feature less, or None."""
    clear = [
        item for item in found
        if not item.collides and item.features_seen >= than.features_seen
    ]  # fmt: skip
    return max(clear, key=lambda item: item.score, default=None)


def reasons(item: Appraisal, names: Sequence[str]) -> str:
    """Say in a sentence what speaks for and against a candidate; `names` are the operations'."""
    words = []
    if item.features:
        if item.unseen:
            hidden = ", ".join(f"“{names[i]}”" for i in item.unseen[:2])
            more = len(item.unseen) - 2
            words.append(
                tr("hides {hidden} and {unseen} more", hidden=hidden, unseen=more)
                if more > 0
                else tr("hides {hidden}", hidden=hidden)
            )
        else:
            words.append(
                tr("shows every feature") if item.features > 1 else tr("shows the feature")
            )
    words.append(
        tr("{edges_seen} of {edges} edges seen", edges_seen=item.edges_seen, edges=item.edges)
    )
    if item.rounds_true:
        all_true = item.rounds_true == item.rounds_seen
        words.append(
            tr("all round edges true") if all_true
            else tr("{count} round edges true", count=item.rounds_true)
        )  # fmt: skip
    if item.on_one_line:
        count = len(item.on_one_line)
        words.append(
            ntr("{count} pair of edges on one line", "{count} pairs of edges on one line", count)
        )
    if item.edge_on:
        words.append(tr("a face edge-on"))
    if item.too_close:
        words.append(tr("some lines nearly touch"))
    return "; ".join(words)


def _is_true(arc: EllipticArc, view: View) -> bool:
    (ax, ay), (bx, by) = arc.image(view.matrix)
    a, b = math.hypot(ax, ay), math.hypot(bx, by)
    return arc.is_circle and abs(a - b) < SHARE * a and abs(ax * bx + ay * by) < SHARE * a * b


def _collisions(pieces: Sequence[Piece], view: View) -> tuple[tuple[tuple[int, int], ...], int]:
    """Return the pairs of distinct edges that fall on one line, and how many lie too close."""
    lines = [p for p in pieces if p.visible and p.edge is not None and type(p.curve) is Segment]
    lines = [p for p in lines if p.curve.length > APART_MM]
    if not 1 < len(lines) <= _MOST_LINES:
        return (), 0
    starts = np.array([apply(view.matrix, p.curve.start) for p in lines])
    ends = np.array([apply(view.matrix, p.curve.end) for p in lines])
    sizes = np.maximum(np.hypot(*(ends - starts).T), ROUNDING)
    along = (ends - starts) / sizes[:, None]
    sine = np.abs(along[:, None, 0] * along[None, :, 1] - along[:, None, 1] * along[None, :, 0])
    parallel = np.triu(sine < SLIGHT, 1) & (sizes > 0.2)[:, None] & (sizes > 0.2)
    first, second = np.nonzero(parallel)
    middle = (starts[second] + ends[second]) / 2 - starts[first]
    off = np.abs(along[first, 0] * middle[:, 1] - along[first, 1] * middle[:, 0])
    places = np.stack([
        ((points[second] - starts[first]) * along[first]).sum(axis=1) for points in (starts, ends)
    ])  # fmt: skip
    overlap = np.minimum(places.max(axis=0), sizes[first]) - np.maximum(places.min(axis=0), 0)
    edges = np.array([p.edge for p in lines])
    one_line = (off < APART_MM) & (overlap > -_TOUCH_MM) & (edges[first] != edges[second])
    pairs = {
        (int(min(edges[i], edges[j])), int(max(edges[i], edges[j])))
        for i, j in zip(first[one_line], second[one_line], strict=True)
        if not _in_one_line(lines[i].curve, lines[j].curve)
    }
    close = (off >= APART_MM) & (off < _TOO_CLOSE_MM) & (overlap > _ALONG_MM)
    return tuple(sorted(pairs)), int(close.sum())


def _in_one_line(a: object, b: object) -> bool:
    """Say whether two straight edges lie on one straight line of the solid itself."""
    assert isinstance(a, Segment)
    assert isinstance(b, Segment)
    origin, way = np.array(a.start), np.array(a.end) - np.array(a.start)
    way /= np.linalg.norm(way)
    away = np.array([b.start, b.end]) - origin
    return bool((np.linalg.norm(np.cross(away, way), axis=1) < SLIGHT * 10).all())
