"""Cut solids against rays and scan lines; what cuts say, and what they refuse."""

import math
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from cast import crate, hole, prism
from cut_judge import CUTS, judged_cut
from holoptic.errors import BadInput
from holoptic.part import Body, Face, Part, Whole
from holoptic.part.cutting import Stock, cutter_of, read_cut
from holoptic.pictorial import draw, view_of
from holoptic.solid.anatomy.kernel_shapes import volume
from holoptic.solid.making.cutting_open import cut_open
from holoptic.solid.shelf import look, opened, seen
from own_solids import CORNERS, KINDS, SOLIDS

VIEW = view_of("isometric")


def block():
    outline = [(0, 0), (71, 0), (71, 14), (37, 14), (37, 33), (0, 33)]
    return Part("step", crate(71, 43, 33), (
        prism("step", "add", Face.FRONT, outline), hole("bore", diameter=11, u=19, v=21.5),
        hole("pin 1", diameter=6, u=52, v=11), hole("pin 2", diameter=6, u=63, v=30),
    ), "empty")  # fmt: skip


def stock(source, view=VIEW):
    facts = seen(source).facts
    return Stock(source, facts.low, facts.high, view.toward_viewer)


def cut(source, words, view=VIEW):
    """Return the picture of something cut open."""
    cutter = cutter_of(words, stock(source, view))
    return draw(look(source, (view.toward_viewer,), cutter).looks[0], view)


@pytest.mark.parametrize("number", range(0, len(SOLIDS), 3))
def test_what_is_drawn_of_a_cut_solid_is_what_rays_see(number):
    turn = number // 3
    view = view_of(KINDS[turn % len(KINDS)], CORNERS[turn % len(CORNERS)])
    verdict = judged_cut(SOLIDS[number], CUTS[turn % 3], view)
    assert verdict.judged_area > 20
    assert verdict.holds, verdict


@settings(max_examples=12, deadline=None)
@given(st.floats(3, 40), st.sampled_from(["front-right", "rear-left-below"]))
def test_both_halves_make_the_whole_and_share_their_cut_face(at, corner):
    part, words = block(), f"full:depth={at:.3f}"
    shape = seen(part).shape
    near, far = (
        cut_open(shape, cutter_of(words, stock(part, view_of("isometric", name))))
        for name in (corner, "front-left" if "rear" in corner else "rear-right")
    )
    assert volume(near.shape) + volume(far.shape) == pytest.approx(volume(shape))
    areas = [sum(face.area for face in found.faces) for found in (near, far)]
    assert areas[0] == pytest.approx(areas[1])
    assert all(a.normal[1] == pytest.approx(-b.normal[1])
               for a, b in zip(near.faces[:1], far.faces[:1], strict=True))  # fmt: skip


@pytest.mark.parametrize(
    ("words", "planes"),
    [
        ("full:depth=21.5", {(1, 21.5)}),
        ("full:length=L/2", {(0, 35.5)}),
        ("full:height", {(2, 16.5)}),
        ("through:bore", {(1, 21.5)}),
        ("through:bore,pin 1", {(1, 21.5), (1, 11.0), (0, 35.5)}),
        ("half:through=bore", {(0, 19.0), (1, 21.5)}),
        ("half:length=20,depth=30", {(0, 20.0), (1, 30.0)}),
        ("half:length=20,height=10", {(0, 20.0), (2, 10.0)}),
        ("offset:pin 1,pin_2", {(1, 11.0), (1, 30.0), (0, 57.5)}),
    ],
)
def test_planes_lie_where_the_words_say(words, planes):
    found = set()
    for face in opened(block(), cutter_of(words, stock(block()))).cut_faces:
        axis = max(range(3), key=lambda k: abs(face.normal[k]))
        assert abs(face.normal[axis]) == pytest.approx(1.0)
        found.add((axis, round(face.place[axis], 6)))
    assert found == planes


@pytest.mark.parametrize(
    ("words", "why"),
    [
        ("slice:3", "begin with full:"),
        ("full:depth=99", "misses it"),
        ("full:depth=2*", "depth=2"),
        ("full:width=3", "length=, depth=, height="),
        ("through:", "at least one feature"),
        ("through:nose", "known: bore"),
        ("half:corner=middle", "front-left"),
        ("half:length=1,depth=2,height=3", "two planes"),
        ("offset:bore", "two features or more"),
        ("offset:height,bore,pin 1", "does not hold these axes"),
        ("broken:face=top", "outline="),
        ("broken:face=top,deep=3,outline=1 1/2 2", "three corners"),
        ("plane:0 0 0/1 1 1/2 2 2", "on one line"),
        ("plane:face=top,turn=90", "less than 90"),
        ("plane:face=top,turn=9,about=height", "lies in the face"),
        ("half;hidden=3", "plain="),
    ],
)
def test_what_cannot_be_cut_is_refused_in_a_line(words, why):
    with pytest.raises(BadInput, match=why.replace("(", r"\(").replace("*", r"\*")) as error:
        cutter_of(words, stock(block()))
    assert "\n" not in str(error.value)


