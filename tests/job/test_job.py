"""Edits make new jobs; the old ones stay."""

from dataclasses import replace

import pytest

from cast import crate, hole, prism, stepped_block
from holoptic.job import Figure, Orthographic, Sheet, TitleEntries, job_of, title_block
from holoptic.job.job import with_inserted, with_moved, with_operation, without_operation
from holoptic.part import Part
from holoptic.places import config_folder, state_folder
from holoptic.units import Unit

SQUARE = [(0, 0), (5, 0), (5, 5), (0, 5)]
PART = Part("p", crate(30, 20, 10), tuple(prism(name, outline=SQUARE) for name in "abc"))


def names(part):
    return "".join(operation.name for operation in part.operations)


def test_operations_are_exchanged_put_in_taken_out_and_moved():
    other = hole("x", diameter=3, u=9, v=9)
    assert names(with_operation(PART, 1, other)) == "axc"
    assert names(with_inserted(PART, 0, other)) == "xabc"
    assert names(with_inserted(PART, 3, other)) == "abcx"
    assert names(without_operation(PART, 0)) == "bc"
    assert names(with_moved(PART, 0, 2)) == "bca"
    assert names(with_moved(PART, 2, 0)) == "cab"
    assert names(PART) == "abc"


@pytest.fixture
def job():
    return job_of("j", [PART, stepped_block()])


def test_parts_of_a_job(job):
    assert [part.id for part in job.parts] == ["p1", "p2"]
    assert job.find("stepped block").id == "p2"
    with pytest.raises(KeyError):
        job.find("rudder")
    turned = job.with_figure(job.main_figure("p2").seen("cabinet", "front-left"))
    assert [figure.kind for figure in turned.figures] == ["isometric", "cabinet"]
    without = job.without_part("p1")
    assert [part.source.name for part in without.parts] == ["stepped block"]
    assert [figure.subject for figure in without.figures] == ["p2"]
    assert job.with_source("p1", stepped_block()).part("p1").source == stepped_block()


def test_a_new_part_takes_no_name_and_no_id_that_is_there(job):
    added = job.without_part("p1").with_added(stepped_block()).with_added(stepped_block())
    assert [part.source.name for part in added.parts] == [
        "stepped block", "stepped block 2", "stepped block 3",
    ]  # fmt: skip
    assert [part.id for part in added.parts] == ["p2", "p3", "p4"]
    assert len({figure.id for figure in added.figures}) == 3


def test_names_may_repeat_without_breaking_anything(job):
    same = job.with_source("p1", replace(stepped_block(), number="7"))
    assert [part.source.name for part in same.parts] == ["stepped block", "stepped block"]
    assert same.part("p2").source.number == ""
    assert same.main_figure("p2").subject == "p2"


def test_figures_move_between_sheets(job):
    views = Figure(job.fresh_figure_id(), "p1", Orthographic())
    both = job.with_figure_on("s2", views)
    assert [[f.id for f in sheet.figures] for sheet in both.sheets] == [["f1"], ["f2", "f3"]]
    assert both.main_figure("p1").id == "f1"
    together = both.with_figure_on("s2", both.figure("f1"))
    assert [sheet.id for sheet in together.sheets] == ["s2"]  # the other one was empty then
    apart = together.on_own_sheet("f2")
    assert [[f.id for f in sheet.figures] for sheet in apart.sheets] == [["f3", "f1"], ["f2"]]
    assert [apart.number_of(sheet.id) for sheet in apart.sheets] == ["1 of 2", "2 of 2"]
    with pytest.raises(KeyError):
        job.with_figure_on("s9", views)


def test_a_part_without_a_figure_is_shown_by_a_fresh_one(job):
    bare = job.without_figure("f1")
    shown = bare.main_figure("p1")
    assert shown.id not in {figure.id for figure in bare.figures}
    assert bare.sheet_of(shown).id not in {sheet.id for sheet in bare.sheets}
    assert bare.with_figure(shown).main_figure("p1") == shown


def test_the_title_block_is_what_sheet_job_and_part_say(job):
    job = job.with_source("p1", replace(PART, number="N-1"))
    job = replace(job, title=TitleEntries(drawn_by="E. Tern", date="2026-11-27"))
    plain = title_block(job, job.sheets[0])
    assert (plain.work, plain.part, plain.number, plain.sheet) == ("j", "p", "N-1", "1 of 2")
    assert (plain.drawn_by, plain.date, plain.revision) == ("E. Tern", "2026-11-27", "")
    entries = TitleEntries(part="both", drawn_by="", revision="C")
    both = Sheet("s3", job.figures, title=entries)
    said = title_block(job, both)
    assert (said.part, said.number, said.drawn_by, said.revision) == ("both", "", "", "C")
    assert title_block(job, replace(both, title=TitleEntries())).part == "p, stepped block"


def test_a_job_in_inches_is_the_same_size():
    job = job_of("j", [PART]).in_unit(Unit.INCH_DECIMAL)
    assert job.unit is Unit.INCH_DECIMAL
    assert job.parts[0].source.crate.sizes == PART.crate.sizes
    assert job.parts[0].source.operations[0].outline[1].u.text == "5 mm"
    assert job.in_unit(Unit.MM).parts[0].source.crate.sizes == PART.crate.sizes


def test_folders_follow_the_environment(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "s"))
    monkeypatch.setenv("XDG_CONFIG_HOME", "relative/is/ignored")
    monkeypatch.setenv("HOME", str(tmp_path / "home"))
    assert state_folder() == tmp_path / "s" / "holoptic"
    assert config_folder() == tmp_path / "home" / ".config" / "holoptic"
    assert config_folder().is_dir()
