"""How the bodies of a whole stand to each other: in whose way they are, overlaps, touch."""

from __future__ import annotations

from itertools import combinations

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3, dot, subtract, unit
from holoptic.part import Whole
from holoptic.progress import tell
from holoptic.solid.making.overlaps import do_touch, overlap_of
from holoptic.solid.pieces import AxisRelations, Overlap, Relations
from holoptic.solid.seeing.clearances import Clearances, Standing
from holoptic.solid.seeing.whole import set_off
from holoptic.solid.shelf import body_solid
from holoptic.tolerance import CLEAR_MM, KERNEL_MM, PARALLEL


def relate(whole: Whole, besides: tuple[Vec3, ...] = ()) -> Relations:
    """Return how the bodies of a whole stand to each other; `besides` are further axes to be tried.

    They are asked about where they belong, not where they are spread to. Raises PartError or
    BadInput.
    """
    standing = [Standing(body_solid(body), body.at) for body in whole.bodies]
    pairs = list(combinations(range(len(standing)), 2))
    axes, touching, tangled = [], set(), set(pairs)
    found_axes = _axes_of(standing, besides)
    for number, axis in enumerate(found_axes):
        tell(tr("finding what lies in whose way"), number / len(found_axes))
        clearances, held = Clearances(axis), set()
        for a, b in pairs:
            reach = clearances.reach(standing[a], standing[b])
            held |= {(a, b)} if reach.holds_first else set()
            held |= {(b, a)} if reach.holds_second else set()
            if reach.touch:
                touching.add((a, b))
            if not (reach.holds_first and reach.holds_second):
                tangled.discard((a, b))  # a plane parts them along this axis
        spans = tuple(one.span(axis) for one in standing)
        axes.append(AxisRelations(axis, frozenset(held), spans))
    overlaps = _overlaps(standing, sorted(tangled))
    touching |= _touching_besides(standing, touching | {(o.first, o.second) for o in overlaps})
    volumes = tuple(one.solid.facts.volume for one in standing)
    return Relations(tuple(axes), overlaps, frozenset(touching), volumes)


def _axes_of(standing: list[Standing], besides: tuple[Vec3, ...]) -> list[Vec3]:
    """Return the axes along which bodies may leave: those of the crate, then of round faces."""
    axes: list[Vec3] = [(0.0, 0.0, 1.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0)]
    rounds = (feature for one in standing for feature in one.solid.facts.rounds)
    alongs = (subtract(feature.end, feature.start) for feature in rounds)
    ways = [*besides, *(unit(along) for along in alongs if dot(along, along) > KERNEL_MM)]
    for way in ways:
        is_new = all(abs(dot(way, axis)) < 1 - PARALLEL for axis in axes)
        if is_new and len(axes) < _MOST_AXES:
            axes.append(way)
    return axes


_MOST_AXES = 9
"""Directions that are tried: each costs a look at every part and every pair."""


def _overlaps(standing: list[Standing], pairs: list[tuple[int, int]]) -> tuple[Overlap, ...]:
    """Return the overlaps among pairs that nothing parts."""
    found = []
    for number, (a, b) in enumerate(pairs):
        tell(tr("looking for overlaps"), number / len(pairs))
        shared = overlap_of(*(set_off(standing[k].solid.shape, standing[k].offset) for k in (a, b)))
        if shared is not None:
            found.append(Overlap(a, b, *shared))
    return tuple(found)


def _touching_besides(
    standing: list[Standing], known: set[tuple[int, int]]
) -> set[tuple[int, int]]:
    """Return pairs that touch sideways, for those bodies of which no touch is known yet."""
    found = set()
    lonely = set(range(len(standing))) - {k for pair in known for k in pair}
    for a, b in combinations(range(len(standing)), 2):
        if {a, b} & lonely and _are_near(standing[a], standing[b]):
            shapes = [set_off(standing[k].solid.shape, standing[k].offset) for k in (a, b)]
            if do_touch(*shapes):
                found.add((a, b))
    return found


def _are_near(a: Standing, b: Standing) -> bool:
    for axis in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)):
        (low, high), (other_low, other_high) = a.span(axis), b.span(axis)
        if max(low, other_low) > min(high, other_high) + CLEAR_MM:
            return False
    return True
