"""Each line on paper once."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.curves.space import Chord, EllipticArc, SampledCurve, Segment
from holoptic.pictorial.merge import clean
from holoptic.solid.pieces import Piece

FRONT = ((1.0, 0.0, 0.0), (0.0, 0.0, 1.0))
TURN = 2 * math.pi


def line(low, high, *, edge=0, visible=True, depth=0.0):
    return Piece(edge, None, Segment((low, depth, 5.0), (high, depth, 5.0)), visible)


def circle(first, last, *, edge=0, visible=True, depth=0.0, normal=(0.0, -1.0, 0.0)):
    arc = EllipticArc((20.0, depth, 20.0), normal, (1.0, 0.0, 0.0), 8.0, 8.0, first, last)
    return Piece(edge, None, arc, visible)


def spans(pieces, visible):
    ends = [
        sorted((piece.curve.start[0], piece.curve.end[0]))
        for piece in pieces
        if piece.visible is visible
    ]
    return sorted(ends)


def test_pieces_of_one_edge_are_joined():
    whole = clean([line(5, 9), line(0, 5), line(12, 20)], FRONT)
    assert spans(whole, True) == [[0, 9], [12, 20]]


def test_pieces_of_different_edges_stay_apart():
    apart = clean([line(0, 5, edge=1), line(5, 9, edge=2)], FRONT)
    assert spans(apart, True) == [[0, 5], [5, 9]]


def test_visible_wins_over_hidden():
    pieces = clean([line(0, 20, edge=1, visible=False, depth=9), line(5, 9, edge=2)], FRONT)
    assert spans(pieces, True) == [[5, 9]]
    assert spans(pieces, False) == [[0, 5], [9, 20]]


def test_a_line_seen_end_on_is_left_out():
    end_on = Piece(0, None, Segment((1, 0, 1), (1, 30, 1)), True)
    assert clean([end_on], FRONT) == []
    assert clean([], FRONT) == []


intervals = st.tuples(st.integers(0, 40), st.integers(1, 20), st.booleans(), st.integers(0, 3)).map(
    lambda t: (t[0], t[0] + t[1], t[2], t[3])
)


@given(st.lists(intervals, max_size=8))
def test_every_place_is_covered_once_and_by_the_right_role(found):
    pieces = [
        line(low, high, edge=number, visible=visible, depth=float(depth))
        for number, (low, high, visible, depth) in enumerate(found)
    ]
    cleaned = clean(pieces, FRONT)
    for place in (n + 0.5 for n in range(60)):
        wanted = {visible for low, high, visible, _ in found if low < place < high}
        got = [p.visible for p in cleaned
               if min(p.curve.start[0], p.curve.end[0]) < place
               < max(p.curve.start[0], p.curve.end[0])]  # fmt: skip
        assert got == ([True] if True in wanted else [False] if wanted else [])


def test_a_back_circle_behind_a_front_one_vanishes():
    front, back = circle(0, TURN, edge=1), circle(0, TURN, edge=2, visible=False, depth=12)
    assert clean([back, front], FRONT) == [front]


@pytest.mark.parametrize("normal", [(0.0, -1.0, 0.0), (0.0, 1.0, 0.0)])
def test_a_hidden_circle_keeps_what_a_visible_arc_leaves(normal):
    # both circles run the same way or the opposite way round
    visible = circle(0.5, 2.0, edge=1)
    hidden = circle(0, TURN, edge=2, visible=False, depth=12, normal=normal)
    (_, rest) = sorted(clean([hidden, visible], FRONT), key=lambda p: not p.visible)
    left = sum(p.curve.length for p in clean([hidden, visible], FRONT) if not p.visible)
    assert left == pytest.approx(8 * (TURN - 1.5))
    middle = rest.curve.at(sum(rest.curve.span) / 2)
    assert math.dist((middle[0], middle[2]), (20, 20)) == pytest.approx(8)


def test_a_closed_edge_is_joined_over_its_seam():
    (arc,) = clean([circle(0, 1), circle(4, TURN)], FRONT)
    assert arc.curve.length == pytest.approx(8 * (1 + TURN - 4))


def test_a_circle_seen_edge_on_keeps_its_curve():
    level = EllipticArc((20.0, 20.0, 5.0), (0, 0, 1), (1.0, 0.0, 0.0), 8.0, 8.0, 0.3, TURN)
    (piece,) = clean([Piece(0, None, level, True)], FRONT)
    assert isinstance(piece.curve, Chord)
    assert piece.curve.of == level
    assert sorted((piece.curve.start[0], piece.curve.end[0])) == pytest.approx([12, 28])


def test_a_general_curve_behind_its_twin_vanishes():
    points = tuple((float(x), 0.0, x * x / 20) for x in range(20))
    near = Piece(1, None, SampledCurve(points), True)
    far = Piece(2, None, SampledCurve(tuple((x, 9.0, z) for x, _, z in points)), False)
    assert clean([far, near], FRONT) == [near]