@pytest.mark.parametrize(
    ("words", "why"),
    [("full:height=33", "misses it"), ("full:depth=43", "leaves nothing"),
     ("full:height=0", "leaves nothing")],
)  # fmt: skip
def test_a_plane_that_shows_nothing_says_so(words, why):
    with pytest.raises(BadInput, match=why):
        opened(block(), cutter_of(words, stock(block())))


def test_the_half_toward_the_viewer_goes_and_the_quarter_can_be_chosen():
    toward = view_of("cabinet", "rear-left").toward_viewer
    near = cutter_of("half", Stock(block(), (0, 0, 0), (71, 43, 33), toward))
    xs, ys = {p[0] for p in near.outline}, {p[1] for p in near.outline}
    assert (max(xs), min(ys)) == (35.5, 21.5)  # left and rear of the middle
    other = cutter_of("half:corner=front-right",
                      Stock(block(), (0, 0, 0), (71, 43, 33), toward))  # fmt: skip
    xs, ys = {p[0] for p in other.outline}, {p[1] for p in other.outline}
    assert (min(xs), max(ys)) == (35.5, 21.5)
    assert read_cut("half;plain=rib, pin 1").plain == ("rib", "pin 1")


def test_strokes_of_a_cut_know_their_operation_and_rims_end_at_the_plane():
    picture = cut(block(), "through:bore")
    rims = [s for s in picture.visible if s.origin.operation == 1 and not s.is_straight]
    assert rims
    for stroke in rims:
        assert stroke.curve.last - stroke.curve.first < math.pi + 1e-6
        assert {round(stroke.curve.start[1], 6), round(stroke.curve.end[1], 6)} & {21.5}
    walls = [s for s in picture.visible if s.origin.operation == 1 and s.is_straight]
    assert len(walls) == 2  # both sides of the bore, where the plane meets them


def test_where_a_plane_lies_in_a_face_that_was_there_nothing_is_hatched():
    (face,) = opened(block(), cutter_of("full:height=14", stock(block()))).cut_faces
    assert face.area == pytest.approx(37 * 43 - math.pi * 5.5**2, rel=1e-6)


def test_parts_of_a_whole_are_cut_each_where_it_belongs_and_pins_stay_whole():
    pin = Part("locating pin", crate(10, 10, 50), (hole("core", diameter=3, u=5, v=5),), "block")
    whole = Whole("both", (Body("a", "step", "p1", block()),
                           Body("b", "locating pin", "p2", pin, at=(14, 16.5, 33))))  # fmt: skip
    words = "full:depth=21.5"
    regions = cut(whole, words).regions
    assert {region.body for region in regions} == {0}
    apart = whole.moved({"b": (0.0, 0.0, 60.0)})
    cutter = cutter_of(words + ";plain=none", stock(whole))
    faces = opened(apart, cutter).cut_faces
    assert {face.body for face in faces} == {0, 1}
    assert min(p[2] for face in faces if face.body == 1 for p in face.rings[0]) > 90
    alone = opened(whole, cutter_of(words + ";plain=none;only=locating pin", stock(whole)))
    assert {face.body for face in alone.cut_faces} == {1}


@pytest.mark.parametrize("off", [False, True])
def test_a_cut_feature_breaks_out_what_it_would_take_away(off):
    window = replace(
        prism("window", "cut", Face.FRONT, [(8, 6), (30, 6), (30, 27), (8, 27)], 0, 21.5), off=off
    )
    bulge = hole("porthole", diameter=20, u=19, v=16, end=21.5)
    bulge = replace(bulge, face=Face.FRONT, off=off)
    part = replace(block(), operations=(*block().operations, window, bulge))
    if not off:
        with pytest.raises(BadInput, match="misses it"):
            opened(part, cutter_of("broken:window", stock(part)))
        return
    floors = [face for face in opened(part, cutter_of("broken:window", stock(part))).cut_faces
              if face.normal[1] < -0.5]  # fmt: skip
    assert sum(face.area for face in floors) == pytest.approx((22 - 11) * 21)
    round_one = opened(part, cutter_of("broken:porthole", stock(part))).cut_faces
    assert {tuple(round(abs(v)) for v in face.normal) for face in round_one} == {(0, 1, 0)}
    with pytest.raises(BadInput, match="known: bore, pin 1"):
        cutter_of("broken:nothing", stock(part))
