"""Sheets of the stand-in, found, measured, and told what went wrong."""

from dataclasses import dataclass, replace
from pathlib import Path

import cv2
import numpy as np
import pytest
from reportlab.pdfgen.canvas import Canvas

from holoptic.checking.causes import Suspects
from holoptic.checking.pictures.checker import Checked, check_picture
from holoptic.checking.pictures.loading import load
from holoptic.checking.pictures.showing import as_png
from holoptic.checking.pictures.stand_in import take
from holoptic.checking.sitting import Sitting
from holoptic.checking.traces import SlippedSheets, Traced, trace
from holoptic.errors import BadInput
from holoptic.job import Job, sheet_order
from holoptic.plan.hand import Hand
from holoptic.plan.moves import BlankSheet
from holoptic.sheet.frames import frame_of
from holoptic.worker.checking_tasks import traced_of
from holoptic.worker.client import Worker

STILL = Hand(1e-9, 1e-9, 1e-9)


@dataclass
class Table:
    """A plan, its paper, and a folder: draws sheets and checks them."""

    traced: Traced
    paper: BlankSheet
    folder: Path

    def check(self, sitting: Sitting, change=lambda picture: picture) -> Checked:
        path = self.folder / "sheet.png"
        path.write_bytes(as_png(change(take(self.traced, self.paper, sitting))))
        return check_picture(path, "f1", self.traced, Hand())

    def draw_of(self, number: int) -> int:
        draws = Suspects(self.traced, Hand()).draws
        return next(k for k, d in enumerate(draws) if self.traced.moves[d.move].n == number)


@pytest.fixture(scope="module")
def plan_of_block(demo_job: Job, worker: Worker):
    figure = demo_job.sheets[0].figures[0]
    return worker.ask("plan", sheet_order(demo_job, demo_job.sheets[0]), figure.id)


@pytest.fixture
def table(plan_of_block, tmp_path: Path) -> Table:
    paper = frame_of(plan_of_block.paper)
    traced = trace(plan_of_block.plan.moves, plan_of_block.drafted, paper.inner)
    return Table(traced, paper, tmp_path)


def slipping_move(table: Table) -> int:
    """A setting of a length of the part on which several strokes hang."""
    suspects = Suspects(table.traced, Hand())
    effects = [
        sum(float(np.abs((places[k] * one.normals.conj()).real).max()) > 0.4
            for one, places in zip(table.traced.traces, suspects.by_draw, strict=True))
        for k in range(len(suspects.draws))
    ]  # fmt: skip
    begun = next(k for k, move in enumerate(table.traced.moves) if "A" in move.makes)
    for k, draw in enumerate(suspects.draws):
        if draw.move > begun and not draw.is_angle and 4 <= effects[k] <= 12:
            return table.traced.moves[draw.move].n
    raise AssertionError("no setting moves some strokes and leaves others")


@pytest.mark.parametrize("is_photo", [False, True])
def test_offsets_are_those_that_were_drawn(table: Table, is_photo: bool) -> None:
    sitting = Sitting(dpi=200, seed=5, is_photo=is_photo)
    checked = table.check(sitting)
    dice = np.random.default_rng(sitting.seed)
    sheets = SlippedSheets(
        sitting.hand, 1, lambda _, spread: np.array([dice.normal(0, spread)])
    ).draw(table.traced.moves, table.traced.meant)  # fmt: skip
    errors = []
    for one, places, stroke in zip(
        table.traced.traces, table.traced.on(sheets), checked.report.strokes, strict=True
    ):
        off = ((places[0] - one.meant) * one.normals.conj()).real
        if stroke.state in ("there", "shifted"):
            errors.append(abs(stroke.off_mm) - np.abs(off).max())
    assert len(errors) > 0.9 * len(table.traced.traces)
    assert float(np.sqrt(np.mean(np.square(errors)))) < 0.1
    assert checked.report.agrees


def test_a_slip_is_told_with_its_size_and_what_is_left_out_is_missing(table: Table) -> None:
    number = slipping_move(table)
    draw = table.draw_of(number)
    gone = table.traced.traces[0].stroke
    report = table.check(
        Sitting(slips={draw: 3.4}, left_out=frozenset({gone}), dpi=200, seed=2)
    ).report  # fmt: skip
    assert report.causes[0].move == number
    assert report.causes[0].was_set - report.causes[0].should == pytest.approx(3.4, abs=0.8)
    assert next(stroke for stroke in report.strokes if stroke.id == gone).state == "missing"
    assert not report.agrees
    assert number in report.redraw.moves
    assert len(report.redraw.moves) < len(table.traced.moves) / 2


