"""Details: a round piece of a drawing at a scale of its own, nothing of it outside its circle."""

import math
from dataclasses import replace

import pytest
import shapely

from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job, write_job
from holoptic.job import Detail, SheetWish, sheet_order, title_block
from holoptic.worker import tasks

DETAIL = Detail("A", (20.0, 12.0), 9.5, 5.0)


def job_with(*details, **wish):
    job = read_job(job_path())
    sheet = job.sheets[3]
    figure = replace(sheet.figures[0], details=details)
    return job.with_sheet(replace(sheet, figures=(figure,), wish=SheetWish(**wish)))


def laid_out(job):
    sheet = job.sheets[3]
    return tasks.sheet(sheet_order(job, sheet), title_block(job, sheet))


def test_the_detail_is_the_same_piece_larger():
    laid = laid_out(job_with(DETAIL, scale=1.0, paper="A2"))
    whole, detail = laid.layout.placed
    assert (whole.scale, detail.scale) == (1.0, 5.0)
    assert detail.figure == "f4 A"
    page = laid.pages[0]

    def lines(at):
        """Return what is drawn within the circle at a place, brought to 1:1 about its middle."""
        x, y = (at.origin[k] + at.scale * DETAIL.middle[k] for k in range(2))
        disc = shapely.Point(x, y).buffer(0.97 * at.scale * DETAIL.radius, quad_segs=90)
        inks = [shapely.LineString(ink.path) for ink in page.inks if ink.layer == "visible"]
        inside = shapely.union_all([line.intersection(disc) for line in inks])
        moved = shapely.affinity.translate(inside, -x, -y)
        return shapely.affinity.scale(moved, 1 / at.scale, 1 / at.scale, origin=(0, 0))

    one, two = lines(whole), lines(detail)
    assert one.length > 15
    assert two.length == pytest.approx(one.length, rel=0.01)
    assert one.hausdorff_distance(two) < 0.05


def test_nothing_of_it_leaves_its_circle_and_its_name_and_scale_stand_below():
    laid = laid_out(job_with(DETAIL, scale=1.0, paper="A2"))
    at, page = laid.layout.placed[1], laid.pages[0]
    x, y = (at.origin[k] + 5.0 * DETAIL.middle[k] for k in range(2))
    for ink in page.inks:
        near = min(math.dist(place, (x, y)) for place in ink.path)
        if ink.layer in ("visible", "centre") and near < 5.0 * DETAIL.radius:
            assert max(math.dist(p, (x, y)) for p in ink.path) < 5.0 * DETAIL.radius + 0.02
    texts = {words.text for words in page.words}
    assert {"detail A, 5:1", "A"} <= texts
    assert "isometric drawing" in texts  # the title block does not count the detail
    circles = [ink.arc.radius for ink in page.inks if ink.layer == "symbol" and ink.arc]
    assert sorted(round(r, 3) for r in circles) == [9.5, 47.5]


def test_dimensions_shading_and_the_plan_go_on_with_details_beside():
    job = job_with(DETAIL, replace(DETAIL, letter="B", middle=(-30.0, 20.0)), dimensions="auto",
                   shade="left")  # fmt: skip
    laid = laid_out(job)
    assert laid.misfit is None
    assert laid.sizes.lines == ()
    order = sheet_order(job, job.sheets[3])
    assert tasks.verify(order, "f4", title_block(job, job.sheets[3])).holds


def test_a_detail_too_large_for_the_paper_is_told_and_the_job_keeps_it(tmp_path):
    job = job_with(replace(DETAIL, scale=50.0), paper="A4")
    laid = laid_out(job)
    assert laid.misfit is not None
    assert all(way.moved is None for way in laid.misfit.ways_out)
    write_job(job, tmp_path / "detail.holoptic")
    assert read_job(tmp_path / "detail.holoptic") == job
