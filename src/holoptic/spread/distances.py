"""How far each part of a whole is drawn out, for a gap between them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from holoptic.curves.vectors import Vec3, add, dot
from holoptic.solid.pieces import Relations
from holoptic.spread.parting import Cluster, Tier

_PLACES = 4
"""Of a mm: the kernel's boxes are a little wider than what they hold."""
_NOWHERE: Vec3 = (0.0, 0.0, 0.0)


def draw_apart(
    tier: Tier | None, relations: Relations, gap: float, own: Mapping[int, float] | None = None
) -> list[Vec3]:
    """Return how far each body is moved, mm.

    Clusters that hold each other stand clear of each other by `gap` along the axis, crate from
    crate, as near as they can; the base stays. `own` are distances along the first axis that bodies
    are to have in any case.
    """
    moved = [_NOWHERE] * len(relations.volumes)
    _spread(tier, relations, gap, moved)
    if tier is not None:
        for number, distance in (own or {}).items():
            along = dot(moved[number], tier.axis)
            moved[number] = add(moved[number], tier.axis, distance - along)
    return moved


def _spread(tier: Tier | None, relations: Relations, gap: float, moved: list[Vec3]) -> None:
    if tier is None:
        return
    for cluster in tier.clusters:
        _spread(cluster.inner, relations, gap, moved)
    ways = _ways(tier, relations, gap, moved)
    for cluster, way in zip(tier.clusters, ways, strict=True):
        for number in cluster.bodies:
            moved[number] = add(moved[number], tier.axis, round(way - ways[tier.base], _PLACES))


def _ways(tier: Tier, relations: Relations, gap: float, moved: Sequence[Vec3]) -> list[float]:
    """Return how far each cluster goes along the axis; they come in an order that holds."""
    spans = [_span(cluster, tier.axis, relations, moved) for cluster in tier.clusters]
    ways = [0.0] * len(spans)
    before: dict[int, list[int]] = {k: [] for k in range(len(spans))}
    for k, j in tier.after:
        before[j].append(k)
    for j, (low, _) in enumerate(spans):
        for k in before[j]:
            clear = spans[k][1] - low + gap
            ways[j] = max(ways[j], ways[k] + max(0.0, clear))
    return ways


def _span(
    cluster: Cluster, axis: Vec3, relations: Relations, moved: Sequence[Vec3]
) -> tuple[float, float]:
    """Return from where to where a cluster reaches along an axis, drawn apart within itself."""
    found = relations.along(axis)
    ends = [
        (low + dot(axis, moved[number]), high + dot(axis, moved[number]))
        for number, (low, high) in enumerate(found)
        if number in cluster.bodies
    ]
    return min(low for low, _ in ends), max(high for _, high in ends)
