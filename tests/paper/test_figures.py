"""Figures on the picture of a sheet: read by a machine, matched to levels, offered."""

import math

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.paper.sheets import scanned

from holoptic.cli.main import main
from holoptic.demo import views_photo_path
from holoptic.paper.axis_levels import Levels
from holoptic.paper.given import Given
from holoptic.paper.offers import Written, offered_by
from holoptic.paper.opening import figures_on
from holoptic.paper.scan.recogniser import guess
from holoptic.paper.scan.roles import Found
from holoptic.paper.scan.spans import dimension_lines
from holoptic.reading.lines import Straight
from holoptic.reading.sketch import GivenSize

LEVELS = (
    Levels((0.0, 18.0, 40.5, 84.0), (0.0, 18.0, 40.5, 84.0)),
    Levels((0.0, 16.0, 46.0), (0.0, 16.0, 46.0)),
    Levels((0.0, 37.5), (0.0, 37.5)),
)
NAMES = ("front", "top")
BOXES = ((60.0, 50.0, 144.0, 87.5), (60.0, 110.0, 144.0, 156.0))


def across(low, high, written, y=40.0, x=60.0):
    return GivenSize((x + low, y), (x + high, y), high - low, written)


def test_figures_beside_the_dimension_lines_of_a_photo_are_read():
    found = {(round(one.drawn, 1), one.written) for one in figures_on(views_photo_path()).sizes}
    wanted = {(s, s) for s in (15.0, 23.0, 12.0, 72.5, 38.0, 26.0, 16.5, 41.0)}
    assert wanted <= found


def test_the_command_says_what_is_written_and_takes_nothing(tmp_path, capsys):
    out = str(tmp_path / "part.step")
    assert main(["read", str(views_photo_path()), "--out", out]) == 0
    told = capsys.readouterr().out
    assert "--size 72.5,38,41 takes them" in told
    assert main(["read", str(views_photo_path()), "--out", out, "--force", "--size",
                 "72.5,38,41"]) == 0  # fmt: skip
    assert "takes them" not in capsys.readouterr().out


def test_a_picture_without_figures_has_none(worker, tmp_path, demo_job):
    from tests.paper.sheets import drawn

    part = next(p.source for p in demo_job.parts if p.source.name == "wedge foot")
    path = scanned(drawn(worker, part), tmp_path / "plain.png")
    assert figures_on(path, Given()) == Written()


@pytest.mark.parametrize(
    ("how", "lies"),
    [
        (np.fliplr, "mirrored"),
        (lambda one: np.rot90(one, 2), "upside down"),
        (np.flipud, "turned over"),
    ],
)
def test_a_sheet_that_lies_otherwise_is_told_by_its_figures(tmp_path, how, lies):
    path = tmp_path / "turned.png"
    picture = cv2.imread(str(views_photo_path()), cv2.IMREAD_GRAYSCALE)
    cv2.imwrite(str(path), np.ascontiguousarray(how(picture)))
    written = figures_on(path)
    assert written.lies == lies
    assert written.trouble


def test_empty_paper_says_nothing():
    assert guess(np.ones((30, 80), np.float32)).text == ""
    assert guess(np.zeros((30, 80), np.float32)).sureness < 0.9


def thin(a, b, role="thin"):
    return Found(role, Straight(a, b), 0 if a[1] == b[1] else 1)


def test_a_dimension_line_reaches_to_the_lines_its_heads_point_to():
    line = thin((63.2, 40.0), (140.8, 40.0))  # without its heads
    sides = [thin((60.0, 38.0), (60.0, 49.0)), thin((144.0, 38.0), (144.0, 49.0)),
             thin((61.0, 60.0), (61.0, 70.0))]  # fmt: skip
    reached = dimension_lines([line, *sides])[0]
    assert (reached.start[0], reached.end[0]) == (60.0, 144.0)


def test_chains_and_lengths_from_an_edge_lead_to_levels():
    offered = offered_by(
        [across(0, 84, 84.0), across(0, 18, 18.0), across(18, 40.5, 22.5),
         GivenSize((50, 110), (50, 126), 16.0, 16.0)], NAMES, BOXES, LEVELS)  # fmt: skip
    assert offered.sizes == (84.0, None, None)
    assert offered.levels == (((18.0, 18.0), (40.5, 40.5)), ((16.0, 16.0),), ())


def test_the_figures_tell_the_scale_and_what_does_not_fit_it_is_not_offered():
    half = [across(0, 84, 168.0), across(0, 18, 36.0), across(0, 40.5, 40.5)]
    offered = offered_by(half, NAMES, BOXES, LEVELS)
    assert offered.sizes[0] == 168.0
    assert offered.levels[0] == ((18.0, 36.0),)
    assert offered_by([across(0, 84, 1234.0)], NAMES, BOXES, LEVELS).is_empty
    # two figures that contradict each other about one level say nothing of it
    torn = [across(0, 84, 84.0), across(0, 18, 18.0), across(18, 84, 66.2)]
    assert offered_by(torn, NAMES, BOXES, LEVELS).sizes[0] is None


@given(st.lists(st.tuples(st.integers(0, 3), st.integers(0, 3), st.floats(-0.4, 0.4)), max_size=8),
       st.sampled_from((0.5, 1.0, 2.0)))  # fmt: skip
def test_what_is_offered_lies_near_what_was_measured(spans, scale):
    measured = LEVELS[0].measured
    sizes = [across(measured[a] + off, measured[b], round((measured[b] - measured[a]) * scale, 1))
             for a, b, off in spans if a < b]  # fmt: skip
    offered = offered_by(sizes, NAMES, BOXES, LEVELS)
    for at, true in offered.levels[0]:
        assert math.isclose(true, at * scale, abs_tol=0.15)
    if offered.sizes[0] is not None:
        assert offered.sizes[0] == pytest.approx(84.0 * scale, abs=0.15)


def test_a_figure_that_lost_its_decimals_is_not_offered_beside_one_that_agrees_closely():
    figures = [across(0.0, 84.0, 84.0), across(0.0, 18.0, 18.0), across(18.0, 40.5, 22.0)]
    levels = offered_by(figures, NAMES, BOXES, LEVELS).levels
    assert levels[0] == ((18.0, 18.0),)
    figures[2] = across(18.0, 40.5, 22.5)
    assert offered_by(figures, NAMES, BOXES, LEVELS).levels[0] == ((18.0, 18.0), (40.5, 40.5))
