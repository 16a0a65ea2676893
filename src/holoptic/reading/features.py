"""From full and empty cells to operations that a drafter would name: steps, slots, holes, pads.

A face of a view carried along its depth is a feature where everything in it is empty (a cut) or
full (an addition). The fewest and plainest features that make the part are looked for, beginning
with the full block or with an empty crate.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from holoptic.part import Begin, Mode
from holoptic.reading.faces import OUTSIDE
from holoptic.reading.outline import Outline
from holoptic.reading.skew_shapes import SkewShape
from holoptic.reading.space import Space

_MOST_FEATURES = 400


@dataclass(frozen=True)
class Feature:
    """An outline in the view along `depth`, carried from `low` to `high` (mm), cut or added."""

    depth: int
    outline: Outline
    low: float
    high: float
    mode: Mode


@dataclass(frozen=True)
class SkewFeature:
    """A shape whose faces are parallel to no axis, cut or added."""

    shape: SkewShape
    mode: Mode


@dataclass(frozen=True)
class Recipe:
    """What to begin with, and the features to work in one after the other."""

    begin: Begin
    features: tuple[Feature | SkewFeature, ...]

    @property
    def cost(self) -> int:
        """How much there is to say: less is plainer."""
        return sum(
            _SKEW_COST if isinstance(feature, SkewFeature) else _cost(feature.outline)
            for feature in self.features
        )


_SKEW_COST = 5


def _cost(outline: Outline | None) -> int:
    if outline is None:
        return _SKEW_COST
    return 4 if outline.circle else 3 + len(outline.sides)


@dataclass(frozen=True)
class _Prism:
    """A candidate: faces of one view over a run of slabs, or a shape; `inside` marks its atoms."""

    depth: int
    outline: Outline | None
    slabs: tuple[int, int]
    inside: np.ndarray
    shape: SkewShape | None = None


_Step = tuple[Mode, np.ndarray, np.ndarray]
"""Cut or add, the atoms wanted, and those that no feature of the step may touch."""
_Plan = tuple[Begin, tuple[_Step, ...]]


class FeatureFinder:
    """Finds the features of one filling of a space's cells."""

    def __init__(self, space: Space, shapes: Sequence[SkewShape] = ()) -> None:
        self.space = space
        self._shapes = [(shape, shape.inside(space.atoms.points)) for shape in shapes]
        self._neighbours = {d: view.neighbours for d, view in space.views.items()}
        self._known: dict[tuple[int, frozenset[int]], Outline | None] = {}

    def recipes(self, filling: np.ndarray) -> list[Recipe]:
        """Return the ways found to make a filling, the plainest first; none where there is none."""
        atoms = self.space.atoms
        full = (atoms.cells >= 0) & filling[atoms.cells]
        nowhere = np.zeros(len(full), bool)
        cuts, adds = self._prisms(full), self._prisms(~full)
        cuttable = _union(cuts, nowhere)
        addable = _union(adds, nowhere)
        plans: list[_Plan] = [
            ("block", (("cut", ~full, full),)),
            ("empty", (("add", full, ~full),)),
        ]
        # additions that reach over what is cut away again, and cuts over what is added again
        plans.append(("empty", (("add", full, ~full & ~cuttable), ("cut", ~full, full))))
        outside = self._outside_an_outline()
        plans.append(
            ("empty", (("add", full, ~full & (~cuttable | outside)), ("cut", ~full, full)))
        )
        plans.append(("block", (("cut", ~full, full & ~addable), ("add", full, ~full))))
        bores = _union(
            (prism for prism in cuts if prism.outline and _is_bore(prism.outline)), nowhere
        )
        plans.append(("empty", (("add", full, ~full & ~bores), ("cut", ~full, full))))
        found = [self._follow(begin, steps) for begin, steps in plans]
        return sorted((one for one in found if one is not None), key=lambda recipe: recipe.cost)

    def _outside_an_outline(self) -> np.ndarray:
        atoms = self.space.atoms
        found = np.zeros(len(atoms.cells), bool)
        for depth, view in self.space.views.items():
            found |= view.is_void[atoms.faces[depth]]
            if view.silhouette is not None:
                u, v = view.plane.axes
                found |= ~view.silhouette.holds(atoms.points[:, u], atoms.points[:, v])
        return found

    def _follow(self, begin: Begin, steps: tuple[_Step, ...]) -> Recipe | None:
        """Work through steps of (mode, atoms wanted, atoms that no feature may touch)."""
        count = len(self.space.atoms.cells)
        state = np.full(count, begin == "block")
        features: list[Feature | SkewFeature] = []
        for mode, wanted, barred in steps:
            prisms = self._prisms(barred)
            missing = wanted & (state if mode == "cut" else ~state)
            chosen = self._cover(prisms, missing)
            if chosen is None:
                return None
            for prism in chosen:
                state = state & ~prism.inside if mode == "cut" else state | prism.inside
                features.append(self._feature(prism, mode))
        full = steps[0][1] if steps[0][0] == "add" else ~steps[0][1]
        if (state != full).any() or len(features) > _MOST_FEATURES:
            return None
        return Recipe(begin, tuple(features))

    def _cover(self, prisms: list[_Prism], wanted: np.ndarray) -> list[_Prism] | None:
        """Choose prisms that cover the atoms wanted: greedily, then without those not needed.

        None where they cannot be covered.
        """
        volumes = self.space.atoms.volumes
        left = wanted.copy()
        chosen: list[_Prism] = []
        costs = [_cost(p.outline) + 2 * self._is_enclosed(p) for p in prisms]
        while left.any():
            gains = [
                float(volumes[left & p.inside].sum()) / cost
                for p, cost in zip(prisms, costs, strict=True)
            ]
            best = int(np.argmax(gains)) if gains else -1
            if best < 0 or gains[best] <= 0:
                return None
            chosen.append(prisms[best])
            left &= ~prisms[best].inside
        for prism in list(chosen):
            others = _union((p for p in chosen if p is not prism), np.zeros(len(wanted), bool))
            if not (wanted & ~others).any():
                chosen.remove(prism)
        return chosen

    def _prisms(self, barred: np.ndarray) -> list[_Prism]:
        """Return the prisms without a barred atom: for each run of slabs the faces that are free
        over all of it, taken together where they touch.
        """
        found = [prism for depth in (1, 2, 0) for prism in self._prisms_along(depth, barred)]
        return found + [
            _Prism(0, None, (0, 0), inside, shape)
            for shape, inside in self._shapes
            if inside.any() and not (inside & barred).any()
        ]

    def _prisms_along(self, depth: int, barred: np.ndarray) -> Iterable[_Prism]:
        atoms = self.space.atoms
        faces, slabs = atoms.faces[depth], atoms.slabs[depth]
        shape = self.space.views[depth].faces.count, len(self.space.breaks[depth]) - 1
        taken = np.zeros(shape, bool)
        taken[faces[barred], slabs[barred]] = True
        free = ~taken
        free[OUTSIDE] = False
        for first, last in sorted(_runs(free)):
            whole = set(np.flatnonzero(free[:, first : last + 1].all(axis=1)).tolist())
            for group in self._neighbours[depth].groups(whole):
                outline = self._outline(depth, group)
                if outline is not None:
                    inside = np.isin(faces, list(group)) & (slabs >= first) & (slabs <= last)
                    yield _Prism(depth, outline, (first, last), inside)
                else:
                    for face in group:
                        single = self._outline(depth, frozenset([face]))
                        if single is not None:
                            inside = (faces == face) & (slabs >= first) & (slabs <= last)
                            yield _Prism(depth, single, (first, last), inside)

    def _outline(self, depth: int, group: frozenset[int]) -> Outline | None:
        """Return the one outline of a group of faces, or None where it has islands."""
        if (depth, group) not in self._known:
            found = self._neighbours[depth].outlines(group)
            single = found[0] if found is not None and len(found) == 1 else None
            self._known[depth, group] = single
        return self._known[depth, group]

    def _is_enclosed(self, prism: _Prism) -> bool:
        """Say whether a prism begins and ends inside the crate: seldom what is meant."""
        if prism.outline is None:
            return False
        return prism.slabs[0] > 0 and prism.slabs[1] < len(self.space.breaks[prism.depth]) - 2

    def _feature(self, prism: _Prism, mode: Mode) -> Feature | SkewFeature:
        if prism.outline is None:
            assert prism.shape is not None
            return SkewFeature(prism.shape, mode)
        breaks = self.space.breaks[prism.depth]
        low, high = float(breaks[prism.slabs[0]]), float(breaks[prism.slabs[1] + 1])
        return Feature(prism.depth, prism.outline, low, high, mode)


def _is_bore(outline: Outline) -> bool:
    """Say whether an outline is a circle or a slot: what a drafter takes out of a whole shape."""
    return bool(outline.circle) or (
        len(outline.sides) == 4 and sum(side.centre is not None for side in outline.sides) == 2
    )


def _runs(free: np.ndarray) -> set[tuple[int, int]]:
    """Return the longest runs of slabs over which some face is free."""
    padded = np.pad(free, ((0, 0), (1, 1)))
    steps = np.diff(padded.astype(np.int8), axis=1)
    firsts, lasts = np.argwhere(steps == 1), np.argwhere(steps == -1)
    return {(int(a), int(b) - 1) for (_, a), (_, b) in zip(firsts, lasts, strict=True)}


def _union(prisms: Iterable[_Prism], start: np.ndarray) -> np.ndarray:
    found = start.copy()
    for prism in prisms:
        found |= prism.inside
    return found
