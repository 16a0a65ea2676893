"""Edits make new jobs; the old ones stay."""

import pytest

from cast import crate, hole, prism, stepped_block
from holoptic.job import Choice, Job, JobPart
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


def test_parts_of_a_job():
    job = Job("j", (JobPart(PART), JobPart(stepped_block())))
    assert job.find("stepped block") == 1
    with pytest.raises(KeyError):
        job.find("rudder")
    turned = job.with_choice(1, Choice("cabinet"))
    assert [part.choice.kind for part in turned.parts] == ["isometric", "cabinet"]
    assert [part.source.name for part in job.without(0).parts] == ["stepped block"]
    assert job.with_added(JobPart(PART)).parts[2].source == PART
    assert job.with_source(0, stepped_block()).parts[0].source == stepped_block()


def test_a_job_in_inches_is_the_same_size():
    job = Job("j", (JobPart(PART),)).in_unit(Unit.INCH_DECIMAL)
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
