"""Marks of the angles at which the axes of a pictorial run."""

from dataclasses import replace

import pytest
from bench.overlap_judge import touched_words

from cast import crate, prism
from holoptic.job import AS_FITS, VIEW_LINES, Figure, Orthographic, SheetOrder, TitleBlock, pose
from holoptic.part import Face, Part
from holoptic.worker import tasks

SHOWN = replace(AS_FITS, axis_angles="show")
TITLE = TitleBlock("lamp", "step")


def step():
    outline = [(0, 0), (62, 0), (62, 14), (35, 14), (35, 31), (0, 31)]
    made = (prism("step", "add", Face.FRONT, outline),)
    return Part("step", crate(62, 27, 31), made, "empty")


def order_of(kind, corner="front-right", wish=SHOWN):
    return SheetOrder((pose(step(), kind, corner),), wish)


def marked(order):
    page = tasks.sheet(order, TITLE).pages[0]
    return sorted(words.text for words in page.words if words.layer == "dimension")


_CORNERS = ("front-right", "rear-left", "front-right-below")


@pytest.mark.parametrize(
    ("kind", "angles", "corners"),
    [("isometric", (30, 30), _CORNERS), ("cabinet", (45,), _CORNERS[:1]),
     ("dimetric", (7, 42), _CORNERS), ("trimetric:15:40", (15, 40), _CORNERS),
     ("plan-oblique:30:0.7", (30, 60), _CORNERS[:1])],
)  # fmt: skip
def test_each_axis_that_is_neither_level_nor_upright_says_its_angle(kind, angles, corners):
    for corner in corners:
        found = sorted(float(text[:-1]) for text in marked(order_of(kind, corner)))
        assert found == pytest.approx(angles, abs=0.6)


def test_there_are_none_unless_they_are_asked_for_and_none_in_views():
    assert marked(order_of("isometric", wish=AS_FITS)) == []
    views = Figure("f2", "p1", Orthographic(), VIEW_LINES)
    only = replace(order_of("isometric").posed[0], figure=views)
    assert marked(SheetOrder((only,), SHOWN)) == []


@pytest.mark.parametrize("dimensions", ["none", "auto"])
def test_they_keep_clear_of_dimensions_and_the_hand_draws_them(dimensions):
    order = order_of("isometric", wish=replace(SHOWN, dimensions=dimensions))
    page = tasks.sheet(order, TITLE).pages[0]
    assert touched_words(page) == []
    figure = order.ids[0]
    assert tasks.verify(order, figure, TITLE).holds
    lettered = tasks.plan(order, figure, title=TITLE).plan.setup.finish.letters.values()
    assert [words.text for words in lettered].count("30°") == 2
