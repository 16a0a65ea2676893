"""The geometry that reading stands on: arrangements, faces, outlines, surfaces."""

import math
import random
from itertools import pairwise

import numpy as np
import pytest
from bench.exercise_parts import SKEW_FAMILIES, exercise
from hypothesis import given
from hypothesis import strategies as st

from holoptic.job import pose
from holoptic.reading.faces import OUTSIDE, Faces
from holoptic.reading.lines import Bow, DrawnLine, Free, Straight
from holoptic.reading.outlines import Neighbours
from holoptic.reading.pieces import crossings, split
from holoptic.reading.planes import PLANES, canonical
from holoptic.reading.skew_shapes import BallShape, ConeShape, CornerShape, TaperShape
from holoptic.reading.space import clustered, on_breaks
from holoptic.reading.suspecting import suspected


def faces_of(lines):
    pieces = split([DrawnLine(line) for line in lines])
    ends = [end for piece in pieces for end in (piece.start, piece.end)]
    breaks = tuple(clustered([end[axis] for end in ends]) for axis in (0, 1))
    return Faces(on_breaks(pieces, breaks), breaks)


def box(x, y, width, height):
    corners = [(x, y), (x + width, y), (x + width, y + height), (x, y + height)]
    return [Straight(corners[k - 1], corners[k]) for k in range(4)]


# --- arrangements -----------------------------------------------------------------------------

_place = st.tuples(st.integers(0, 40), st.integers(0, 30)).map(lambda p: (float(p[0]), float(p[1])))
_segment = st.tuples(_place, _place).filter(lambda s: math.dist(*s) > 3)


@given(st.lists(_segment, min_size=1, max_size=8))
def test_pieces_cover_the_lines_and_meet_at_their_ends_alone(segments):
    pieces = split([DrawnLine(Straight(*segment)) for segment in segments])
    for piece in pieces:
        assert any(_is_along(piece.middle, segment) for segment in segments)
    for number, segment in enumerate(segments):
        own = [piece for piece in pieces if number in piece.lines]
        assert sum(math.dist(p.start, p.end) for p in own) == pytest.approx(
            math.dist(*segment), abs=5e-3
        )
    for one, other in pairwise(pieces):
        for place in crossings(Straight(one.start, one.end), Straight(other.start, other.end)):
            ends = (one.start, one.end, other.start, other.end)
            assert min(math.dist(place, end) for end in ends) < 0.05


def _is_along(place, segment):
    (a, b), (c, d) = segment
    off = abs((c - a) * (place[1] - b) - (d - b) * (place[0] - a)) / math.dist(*segment)
    return off < 5e-3


@given(st.lists(st.tuples(st.integers(0, 20), st.integers(0, 20), st.integers(2, 15),
                          st.integers(2, 15)), min_size=1, max_size=5))  # fmt: skip
def test_faces_are_as_many_as_euler_says(boxes):
    """V − E + F = 1 + C for the vertices, edges, faces and connected parts of a plane graph."""
    lines = [line for x, y, w, h in boxes for line in box(float(x), float(y), w, h)]
    faces = faces_of(lines)
    vertices = {end for piece in faces.pieces for end in (piece.start, piece.end)}
    parent = {vertex: vertex for vertex in vertices}

    def find(vertex):
        while parent[vertex] != vertex:
            vertex = parent[vertex]
        return vertex

    for piece in faces.pieces:
        parent[find(piece.start)] = find(piece.end)
    parts = len({find(vertex) for vertex in vertices})
    assert len(vertices) - len(faces.pieces) + faces.count == 1 + parts


def test_faces_of_circles_and_slopes_are_found_where_they_lie():
    faces = faces_of([*box(0, 0, 40, 30), Bow((15, 14), 6.5, 0, math.tau),
                      Straight((25, 0), (40, 21))])  # fmt: skip
    inside, plate, corner = (faces.face_at(p) for p in ((15, 14), (3, 3), (38, 2)))
    assert len({inside, plate, corner, OUTSIDE}) == 4
    assert faces.face_at((15, 20.6)) == plate
    assert faces.face_at((15, 20.4)) == inside
    assert faces.face_at((-1, 5)) == faces.face_at((41, 5)) == OUTSIDE
    grid = faces.faces_at(np.array([3.0, 15.0]), np.array([3.0, 14.0]))
    assert grid.tolist() == [[plate, plate], [plate, inside]]


