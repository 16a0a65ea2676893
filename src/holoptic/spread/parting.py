"""Taking apart: along which axis the parts of a whole leave, in which order, and what stays stuck.

Along an axis a part is held by those that lie in its way. Parts that hold each other in a ring
leave together, and so do parts that only slide past each other there: another axis draws them
apart. What is left together is taken apart by itself.

Source: the groups are the strongly connected components of the blocking relation (Tarjan 1972),
after the blocking graphs of assembly planning (Wilson and Latombe 1994).
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise

from holoptic.catalogue import ntr, tr
from holoptic.curves.vectors import Vec3, dot
from holoptic.job import Spread
from holoptic.job.arrangements import axis_title
from holoptic.solid.pieces import AxisRelations, Relations
from holoptic.spread.graphs import in_order, leads_to, strong_groups
from holoptic.tolerance import PARALLEL


@dataclass(frozen=True)
class Cluster:
    """Bodies that leave together, by their numbers; `inner` is how they are drawn apart then."""

    bodies: tuple[int, ...]
    inner: Tier | None = None


@dataclass(frozen=True)
class Tier:
    """One drawing apart: clusters as they follow each other along an axis.

    `after` has (k, j) where cluster j lies beyond cluster k, which it keeps from leaving that way.
    `base` is the number of the cluster that stays where it is.
    """

    axis: Vec3
    clusters: tuple[Cluster, ...]
    after: frozenset[tuple[int, int]]
    base: int


@dataclass(frozen=True)
class Trouble:
    """Something that does not go as it should; `bodies` are those it is about."""

    words: str
    bodies: tuple[int, ...]


@dataclass(frozen=True)
class Parting:
    """How a whole comes apart: the first tier, why along its axis, and what is in the way.

    `locked` are bodies that hold each other along every axis; `loose` touch nothing.
    """

    tier: Tier | None
    reason: str
    locked: tuple[tuple[int, ...], ...] = ()
    loose: tuple[int, ...] = ()
    troubles: tuple[Trouble, ...] = ()

    @property
    def order(self) -> tuple[int, ...]:
        """The bodies as they follow each other, cluster after cluster."""
        return tuple(_in_order(self.tier))


def take_apart(relations: Relations, ids: Sequence[str], spread: Spread) -> Parting:
    """Return how a whole comes apart; `ids` are the placed parts of its bodies.

    What the drafter asked of it holds as far as it can; what cannot is told as a trouble.
    """
    return _Taking(relations, ids, spread).parting()


class _Taking:
    def __init__(self, relations: Relations, ids: Sequence[str], spread: Spread) -> None:
        self.relations, self.spread = relations, spread
        self.number = {placed: number for number, placed in enumerate(ids)}
        self.troubles: list[Trouble] = []
        self.locked: list[tuple[int, ...]] = []
        self.kept = self._wished_groups()

    def parting(self) -> Parting:
        everything = tuple(range(len(self.relations.volumes)))
        loose = self._loose(everything)
        if len(everything) < 2:
            return Parting(None, tr("there is nothing to be drawn apart"), (), loose)
        tier = self._tier(everything)
        if tier is None:
            reason = tr("no axis draws these parts apart")
            self.locked = [everything]
        else:
            reason = self._reason(tier, everything)
        return Parting(tier, reason, tuple(self.locked), loose, tuple(self.troubles))

    def _loose(self, bodies: tuple[int, ...]) -> tuple[int, ...]:
        touched = {number for pair in self.relations.touching for number in pair}
        touched |= {n for shared in self.relations.overlaps for n in (shared.first, shared.second)}
        return tuple(number for number in bodies if number not in touched)

    def _wished_groups(self) -> list[tuple[int, ...]]:
        groups = []
        for wished in self.spread.groups:
            group = tuple(self.number[item] for item in wished if item in self.number)
            if len(group) > 1:
                groups.append(group)
        return groups

    def _tier(self, bodies: tuple[int, ...], is_first: bool = True) -> Tier | None:
        """Return how some bodies are drawn apart, along the axis that parts the most of them."""
        axes = self.relations.axes
        wished = self.spread.direction if is_first else None
        if wished is not None:
            axes = tuple(a for a in axes if abs(dot(a.axis, wished)) > 1 - PARALLEL)
        best: list[tuple[int, ...]] = []
        chosen = None
        for relation in axes:
            groups = self._groups(bodies, relation)
            if len(groups) > max(len(best), 1):
                best, chosen = groups, relation
        if chosen is None:
            return None
        return self._along(best, chosen, wished, is_first)

    def _along(
        self, groups: list[tuple[int, ...]], relation: AxisRelations, wished: Vec3 | None,
        is_first: bool,
    ) -> Tier:  # fmt: skip
        edges = _between(groups, relation.held)
        if is_first:
            edges |= self._wished_order(edges, groups)
        edges |= self._slides(groups, relation, edges)
        spans = [_span(group, relation) for group in groups]
        order = in_order(len(groups), edges, lambda k: spans[k])
        place = {old: new for new, old in enumerate(order)}
        clusters = tuple(self._cluster(groups[old]) for old in order)
        after = frozenset((place[k], place[j]) for k, j in edges)
        sizes = [sum(self.relations.volumes[n] for n in c.bodies) for c in clusters]
        base = sizes.index(max(sizes))
        if wished is not None and dot(wished, relation.axis) < 0:
            count = len(clusters) - 1
            return Tier(
                wished, clusters[::-1], frozenset((count - j, count - k) for k, j in after),
                count - base,
            )  # fmt: skip
        return Tier(relation.axis, clusters, after, base)

    def _cluster(self, group: tuple[int, ...]) -> Cluster:
        if len(group) == 1 or any(set(group) <= set(kept) for kept in self.kept):
            return Cluster(group)
        inner = self._tier(group, is_first=False)
        if inner is None:
            self.locked.append(group)
        return Cluster(group, inner)

    def _groups(self, bodies: tuple[int, ...], relation: AxisRelations) -> list[tuple[int, ...]]:
        """Return the bodies that an axis leaves together."""
        held = {(k, j) for k, j in relation.held if k in bodies and j in bodies}
        edges = list(held)
        for a, b in self.relations.touching:
            if a in bodies and b in bodies and self._stay_together(a, b, relation):
                edges += [(a, b), (b, a)]
        for group in self.kept:
            inside = [number for number in group if number in bodies]
            edges += zip(inside, inside[1:] + inside[:1], strict=True)
        return strong_groups(bodies, edges)

    def _stay_together(self, a: int, b: int, relation: AxisRelations) -> bool:
        """Say whether bodies that touch only slide past each other along an axis: another one
        draws them apart.
        """
        return not _are_related(a, b, relation) and any(
            ((a, b) in other.held) != ((b, a) in other.held) for other in self.relations.axes
        )

    def _slides(
        self, groups: list[tuple[int, ...]], relation: AxisRelations, edges: set[tuple[int, int]]
    ) -> set[tuple[int, int]]:
        """Return edges between groups of which one slides out of the other either way, as a pin
        does from a bore: toward the end where it stands already.
        """
        group_of = {number: k for k, group in enumerate(groups) for number in group}
        made: set[tuple[int, int]] = set()

        def place(number: int) -> tuple[float, float]:
            return round(sum(relation.spans[number]), 3), -self.relations.volumes[number]

        for a, b in sorted(self.relations.touching):
            if a not in group_of or b not in group_of or _are_related(a, b, relation):
                continue
            if group_of[a] != group_of[b]:
                one, other = sorted((a, b), key=place)
                pair = group_of[one], group_of[other]
                made.add(pair[::-1] if leads_to(edges | made, pair[1], pair[0]) else pair)
        return made

    def _wished_order(
        self, edges: set[tuple[int, int]], groups: list[tuple[int, ...]]
    ) -> set[tuple[int, int]]:
        """Return the edges by which groups follow each other as was asked, where that can be."""
        made: set[tuple[int, int]] = set()
        group_of = {number: k for k, group in enumerate(groups) for number in group}
        wished = [self.number[item] for item in self.spread.order if item in self.number]
        chain = list(dict.fromkeys(group_of[n] for n in wished if n in group_of))
        for k, j in pairwise(chain):
            if leads_to(edges | made, j, k):
                words = tr("what was to come first lies in the way of what was to follow it")
                self.troubles.append(Trouble(words, (*groups[k], *groups[j])))
            else:
                made.add((k, j))
        return made

    def _reason(self, tier: Tier, bodies: tuple[int, ...]) -> str:
        axis = axis_title(tier.axis)
        if self.spread.axis is not None:
            return tr("along {axis}, as was asked for", axis=axis)
        if all(len(cluster.bodies) == 1 for cluster in tier.clusters):
            return tr(
                "all {count} parts come apart along {axis}: one axis suffices",
                count=len(bodies),
                axis=axis,
            )
        return ntr(
            "along {axis} the most comes apart: {count} group",
            "along {axis} the most comes apart: {count} groups",
            len(tier.clusters),
            axis=axis,
        )


def _are_related(a: int, b: int, relation: AxisRelations) -> bool:
    return (a, b) in relation.held or (b, a) in relation.held


def _between(
    groups: list[tuple[int, ...]], held: Iterable[tuple[int, int]]
) -> set[tuple[int, int]]:
    """Return which group holds which."""
    group_of = {number: k for k, group in enumerate(groups) for number in group}
    pairs = ((group_of[a], group_of[b]) for a, b in held if a in group_of and b in group_of)
    return {(k, j) for k, j in pairs if k != j}


def _span(group: tuple[int, ...], relation: AxisRelations) -> tuple[float, float]:
    lows, highs = zip(*(relation.spans[number] for number in group), strict=True)
    return min(lows), max(highs)


def _in_order(tier: Tier | None) -> Iterable[int]:
    if tier is None:
        return
    for cluster in tier.clusters:
        if cluster.inner is None:
            yield from cluster.bodies
        else:
            yield from _in_order(cluster.inner)
