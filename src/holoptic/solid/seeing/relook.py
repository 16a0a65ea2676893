"""A look at a solid that differs little from one looked at before.

All that changed lies in a box, and what is seen changes only before and behind that: in the box's
shadow. Lines outside the shadow stay as they were; inside it they are found anew among the faces
that are met there. Straight edges are cut where the shadow ends; a bent line that meets the shadow
is found anew as a whole, among all faces that it may pass.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from functools import cached_property
from weakref import ReferenceType, ref

import numpy as np
from OCP.BRep import BRep_Builder
from OCP.TopoDS import TopoDS_Compound

from holoptic.curves.space import Segment
from holoptic.curves.vectors import Vec3
from holoptic.solid.anatomy.faces import SolidFace
from holoptic.solid.anatomy.shadow import Box3, Hulls, Shadow, hull_of
from holoptic.solid.anatomy.skin import Border, Skin
from holoptic.solid.pieces import Span
from holoptic.solid.seeing.removal import Lines, Removal, Sight
from holoptic.tolerance import COINCIDENT_MM

_MARGIN_MM = 0.02
_MOST_OF_IT = 0.6
"""Where more of the faces are met, the whole solid is looked at."""


class Anatomy:
    """The skin of a solid, with its drawn borders as the edges that lines are told by."""

    def __init__(self, skin: Skin, drawn: Sequence[Border]) -> None:
        self.skin = skin
        self.drawn = drawn
        self.removal = Removal(drawn)
        self._drawn_by_id = {id(border.known): border.is_drawn for border in skin.borders}
        self._compared: tuple[ReferenceType[Anatomy], Box3 | None] | None = None

    def look(self, toward: Vec3, before: Anatomy | None, lines: Lines | None) -> Lines:
        """Return the lines along a direction; `lines` are those of another solid along it."""
        again = None
        if before is not None and lines is not None:
            again = looked_again(self, before, lines, toward)
        return self.removal.run(self.skin.shape, toward) if again is None else again

    def changes_since(self, before: Anatomy) -> Box3 | None:
        """Return the box of all in which two solids differ, mm; None where nothing does.

        Where plane faces differ so do edges, and between their edges lies all that differs; a
        round face may bulge beyond its own.
        """
        # the other one is not kept alive, or each would keep all that came before it
        if self._compared is None or self._compared[0]() is not before:
            pairs = (self, before), (before, self)
            hulls = [
                border.known.hull
                for one, other in pairs
                for border in one.skin.borders
                if other.lacks(border)
            ]
            hulls += [
                face.hull
                for one, other in pairs
                for face in one.skin.faces
                if face.normal is None and id(face) not in other.face_ids
            ]
            self._compared = ref(before), Hulls(hulls).box()
        return self._compared[1]

    def lacks(self, border: Border) -> bool:
        """Say whether a border of another solid is none of this, or is no line here or there."""
        return self._drawn_by_id.get(id(border.known)) is not border.is_drawn

    def is_like(self, before: Anatomy) -> bool:
        """Say whether most faces are those of another solid."""
        return 2 * len(self.face_ids & before.face_ids) > len(self.face_ids)

    def new_indices(self, before: Anatomy) -> dict[int, int]:
        """Return the indices of another solid's edges in this one, of those that it has."""
        own = {id(border.known): index for index, border in enumerate(self.drawn)}
        old = enumerate(id(border.known) for border in before.drawn)
        return {index: own[known] for index, known in old if known in own}

    @cached_property
    def face_ids(self) -> frozenset[int]:
        """What tells its faces from others."""
        return frozenset(id(face) for face in self.skin.faces)

    @cached_property
    def straight(self) -> tuple[list[int], np.ndarray, np.ndarray]:
        """The indices of its straight edges, their starts and their ends (n × 3)."""
        found = [(i, b.curve) for i, b in enumerate(self.drawn) if isinstance(b.curve, Segment)]
        starts = np.array([curve.start for _, curve in found]).reshape(-1, 3)
        ends = np.array([curve.end for _, curve in found]).reshape(-1, 3)
        return [index for index, _ in found], starts, ends

    @cached_property
    def bent(self) -> tuple[list[int], Hulls]:
        """The indices of its other edges, and hulls about them."""
        found = [i for i, border in enumerate(self.drawn) if not isinstance(border.curve, Segment)]
        return found, Hulls(self.drawn[index].known.hull for index in found)

    def faces_met(self, shadow: Shadow) -> list[SolidFace]:
        """Return the faces that may lie in a shadow."""
        hulls, bodies, begins = self._bodies
        least = np.minimum.reduceat(hulls.least(shadow.normals)[bodies], begins)
        is_met = least <= shadow.reach
        return [face for face, met in zip(self.skin.faces, is_met, strict=True) if met.all()]

    @cached_property
    def _bodies(self) -> tuple[Hulls, np.ndarray, np.ndarray]:
        """Hulls about borders and round faces; those of each face in turn, and where each begins.

        A plane face reaches no further than its borders.
        """
        places = {id(face): k for k, face in enumerate(self.skin.faces)}
        borders, round_faces = self.skin.borders, [f for f in self.skin.faces if f.normal is None]
        at = [(places[id(face)], k) for k, b in enumerate(borders) for face in b.faces]
        at += [(places[id(face)], len(borders) + k) for k, face in enumerate(round_faces)]
        at.sort()
        faces, bodies = np.array(at).T
        hulls = Hulls([*(b.known.hull for b in borders), *(f.hull for f in round_faces)])
        return hulls, bodies, np.flatnonzero(np.diff(faces, prepend=-1))


