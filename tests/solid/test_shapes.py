"""The further shapes: their volumes by formula, and what is said where they cannot be."""

import math

import pytest

from cast import crate, hole, length, prism
from holoptic.errors import ExpressionError, PartError
from holoptic.part import (
    Ball,
    Corner,
    Face,
    Offset,
    Part,
    Polygon,
    Pyramid,
    Ring,
    Round,
    Slope,
    Strip,
    check,
)
from holoptic.part.outline_text import outline_text, read_outline
from holoptic.solid.anatomy.kernel_shapes import volume
from holoptic.solid.making.stages import build
from holoptic.units import Length, Unit

BOX = crate(60, 50, 40)
CENTRE = Offset(length(30)), Offset(length(25))
DEEP = length(0), length(30)


def outlined(text):
    return read_outline(text, Unit.MM, BOX.names)


def with_outline(text, **kinds):
    item = prism("shape", "add", Face.BOTTOM, [(0, 0), (9, 0), (0, 9)], end=30)
    return type(item)(item.name, "add", kinds.get("face", Face.BOTTOM), outlined(text), item.start,
                      item.end)  # fmt: skip


def polygon(sides, size, measure, top=None, turn=0.0):
    return Polygon("shape", "add", Face.BOTTOM, sides, length(size), measure, *CENTRE, *DEEP, turn,
                   None if top is None else length(top))  # fmt: skip


def pyramid(width, height, top_width, top_height):
    sizes = (length(value) for value in (top_width, top_height))
    return Pyramid("shape", "add", Face.BOTTOM, length(width), length(height), *CENTRE, *DEEP,
                   *sizes)  # fmt: skip


def made(item):
    return Part("p", BOX, (item,), begin="empty")


def polygon_area(sides, radius):
    return sides * radius**2 * math.sin(math.tau / sides) / 2


HEX = polygon_area(6, 36 / math.sqrt(3))
BALL = Ball("shape", "add", Face.BOTTOM, length(36), *CENTRE, length(20))
VOLUMES = {
    "hexagon across flats": (polygon(6, 36, "across flats"), 30 * HEX),
    "turned hexagon": (polygon(6, 36, "across flats", turn=17), 30 * HEX),
    "pentagon across corners": (polygon(5, 40, "across corners"), 30 * polygon_area(5, 20)),
    "triangle by side": (polygon(3, 40, "side", turn=30), 30 * 40**2 * math.sqrt(3) / 4),
    "twelve sides": (polygon(12, 40, "across corners"), 30 * polygon_area(12, 20)),
    "six-sided pyramid": (polygon(6, 36, "across flats", top=0), 10 * HEX),
    "six-sided frustum": (polygon(6, 36, "across flats", top=18), 30 * HEX * (1 + 0.5 + 0.25) / 3),
    "pyramid": (pyramid(52, 40, 0, 0), 52 * 40 * 30 / 3),
    "frustum": (pyramid(52, 40, 26, 20), 52 * 40 * 30 * (1 + 0.5 + 0.25) / 3),
    "ridge": (pyramid(52, 40, 20, 0), 30 * 40 * (2 * 52 + 20) / 6),
    "cone": (Round("shape", "add", Face.BOTTOM, length(40), *CENTRE, *DEEP, length(0)),
             math.pi * 400 * 30 / 3),
    "cone frustum": (Round("shape", "add", Face.BOTTOM, length(40), *CENTRE, *DEEP, length(20)),
                     math.pi * 400 * 30 * (1 + 0.5 + 0.25) / 3),
    "ball": (BALL, 4 / 3 * math.pi * 18**3),
    "half ball": (Ball("shape", "add", Face.TOP, length(36), *CENTRE, length(18), "outer half"),
                  2 / 3 * math.pi * 18**3),
    "ring": (Ring("shape", "add", Face.BOTTOM, length(32), length(11), *CENTRE, length(20)),
             2 * math.pi**2 * 16 * 5.5**2),
    "open strip": (Strip("shape", "add", Face.BOTTOM, outlined("10, 10; 50, 10; 50, 40"),
                         length(6), *DEEP), 30 * (6 * 70 + 0)),
    "frame": (Strip("shape", "add", Face.BOTTOM, outlined("10, 10; 50, 10; 50, 40; 10, 40"),
                    length(6), *DEEP, closed=True), 30 * 6 * 140),
    "rounded end": (with_outline("0, 0; 40, 0 arc 15 left; 40, 30; 0, 30"),
                    30 * (40 * 30 + math.pi * 15**2 / 2)),
    "large arc": (
        with_outline("20, 25 arc 11 left large; 30, 25"),
        30 * (math.pi * 121 - 121 * math.asin(5 / 11) + 5 * math.sqrt(96)),
    ),
    "slope": (with_outline("0, 0; 40, 0; angle 90 length 10; run -20 rise 15; 0, 25"),
              30 * (40 * 10 + (40 + 20) / 2 * 15)),
}  # fmt: skip


