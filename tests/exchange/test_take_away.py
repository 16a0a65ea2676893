"""What is taken to the drawing board: the booklet, the table of settings, where one was."""

import csv
import io
import json

import pypdfium2
import pytest

from cast import crate, hole, intended_of, picture, prism, set_up
from holoptic.exchange.plan_files import plan_csv, plan_json, plan_makers, plan_text
from holoptic.exchange.whereabouts import Whereabouts, keep_whereabouts, read_whereabouts
from holoptic.job import HandWays
from holoptic.part import Part
from holoptic.places import state_folder
from holoptic.plan import Drafter, make_plan
from holoptic.units import Unit, show_set

BRACKET = Part("latch keep", crate(58, 33, 24.5), (
    hole("eye", diameter=13, u=17, v=16),
    prism("step", outline=[(40, 24.5), (58, 24.5), (58, 11), (40, 11)]),
))  # fmt: skip


@pytest.fixture(scope="module")
def planned(worker):
    seen, drawn = picture(worker, BRACKET)
    setup, paper = set_up(BRACKET, seen.facts, drawn)
    ways = HandWays(method="offsets", order="batched")
    plan = make_plan(intended_of(BRACKET, seen.facts, drawn, setup.scale, ways), setup)
    return plan, drawn, paper


def pages_of(data):
    document = pypdfium2.PdfDocument(data)
    pages = [page.get_textpage().get_text_range() for page in document]
    sizes = {tuple(round(v / 72 * 25.4) for v in page.get_size()) for page in document}
    document.close()
    return pages, sizes


def test_the_booklet_has_every_setting_and_a_picture_of_every_step(planned):
    plan, drawn, paper = planned
    makers = plan_makers(plan, drawn, BRACKET, paper, Drafter().carry_out(plan.moves))
    pages, sizes = pages_of(makers[".pdf"]())
    assert sizes == {(210, 297)}
    words = " ".join(" ".join(pages).split())
    assert "cap them, cut away from you" in words
    assert "instruments batched" in words
    assert "settings in order" in pages[0]
    assert "Through" not in pages[0]  # no sentence on the page for hands that know the way
    for move in plan.moves:
        if move.verb in ("set off", "arc") and move.phase != "sheet":
            assert f"{move.n} {show_set(move.setting_mm)}" in " ".join(pages[0].split())
    for move in plan.moves:
        assert " ".join(move.text.split()[:6]) in words
    table = next(move for move in plan.moves if move.verb == "plot")
    assert f"{table.makes[0]}:" in words
    assert all("not a manufacturing" in page or "A pictorial explains a part" in page
               for page in pages)  # fmt: skip
    assert len(pages) < 25


def test_the_table_of_settings_holds_the_offsets_too(planned):
    plan, *_ = planned
    rows = list(csv.DictReader(io.StringIO(plan_csv(plan))))
    moves = [row for row in rows if row["verb"] != "offsets"]
    assert [int(row["n"]) for row in moves] == [move.n for move in plan.moves]
    for row, move in zip(moves, plan.moves, strict=True):
        assert row["setting_mm"] == (
            "" if move.setting_mm is None else str(round(move.setting_mm, 6) + 0.0)
        )
        assert row["sum"] == (move.lift.words if move.lift else "")
    offsets = [row for row in rows if row["verb"] == "offsets"]
    assert len(offsets) == sum(len(m.table) for m in plan.moves if m.verb == "plot") > 0
    first = next(move for move in plan.moves if move.verb == "plot")
    assert float(offsets[0]["offset_1_mm"]) == pytest.approx(first.table[0][0], abs=1e-6)
    assert offsets[0]["makes"] == first.makes[0]


def test_text_and_json_say_how_the_work_goes(planned):
    plan, drawn, paper = planned
    text = plan_text(plan, drawn, BRACKET, paper)
    assert "no order gets below" in text
    assert "to expect: points" in text
    content = json.loads(plan_json(plan, drawn, BRACKET, paper))
    assert content["way"]["order"] == "batched"
    assert content["effort"]["settings"] == plan.effort.settings
    assert content["errors_mm"]["typical"] == pytest.approx(plan.budget.typical, abs=1e-3)
    checks = [move for move in content["moves"] if move["verb"] == "check"]
    assert all(move["tolerance_mm"] > 0 for move in checks)


def test_a_job_in_inches_is_taken_away_in_inches(planned):
    plan, drawn, paper = planned
    unit = Unit.INCH_FRACTION
    drafted = Drafter().carry_out(plan.moves)
    makers = plan_makers(plan, drawn, BRACKET, paper, drafted, unit)
    text = makers[".txt"]().decode()
    assert " mm" not in text
    crate_move = next(move for move in plan.moves if move.lift and move.lift.true_mm == 58)
    assert crate_move.said(unit) in text
    assert "2 9/32" in crate_move.said(unit)
    booklet = " ".join(" ".join(pages_of(makers[".pdf"]())[0]).split())
    assert "2 9/32" in booklet
    assert " mm" not in booklet
    rows = list(csv.DictReader(io.StringIO(makers[".csv"]().decode())))
    row = next(row for row in rows if row["n"] == str(crate_move.n))
    assert (float(row["true_mm"]), row["true_in"]) == (58, "2 9/32")
    content = json.loads(makers[".json"]())
    assert content["units"] == "mm"
    assert "2 9/32" in content["moves"][crate_move.n - 1]["text"]
    assert all("⟦" not in part for part in (text, booklet, makers[".json"]().decode()))


# --- where one was ------------------------------------------------------------------------------


def test_the_place_in_a_plan_is_remembered_for_each_part_of_each_job(planned):
    plan, *_ = planned
    keep_whereabouts("one", "latch keep", plan, Whereabouts(7, {6: 12.3, 7: 4.0}))
    keep_whereabouts("one", "other", plan, Whereabouts(2))
    found = read_whereabouts("one", "latch keep", plan)
    assert (found.at, found.seconds, found.total) == (7, {6: 12.3, 7: 4.0}, 16.3)
    assert read_whereabouts("one", "other", plan).at == 2
    assert read_whereabouts("two", "latch keep", plan) == Whereabouts()


def test_another_plan_begins_at_its_start_and_spoilt_files_are_as_if_not_there(planned, worker):
    plan, *_ = planned
    seen, drawn = picture(worker, BRACKET)
    setup, _ = set_up(BRACKET, seen.facts, drawn)
    other = make_plan(intended_of(BRACKET, seen.facts, drawn, setup.scale), setup)
    keep_whereabouts("one", "latch keep", plan, Whereabouts(7))
    assert read_whereabouts("one", "latch keep", other) == Whereabouts()
    (file,) = state_folder().glob("plan-*.json")
    for spoilt in ("", "[]", '{"latch keep": 3}', file.read_text().replace("7", '"x"')):
        file.write_text(spoilt)
        assert read_whereabouts("one", "latch keep", plan) == Whereabouts()