def looked_again(now: Anatomy, before: Anatomy, lines: Lines, toward: Vec3) -> Lines | None:
    """Return the lines of a solid by those of another; None where too much differs."""
    box = now.changes_since(before) if now.is_like(before) else None
    if box is None:
        return None
    shadow = Shadow.of_box(box, toward, _MARGIN_MM)
    bent, hulls = now.bent
    met = {index for index, is_met in zip(bent, shadow.meets(hulls), strict=True) if is_met}
    whole = [now.drawn[index].known.hull for index in met]
    # a line in the outer margin may come twice, which is no harm; one that is lost would be
    wider = shadow.with_margin(_MARGIN_MM)
    for line in _met((*lines.outlines, *lines.smooth), wider, True):
        whole += (hull_of(curve) for curve, _ in line)
    faces = now.faces_met(shadow.about(Hulls(whole)))
    if len(faces) > _MOST_OF_IT * len(now.skin.faces):
        return None
    found = now.removal.run(_together(faces), toward, _bare_joins(now, faces))
    renumbered = now.new_indices(before)
    again = Lines(_straight(now, shadow, lines, renumbered, found))
    again.bent |= {index: pieces for index, pieces in found.bent.items() if index in met}
    for index, pieces in lines.bent.items():
        if index in renumbered and renumbered[index] not in met:
            again.bent[renumbered[index]] = pieces
    for old, new, all_ in (
        (lines.outlines, found.outlines, again.outlines),
        (lines.smooth, found.smooth, again.smooth),
    ):
        all_ += [*_met(old, shadow, False), *_met(new, wider, True)]
    return again


def _met(lines: Sequence[list[Sight]], shadow: Shadow, is_met: bool) -> Iterator[list[Sight]]:
    """Yield the lines that a shadow meets, or those that it does not."""
    meets = iter(
        shadow.meets(Hulls(hull_of(curve) for line in lines for curve, _ in line)).tolist()
    )
    for line in lines:
        of_line = [next(meets) for _ in line]
        if any(of_line) == is_met:
            yield line


def _together(faces: Iterable[SolidFace]) -> TopoDS_Compound:
    compound, builder = TopoDS_Compound(), BRep_Builder()
    builder.MakeCompound(compound)
    for face in faces:
        builder.Add(compound, face.face)
    return compound


def _bare_joins(now: Anatomy, faces: Iterable[SolidFace]) -> list[Border]:
    """Return the borders that are no lines, and look like some where one of their faces lacks."""
    there = {id(face) for face in faces}
    return [
        border
        for border in now.skin.borders
        if not border.is_drawn and not all(id(face) in there for face in border.faces)
    ]


def _straight(
    now: Anatomy, shadow: Shadow, old: Lines, renumbered: dict[int, int], new: Lines
) -> dict[tuple[int, bool], list[Span]]:
    """Return the straight lines: old ones outside the shadow, new ones inside it."""
    indices, starts, ends = now.straight
    sizes = np.linalg.norm(ends - starts, axis=1)
    low, high = (share * sizes for share in shadow.shares(starts, ends))
    met = np.flatnonzero(low < high)
    inside = {indices[k]: (float(low[k]), float(high[k])) for k in met}
    again: dict[tuple[int, bool], list[Span]] = defaultdict(list)
    for (index, visible), spans in new.straight.items():
        if index in inside:
            again[index, visible] += _between(spans, *inside[index])
    for (before, visible), spans in old.straight.items():
        if before not in renumbered:
            continue
        index = renumbered[before]
        if index in inside:
            first, last = inside[index]
            spans = [*_between(spans, 0.0, first), *_between(spans, last, np.inf)]  # noqa: PLW2901
            again[index, visible] = _joined([*again[index, visible], *spans])
        else:
            again[index, visible] = spans
    return again


def _between(spans: list[Span], low: float, high: float) -> list[Span]:
    cut = [(max(a, low), min(b, high)) for a, b in spans]
    return [(a, b) for a, b in cut if a < b]


def _joined(spans: list[Span]) -> list[Span]:
    joined: list[Span] = []
    for low, high in sorted(spans):
        if joined and low - joined[-1][1] < COINCIDENT_MM:
            joined[-1] = joined[-1][0], max(high, joined[-1][1])
        else:
            joined.append((low, high))
    return joined
