"""Heights above the opposite face or above a feature: what an operation's depths count from."""

from dataclasses import replace
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.part import Corner, Crate, Face, Offset, Operation, Part, Prism, Round
from holoptic.part.bounds import bounds_of
from holoptic.part.families import _FAMILIES
from holoptic.part.handles import drag
from holoptic.part.operations import (
    CENTRE_LINE,
    FAR_EDGE,
    NEAR_EDGE,
    Centred,
    reference_of,
    referred,
)
from holoptic.part.provenance import given_offsets
from holoptic.part.reach import bases_for, counted_from, faces_to_reach
from holoptic.units import Length, Unit

CRATE = Crate(Length.of(83), Length.of(54), Length.of(37.5))


def length(text, part=None, index=None):
    return Length.read(text, Unit.MM, part.scope(index) if part else CRATE.names)


def plate_with(face=Face.TOP, base="plate.top", start="0", end="9"):
    corners = tuple(Corner(length(u), length(v)) for u, v in (("0", "0"), ("L", "0"), ("L", "D"),
                                                              ("0", "D")))  # fmt: skip
    plate = Prism("plate", "add", Face.BOTTOM, corners, length("0"), length("14.5"))
    part = Part("p", CRATE, (plate,), begin="empty")
    u, v = (Offset(length(f"{'LDH'[axis]}/2")) for axis in face.axes)
    boss = Round("boss", "add", face, length("12"), u, v, length(start),
                 length(end) if end else None, base=length(base, part))  # fmt: skip
    return replace(part, operations=(plate, boss))


def reach(part, index=1, axis=2):
    low, high = bounds_of(part.operations[index], part.crate)
    return low[axis], high[axis]


def test_a_boss_stands_on_its_plate_and_follows_it():
    part = plate_with()
    assert reach(part) == (14.5, 23.5)
    thicker = replace(part.operations[0], end=length("18"))
    followed = replace(part, operations=(thicker, part.operations[1])).reread(Unit.MM)
    assert reach(followed) == (18, 27)


def test_without_an_end_it_reaches_to_its_face():
    assert reach(plate_with(end="")) == (14.5, 37.5)


def test_heights_from_the_bottom_and_from_the_rear():
    assert reach(plate_with(base="0", start="3", end="9")) == (3, 9)
    assert reach(plate_with(Face.FRONT, "D", "3", "9"), axis=1) == (45, 51)


FACES = st.sampled_from(list(Face))


@given(FACES, st.integers(0, 12), st.integers(13, 20))
def test_counted_from_something_else_it_stays_where_it_is(face, start, end):
    part = plate_with(Face.TOP, "0")
    u, v = (Offset(length(f"{'LDH'[axis]}/2")) for axis in face.axes)
    boss = replace(part.operations[1], face=face, u=u, v=v, base=None, diameter=length("4"),
                   start=length(str(start)), end=length(str(end)))  # fmt: skip
    part = replace(part, operations=(part.operations[0], boss))
    for base in bases_for(part, 1):
        moved = counted_from(part, 1, base.words, Unit.MM)
        assert (moved.base is None) == (base.words is None)
        changed = replace(part, operations=(part.operations[0], moved))
        for axis in range(3):
            low, high = reach(part, axis=axis)
            if axis == face.normal_axis and moved.base is not None:  # it does not reach into it
                place, far = moved.base.mm, moved.face.is_far
                low = max(low, place) if far and place < high else low
                high = min(high, place) if not far and place > low else high
            assert reach(changed, axis=axis) == pytest.approx((low, high), abs=0.011)


def test_what_was_begun_on_the_bottom_stands_on_a_plate_too():
    part = plate_with()
    begun = replace(part.operations[1], face=Face.BOTTOM, base=None, start=length("0"), end=None,
                    end_diameter=length("7"))  # fmt: skip
    part = replace(part, operations=(part.operations[0], begun))
    words = [base.words for base in bases_for(part, 1)]
    assert words == [None, "H", "plate.top"]  # nothing stands below the plate
    moved = counted_from(part, 1, "plate.top", Unit.MM)
    assert (moved.face, moved.end) == (Face.TOP, None)
    assert (moved.diameter.mm, moved.end_diameter.mm) == (7, 12)  # still the wider one below
    changed = replace(part, operations=(part.operations[0], moved))
    assert reach(changed) == (14.5, 37.5)


def test_the_plan_lifts_the_height_that_was_given():
    givens = [given for given in given_offsets(plate_with()) if given.operation == 1]
    tops = [given for given in givens if given.axis == 2 and given.at == 23.5]
    assert [(given.far, given.length.text) for given in tops] == [(False, "plate.top+9")]


def test_up_to_a_face_counts_as_the_operation_does():
    part = plate_with(end="9")
    wall = replace(part.operations[0], name="wall", end=length("30"))
    part = replace(part, operations=(part.operations[0], wall, part.operations[1]))
    words = dict(faces_to_reach(part, 2))
    assert words["top of “wall”"] == "wall.top-(plate.top)"
    assert length(words["top of “wall”"], part, 2).mm == 15.5


def test_its_top_is_dragged():
    part = plate_with()
    changed = drag(part, 1, 2, 23.5, 27.5, Unit.MM)
    assert reach(changed) == (14.5, 27.5)
    assert changed.operations[1].end.text == "13"


@pytest.mark.parametrize("far", [False, True])
@pytest.mark.parametrize("centred", [False, True])
@pytest.mark.parametrize("reference", [NEAR_EDGE, FAR_EDGE, CENTRE_LINE])
def test_an_offset_counted_from_something_else_stays_in_its_place(far, centred, reference):
    offset = Offset(Length.read("L/2-4", names={"L": 60.0}), far and not centred, centred)
    other = referred(offset, reference, 84.0, Unit.MM)
    assert other.from_near(84.0) == pytest.approx(offset.from_near(84.0))
    assert reference_of(other) == reference
    if reference == reference_of(offset):
        assert other is offset  # its words stay


def test_every_sort_of_operation_has_its_family():
    for operation in get_args(Operation):
        made = _FAMILIES[operation.__dataclass_fields__["type"].default]
        assert made.outline == ("outline" in operation.__dataclass_fields__)
        assert made.centre == issubclass(operation, Centred)
        assert made.paths == ("starts" in operation.__dataclass_fields__)
