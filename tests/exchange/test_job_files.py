"""Job files: kept whole, read strictly, refused with one clear line."""

import json
import os
import signal
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from cast import parts, stepped_block
from holoptic.demo import job_path
from holoptic.errors import BadInput
from holoptic.exchange.job_file import job_bytes, job_schema, parse_job, read_job, write_job
from holoptic.exchange.safekeeping import (
    Autosave,
    forget,
    left_behind,
    recent_files,
    remember_file,
)
from holoptic.job import Figure, History, Job, Pictorial, TitleEntries, job_of
from holoptic.part import ImportedSolid
from holoptic.units import Unit

JOB = Job("trial", title=TitleEntries(date="2026-11-23"), id="a-trial").with_added(
    stepped_block(), Figure("", "", Pictorial("cabinet"))
)
OLD = Path(__file__).parent / "jobs"
"""Job files as earlier versions wrote them."""


@given(part=parts(), unit=st.just(Unit.MM), kind=st.sampled_from(["isometric", "cabinet"]))
def test_a_job_goes_there_and_back(part, unit, kind):
    job = Job("j", unit=unit).with_added(part, Figure("", "", Pictorial(kind)))
    assert parse_job(job_bytes(job)) == job


def test_the_published_schema_accepts_what_is_written():
    schema = job_schema()
    jsonschema.Draft202012Validator.check_schema(schema)
    jsonschema.validate(json.loads(job_bytes(JOB)), schema)
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate({"format": "holoptic-job", "version": 1}, schema)


def test_the_schema_in_the_docs_is_the_present_one(request):
    published = request.config.rootpath / "docs" / "job.schema.json"
    assert json.loads(published.read_text("utf-8")) == job_schema()


def test_keys_keep_their_order():
    assert job_bytes(JOB) == job_bytes(parse_job(job_bytes(JOB)))
    assert list(json.loads(job_bytes(JOB)))[:3] == ["format", "version", "name"]


def _changed(**changes):
    return json.dumps({**json.loads(job_bytes(JOB)), **changes}).encode()


def _with_first_size(**changes):
    content = json.loads(job_bytes(JOB))
    content["parts"][0]["source"]["crate"]["length"].update(changes)
    return json.dumps(content).encode()


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "no whole JSON"),
        (b"\xff\xfe\x00", "no whole JSON"),
        (job_bytes(JOB)[:-40], "cut off"),
        (b"[" * 100_000, "no whole JSON"),
        (b"[]", "not a Holoptic job file"),
        (b'{"format": "something else"}', "not a Holoptic job file"),
        (_changed(version=99), "newer Holoptic"),
        (_changed(version="1"), "does not say its version"),
        (_changed(version=True), "does not say its version"),
        (_changed(parts=3), "parts"),
        (_changed(surprise=1), "surprise"),
        (_changed(unit="furlong"), "unit"),
        (_with_first_size(mm=85.0), "“84” is 84 mm but stands as 85"),
        (_with_first_size(mm=float("nan")), "mm|stands as nan"),
        (_with_first_size(text="os.remove"), "no meaning|no length"),
    ],
    ids=lambda value: value[:20] if isinstance(value, bytes) else value,
)
def test_bad_files_are_refused_in_one_line(data, says):
    with pytest.raises(BadInput, match=says) as refused:
        parse_job(data)
    assert "\n" not in str(refused.value)


@given(st.data())
def test_mutated_files_are_read_or_refused(data):
    content = bytearray(job_bytes(JOB))
    for _ in range(data.draw(st.integers(1, 6))):
        at = data.draw(st.integers(0, len(content) - 1))
        content[at] = data.draw(st.integers(0, 255))
    try:
        job = parse_job(bytes(content))
    except BadInput:
        return
    assert isinstance(job, Job)


def test_saving_keeps_the_file_before(tmp_path):
    path = tmp_path / "a.holoptic"
    write_job(JOB, path)
    write_job(replace(JOB, name="second"), path)
    assert read_job(path).name == "second"
    assert read_job(path.with_name("a.holoptic~")).name == "trial"
    assert sorted(file.name for file in tmp_path.glob("*a.holoptic*")) == [
        "a.holoptic", "a.holoptic~",
    ]  # fmt: skip


