"""A look put together from what an edit leaves shows what a fresh look shows."""

import random
from dataclasses import replace

import numpy as np
import pytest
from bench.random_parts import scattered_part
from bench.relook import VIEWS, compared, edits
from bench.solids import drilled_plate
from hypothesis import given
from hypothesis import strategies as st

from holoptic.curves.space import EllipticArc, Segment
from holoptic.curves.vectors import cross, dot, unit
from holoptic.part import Part
from holoptic.solid.anatomy.shadow import Hulls, Shadow, hull_of
from holoptic.solid.making.runs import make_ready
from holoptic.solid.making.stages import build_what_can_be
from holoptic.solid.seeing import relook
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.units import Length

PARTS = [drilled_plate(3, 2), scattered_part(2), scattered_part(5), scattered_part(7)]
_NUMBER = st.floats(-40, 40).map(lambda value: round(value, 2))
_POINT = st.tuples(_NUMBER, _NUMBER, _NUMBER)


@pytest.mark.parametrize("part", PARTS, ids=lambda part: part.name)
def test_an_edited_part_looks_as_if_it_were_looked_at_afresh(part: Part, monkeypatch):
    monkeypatch.setattr(relook, "_MOST_OF_IT", 2.0)  # in small parts too
    index = len(part.operations) - 2
    ready = SeenSolid(make_ready(part, index)).anatomy
    before = {view.kind: (ready, ready.look(view.toward_viewer, None, None)) for view in VIEWS}
    found = [words for edited in edits(part, index, random.Random(3))
             for words in compared(edited, before)]  # fmt: skip
    assert found.count(None) <= len(VIEWS)  # a first edit may differ in too much
    assert not any(found)


def test_what_changed_is_known_by_edges_and_round_faces():
    part = drilled_plate(3, 2)
    ready = SeenSolid(make_ready(part, 2)).anatomy
    seat = replace(part.operations[2], end=Length.read("6.25"))
    edited = replace(part, operations=(*part.operations[:2], seat, *part.operations[3:]))
    low, high = SeenSolid(build_what_can_be(edited).shape).anatomy.changes_since(ready)
    across, along = (offset.distance.mm for offset in (seat.u, seat.v))
    assert low == pytest.approx((across - 8.5, along - 8.5, 0.0), abs=0.01)  # its hole goes through
    assert high == pytest.approx((across + 8.5, along + 8.5, 14.0), abs=0.01)
    assert ready.changes_since(ready) is None


@given(_POINT, _POINT, _POINT.filter(lambda p: dot(p, p) > 1.0), _POINT, _POINT)
def test_a_shadow_holds_the_shares_of_a_straight_piece_that_lie_in_it(a, b, toward, start, end):
    box = tuple(map(min, zip(a, b, strict=True))), tuple(map(max, zip(a, b, strict=True)))
    shadow = Shadow.of_box(box, toward, 0.5)
    low, high = (float(share[0]) for share in shadow.shares(np.array([start]), np.array([end])))
    for share in (0.01, 0.2, 0.5, 0.77, 0.99):
        point = np.array(start) + share * (np.array(end) - np.array(start))
        margin = float((shadow.normals @ point - shadow.reach).max())
        if abs(margin) > 1e-6:
            assert (margin < 0) == (low < share < high)
    if margin_of(shadow, start) < 0 or margin_of(shadow, end) < 0:
        assert shadow.meets(Hulls([hull_of(Segment(start, end))]))[0]


def margin_of(shadow: Shadow, point) -> float:
    return float((shadow.normals @ np.array(point) - shadow.reach).max())


@given(_POINT, _POINT.filter(lambda p: dot(p, p) > 1.0), st.floats(0.5, 20), st.floats(0, 6))
def test_nothing_of_an_arc_lies_outside_its_hull(centre, way, radius, first):
    normal = unit(way)
    x_axis = unit(cross(normal, (0.3, 0.5, 0.8) if abs(normal[0]) > 0.9 else (1.0, 0.0, 0.0)))
    arc = EllipticArc(centre, normal, x_axis, radius, radius / 2, first, first + 1.5)
    low, high = Hulls([hull_of(arc)]).box()
    points = arc.even_points(12)
    assert (points >= np.array(low) - 1e-9).all()
    assert (points <= np.array(high) + 1e-9).all()
