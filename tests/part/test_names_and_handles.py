"""Named lengths, places of features in sums, what can be dragged, what is worth a look."""

from dataclasses import replace

import pytest

from cast import crate, hole, length, prism, stepped_block
from holoptic.errors import ExpressionError, UnknownName
from holoptic.part import Corner, Crate, Face, Hole, NamedLength, Offset, Part, Prism
from holoptic.part.advice import advise
from holoptic.part.bounds import bounds_of
from holoptic.part.handles import drag, holder_of, snapped_place
from holoptic.part.names_text import names_text, read_names, with_names
from holoptic.part.naming import spoken
from holoptic.part.outline_text import outline_text, read_outline
from holoptic.part.overall import overall_words
from holoptic.part.reach import faces_to_reach
from holoptic.part.templates import templates
from holoptic.solid.anatomy.kernel_shapes import volume
from holoptic.solid.making.stages import build, build_in_stages, build_what_can_be
from holoptic.units import Length, Unit
from holoptic.units.spoken import said


def named_part():
    names = read_names("base = 14.5; eye_r = 42/2; both = base+eye_r", Unit.MM)
    part = Part("p", crate(80, 50, 40), names=names)
    scope = part.scope()
    tall = Crate(length(80), length(50), Length.read("both", names=scope))
    outline = tuple(
        Corner(Length.read(u, names=scope), Length.read(v, names=scope))
        for u, v in (("0", "base"), ("eye_r", "base"), ("eye_r", "both"), ("0", "both"))
    )
    step = Prism("upper step", "cut", Face.FRONT, outline, length(0), None)
    part = replace(part, crate=tall, operations=(step,))
    late = Hole("eye", "cut", Face.TOP, length(8),
                Offset(Length.read("upper_step.right+12", names=part.scope())), Offset(length(25)),
                length(0), None)  # fmt: skip
    return replace(part, operations=(step, late))


def test_a_change_of_a_named_length_moves_all_that_hangs_on_it():
    part = named_part()
    assert part.crate.sizes == (80, 50, 35.5)
    changed = with_names(
        part, read_names("base = 10; eye_r = 30; both = base+eye_r", Unit.MM), Unit.MM
    )
    assert changed.crate.sizes[2] == 40
    assert changed.operations[0].outline_mm()[2] == (30, 40)
    assert changed.operations[1].u.distance.mm == 42
    assert changed.operations[1].u.distance.text == "upper_step.right+12"


def test_a_name_is_renamed_everywhere_and_a_lost_one_leaves_its_figure():
    part = named_part()
    other = read_names("base = 14.5; radius = 42/2; both = base+radius", Unit.MM)
    renamed = with_names(part, other, Unit.MM)
    assert "radius" in renamed.operations[0].outline[1].u.text
    assert renamed.reread(Unit.MM) == renamed
    lost = with_names(part, read_names("base = 14.5; both = base+21", Unit.MM), Unit.MM)
    assert lost.operations[0].outline[1].u == Length("21", 21.0)
    with pytest.raises(UnknownName, match="did you mean base"):
        Length.read("bas+1", names={"base": 3.0})


def test_names_go_there_and_back_as_text():
    part = named_part()
    assert names_text(part) == "base = 14.5; eye_r = 42/2; both = base+eye_r"
    assert read_names(names_text(part), Unit.MM) == part.names
    assert part.uses_of("eye_r") == ["both", "upper step"]
    assert part.uses_of("upper_step") == ["eye"]


@pytest.mark.parametrize(
    "text", ["base", "L = 3", "2x = 3", "b = 3; b = 4", "mm = 3", "b = c", "run = 3"]
)
def test_names_that_cannot_be_are_refused(text):
    with pytest.raises(ExpressionError):
        read_names(text, Unit.MM)


def test_features_are_spoken_of_by_their_places():
    part = named_part()
    scope = part.scope(1)
    assert spoken("upper step") == "upper_step"
    assert (scope["upper_step.left"], scope["upper_step.right"], scope["upper_step.top"]) == (
        0,
        21,
        35.5,
    )
    assert "eye.x" not in scope
    assert part.scope()["eye.x"] == 33
    assert faces_to_reach(part, 1) == [("bottom of “upper step”", "H-upper_step.bottom")]
    deep = Length.read("H-upper_step.bottom", names=scope)
    assert deep.mm == 21


def test_the_extent_of_an_arc_is_exact():
    (round_hole,) = (hole(diameter=17, u=30, v=20),)
    low, high = bounds_of(round_hole, crate(80, 50, 40))
    assert (low, high) == ((21.5, 11.5, 0), (38.5, 28.5, 40))


def test_overall_sizes_follow_from_the_features():
    box = crate(60, 40, 90)
    base = prism("base", "add", Face.BOTTOM, [(0, 0), (60, 0), (60, 40), (0, 40)], end=14.5)
    eye = Hole("x", "cut", Face.FRONT, length(8), Offset(length(20)), Offset(length(20)), length(0),
               None)  # fmt: skip
    boss = hole("boss", Face.FRONT, 42, 30, 14.5 + 12, mode="add")
    part = Part("p", box, (base, boss, eye), begin="empty")
    words = overall_words(part, 2)
    assert words.mm == pytest.approx(26.5 + 21)
    assert words.text == "26.5+42/2"
    assert overall_words(stepped_block(), 2) is None