def test_an_unwritable_target_loses_nothing(tmp_path):
    with pytest.raises(BadInput, match="cannot be written"):
        write_job(JOB, tmp_path / "no such folder" / "a.holoptic")
    blocked = tmp_path / "a.holoptic"
    blocked.mkdir()
    with pytest.raises(BadInput, match="cannot be written"):
        write_job(JOB, blocked)
    assert list(tmp_path.glob(".*")) == []


SAVE_FOR_EVER = """
import sys
from pathlib import Path
from holoptic.exchange.job_file import read_job, write_job
job, target = read_job(Path(sys.argv[1])), Path(sys.argv[2])
write_job(job, target)
print("first", flush=True)
while True:
    write_job(job, target)
"""


@pytest.mark.parametrize("delay", [0.0, 0.01, 0.03])
def test_saving_survives_a_kill_at_any_moment(tmp_path, delay):
    target = tmp_path / "a.holoptic"
    command = [sys.executable, "-c", SAVE_FOR_EVER, str(job_path()), str(target)]
    with subprocess.Popen(command, stdout=subprocess.PIPE) as process:
        assert process.stdout.readline() == b"first\n"
        try:
            process.wait(delay)
        except subprocess.TimeoutExpired:
            process.send_signal(signal.SIGKILL)
    assert read_job(target) == read_job(job_path())


def test_step_paths_move_with_the_folder(tmp_path):
    solid = ImportedSolid("pair 1", str(tmp_path / "in" / "pair.step"), 0)
    job = replace(job_of("j", [solid]), id="solids")
    (tmp_path / "in").mkdir()
    write_job(job, tmp_path / "j.holoptic")
    assert '"in/pair.step"' in (tmp_path / "j.holoptic").read_text()
    assert read_job(tmp_path / "j.holoptic") == job


def test_work_left_behind_is_found_and_forgotten(tmp_path):
    autosave = Autosave()
    autosave.keep(JOB, tmp_path / "a.holoptic")
    assert left_behind() == []  # this run still lives
    os.close(autosave._lock)  # as when it ends
    (found,) = left_behind()
    assert (found.job, found.path) == (JOB, tmp_path / "a.holoptic")
    forget(found.kept)
    assert left_behind() == []


def test_recent_files_are_those_that_exist(tmp_path):
    for name in ("a", "b", "a"):
        path = tmp_path / f"{name}.holoptic"
        path.touch()
        remember_file(path)
    assert [path.stem for path in recent_files()] == ["a", "b"]
    (tmp_path / "b.holoptic").unlink()
    assert [path.stem for path in recent_files()] == ["a"]


def test_history_goes_back_and_forth_without_limit():
    history = History(Job("0"))
    for number in range(1, 500):
        history.push(Job(str(number)), f"edit {number}")
    assert not history.push(history.job, "nothing")
    while history.undo():
        pass
    assert (history.job.name, history.redo_text) == ("0", "edit 1")
    while history.redo():
        pass
    assert (history.job.name, history.undo_text) == ("499", "edit 499")


def test_typing_in_a_field_is_one_edit():
    history = History(Job("0"))
    for name in ("1", "12", "12.5"):
        history.push(Job(name), "name", merge="name")
    history.close_step()
    history.push(Job("13"), "name", merge="name")
    history.undo()
    assert history.job.name == "12.5"
    history.undo()
    assert (history.job.name, history.is_saved) == ("0", True)


def test_typing_after_undo_forgets_what_was_saved_later():
    history = History(Job("0"))
    for name in ("1", "12"):
        history.push(Job(name), "name", merge="name")
    history.push(Job("other"), "other")
    history.mark_saved()
    history.undo()
    history.push(Job("123"), "name", merge="name")
    history.push(Job("more"), "more")
    assert not history.is_saved
    assert history.redo_text is None


def test_a_saved_job_that_cannot_be_reached_again_counts_as_unsaved():
    history = History(Job("0"))
    history.push(Job("1"), "edit")
    history.mark_saved()
    history.undo()
    history.push(Job("2"), "other edit")
    assert not history.is_saved