def test_outlines_join_what_runs_on_and_know_circles():
    cut = Straight((0, 12), (40, 12))
    faces = faces_of([*box(0, 0, 40, 30), cut, Bow((20, 12), 5, 0, math.tau)])
    neighbours = Neighbours(faces)
    disc = frozenset(faces.face_at(p) for p in ((20, 13), (20, 11)))
    (outline,) = neighbours.outlines(disc)
    assert outline.circle == ((20, 12), 5)
    whole = frozenset(range(1, faces.count))
    (outer,) = neighbours.outlines(whole)
    assert len(outer.sides) == 4
    assert neighbours.groups(set(whole)) == [whole]
    ring = whole - disc
    assert len(neighbours.outlines(ring)) == 2


def test_free_curves_stay_out_of_the_arrangement():
    free = Free(((0.0, 3.0), (5.0, 4.0), (9.0, 2.0)))
    assert len(split([DrawnLine(x) for x in (*box(0, 0, 10, 8), free)])) == 4


# --- surfaces ---------------------------------------------------------------------------------

SHAPES = [
    ConeShape(2, (21.5, 17.0), 6.5, 33.0, 12.5, 4.0),
    ConeShape(0, (14.0, 19.0), 5.0, 21.0, 9.0, 0.0),
    BallShape((20.0, 15.5, 13.0), 11.5),
    CornerShape((50.0, 0.0, 36.0), (True, False, True), (17.5, 11.0, 22.0)),
    TaperShape(2, (20.0, 15.0), ((30.0, 15.0), (15.0, 23.66), (15.0, 6.34)), 8.0, 31.0, 0.35),
]


@pytest.mark.parametrize("shape", SHAPES)
def test_the_roots_of_a_surface_part_its_inner_from_its_outer_side(shape):
    dice = random.Random(4)
    for surface in shape.surfaces():
        met = 0
        for _ in range(300):
            point = [dice.uniform(a, b) for a, b in zip(surface.low, surface.high, strict=True)]
            depth = dice.randrange(3)
            for at, normal in surface.roots(depth, tuple(point)):
                met += 1
                assert math.hypot(*normal) == pytest.approx(1)
                sides = []
                for step in (-1e-5, 1e-5):
                    beside = list(point)
                    beside[depth] = at + step
                    sides.append(bool(surface.holds(np.array([beside]))[0]))
                if abs(normal[depth]) > 0.05:
                    assert sides[0] != sides[1]
        assert met > 20


@pytest.mark.parametrize("shape", SHAPES)
def test_a_shape_lies_on_the_inner_side_of_its_surfaces(shape):
    dice = np.random.default_rng(9)
    low, high = (np.array([getattr(s, end) for s in shape.surfaces()]) for end in ("low", "high"))
    points = dice.uniform(low.min(axis=0), high.max(axis=0), (4000, 3))
    inside = shape.inside(points)
    assert inside.any()
    for surface in shape.surfaces():
        assert surface.holds(points)[inside].all()


@pytest.mark.parametrize(("family", "kind"), [
    ("cones", ConeShape), ("spheres", BallShape), ("skew corners", CornerShape),
    ("pyramids", TaperShape),
])  # fmt: skip
def test_skew_shapes_are_suspected_and_read_back(worker, family, kind):
    part = exercise(family, 1)
    views = [v for v in worker.ask("derive_views", part) if v.name in ("front", "top", "right")]
    sizes = part.crate.sizes
    found = suspected([canonical(view) for view in views], sizes)
    assert any(isinstance(shape, kind) for shape in found)
    reading = worker.ask("read", tuple(views), "read")
    assert reading.verdict == "unique"
    wanted = worker.ask("present", pose(part)).facts.volume
    assert reading.answers[0].volume == pytest.approx(wanted, rel=1e-6)
    assert set(SKEW_FAMILIES) >= {family}


def test_canonical_views_begin_at_the_origin_and_turn_back(worker):
    part = exercise("steps", 3)
    for view in worker.ask("derive_views", part):
        once = canonical(view)
        assert once.box[:2] == pytest.approx((0, 0))
        u, v = PLANES[view.name].axes
        assert once.box[2:] == pytest.approx((part.crate.sizes[u], part.crate.sizes[v]))
        again = canonical(once)
        for one, other in zip(again.lines, view.moved(-view.box[0], -view.box[1]).lines,
                              strict=True):  # fmt: skip
            for a, b in pairwise([one.shape.start, other.shape.start]):
                assert a == pytest.approx(b)
