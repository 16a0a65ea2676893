"""What operations come down to, and their copies: geometry and words."""

import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cast import crate, hole, length, prism
from holoptic.errors import ExpressionError, PartError
from holoptic.part import (
    AboutCentre,
    Arc,
    Bevel,
    Corner,
    CornerCut,
    Face,
    Hole,
    InLine,
    Mirrored,
    Offset,
    Part,
    Polygon,
    Prism,
    Pyramid,
    Round,
    Slot,
    basics,
    check,
)
from holoptic.part.bounds import bounds_of
from holoptic.part.outline import sides_of
from holoptic.part.outline_text import outline_text, read_outline
from holoptic.part.provenance import given_offsets
from holoptic.units import Unit

BOX = crate(80, 50, 40)
NOTHING = length(0)


def offset(text, **where):
    return Offset(length(text), **where)


def drilled(seat="plain", **changes):
    return Hole("h", "cut", Face.TOP, length(8), offset(15), offset(12), NOTHING, None, seat,
                **changes)  # fmt: skip


def test_a_counterbored_hole_is_two_rounds():
    seat, bore = basics(
        drilled("counterbored", seat_diameter=length(14), seat_depth=length(4)), BOX
    )
    assert (seat.diameter.mm, seat.end.mm, seat.end_diameter) == (14, 4, None)
    assert (bore.diameter.mm, bore.end) == (8, None)


def test_a_countersink_runs_out_into_its_hole():
    sink, _ = basics(drilled("countersunk", seat_diameter=length(14), seat_angle=90.0), BOX)
    assert sink.end.mm == pytest.approx(3)
    assert sink.end_diameter.mm == 8


