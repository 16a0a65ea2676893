"""The skin of a solid: its faces, and the borders where they meet.

What is known of each is kept, as an edit leaves most of them as they were.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
from OCP.BRep import BRep_Tool
from OCP.BRepLib import BRepLib
from OCP.GeomAbs import GeomAbs_Shape
from OCP.TopoDS import TopoDS_Shape
from shapely.geometry import Polygon as Area

from holoptic.curves.space import Curve, EllipticArc, Segment
from holoptic.curves.vectors import Vec2, Vec3, cross, distance, dot, subtract, unit
from holoptic.solid.anatomy.faces import SolidFace, faces_of
from holoptic.solid.anatomy.known_edges import KnownEdge
from holoptic.solid.anatomy.measures import edge_boxes, turning_points
from holoptic.solid.anatomy.rows import SAMPLED
from holoptic.solid.caches import EDGES, FACES, SKINS
from holoptic.tolerance import COINCIDENT_MM, PARALLEL

_SAME_WAY = PARALLEL
"""Of directions: one less the cosine, or the sine squared. The kernel's own is narrower, so that it
is asked in doubt.
"""


class Border(NamedTuple):
    """An edge of the kernel, the faces that meet there, and its curve.

    `is_drawn` says that it is a line of the solid: seams and tangent joins are none; `is_joint`
    that two faces may continue each other there in one surface.
    """

    known: KnownEdge
    faces: list[SolidFace]
    curve: Curve
    is_drawn: bool
    is_seam: bool
    is_joint: bool

    @property
    def ends(self) -> tuple[int, int]:
        """What tells its vertices apart."""
        return self.known.ends


class Skin:
    """The faces and borders of a shape. Its kernel's shape is marked where faces join smoothly."""

    def __init__(self, shape: TopoDS_Shape) -> None:
        # without this, tangent joins and coplanar seams come out as sharp edges
        BRepLib.EncodeRegularity_s(shape)
        self.shape = shape
        self.faces = faces_of(shape)
        FACES.make_room(len(self.faces))
        EDGES.make_room(sum(len(face.edges) for face in self.faces) // 2)
        self.borders, self.index_of = _borders(self.faces)

    def is_sound(self) -> bool:
        """Whether it is closed, and each of its faces is right in itself."""
        if any(len(border.faces) % 2 and not border.is_seam for border in self.borders):
            return False
        around: dict[int, list[Border]] = defaultdict(list)
        for border in self.borders:
            for face in border.faces:
                around[id(face)].append(border)
        return all(_is_sound(face, around[id(face)]) for face in self.faces)

    def face_boxes(self) -> np.ndarray:
        """Return the boxes that just hold its faces (n × 6: low, high; mm)."""
        rows = [border.known.row for border in self.borders]
        edges = edge_boxes(rows)
        index_of = self.index_of
        uses = np.array([index_of[key] for face in self.faces for key, _ in face.edges], int)
        owners = np.repeat(np.arange(len(self.faces)), [len(face.edges) for face in self.faces])
        boxes = np.tile([np.inf] * 3 + [-np.inf] * 3, (len(self.faces), 1))
        np.minimum.at(boxes[:, :3], owners, edges[uses, :3])
        np.maximum.at(boxes[:, 3:], owners, edges[uses, 3:])
        is_sampled = np.array([row.kind == SAMPLED for row in rows], bool)
        bulges = np.zeros(len(self.faces), bool)
        bulges[owners[is_sampled[uses]]] = True  # the kernel alone knows how far beyond the samples
        for number, face in enumerate(self.faces):
            known = face.is_figured and not bulges[number]
            inside = turning_points(face.row) if known else None
            if inside is None:
                boxes[number] = np.ravel(face.tight_box)
            elif inside:
                boxes[number, :3] = np.minimum(boxes[number, :3], np.min(inside, axis=0))
                boxes[number, 3:] = np.maximum(boxes[number, 3:], np.max(inside, axis=0))
        return boxes

    def has_joints(self) -> bool:
        """Whether faces may continue each other in one surface, or edges in one curve."""
        return any(border.is_joint for border in self.borders) or any(
            _continue(*pair) for pair in self._pairs()
        )

    def _pairs(self) -> Iterator[tuple[Border, Border]]:
        """Yield the borders that meet where no third one does."""
        at: dict[int, list[Border]] = defaultdict(list)
        for border in self.borders:
            for end in border.ends:
                at[end].append(border)
        for meeting in at.values():
            if len(meeting) == 2 and meeting[0] is not meeting[1]:
                yield meeting[0], meeting[1]


def skin_of(shape: TopoDS_Shape) -> Skin:
    """Return the skin of a shape; the last one of each body is kept."""
    last = SKINS.get("last")
    return last if last is not None and last.shape is shape else SKINS.keep("last", Skin(shape))


def _borders(faces: list[SolidFace]) -> tuple[list[Border], dict[int, int]]:
    """Return the borders in the order in which the kernel comes upon them, face by face, and their
    indices by what tells their edges apart.
    """
    found: dict[int, tuple[KnownEdge, list[SolidFace]]] = {}
    for face in faces:
        for (key, _), known in zip(face.edges, face.known_edges, strict=True):
            if key not in found:
                found[key] = known, [face]
            else:
                found[key][1].append(face)
    borders = [_border(known, beside) for known, beside in found.values()]
    return borders, {key: index for index, key in enumerate(found)}


def _border(known: KnownEdge, beside: list[SolidFace]) -> Border:
    """Return what is known of a border; with a plane face re-cut beside it, most stays."""
    last = known.last
    if not isinstance(last, Border):
        border = _new_border(known, beside)
    elif last.faces == beside:
        return last
    elif _lie_alike(last.faces, beside):
        border = last._replace(faces=beside)
    else:
        border = _new_border(known, beside)
    known.last = border
    return border


def _lie_alike(some: list[SolidFace], others: list[SolidFace]) -> bool:
    """Say whether faces that meet at one edge are the same ones, or lie in the same planes."""
    return len(some) == len(others) and all(
        a is b or (a.normal is not None and a.normal == b.normal)
        for a, b in zip(some, others, strict=True)
    )


def _new_border(known: KnownEdge, beside: list[SolidFace]) -> Border:
    edge, curve = known.edge, known.curve
    # a face runs into itself there; one that ends at another face may have such an edge too
    is_seam = all(face is beside[0] for face in beside) and any(
        face.normal is None and BRep_Tool.IsClosed_s(edge, face.face) for face in beside
    )
    is_smooth = (
        len(beside) == 2
        and not _bends(*beside)
        and (
            BRep_Tool.Continuity_s(edge, *(face.face for face in beside))
            != GeomAbs_Shape.GeomAbs_C0
        )
    )
    is_drawn = not is_seam and not is_smooth
    is_joint = is_smooth and not is_seam and beside[0].kind == beside[1].kind
    return Border(known, beside, curve, is_drawn, is_seam, is_joint)


_MANY_SIDES = 24


def _is_sound(face: SolidFace, around: list[Border]) -> bool:
    """Say whether the borders around a face shut it in and do not cross."""
    rings = _rings(around) if face.normal is not None and len(around) > _MANY_SIDES else None
    if rings is None or face.normal is None:
        return face.is_valid
    # the kernel compares every side with every other
    flat = [[_in_plane(face.normal, corner) for corner in ring] for ring in rings]
    flat.sort(key=lambda ring: -Area(ring).area)
    return bool(Area(flat[0], flat[1:]).is_valid)


def _rings(borders: list[Border]) -> list[list[Vec3]] | None:
    """Return the corners along each ring of straight borders; None where they form none."""
    at: dict[int, list[Border]] = defaultdict(list)
    for border in borders:
        for end in border.ends:
            at[end].append(border)
    straight = all(isinstance(border.curve, Segment) for border in borders)
    if not straight or any(len(meeting) != 2 for meeting in at.values()):
        return None
    rings, left = [], {id(border): border for border in borders}
    while left:
        _, border = left.popitem()
        ring, end = [border.curve.at(0.0)], border.ends[1]
        while True:
            border = next((b for b in at[end] if id(b) in left), border)
            if left.pop(id(border), None) is None:
                break
            forward = border.ends[0] == end
            ring.append(border.curve.at(0.0 if forward else border.curve.span[1]))
            end = border.ends[1 if forward else 0]
        rings.append(ring)
    return rings if all(len(ring) > 2 for ring in rings) else None


def _in_plane(normal: Vec3, point: Vec3) -> Vec2:
    """Return a point without the coordinate that says least about where it lies in its plane."""
    steepest = max(range(3), key=lambda axis: abs(normal[axis]))
    return point[steepest - 2], point[steepest - 1]


def _bends(a: SolidFace, b: SolidFace) -> bool:
    """Say whether two faces are planes that lean against each other beyond doubt."""
    if a.normal is None or b.normal is None:
        return False
    turn = cross(a.normal, b.normal)
    return dot(turn, turn) > _SAME_WAY


def _continue(a: Border, b: Border) -> bool:
    """Say whether two borders that meet may be parts of one curve."""
    if isinstance(a.curve, Segment) and isinstance(b.curve, Segment):
        ways = [unit(subtract(item.end, item.start)) for item in (a.curve, b.curve)]
        return abs(dot(*ways)) > 1 - _SAME_WAY
    if isinstance(a.curve, EllipticArc) and isinstance(b.curve, EllipticArc):
        return distance(a.curve.centre, b.curve.centre) < COINCIDENT_MM
    return type(a.curve) is type(b.curve)
