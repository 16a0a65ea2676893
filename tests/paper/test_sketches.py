"""Sketches by a free hand: what is drawn is taken by its order, and figures tell where it lies."""

import math
import random
from itertools import pairwise

import cv2
import numpy as np
import pytest
from bench.paper.free_hand import Hand, sketch_views
from bench.paper.raster import picture
from hypothesis import given, settings
from hypothesis import strategies as st

from holoptic.cli.main import main
from holoptic.demo import sketch_path
from holoptic.errors import BadInput
from holoptic.paper.freehand.part_levels import common_levels
from holoptic.paper.freehand.placing import Ring, placed_levels, radius_of
from holoptic.paper.freehand.strokes import strokes_of
from holoptic.paper.freehand.view_order import ordered
from holoptic.paper.given import Given
from holoptic.paper.opening import open_paper
from holoptic.paper.scan.ink import PER_MM
from holoptic.paper.scan.roles import Found
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Straight

# where the levels of the demo's sketch truly lie, but for what a circle tells
LEVELS = "36.5,45.5,50,,63;8.5,17,22.5,27,,38.5;7,12.5,33"


def drawn(paths, dashes=(), seed=0):
    """Return ink of polylines (mm) as a free hand draws them."""
    hand, mask = Hand(random.Random(seed)), np.zeros((80 * 12, 110 * 12), np.uint8)
    for path in paths:
        places = np.array(hand.waver(path)) * PER_MM
        along = np.r_[0.0, np.cumsum(np.hypot(*np.diff(places, axis=0).T))] / PER_MM
        for place, other, at in zip(places[:-1], places[1:], along, strict=False):
            if not dashes or at % sum(dashes) < dashes[0]:
                ends = [tuple(int(v) for v in one) for one in (place, other)]
                cv2.line(mask, *ends, 1, 5)
    return mask


def roles(mask):
    return sorted(f"{one.role} {type(one.shape).__name__.lower()}" for one in strokes_of(mask))


@pytest.mark.parametrize("seed", range(4))
def test_a_rectangle_a_circle_and_dashes_are_told_apart(seed):
    corners = [(10, 10), (90, 10), (90, 60), (10, 60), (10, 10)]
    ring = Bow((35.0, 33.0), 11.0, 0.0, math.tau).path()
    mask = drawn([*(list(side) for side in pairwise(corners)), ring], seed=seed)
    mask |= drawn([[(70, 11), (70, 59)]], (3.6, 1.8), seed)
    found = strokes_of(mask)
    assert [one.role for one in found].count("visible") == 5
    circle = next(one.shape for one in found if isinstance(one.shape, Bow))
    assert circle.is_closed and circle.radius == pytest.approx(11.0, abs=0.6)
    hidden = next(one for one in found if one.role == "hidden")
    assert hidden.axis == 1 and abs(hidden.shape.start[1] - hidden.shape.end[1]) > 42


def test_what_ends_in_the_open_is_no_edge():
    corners = [(10, 10), (90, 10), (90, 60), (10, 60), (10, 10)]
    mask = drawn([list(side) for side in pairwise(corners)])
    mask |= drawn([[(50, 3), (50, 68)]], (9.0, 4.4))
    assert roles(mask).count("visible straight") == 4
    assert "centre straight" in roles(mask)


def test_ends_that_miss_meet_on_levels():
    sides = [((0.0, 0.4), (41.2, -0.3)), ((40.5, 0.9), (39.7, 29.6)), ((40.8, 30.3), (0.6, 29.5)),
             ((-0.2, 30.8), (0.3, 0.7)), ((0.5, 12.2), (39.2, 12.9))]  # fmt: skip
    lines = [Found("visible", Straight(*ends), k % 2) for k, ends in enumerate(sides)]
    view = ordered(lines)
    assert [len(own) for own in view.levels] == [2, 3]
    assert {(line.start, line.end) for line in view.lines} == {
        ((0, 0), (1, 0)), ((1, 0), (1, 2)), ((0, 2), (1, 2)), ((0, 0), (0, 2)), ((0, 1), (1, 1)),
    }  # fmt: skip


@settings(deadline=None, max_examples=60)
@given(st.lists(st.floats(6.0, 30.0), min_size=1, max_size=7), st.integers(0, 999), st.data())
def test_levels_of_two_views_are_told_the_same_by_their_order(gaps, seed, data):
    dice = random.Random(seed)
    row = np.r_[0.0, np.cumsum(gaps)]
    inner = list(range(1, len(row) - 1))
    left = [k for k in inner if data.draw(st.booleans())]
    kept = [0, *left, len(row) - 1]
    other = [row[k] * 1.06 + dice.uniform(-0.9, 0.9) for k in kept]
    common = common_levels([list(row), sorted(other)])
    assert len(common.at) == len(row)
    assert list(common.numbers[1]) == kept
    assert list(common.at) == sorted(common.at)