@pytest.mark.parametrize(
    ("operation", "says"),
    [
        (drilled("counterbored"), "seat must be wider"),
        (drilled("counterbored", seat_diameter=length(14)), "depth of its seat"),
        (drilled("countersunk", seat_diameter=length(14), seat_angle=3.0), "between 10 and 170"),
        (Slot("s", "cut", Face.TOP, length(8), length(8), offset(20), offset(20), NOTHING, None),
         "as long as it is wide"),
        (Bevel("b", "cut", Face.TOP, Face.BOTTOM, length(5), length(5), NOTHING, None),
         "do not meet"),
        (Bevel("b", "cut", Face.TOP, Face.RIGHT, length(5), None, NOTHING, None), "an angle"),
        (drilled(copies=InLine("u", length(9), 1)), "1 times"),
        (drilled(copies=InLine("u", length(30), 4)), "copy 4, reaches outside"),
        (CornerCut("c", "cut", True, True, True, length(90), length(5), length(5)), "only 80"),
        (CornerCut("c", "cut", True, True, True, length(9), length(5), length(5),
                   copies=Mirrored("u")), "neither repeated nor mirrored"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_said(operation, says):
    with pytest.raises(PartError, match=says) as refused:
        check(Part("p", BOX, (operation,)))
    assert refused.value.operation == 0


def test_copies_in_a_line_keep_their_sums():
    copies = basics(drilled(copies=InLine("u", length("18+4"), 3)), BOX)
    assert [copy.u.distance.mm for copy in copies] == [15, 37, 59]
    assert [copy.u.distance.text for copy in copies] == ["15", "15+(18+4)", "15+(18+4)*2"]
    step = prism(outline=[(5, 5), (9, 5), (9, 9)], end=10)
    moved = basics(Prism(**{**vars(step), "copies": InLine("w", length(12), 2)}), BOX)[1]
    assert (moved.start.mm, moved.end.mm) == (12, 22)
    words = {
        g.length.text
        for g in given_offsets(Part("p", BOX, (drilled(copies=InLine("u", length(9), 2)),)))
    }
    assert "15+9" in words


def test_what_is_counted_from_the_far_edge_steps_the_same_way():
    far = Round("r", "cut", Face.TOP, length(6), offset(10, far=True), offset(9), NOTHING, None,
                copies=InLine("u", length(-20), 2))  # fmt: skip
    places = [copy.centre_mm(BOX)[0] for copy in basics(far, BOX)]
    assert places == [70, 50]


@given(count=st.integers(2, 12), angle=st.sampled_from([360.0, 180.0, -90.0, 270.0]))
def test_copies_about_a_centre_keep_their_distance(count, angle):
    copies = basics(drilled(copies=AboutCentre(offset(40), offset(25), count, angle)), BOX)
    places = [copy.centre_mm(BOX) for copy in copies]
    assert {round(math.dist(place, (40, 25)), 6) for place in places} == {
        round(math.dist((15, 12), (40, 25)), 6)
    }
    turns = [math.atan2(v - 25, u - 40) for u, v in places]
    steps = {round((b - a) % math.tau, 6) for a, b in itertools.pairwise(turns)}
    assert len(steps) == 1
    whole = abs(angle) == 360
    assert steps.pop() == pytest.approx(
        math.radians(angle) / (count if whole else count - 1) % math.tau, abs=1e-5
    )


def test_a_pyramid_turns_in_quarters_only():
    roof = Pyramid("p", "add", Face.TOP, length(10), length(6), offset(20), offset(25), NOTHING,
                   length(5), NOTHING, NOTHING,
                   copies=AboutCentre(offset(40), offset(25), 4))  # fmt: skip
    assert [(p.width.mm, p.height.mm) for p in basics(roof, BOX)] == [(10, 6), (6, 10)] * 2
    with pytest.raises(ValueError, match="quarter turns"):
        basics(Pyramid(**{**vars(roof), "copies": AboutCentre(offset(40), offset(25), 3)}), BOX)


@pytest.mark.parametrize("axis", ["u", "v", "w"])
def test_mirrored_twice_is_where_it_was(axis):
    arc = Arc(length(4), "left")
    outline = (Corner(length(3), length(4)), Corner(length(11), length(4), arc),
               Corner(length(11), length(12)), Corner(length(3), length(12)))  # fmt: skip
    for operation in (
        Prism("p", "cut", Face.RIGHT, outline, length(2), length(9), copies=Mirrored(axis)),
        drilled(copies=Mirrored(axis)),
        Polygon("q", "cut", Face.FRONT, 5, length(8), "side", offset(20), offset(3, centred=True),
                length(1), length(6), 17.0, copies=Mirrored(axis)),
    ):  # fmt: skip
        first, second = basics(operation, BOX)
        back = basics(type(second)(**{**vars(second), "copies": Mirrored(axis)}), BOX)[1]
        for one, two in zip(bounds_of(back, BOX), bounds_of(first, BOX), strict=True):
            assert one == pytest.approx(two)
        low, high = bounds_of(first, BOX)
        mirrored_low, mirrored_high = bounds_of(second, BOX)
        k = {"u": operation.face.axes[0], "v": operation.face.axes[1],
             "w": operation.face.normal_axis}[axis]  # fmt: skip
        assert low[k] + mirrored_high[k] == pytest.approx(BOX.sizes[k])
        assert high[k] + mirrored_low[k] == pytest.approx(BOX.sizes[k])
        assert [low[j] for j in range(3) if j != k] == pytest.approx(
            [mirrored_low[j] for j in range(3) if j != k]
        )


def test_a_bevel_leaves_both_offsets():
    bevel = Bevel("b", "cut", Face.TOP, Face.RIGHT, length(10), None, NOTHING, None, angle=30.0)
    (made,) = basics(bevel, BOX)
    assert made.face is Face.FRONT
    assert made.outline_mm() == [
        (80, 40),
        (70, 40),
        (80, pytest.approx(40 - 10 * math.tan(math.pi / 6))),
    ]
    assert [corner.u.text for corner in made.outline] == ["L", "L-10", "L"]


def test_an_operation_that_is_off_comes_down_to_nothing():
    assert basics(hole().__class__(**{**vars(hole()), "off": True}), BOX) == ()


# --- arcs ---------------------------------------------------------------------------------------


def test_a_bulge_says_its_arc():
    outline = read_outline("0, 0; 20, 0 arc bulge 4 left; 20, 12", Unit.MM, {})
    side = sides_of(outline)[1]
    assert side.radius == pytest.approx((36 + 16) / 8)
    assert side.at(0.5) == pytest.approx((24, 6))
    deep = sides_of(read_outline("0, 0; 20, 0 arc bulge 9 left; 20, 12", Unit.MM, {}))[1]
    assert deep.at(0.5) == pytest.approx((29, 6))
    assert abs(deep.sweep) > math.pi


def test_a_smooth_arc_goes_on_without_a_bend():
    sides = sides_of(read_outline("0, 0; 20, 0 arc smooth; 26, 6; 0, 6", Unit.MM, {}))
    assert sides[1].radius == pytest.approx(6)
    assert sides[1].at(0.5) == pytest.approx(
        (20 + 6 * math.sin(math.pi / 4), 6 - 6 * math.cos(math.pi / 4))
    )
    straight = sides_of(read_outline("0, 0; 10, 0 arc smooth; 20, 0; 20, 9", Unit.MM, {}))
    assert straight[1].centre is None
    with pytest.raises(ValueError, match="straight back"):
        sides_of(read_outline("0, 0; 10, 0 arc smooth; 4, 0; 4, 9", Unit.MM, {}))


@pytest.mark.parametrize("text", ["0, 0 arc 21 left; 9, 4", "0, 0 arc 21 right large; 9, 4",
                                  "0, 0 arc bulge 3+1 left; 9, 4",
                                  "0, 0; 9, 4 arc smooth; 2, 8"])  # fmt: skip
def test_outlines_go_there_and_back_as_text(text):
    assert outline_text(read_outline(text, Unit.MM, {})) == text


@pytest.mark.parametrize("text", ["0, 0 arc", "0, 0 arc 5", "0, 0 arc bulge 3 left large",
                                  "0, 0 arc 3 left wide", "0, 0 arc bulge left"])  # fmt: skip
def test_arcs_that_do_not_read_are_refused(text):
    with pytest.raises(ExpressionError):
        read_outline(text, Unit.MM, {})
