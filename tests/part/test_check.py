"""Validation names the operation and says what is wrong."""

from dataclasses import replace

import pytest

from cast import crate, hole, length, prism, stepped_block
from holoptic.errors import PartError
from holoptic.part import Face, Part, check
from holoptic.part.outline_text import outline_text, read_outline
from holoptic.part.provenance import given_offsets, operation_at
from holoptic.part.snapping import snapped, with_corner_at
from holoptic.part.starters import new_part, new_prism, new_round
from holoptic.units import Length, Unit

BOX = crate(84, 46, 37.5)
SQUARE = [(0, 0), (20, 0), (20, 20), (0, 20)]


@pytest.mark.parametrize(
    ("operation", "says"),
    [
        (prism(outline=[(0, 0), (20, 20), (20, 0), (0, 20)]), "crosses or touches itself"),
        (prism(outline=[(0, 0), (20, 0), (90, 20)]), "outside the crate: corner 3"),
        (prism(outline=SQUARE, start=10, end=10), "no thickness"),
        (prism(outline=SQUARE, start=-1), "outside the crate"),
        (prism(outline=SQUARE, end=46.5), "only 46 mm"),
        (prism(outline=[(0, 0), (20, 0)]), "three corners"),
        (prism(outline=[(0, 0), (20, 0), (40, 0)]), "crosses or touches itself|without area"),
        (prism(outline=[*SQUARE, SQUARE[-1]]), "two corners on one place"),
        (hole(diameter=0), "more than zero"),
        (hole(diameter=30, u=10, v=20), "reaches outside the crate: radius 15 mm, but only 10"),
    ],
    ids=lambda value: value if isinstance(value, str) else None,
)
def test_refuses(operation, says):
    part = Part("p", BOX, (prism("sound", outline=SQUARE), replace(operation, name="culprit")))
    with pytest.raises(PartError, match=says) as refused:
        check(part)
    assert refused.value.operation == 1
    assert "“culprit”" in str(refused.value)


def test_refuses_a_flat_crate():
    with pytest.raises(PartError, match="height must be more than zero"):
        check(Part("p", crate(10, 10, 0)))


def test_refuses_to_cut_an_empty_crate():
    with pytest.raises(PartError, match="cuts an empty crate"):
        check(Part("p", BOX, (prism(outline=SQUARE),), begin="empty"))


def test_sums_follow_the_crate():
    part = new_part("p", Unit.MM)
    part = replace(part, operations=(new_prism(part, "cut", Face.FRONT, Unit.MM),))
    longer = replace(part, crate=replace(part.crate, length=Length.read("100")))
    follows = longer.reread(Unit.MM)
    assert [corner.u.mm for corner in follows.operations[0].outline] == [50, 100, 100, 50]
    check(follows)


def test_another_unit_changes_words_but_no_size():
    part = new_part("p", Unit.MM)
    part = replace(part, operations=(new_prism(part, "cut", Face.FRONT, Unit.MM),))
    inches = part.in_unit(Unit.MM, Unit.INCH_FRACTION)
    assert inches.crate.length.text == "80 mm"
    assert inches.operations[0].outline[0].u.text == "L/2"
    assert inches.reread(Unit.INCH_FRACTION) == inches
    assert inches.crate.sizes == part.crate.sizes
    assert inches.in_unit(Unit.INCH_FRACTION, Unit.MM) == inches


@pytest.mark.parametrize("face", list(Face))
@pytest.mark.parametrize("unit", [Unit.MM, Unit.INCH_FRACTION])
def test_first_shapes_are_sound(face, unit):
    part = new_part("p", unit)
    for mode in ("cut", "add"):
        check(replace(part, operations=(new_prism(part, mode, face, unit),)))
        check(replace(part, operations=(new_round(part, mode, face, unit),)))


@pytest.mark.parametrize("face", list(Face))
def test_face_coordinates_go_there_and_back(face):
    point = BOX.place(face, 3.0, 5.0, 7.0)
    assert BOX.on_face(face, point) == (3.0, 5.0, 7.0)


def test_a_place_knows_its_operation():
    part = stepped_block()
    assert operation_at(part, (57.5, 10, 30)) == 0
    assert operation_at(part, (0, 10, 30)) is None


def test_given_lengths_are_found_from_the_right_end():
    far = prism("notch", face=Face.RIGHT, outline=SQUARE, end=12)
    givens = given_offsets(Part("p", BOX, (far,)))
    assert any(g.axis == 0 and g.at == 72 and g.far and g.length.mm == 12 for g in givens)


def test_words_like_l_minus_say_the_far_end():
    slot = replace(
        prism("slot", outline=SQUARE), outline=read_outline("L-14, H-12; L, H; L-9-11, 0", Unit.MM,
                                                            BOX.names)
    )  # fmt: skip
    givens = given_offsets(Part("p", BOX, (slot,)))
    far = {(g.axis, g.at, g.length.text, g.length.mm) for g in givens if g.far}
    assert far == {(0, 70, "14", 14), (2, 25.5, "12", 12)}


def test_outline_text_goes_there_and_back():
    outline = read_outline("0, 0; L-26.5, 0; L-26.5, 18+2", Unit.MM, BOX.names)
    assert [corner.mm for corner in outline] == [(0, 0), (57.5, 0), (57.5, 20)]
    assert read_outline(outline_text(outline), Unit.MM, BOX.names) == outline


def test_the_hand_snaps_to_given_offsets_first():
    part = stepped_block()
    more = replace(part, operations=(*part.operations, prism("new", outline=SQUARE)))
    assert snapped(more, 1, (57.1, 20.3), 1.0, Unit.MM) == (57.5, 20.0)
    assert snapped(more, 1, (33.3, 9.8), 1.0, Unit.MM) == (33.5, 10.0)
    assert snapped(more, 1, (99.0, -4.0), 1.0, Unit.MM) == (84.0, 0.0)


def test_a_new_corner_goes_into_the_nearest_side():
    longer, index = with_corner_at(
        prism(outline=SQUARE), replace(prism(outline=SQUARE).outline[0], u=length(10))
    )
    assert index == 1
    assert [corner.mm for corner in longer.outline][1] == (10, 0)
