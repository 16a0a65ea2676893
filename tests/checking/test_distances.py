"""Control distances: what rules read tells which setting was off."""

import numpy as np
import pytest

from holoptic.checking.causes import Suspects
from holoptic.checking.distances import check_distances, decided, distances_of
from holoptic.checking.slips import Slip
from holoptic.checking.traces import trace
from holoptic.job import sheet_order
from holoptic.plan.hand import Hand
from holoptic.sheet.frames import frame_of


@pytest.fixture(scope="module")
def traced(demo_job, worker):
    sheet = demo_job.sheets[0]
    planned = worker.ask("plan", sheet_order(demo_job, sheet), sheet.figures[0].id)
    return trace(planned.plan.moves, planned.drafted, frame_of(planned.paper).inner)


def read_after(traced, draw, off):
    """Return what the rules read after one slip, and the number of the move that slipped."""
    suspects = Suspects(traced, Hand())
    sheets = suspects.sheets([(Slip(draw, off, "other", 0.0, 0.0),)])
    readings = {one.move: float(abs(sheets.points[one.start] - sheets.points[one.end])[0])
                for one in distances_of(traced.moves)}  # fmt: skip
    return readings, traced.moves[suspects.draws[draw].move].n


def telling_draws(traced):
    """Return the settings of lengths that move several control distances."""
    suspects = Suspects(traced, Hand())
    found = []
    for number, draw in enumerate(suspects.draws):
        if not draw.is_angle and traced.moves[draw.move].lift is not None:
            readings, _ = read_after(traced, number, 5.0)
            off = [abs(one.off_mm) for one in distances_of(traced.moves, readings)]
            if sum(value > 2.0 for value in off) >= 2:
                found.append(number)
    return found


def test_a_plan_without_readings_has_its_distances(traced):
    told = distances_of(traced.moves)
    assert len(told) >= 3
    assert all(one.read_mm is None and one.agrees for one in told)


def test_readings_as_they_should_be_have_no_cause(traced):
    readings = {one.move: one.should_mm + 0.2 for one in distances_of(traced.moves)}
    report = check_distances("f1", traced, Hand(), readings)
    assert report.agrees
    assert report.causes == ()
    assert report.redraw is None


def test_a_slip_is_among_the_likeliest_causes_with_its_size(traced):
    draws = telling_draws(traced)
    assert draws
    for number in draws:
        readings, move = read_after(traced, number, 5.0)
        report = check_distances("f1", traced, Hand(), readings)
        causes = {cause.move: cause for cause in report.causes[:3]}
        assert move in causes
        assert abs(causes[move].was_set - causes[move].should) == pytest.approx(5.0, abs=1.0)
        assert sum(cause.weight for cause in report.causes) <= 1.01


def test_strokes_that_hang_on_the_likeliest_cause_are_to_be_drawn_again(traced):
    readings, _ = read_after(traced, telling_draws(traced)[0], 5.0)
    report = check_distances("f1", traced, Hand(), readings)
    off = {one.id for one in report.worst_first}
    assert off
    assert report.causes[0].move in report.redraw.moves
    firmed = {move.makes[0] for move in traced.moves
              if move.n in report.redraw.moves and move.verb == "firm in"}  # fmt: skip
    assert off <= firmed


def test_the_distance_that_decides_decides(traced):
    reports = [
        check_distances("f1", traced, Hand(), dict([one]))
        for number in telling_draws(traced) for one in read_after(traced, number, 5.0)[0].items()
    ]  # fmt: skip
    open_ones = [report for report in reports if report.deciding is not None]
    assert open_ones
    for report in open_ones:
        for move, reading in zip(report.deciding.moves, report.deciding.readings, strict=True):
            after = decided(report, reading, traced.moves)
            rivals = [c for c in after.causes if c.move in report.deciding.moves]
            assert rivals[0].move == move
            assert after.deciding is None
            shares = np.array([[c.weight for c in one.causes] for one in (report, after)])
            assert shares[0].sum() == pytest.approx(shares[1].sum(), abs=0.02)
