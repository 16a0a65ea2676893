"""Where distances are lifted, and how points are reached."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from cast import crate, hole, look, picture, prism, proved
from holoptic.curves.space import EllipticArc
from holoptic.job import Turn
from holoptic.part import Body, Corner, Face, Part, Prism
from holoptic.part.marks import crate_lines, operation_lines
from holoptic.part.seat import seat_of
from holoptic.pictorial import draw, view_of
from holoptic.plan.levels import Levels
from holoptic.plan.lifting import Lifting, lifted
from holoptic.plan.moves import point_names
from holoptic.units import Length
from holoptic.units.spoken import on_rule, said
from holoptic.views.orthographic import VIEWS_BY_NAME, pictures_of

BOX = crate(84, 46, 37.5)
NEAR = (1, -1, 1)  # front-right


def with_words(*corners):
    outline = tuple(
        Corner(*(Length.read(text, names=BOX.names) for text in corner.split(",")))
        for corner in corners
    )
    step = Prism("step", "cut", Face.FRONT, outline, Length.read("0"), None)
    return Part("p", BOX, (step,))


def test_a_place_given_from_the_far_end_is_measured_from_there():
    lifting = Lifting(with_words("L-26.5,H", "L,H", "L,H-12", "L-26.5,H-12"))
    assert lifting.counts_from_far_end(0, 57.5, 0, NEAR)
    lift = lifting.lift(0, (84, 0, 37.5), (57.5, 0, 37.5), 0)
    assert (lift.true_mm, lift.words, lift.view) == (26.5, "26.5", "front")


def test_a_place_given_from_the_near_end_keeps_its_sum():
    lifting = Lifting(with_words("18+22.5,H", "L,H", "L,20", "18+22.5,20"))
    assert not lifting.counts_from_far_end(0, 40.5, 0, NEAR)
    assert lifting.lift(0, (0, 0, 0), (40.5, 0, 0), 0).words == "18+22.5"


def test_what_is_given_nowhere_is_measured_from_the_near_end():
    lifting = Lifting(Part("p", BOX))
    assert lifting.counts_from_far_end(0, 33.3, None, NEAR)
    assert not lifting.counts_from_far_end(1, 33.3, None, NEAR)
    assert lifting.lift(1, (84, 0, 0), (84, 33.3, 0), None).view == "top"


@pytest.mark.parametrize(
    ("face", "axis", "view"),
    [(Face.TOP, 0, "top"), (Face.TOP, 1, "top"), (Face.TOP, 2, "front"), (Face.RIGHT, 1, "right"),
     (Face.RIGHT, 2, "right"), (Face.RIGHT, 0, "front"), (Face.REAR, 2, "front")],
)  # fmt: skip
def test_the_view_that_shows_the_feature_true_is_preferred(face, axis, view):
    width, height = BOX.face_size(face)
    part = Part("p", BOX, (prism("n", face=face, outline=[
        (3, 4), (width - 3, 4), (width - 3, height - 4), (3, height - 4)], end=5),))  # fmt: skip
    given = {axis_: at for axis_, at in zip(face.axes, (3, 4), strict=True)}  # noqa: C416
    given[face.normal_axis] = BOX.thickness(face) - 5 if face.is_far else 5
    end = [0.0, 0.0, 0.0]
    end[axis] = given[axis]
    assert Lifting(part).lift(axis, (0, 0, 0), tuple(end), 0).view == view


def test_shallow_crossings_are_set_off_instead(worker):
    # an edge runs behind another at 0.8°: their crossing would be a smear on paper
    shallow = prism("shallow", outline=[(23.1, 0.0), (0.0, 22.0), (34.7, 22.5)], end=26.3)
    groove = prism("groove", face=Face.RIGHT, outline=[(47.0, 16.9), (5.5, 16.9), (23.5, 8.4)])
    part = Part("p", crate(34.7, 47, 31), (shallow, groove))
    seen, drawn = picture(worker, part, "cabinet", "front-left")
    _, proof = proved(part, seen.facts, drawn)
    assert proof.deviation_mm < 0.001


def test_an_edge_that_ends_behind_a_round_ends_on_its_oval(worker):
    boss = hole("boss", Face.TOP, 20, 40, 27, 12, mode="add")
    plate = prism("plate", "add", Face.BOTTOM, [(0, 0), (80, 0), (80, 40), (0, 40)], end=8)
    part = Part("p", crate(80, 40, 20), (plate, boss), begin="empty")
    seen, drawn = picture(worker, part)
    plan, proof = proved(part, seen.facts, drawn)
    assert proof.holds
    # the back edge of the plate goes behind the boss, whose generators touch both its ovals
    assert any("goes behind the tangent through" in m.text for m in plan.moves)
    tangents = [m for m in plan.moves if m.verb == "touch"]
    assert len(tangents) == 2
    assert all(len(m.makes) == 3 for m in tangents)


def test_every_drawn_edge_is_mapped_and_outlines_know_their_operation(worker):
    part = Part("p", BOX, (hole("one", diameter=9, u=20, v=14), hole("two", diameter=9, u=60, v=30),
                           hole("side", Face.FRONT, 11, 42, 16)))  # fmt: skip
    view = view_of("isometric")
    seen = look(worker, part, view)
    for piece in seen.looks[0].pieces:
        if piece.edge is not None:
            assert seen.facts.edges[piece.edge].operation == piece.operation
    outlines = {p.operation for p in seen.looks[0].pieces if p.edge is None}
    assert outlines == {0, 1, 2}
    drawn = draw(seen.looks[0], view)
    for stroke in drawn.strokes:
        if isinstance(stroke.curve, EllipticArc):
            assert stroke.curve.centre[:2] in {(20, 14), (60, 30)} or stroke.origin.operation == 2


def test_marks_of_operations_and_of_the_crate():
    lines = crate_lines((0, 0, 0), (84, 46, 37.5))
    assert len(lines) == 12
    assert sum(line.length for line in lines) == 4 * (84 + 46 + 37.5)
    cut = prism("c", face=Face.RIGHT, outline=[(5, 5), (9, 5), (9, 8)], start=2, end=10)
    marks = operation_lines(cut, BOX)
    assert len(marks) == 9
    assert {x for mark in marks for x in (mark.start[0], mark.end[0])} == {82, 74}
    rims = operation_lines(hole("h", Face.FRONT, 11, 42, 16, 7), BOX)
    assert [rim.centre for rim in rims] == [(42, 0, 16), (42, 7, 16)]
    assert rims[0].at(0.0) == (47.5, 0, 16)


def test_points_and_lines_never_share_a_name(worker):
    # two steps nearer to each other than a rounded figure would tell
    steps = (
        prism("one", outline=[(50.000001, 37.5), (84, 37.5), (84, 20), (50.000001, 20)]),
        prism("two", outline=[(50.000009, 20), (84, 20), (84, 10), (50.000009, 10)]),
    )
    part = Part("p", BOX, steps)
    seen, drawn = picture(worker, part)
    plan, _ = proved(part, seen.facts, drawn)
    made = [name for move in plan.moves for name in move.makes]
    assert len(made) == len(set(made))
    names = point_names()
    many = [next(names) for _ in range(500)]
    assert len(set(many)) == 500
    assert many[22:26] == ["Y", "Z", "A1", "B1"]


def turned(part, at=(0.0, 0.0, 0.0), **turn):
    return Body("b1", part.name, "p1", part, Turn(**turn).turning(), at)


FACES = st.sampled_from(list(Face))


@given(FACES, FACES, st.tuples(*[st.floats(-80, 80)] * 3), st.tuples(*[st.floats(-80, 80)] * 3))
def test_a_seat_places_what_a_turn_places(front, top, at, point):
    assume(front.normal_axis != top.normal_axis)
    body = turned(Part("p", BOX), at, front=front, top=top)
    assert seat_of(body).place(point) == pytest.approx(body.place(point))
    assert seat_of(turned(Part("p", BOX), degrees=30.0)) is None


def test_given_lengths_go_with_a_part_that_is_turned():
    """Upside down and set off: what was 26.5 from the right is so from the left."""
    part = with_words("L-26.5,H", "L,H", "L,H-12", "L-26.5,H-12")
    body = turned(part, (100.0, 0.0, 37.5), front=Face.FRONT, top=Face.BOTTOM)
    low = min(body.place((0, 0, 0))[0], body.place((84, 0, 0))[0])
    lifting = Lifting(part, seat_of(body))
    lift = lifting.lift(0, (low, 0, 0), (low + 26.5, 0, 0), 0)
    assert (lift.words, lift.view) == ("26.5", "front")
    assert lifting.lift(2, (low, 0, 0), (low, 0, 12.0), 0).words == "12"
    on_its_side = turned(part, front=Face.TOP, top=Face.REAR)
    near = on_its_side.place((84, 0, 37.5))
    far = on_its_side.place((84, 46, 37.5))
    axis = next(k for k in range(3) if abs(near[k] - far[k]) > 1)
    assert Lifting(part, seat_of(on_its_side)).crate_lift(axis, near, far).words == "46"
    leaning = Lifting(part, None)
    assert said(leaning.lift(0, (84, 0, 0), (57.5, 0, 0), 0).words) == "26.5"
    assert leaning.is_given(0, 30.25)


def test_a_crate_that_holds_what_is_left_of_a_part_is_lifted_as_it_is():
    lifting = Lifting(Part("p", crate("60+24", 46, 37.5)))
    assert lifting.crate_lift(0, (0, 0, 0), (84, 0, 0)).words == "60+24"
    assert lifting.crate_lift(0, (0, 0, 0), (53.7, 0, 0)).words == on_rule(53.7)


def levels_of(worker, part, names=("front", "top", "right")):
    seen = look(worker, part, *(VIEWS_BY_NAME[name] for name in names))
    return Levels(lambda: pictures_of(seen, names))


def test_a_distance_that_nobody_gave_is_lifted_where_both_its_ends_stand(worker):
    slope = prism("slope", outline=[(40, 37.5), (84, 37.5), (84, 20)])
    part = Part("p", BOX, (slope, prism("slot", face=Face.TOP, outline=[
        (60, 10), (70, 10), (70, 20), (60, 20)], end=30),))  # fmt: skip
    at = 37.5 - 17.5 * 20 / 44  # where the slot's near wall meets the slope, which nobody gave
    for names, view, is_worked_out in (
        (("front", "right"), "front", False), (("right",), "right", False),
        (("top",), "front", True),
    ):  # fmt: skip
        lifting = Lifting(part, levels=levels_of(worker, part, names))
        lift = lifting.lift(2, (60, 0, 37.5), (60, 0, at), None)
        assert (lift.view, lift.is_worked_out) == (view, is_worked_out)


def test_what_no_view_shows_is_told_to_be_worked_out_and_what_was_given_never_is(worker):
    lifting = Lifting(with_words("18+22.5,H", "L,H", "L,20", "18+22.5,20"),
                      levels=levels_of(worker, Part("p", BOX)))  # fmt: skip
    strange = lifting.lift(0, (0, 0, 0), (33.3, 0, 0), 0)
    words = said(str(lifted(strange, 33.3, "From A set it off.")))
    assert words == ("Set 33.3 on the rule: it is worked out, no view shows it. "
                     "From A set it off.")  # fmt: skip
    given_sum = lifting.lift(0, (0, 0, 0), (40.5, 0, 0), 0)
    assert (given_sum.words, given_sum.is_worked_out) == ("18+22.5", False)