def test_the_redraw_plan_puts_the_sheet_right(table: Table) -> None:
    number = slipping_move(table)
    report = table.check(Sitting(STILL, {table.draw_of(number): 3.0}, dpi=200)).report
    wrong = {stroke.move for stroke in report.worst_first}
    assert wrong <= set(report.redraw.moves)
    made = {name for move in table.traced.moves if move.n == number for name in move.makes}
    for move in table.traced.moves:  # whatever it uses and was made wrong is made again
        if move.n in report.redraw.moves and made.intersection(move.uses):
            assert number in report.redraw.moves


@pytest.mark.parametrize("share", [0.6])
def test_a_sheet_that_is_not_finished_says_how_far_it_is(table: Table, share: float) -> None:
    moves = table.traced.moves
    until = int(len(moves) * share)
    report = table.check(Sitting(dpi=150, seed=8, until=until)).report
    made = [move.n for move in moves[:until] if move.verb == "firm in"]
    assert report.until is not None
    assert made[-1] <= report.until <= moves[until - 1].n


def test_ink_that_nobody_planned_is_too_much(table: Table) -> None:
    line = (complex(20, 150), complex(60, 165))
    report = table.check(Sitting(STILL, dpi=200, extra=(line,))).report
    assert len(report.extra) == 1
    ends = sorted(report.extra[0].start + report.extra[0].end)
    assert ends == pytest.approx(sorted([20, 150, 60, 165]), abs=1.0)
    assert not report.agrees


def test_what_other_drawings_of_the_sheet_have_is_not_too_much(table: Table) -> None:
    lines = (complex(20, 150), complex(60, 165)), (complex(20, 165), complex(60, 150))
    table.traced = replace(table.traced, elsewhere=((10.0, 140.0, 70.0, 175.0),))
    assert table.check(Sitting(STILL, dpi=150, extra=lines)).report.agrees


def test_title_block_and_other_figures_are_known_to_the_worker(demo_job: Job, worker: Worker):
    sheet = demo_job.sheets[9]
    planned = worker.ask("plan", sheet_order(demo_job, sheet), sheet.figures[0].id)
    boxes = traced_of(planned).elsewhere
    assert len(boxes) == len(sheet.figures)  # the others, and the title block
    own = traced_of(planned).box
    for xmin, ymin, xmax, ymax in boxes:
        assert xmax <= own[0] or xmin >= own[2] or ymax <= own[1] or ymin >= own[3]


@pytest.mark.parametrize("turns", [1, 2])
def test_a_sheet_may_lie_any_way_up(table: Table, turns: int) -> None:
    assert table.check(Sitting(STILL, dpi=150), lambda p: np.rot90(p, turns)).report.agrees


def test_a_border_may_be_cut_off_on_one_side(table: Table) -> None:
    checked = table.check(Sitting(STILL, dpi=200), lambda p: p[:, : int(p.shape[1] * 0.93)])
    states = [stroke.state for stroke in checked.report.strokes]
    assert states.count("there") == len(states)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda p: np.full_like(p, 240), "no border"),
        (lambda p: p[:100], "too few"),
        (lambda p: cv2.flip(p, 1), "too little of the planned sheet"),
    ],
)
def test_what_is_no_picture_of_the_sheet_is_refused(table: Table, change, says: str) -> None:
    with pytest.raises(BadInput, match=says):
        table.check(Sitting(STILL, dpi=150), change)


def test_pictures_of_other_depths_are_read(table: Table) -> None:
    picture = take(table.traced, table.paper, Sitting(STILL, dpi=150))
    for name, data in (
        ("one.png", np.where(picture > 150, 255, 0).astype(np.uint8)),
        ("deep.tif", picture.astype(np.uint16) * 257),
        ("sheet.jpg", picture),
        ("colour.png", cv2.cvtColor(picture, cv2.COLOR_GRAY2BGR)),
    ):
        path = table.folder / name
        assert cv2.imwrite(str(path), data)
        loaded = load(path)
        assert loaded.dtype == np.uint8
        assert loaded.shape == picture.shape
        assert (loaded < 128).mean() == pytest.approx((picture < 128).mean(), abs=0.01)
    page = table.folder / "sheet.pdf"
    canvas = Canvas(str(page), pagesize=(842, 595))
    canvas.drawImage(str(table.folder / "sheet.jpg"), 0, 0, 842, 595)
    canvas.save()
    assert (load(page) < 128).mean() == pytest.approx((picture < 128).mean(), abs=0.01)


@pytest.mark.parametrize("data", [b"", b"no picture at all", b"\x89PNG\r\n\x1a\n" + b"\0" * 40])
def test_a_broken_file_is_one_clear_line(table: Table, data: bytes) -> None:
    path = table.folder / "broken.png"
    path.write_bytes(data)
    with pytest.raises(BadInput, match=r"broken\.png"):
        check_picture(path, "f1", table.traced, Hand())