def test_a_circle_tells_its_other_sides_and_nothing_else_is_taken():
    ring = Ring((0, 1), (1, 1), (2, 2), (3, 3))
    measured = [[0.0, 11.0, 16.0, 21.0, 40.0], [0.0, 9.0, 15.0, 20.0, 30.0], [0.0, 22.0]]
    placed = placed_levels(measured, [{2: 20.0, 3: 26.5, 4: 50.0}, {2: 17.0}, {}], [ring])
    assert placed[0].at == (0.0, 13.5, 20.0, 26.5, 50.0)
    assert placed[1].at[1:4] == (10.5, 17.0, 23.5)
    assert [sorted(one.asked) for one in placed] == [[], [4], [1]]
    assert radius_of(ring, [one.at for one in placed]) == 6.5


def test_the_demo_is_read_by_its_figures_and_asked_for_without(capsys, tmp_path):
    call = ["read", str(sketch_path()), "--sketch", "--out", str(tmp_path / "rest.holoptic")]
    assert main(call) == 4
    words = capsys.readouterr().out
    assert "not told along the height: places 1, 2, 3 of 3 after the first" in words
    assert not (tmp_path / "rest.holoptic").exists()
    assert main([*call, "--levels", "1,2;;"]) == 2
    assert "along the length 5 places were found" in capsys.readouterr().err
    assert main([*call, "--levels", LEVELS]) == 0
    words = capsys.readouterr().out
    assert "the views mean one part" in words
    assert "levels along the length: 0.00, 36.50, 45.50, 50.00, 54.50, 63.00" in words


def test_figures_that_go_back_are_refused():
    flat = open_paper(sketch_path(), given=Given(is_sketch=True))
    at = flat.shown[0].levels[2].measured
    with pytest.raises(BadInput, match="comes after"):
        open_paper(sketch_path(), given=Given(
            is_sketch=True, levels=((), (), ((at[1], 12.0), (at[2], 7.0)))))  # fmt: skip


def test_a_sketch_with_figures_about_it_keeps_its_views_apart(tmp_path):
    lines = [((0, 0), (48, 0)), ((48, 0), (48, 14)), ((48, 14), (21, 14)), ((21, 14), (21, 33)),
             ((21, 33), (0, 33)), ((0, 33), (0, 0))]  # fmt: skip
    front = view("front", lines)
    top = view("top", [*box(48, 27), ((21, 0), (21, 27))])
    right = view("right", [*box(27, 33), ((0, 14), (27, 14))])
    sheet, levels = sketch_views([front, top, right], random.Random(3), has_figures=True)
    path = tmp_path / "bracket.png"
    cv2.imwrite(str(path), picture(sheet, "pencil", np.random.default_rng(3)))
    shown = open_paper(path, given=Given(is_sketch=True)).shown[0]
    assert [one.name for one in shown.arrangement.views] == ["front", "top", "right"]
    assert [len(one.measured) for one in shown.levels] == [len(own) for own in levels]
    told = tuple(tuple(zip(one.measured, own, strict=True))
                 for one, own in zip(shown.levels, levels, strict=True))  # fmt: skip
    shown = open_paper(path, given=Given(is_sketch=True, levels=told)).shown[0]
    assert not shown.asked
    read = shown.arrangement.drawn_views()[0]
    found = {frozenset(tuple(round(v, 6) for v in at) for at in (x.shape.start, x.shape.end))
             for x in read.lines}  # fmt: skip
    assert found == {frozenset(ends) for ends in lines}


def test_a_picture_of_something_else_is_refused():
    noise = np.random.default_rng(1).normal(0, 1, (900, 1300)).astype(np.float32)
    grass = cv2.GaussianBlur(noise, (0, 0), 3.0)
    with pytest.raises(BadInput, match="more lines than a sketch has"):
        strokes_of((grass > 0.09).astype(np.uint8))


def test_clean_paper_is_told(tmp_path):
    path = tmp_path / "empty.png"
    cv2.imwrite(str(path), np.full((900, 1300), 235, np.uint8))
    opened = open_paper(path, given=Given(is_sketch=True))
    assert not opened.shown and "fewer than two views" in opened.trouble


def box(wide, high):
    corners = [(0, 0), (wide, 0), (wide, high), (0, high), (0, 0)]
    return list(pairwise(corners))


def view(name, lines):
    shapes = [Straight(*(tuple(map(float, at)) for at in ends)) for ends in lines]
    return DrawnView(name, tuple(map(DrawnLine, shapes)))