@pytest.mark.parametrize("version", [1, 2, 3, 4])
def test_files_of_earlier_versions_are_read(version):
    path = OLD / f"version-{version}.holoptic"
    content, job = json.loads(path.read_text("utf-8")), read_job(path)
    assert content["version"] == version
    assert [part.source.name for part in job.parts] == [
        p["source"]["name"] for p in content["parts"]
    ]
    assert job.title.date == content["date"]
    for number, (part, before) in enumerate(zip(job.parts, content["parts"], strict=True), 1):
        (figure,) = job.figures_of(part.id)
        choice = before["choice"]
        assert (part.id, figure.id, job.sheet_of(figure).id) == (
            f"p{number}", f"f{number}", f"s{number}",
        )  # fmt: skip
        assert (figure.kind, figure.corner) == (choice["kind"], choice["corner"])
        assert figure.lines.hidden == choice["hidden"]
        assert figure.by_hand.order == choice.get("by_hand", {}).get("order", "by-feature")
    assert parse_job(job_bytes(job)) == job
    assert read_job(path).id == job.id  # told from others before it is saved


def test_solids_of_a_version_4_file_are_found(tmp_path):
    (tmp_path / "old.holoptic").write_bytes((OLD / "version-4-solids.holoptic").read_bytes())
    job = read_job(tmp_path / "old.holoptic")
    assert {part.source.path for part in job.parts} == {str(tmp_path / "round-parts.step")}


def _version_4(**choice):
    content = json.loads((OLD / "version-4.holoptic").read_text("utf-8"))
    content["parts"][1]["choice"].update(choice)
    return json.dumps(content).encode()


def test_what_stood_beside_a_picture_becomes_figures():
    company = ["isometric", "views", "cabinet", "cabinet"]
    sheet = {"paper": "A3", "frame": "printed", "company": company}
    job = parse_job(_version_4(kind="isometric", corner="front-left", sheet=sheet))
    sheet = job.sheets[1]
    assert [figure.title for figure in sheet.figures] == ["views", "cabinet", "isometric"]
    assert {figure.subject for figure in sheet.figures} == {"p2"}
    assert (sheet.wish.paper, sheet.wish.frame) == ("A3", "printed")
    assert job.main_figure("p2").id == "f2"
    assert sheet.figures[0].lines.hidden == "dashed"
    assert sheet.figures[1].corner == "front-left"


@pytest.mark.parametrize(
    ("choice", "says"),
    [({"surprise": 1}, "surprise"), ({"kind": 5}, "kind"), ({"kind": "moonlit"}, "moonlit"),
     ({"sheet": {"company": ["moonlit"]}}, "moonlit"), ({"sheet": {"company": 3}}, "no sound form"),
     ({"sheet": 3}, "no sound form"), ({"sheet": {"surprise": 1}}, "surprise")],
)  # fmt: skip
def test_unsound_files_of_version_4_are_refused(choice, says):
    with pytest.raises(BadInput, match=says):
        parse_job(_version_4(**choice))


def _broken(change):
    content = json.loads(job_bytes(JOB))
    change(content)
    return json.dumps(content).encode()


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda job: job["parts"].append(job["parts"][0]), "two parts have the id “p1”"),
        (lambda job: job["sheets"].append(job["sheets"][0]), "two figures have the id “f1”"),
        (lambda job: job["sheets"][0]["figures"][0].update(subject="p9"), "“p9”, which is no part"),
        (lambda job: job["sheets"][0]["figures"][0].update(id=""), "a figure has no id"),
        (lambda job: job["sheets"][0].update(figures=[]), "nothing stands on sheet “s1”"),
        (lambda job: job["sheets"][0]["figures"][0].update(scale=-1.0), "scale of -1"),
        (lambda job: job["sheets"][0].update(figures=[
            {**job["sheets"][0]["figures"][0], "id": f"f{k}"} for k in range(61)
        ]), "more than 60 figures"),
    ],
)  # fmt: skip
def test_ids_and_figures_must_make_sense(change, says):
    with pytest.raises(BadInput, match=says):
        parse_job(_broken(change))