@pytest.mark.parametrize("name", VOLUMES)
def test_shapes_have_the_volume_of_their_formula(name):
    item, expected = VOLUMES[name]
    assert volume(build(made(item))) == pytest.approx(expected, rel=1e-6)


REFUSED = {
    "radius larger than the face": (
        Round("eye", "add", Face.BOTTOM, length(70), *CENTRE, *DEEP), "radius 35 mm, but only 25"),
    "polygon that does not fit": (polygon(6, 60, "across flats"), "does not fit: the polygon of 6"),
    "too many sides": (polygon(13, 20, "side"), "13 sides: choose from 3 to 12"),
    "arc that misses its ends": (
        with_outline("0, 0; 40, 0 arc 12 left; 40, 30; 0, 30"),
        "arc of radius 12 mm that misses its end points from corner 2 to corner 3"),
    "arc outside the face": (with_outline("0, 0; 60, 0 arc 15 left; 60, 30; 0, 30"),
                             "reaches 15 mm outside the bottom face"),
    "ring without a hole": (Ring("r", "add", Face.BOTTOM, length(20), length(20), *CENTRE,
                                 length(20)), "ring without a hole"),
    "frame filled": (Strip("s", "add", Face.BOTTOM, outlined("20, 20; 30, 20; 30, 30; 20, 30"),
                           length(12), *DEEP, closed=True), "too wide"),
    "strip with an arc": (Strip("s", "add", Face.BOTTOM, outlined("10, 10 arc 20 left; 40, 10"),
                                length(4), *DEEP), "straight sides only"),
    "ball outside": (Ball("b", "add", Face.BOTTOM, length(36), *CENTRE, length(10)),
                     "starts outside the crate, 8 mm"),
    "upright slope with a run": (
        with_outline("0, 0; 40, 0; 40, 20").__class__(
            "w", "add", Face.BOTTOM,
            (Corner(length(0), length(0)), Slope(angle=90.0, run=length(5)),
             Corner(length(0), length(20))), *DEEP),
        "a slope of 90° has no run"),
    "dish in the air": (Ball("b", "cut", Face.TOP, length(8), Offset(length(-9)), CENTRE[1],
                             length(0)), "cuts nothing"),
    "negative far size": (polygon(6, 30, "side", top=-4), "negative end size"),
}  # fmt: skip


@pytest.mark.parametrize("name", REFUSED)
def test_what_cannot_be_made_is_named_and_explained(name):
    item, words = REFUSED[name]
    part = made(item) if item.mode == "add" else Part("p", BOX, (item,))
    with pytest.raises(PartError, match=words) as caught:
        check(part)
    assert caught.value.operation == 0
    assert f"“{item.name}”" in str(caught.value)


@pytest.mark.parametrize(
    "text",
    ["0, 0; L, 0 arc 21 left; L, H-12.5; 0, H", "5, 5; angle 30 length 18+2; run 4 rise -3; 5, 9",
     "0, 0 arc 40 right large; 20, 0; angle 135 rise 6 arc 9 left"],
)  # fmt: skip
def test_outlines_read_back_as_they_are_written(text):
    outline = read_outline(text, Unit.MM, BOX.names)
    assert outline_text(outline) == text
    assert read_outline(outline_text(outline), Unit.MM, BOX.names) == outline


@pytest.mark.parametrize(
    ("text", "words", "column"),
    [("0, 0 arc left; 5, 5", "missing", 8), ("0, 0 arc 5; 5, 5", "left or right", 0),
     ("0, 0; angle 90 run 5", "90° has no run", 5), ("0, 0; angle x length 3", "no angle", 11),
     ("0, 0; run 5", "needs its run and its rise", 5), ("0, 0 arc 5 left big", "large", 15),
     ("0, 0; angle 10 angle 20 run 3", "said twice", 20)],
)  # fmt: skip
def test_bad_outlines_say_where(text, words, column):
    with pytest.raises(ExpressionError, match=words) as caught:
        read_outline(text, Unit.MM, BOX.names)
    assert abs(caught.value.column - column) <= 1


def test_slopes_and_arcs_follow_their_words_in_another_unit():
    part = made(with_outline("0, 0; 40, 0; angle 45 length 10; 0, 25 arc 20 right"))
    inches = part.in_unit(Unit.MM, Unit.INCH_DECIMAL)
    assert volume(build(inches)) == pytest.approx(volume(build(part)))
    assert inches.reread(Unit.INCH_DECIMAL) == inches
    assert isinstance(inches.operations[0].outline[2].length, Length)


def test_every_edge_knows_its_operation(worker):
    items = (
        polygon(6, 36, "across flats"),
        Ball("ball", "cut", Face.BOTTOM, length(16), *CENTRE, length(28)),
        hole("bore", Face.TOP, 6, 20, 25),
    )
    part = Part("p", BOX, items, begin="empty")
    facts = worker.ask("look", part, ()).facts
    assert {edge.operation for edge in facts.edges} == {0, 1, 2}
