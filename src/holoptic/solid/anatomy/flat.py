"""A solid as flat arrays: what is needed of its faces and edges to find hidden lines quickly.

Each face and edge is looked into once; the arrays are put together from what is known of them.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from holoptic.curves.vectors import Vec3
from holoptic.solid.anatomy.facts import bodies_of
from holoptic.solid.anatomy.rows import FREE, PLANE
from holoptic.solid.anatomy.skin import Skin

SEAM, SMOOTH, CONVEX, UNSURE = 1, 2, 4, 8
"""As the compiled part numbers them."""


_NO_NORMALS = np.empty((0, 3))


class Flat:
    """Faces and edges as arrays: what the compiled part takes."""

    face_kind: np.ndarray
    frame: np.ndarray
    sizes: np.ndarray
    sign: np.ndarray
    uv: np.ndarray
    is_whole: np.ndarray
    is_sheet: np.ndarray
    has_apex: np.ndarray
    ring_start: np.ndarray
    rings: np.ndarray
    edge_kind: np.ndarray
    curve: np.ndarray
    span: np.ndarray
    beside: np.ndarray
    reversed: np.ndarray
    flags: np.ndarray
    sample_start: np.ndarray
    samples: np.ndarray
    use: np.ndarray
    net_start: np.ndarray
    net_size: np.ndarray
    net: np.ndarray
    lean_start: np.ndarray
    lean: np.ndarray
    body: np.ndarray
    bodies: int
    body_box: np.ndarray


class FlatSolid(Flat):
    """The faces and borders of a solid as arrays, in the order of its skin."""

    def __init__(self, skin: Skin) -> None:
        self.borders = skin.borders
        rows = [face.row for face in skin.faces]
        self.face_kind = np.array([row.kind for row in rows], np.int32)
        figures = np.array([row.figures for row in rows])
        self.frame = np.ascontiguousarray(figures[:, :12])
        self.sizes = np.ascontiguousarray(figures[:, 12:14])
        self.sign = np.ascontiguousarray(figures[:, 14])
        self.uv = np.ascontiguousarray(figures[:, 15:])
        self.is_whole = np.array([row.is_whole for row in rows], np.uint8)
        self.has_apex = np.array([row.has_apex for row in rows], np.uint8)
        self.ring_start = _starts([len(row.rings) for row in rows])
        self.rings = np.concatenate([row.rings for row in rows])
        self.net_size = np.array([row.net.shape[:2] for row in rows], np.int32)
        self.net_start = _starts([row.net.shape[0] * row.net.shape[1] for row in rows])
        self.net = np.concatenate([row.net.reshape(-1, 6) for row in rows])
        edges = [border.known.row for border in skin.borders]
        self.edge_kind = np.array([row.kind for row in edges], np.int32)
        curves = np.array([row.figures for row in edges]).reshape(-1, 11)
        self.curve = np.ascontiguousarray(curves[:, :9])
        self.span = np.ascontiguousarray(curves[:, 9:])
        samples = [row.samples for row in edges if row.samples is not None]
        self.sample_start = _starts([0 if e.samples is None else len(e.samples) for e in edges])
        self.samples = np.concatenate(samples) if samples else np.empty((0, 3))
        self.bodies, bodies = bodies_of(skin.shape, skin.faces)
        self.body = np.array(bodies, np.int32)
        self._use(skin)
        self.body_box = self._box_bodies(skin)
        self._lean(skin)
        self._mark()

    def _box_bodies(self, skin: Skin) -> np.ndarray:
        """Return the boxes of the bodies (n × 6, mm), where there are several."""
        boxes = np.tile([np.inf] * 3 + [-np.inf] * 3, (self.bodies, 1))
        if self.bodies > 1:
            found = skin.face_boxes()
            np.minimum.at(boxes[:, :3], self.body, found[:, :3])
            np.maximum.at(boxes[:, 3:], self.body, found[:, 3:])
        return boxes

    def _lean(self, skin: Skin) -> None:
        """Note the normals of free faces along their edges, evenly over their spans."""
        counts, found = [], [_NO_NORMALS]
        free = self.face_kind == FREE
        if not free.any():
            self.lean_start, self.lean = np.zeros(2 * len(skin.borders) + 1, np.int32), _NO_NORMALS
            return
        for number, border in enumerate(skin.borders):
            for face in self.beside[number]:
                normals = _NO_NORMALS
                if face >= 0 and free[face] and not border.is_seam:
                    normals = skin.faces[face].normals_along(border.known.edge, border.curve)
                counts.append(len(normals))
                found.append(normals)
        self.lean_start, self.lean = _starts(counts), np.concatenate(found)

    def _use(self, skin: Skin) -> None:
        """Note which face uses which edge, and which way round."""
        index_of = skin.index_of
        edges = np.array([index_of[key] for face in skin.faces for key, _ in face.edges], np.int32)
        ways = np.array([way for face in skin.faces for way in face.ways_round], np.uint8)
        counts = [len(face.edges) for face in skin.faces]
        faces = np.repeat(np.arange(len(counts), dtype=np.int32), counts)
        bounds = ways < 2
        edges, ways, faces = edges[bounds], ways[bounds], faces[bounds]
        self._uses = np.bincount(edges, minlength=len(skin.borders))
        self.use = np.column_stack([faces, edges])
        order = np.argsort(edges, kind="stable")
        sorted_edges = edges[order]
        rank = np.arange(len(edges)) - np.searchsorted(sorted_edges, sorted_edges)
        first = order[rank < 2], rank[rank < 2]  # an edge of more faces is looked at anyway
        self.beside = np.full((len(skin.borders), 2), -1, np.int32)
        self.reversed = np.zeros((len(skin.borders), 2), np.uint8)
        self.beside[edges[first[0]], first[1]] = faces[first[0]]
        self.reversed[edges[first[0]], first[1]] = ways[first[0]]

    def _mark(self) -> None:
        """Note which edges are seams, which run smoothly from face to face, and which may be either
        convex or hollow; those of which nothing is noted are told when they are first looked at.
        """
        is_seam = np.array([border.is_seam for border in self.borders], bool)
        is_drawn = np.array([border.is_drawn for border in self.borders], bool)
        is_open = bool((self._uses % 2).any())
        self.is_sheet = np.full(len(self.face_kind), is_open, np.uint8)
        hollow = (self.sign < 0) & (self.face_kind != PLANE)
        smooth = ~is_drawn & ~is_seam
        faces = np.array([len(border.faces) for border in self.borders])
        unsure = ((self._uses != 2) | (faces != 2) | is_open) & ~is_seam
        flags = np.where(is_seam, SEAM, 0) | np.where(smooth, SMOOTH, 0)
        flags |= np.where(unsure, UNSURE, 0)
        flags |= np.where(smooth & ~unsure & ~hollow[self.beside].any(axis=1), CONVEX, 0)
        self.flags = flags.astype(np.uint8)


class FlatWhole(Flat):
    """The arrays of several solids in one row, each set off to where it stands."""

    def __init__(
        self, parts: Sequence[Flat], boxes: Sequence[tuple[Vec3, Vec3]], offsets: Sequence[Vec3]
    ) -> None:
        """Take the solids with their bounding boxes, and how far each is set off (mm)."""
        for name in _AS_THEY_ARE:
            setattr(self, name, np.concatenate([getattr(part, name) for part in parts]))
        for name in _WITH_PLACES:
            setattr(self, name, np.concatenate([
                _set_off(getattr(part, name), offset)
                for part, offset in zip(parts, offsets, strict=True)
            ]))  # fmt: skip
        for name in _STARTS:
            setattr(self, name, _joined_starts([getattr(part, name) for part in parts]))
        self.bodies = sum(part.bodies for part in parts)
        self.body_box = np.concatenate([
            _set_off(part.body_box if part.bodies > 1 else np.ravel(box)[None], offset, (0, 3))
            for part, box, offset in zip(parts, boxes, offsets, strict=True)
        ])  # fmt: skip
        faces = before([len(part.face_kind) for part in parts])
        edges = before([len(part.edge_kind) for part in parts])
        bodies = before([part.bodies for part in parts])
        self.body = np.concatenate([
            part.body + first for part, first in zip(parts, bodies, strict=True)
        ]).astype(np.int32)  # fmt: skip
        self.use = np.concatenate([
            part.use + np.array([face, edge])
            for part, face, edge in zip(parts, faces, edges, strict=True)
        ]).astype(np.int32)  # fmt: skip
        self.beside = np.concatenate([
            np.where(part.beside >= 0, part.beside + face, -1)
            for part, face in zip(parts, faces, strict=True)
        ]).astype(np.int32)  # fmt: skip


_AS_THEY_ARE = (
    "face_kind", "sizes", "sign", "uv", "is_whole", "is_sheet", "has_apex", "rings", "edge_kind",
    "span", "reversed", "flags", "net_size", "lean",
)  # fmt: skip
_WITH_PLACES = ("frame", "curve", "samples", "net")
"""Arrays whose rows begin with a place."""
_STARTS = ("ring_start", "sample_start", "net_start", "lean_start")


def _set_off(array: np.ndarray, offset: Vec3, places: tuple[int, ...] = (0,)) -> np.ndarray:
    made = array.copy()
    for first in places:
        made[:, first : first + 3] += offset
    return made


def before(counts: list[int]) -> list[int]:
    """Return how many there are before each."""
    return [sum(counts[:k]) for k in range(len(counts))]


def _joined_starts(starts: list[np.ndarray]) -> np.ndarray:
    return _starts([int(count) for each in starts for count in np.diff(each)])


def _starts(counts: list[int]) -> np.ndarray:
    return np.concatenate([[0], np.cumsum(counts)]).astype(np.int32)