# --- dragging -----------------------------------------------------------------------------------


def test_dragging_moves_all_that_lies_at_a_place():
    part = stepped_block()
    assert holder_of(part, None, 0, 57.5) == 0
    moved = drag(part, 0, 0, 57.5, 50.0, Unit.MM)
    assert [corner[0] for corner in moved.operations[0].outline_mm()] == [50, 84, 84, 50]
    assert holder_of(part, None, 0, 84.0) is None
    longer = drag(part, None, 0, 84.0, 90.0, Unit.MM)
    assert longer.crate.sizes[0] == 90
    with pytest.raises(LookupError):
        holder_of(part, None, 1, 13.0)
    with pytest.raises(ValueError, match="keep a size"):
        drag(part, None, 0, 84.0, 0.0, Unit.MM)


def test_a_hole_is_dragged_by_its_edge_and_keeps_what_it_is_counted_from():
    far = Hole("h", "cut", Face.TOP, length(8), Offset(length(20), far=True),
               Offset(length(2), centred=True), length(0), length(9))  # fmt: skip
    part = Part("p", crate(80, 50, 40), (far,))
    moved = drag(part, 0, 0, 60 + 4, 60 + 4 - 7, Unit.MM).operations[0]
    assert (moved.u.distance.mm, moved.u.far) == (27, True)
    up = drag(part, 0, 1, 27.0, 30.0, Unit.MM).operations[0]
    assert (up.v.distance.mm, up.v.centred) == (5, True)
    deeper = drag(part, 0, 2, 40 - 9, 40 - 15, Unit.MM).operations[0]
    assert deeper.end.mm == 15


def test_a_drag_snaps_to_other_features_and_else_to_its_step():
    part = Part("p", crate(80, 50, 40), (*stepped_block().operations, hole("h", u=33.3, v=20)))
    assert snapped_place(part, 0, 0, 33.1, 0.5, 0.5) == 33.3
    assert snapped_place(part, 0, 0, 47.3, 0.5, 2.0) == 48
    assert snapped_place(part, 0, 0, 83.0, 0.1, 0.5) == 80
    assert snapped_place(part, None, 0, 91.2, 0.1, 1.0) == 91


# --- building what can be -----------------------------------------------------------------------


def test_what_cannot_be_made_is_left_out_and_named():
    good, bad = (
        stepped_block().operations[0],
        prism("saw", outline=[(0, 0), (9, 9), (9, 0), (0, 9)]),
    )
    part = Part("p", crate(84, 46, 37.5), (good, bad, hole("h", u=20, v=20)))
    built = build_what_can_be(part)
    assert [(t.operation, "“saw”" in str(t)) for t in built.troubles] == [(1, True)]
    sound = replace(part, operations=(good, replace(bad, off=True), part.operations[2]))
    assert volume(built.shape) == pytest.approx(volume(build(sound)))


def test_all_at_once_is_the_same_as_in_stages(demo_job):
    for item in demo_job.parts:
        staged = build_in_stages(item.source)
        assert staged.troubles == ()
        assert volume(build(item.source)) == pytest.approx(staged.volumes[-1], rel=1e-9)


@pytest.mark.parametrize("title", list(templates()))
def test_templates_can_be_made_in_every_unit(title):
    for unit in Unit:
        part = templates()[title]("t", unit)
        assert part.reread(unit) == part
        assert build_what_can_be(part).troubles == ()


# --- worth a look -------------------------------------------------------------------------------


def test_what_is_worth_a_look_is_said():
    near = prism("lower", outline=[(57.8, 20), (84, 20), (84, 9), (57.8, 9)])
    idle = hole("lost", u=70, v=20, end=5)
    part = Part("p", crate(84, 46, 37.5), (*stepped_block().operations, near, idle),
                names=(NamedLength("spare", length(3)),))  # fmt: skip
    volumes = build_in_stages(part).volumes
    words = " | ".join(
        said(item.words) for item in advise(part, volumes, [(1, 0.6), (0, 4.0)], 1.0)
    )
    assert "“lost” changes nothing" in words
    assert "“lower” leaves a wall of only 0.6 mm" in words
    assert "“spare” is used nowhere" in words
    assert "“step” and “lower” lie 0.3 mm apart along the length" in words
    assert "“step” leaves" not in words


def test_an_operation_on_another_face_keeps_its_place_about_it():
    box = crate(66, 44.5, 54.5)
    step = Prism("step", "cut", Face.FRONT, read_outline(
        "L-26.5, H; L, H; L, H-12; L-26.5, H-12", Unit.MM, box.names), length("0"),
        Length.read("D/2", Unit.MM, box.names))  # fmt: skip
    changed = Part("p", box, (step,)).with_face_changed(0, Face.TOP, Unit.MM).operations[0]
    assert outline_text(changed.outline) == "L-26.5, D; L, D; L, D-12; L-26.5, D-12"
    assert changed.end.text == "H/2"
    assert changed.end.mm == box.sizes[2] / 2
    assert changed.outline[0].v.mm == box.sizes[1]
