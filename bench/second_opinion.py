"""Our own hidden lines against the kernel's, stroke by stroke.

Where they differ, both are judged by rays: a solid of our own by `judge`, a part by `oracle`.

Run: .venv/bin/python -m bench.second_opinion [RANDOM PARTS [FIRST]]

With the number of a FIRST random part, those from it on are compared alone.
"""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import NamedTuple

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

import shapely
from OCP.TopoDS import TopoDS_Shape
from shapely import MultiLineString

from bench.random_parts import random_part
from bench.solids import comb, demo_parts, drilled_plate
from csg import Body
from holoptic.errors import PartError
from holoptic.part import Part
from holoptic.pictorial import NearCorner, Picture, View, draw, view_of
from holoptic.solid.anatomy.kernel_shapes import tidy
from holoptic.solid.making.stages import build
from holoptic.solid.pieces import SolidFacts
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.views.orthographic import VIEWS_BY_NAME
from judge import judge
from oracle import complaints, knows
from own_solids import KINDS, SOLIDS

_KINDS = (*KINDS, "isometric-projection", "oblique:30:0.75", "oblique:60:0.6667", "plan-oblique")
_ASIDE_MM = 0.02
_SLIVER_MM = 0.06
"""Of a difference shorter than this nothing is said: an end may lie so far off."""


class Difference(NamedTuple):
    """What only one of two pictures shows, mm: visible and hidden, ours and the kernel's."""

    visible_ours: float
    visible_theirs: float
    hidden_ours: float
    hidden_theirs: float

    @property
    def most(self) -> float:
        """The longest of them."""
        return max(self)


def _lines(picture: Picture, roles: tuple[str, ...]) -> MultiLineString:
    paths = [stroke.path for stroke in picture.strokes if stroke.role in roles]
    return MultiLineString([path for path in paths if len(path) > 1])


def _only(some: MultiLineString, others: MultiLineString) -> float:
    left = some.difference(others.buffer(_ASIDE_MM))
    return float(sum(part.length for part in shapely.get_parts(left) if part.length > _SLIVER_MM))


def difference(ours: Picture, theirs: Picture) -> Difference:
    """Return what differs; a hidden line that runs under a visible one is no matter."""
    seen_ours, seen_theirs = (_lines(picture, ("visible",)) for picture in (ours, theirs))
    all_ours, all_theirs = (_lines(p, ("visible", "hidden")) for p in (ours, theirs))
    return Difference(_only(seen_ours, seen_theirs), _only(seen_theirs, seen_ours),
                      _only(all_ours, all_theirs), _only(all_theirs, all_ours))  # fmt: skip


def views() -> Iterator[tuple[str, View]]:
    """Yield every kind from every near corner, and the six views."""
    for kind in _KINDS:
        for corner in NearCorner:
            yield f"{kind} {corner.value}", view_of(kind, corner)
    yield from VIEWS_BY_NAME.items()


class Solid(NamedTuple):
    """A solid as our own way and the kernel's see it; what judges a picture of it, if anything."""

    name: str
    ours: SeenSolid
    theirs: SeenSolid
    judged: Callable[[Picture], str]


def solids(count: int, first: int = 0) -> Iterator[Solid]:
    """Yield solids of our own, the demo's and others, and random parts up to a number; with the
    number of a first one, those alone.
    """
    for body in SOLIDS if first == 0 else ():
        shape = tidy(body.kernel_shape())
        yield Solid(body.name, SeenSolid(shape), SeenSolid(shape, way="kernel"),
                    partial(_by_judge, body, shape))  # fmt: skip
    others = (*demo_parts(), comb(12), drilled_plate(3, 2)) if first == 0 else ()
    for part in (*others, *map(random_part, range(first, count))):
        try:
            shape = build(part)
        except PartError:
            continue
        ours = SeenSolid(shape)
        yield Solid(part.name, ours, SeenSolid(shape, way="kernel"),
                    partial(_by_oracle, part, ours.facts))  # fmt: skip


def _by_judge(body: Body, shape: TopoDS_Shape, picture: Picture) -> str:
    """Return what the judge says; along an axis it takes outlines of rings for too many."""
    try:
        verdict = judge(body, shape, picture)
    except ValueError:  # nothing that it knows of
        return "not judged"
    accepted = "accepted" if verdict.holds else "not accepted"
    return f"{accepted} (lacks {verdict.missing:.1f}, {verdict.extra:.1f} too many)"


def _by_oracle(part: Part, known: SolidFacts, picture: Picture) -> str:
    if not knows(part):
        return "not judged"
    found = complaints(part, known, picture)
    return f"not accepted: {found[0]}" if found else "accepted"


def main() -> None:
    """Print the pictures that differ, and how many were compared."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 500
    first = int(sys.argv[2]) if len(sys.argv) > 2 else 0
    compared = differing = not_ours = 0
    for name, ours, theirs, judged in solids(count, first):
        if not ours.is_own:
            not_ours += 1
            continue
        for where, view in views():
            pictures = [draw(s.look(view.toward_viewer), view) for s in (ours, theirs)]
            theirs.forget_looks()
            found = difference(pictures[0], pictures[1])
            compared += 1
            if found.most > 0:
                differing += 1
                lengths = "  ".join(f"{value:.3f}" for value in found)
                said = ", theirs ".join(judged(picture) for picture in pictures)
                print(f"{name}, {where}: {lengths}; ours {said}", flush=True)
    print(f"{compared} pictures, {differing} differ; {not_ours} solids in the kernel's way only")


if __name__ == "__main__":
    main()
