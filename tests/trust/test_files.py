"""Files are written where they are meant, read within bounds, and never at another's cost."""

import fcntl
import json
import os
import stat
import struct
from dataclasses import replace
from pathlib import Path

import pytest

from holoptic.bounded import read_bounded
from holoptic.demo import job_path
from holoptic.errors import BadInput
from holoptic.exchange.atomic import sweep, write_atomically
from holoptic.exchange.claims import Claim, Taken
from holoptic.exchange.job_file import LARGEST_BYTES, job_bytes, parse_job, read_job, write_job
from holoptic.exchange.safekeeping import Autosave, left_behind, recent_files, remember_file
from holoptic.foreign import require_readable
from holoptic.job import job_of
from holoptic.part import ImportedSolid
from holoptic.places import read_json_object, setbacks, state_folder
from holoptic.quoting import name_of, one_line


def test_a_link_stays_and_the_file_it_points_to_is_written(tmp_path):
    (tmp_path / "there").mkdir()
    real, link = tmp_path / "there" / "real.txt", tmp_path / "link.txt"
    real.write_bytes(b"old")
    link.symlink_to(real)
    write_atomically(link, b"new", keep_previous=True)
    assert link.is_symlink()
    assert (real.read_bytes(), (tmp_path / "there" / "real.txt~").read_bytes()) == (b"new", b"old")
    dangling = tmp_path / "to come.txt"
    dangling.symlink_to(tmp_path / "there" / "new.txt")
    write_atomically(dangling, b"first")
    assert (tmp_path / "there" / "new.txt").read_bytes() == b"first"


def test_what_is_no_ordinary_file_is_neither_written_nor_read(tmp_path):
    fifo, round_link = tmp_path / "fifo", tmp_path / "round"
    os.mkfifo(fifo)
    round_link.symlink_to(round_link)
    for place in (fifo, tmp_path, Path("/dev/null"), round_link, Path("a\0b")):
        with pytest.raises(BadInput):
            write_atomically(place, b"data")
        with pytest.raises(BadInput):
            read_bounded(place, 100)
    endless = tmp_path / "endless.holoptic"
    endless.symlink_to("/dev/zero")
    with pytest.raises(BadInput, match=r"endless\.holoptic is no ordinary file"):
        read_job(endless)


@pytest.mark.parametrize("suffix", [".png", ".pdf", ".svg", ".dxf", ".step"])
def test_files_of_others_are_refused_before_anything_is_started(tmp_path, suffix):
    endless = tmp_path / f"endless{suffix}"
    endless.symlink_to("/dev/zero")
    with pytest.raises(BadInput, match=rf"endless\{suffix} is no ordinary file"):
        require_readable(endless)


def test_a_save_after_one_that_was_killed_between_two_names_leaves_nothing_over(tmp_path):
    file = tmp_path / "lamp.holoptic"
    file.write_bytes(b"old")
    os.link(file, tmp_path / "lamp.holoptic~")  # the killed one got so far
    write_atomically(file, b"new", keep_previous=True)
    assert sorted(path.name for path in tmp_path.iterdir()) == ["lamp.holoptic", "lamp.holoptic~"]
    assert (tmp_path / "lamp.holoptic~").read_bytes() == b"old"


def test_mode_and_attributes_are_kept(tmp_path):
    file = tmp_path / "mine.holoptic"
    file.write_bytes(b"old")
    file.chmod(0o640)
    try:
        os.setxattr(file, "user.note", b"from the harbour")
    except OSError:
        pytest.skip("this file system keeps no attributes")
    write_atomically(file, b"new", keep_previous=True)
    assert stat.S_IMODE(file.stat().st_mode) == 0o640
    assert os.getxattr(file, "user.note") == b"from the harbour"
    assert stat.S_IMODE(file.with_name("mine.holoptic~").stat().st_mode) == 0o640
    write_atomically(file, b"own", private=True)
    assert stat.S_IMODE(file.stat().st_mode) == 0o600


def test_access_lists_are_kept(tmp_path):
    file = tmp_path / "shared.holoptic"
    file.write_bytes(b"old")
    file.chmod(0o640)
    everybody = 0xFFFFFFFF
    # version 2, then (tag, rights, who): owner, one user more, group, mask, others
    entries = ((1, 6, everybody), (2, 6, 4711), (4, 4, everybody), (16, 6, everybody),
               (32, 0, everybody))  # fmt: skip
    wanted = struct.pack("<I", 2) + b"".join(struct.pack("<HHI", *entry) for entry in entries)
    try:
        os.setxattr(file, "system.posix_acl_access", wanted)
    except OSError:
        pytest.skip("this file system keeps no access lists")
    write_atomically(file, b"new", keep_previous=True)
    assert os.getxattr(file, "system.posix_acl_access") == wanted
    assert file.read_bytes() == b"new"


def test_nothing_is_replaced_where_that_is_not_meant(tmp_path):
    file = tmp_path / "picture.svg"
    write_atomically(file, b"first", replace=False)
    with pytest.raises(BadInput, match="is there already"):
        write_atomically(file, b"second", replace=False)
    assert file.read_bytes() == b"first"
    assert [path.name for path in tmp_path.iterdir()] == ["picture.svg"]


def test_what_killed_saves_left_is_swept_and_what_is_being_written_is_not(tmp_path):
    left, writing = (tmp_path / f".holoptic-{digit * 16}.part" for digit in "0f")
    left.write_bytes(b"half")
    writing.write_bytes(b"half")
    earlier = [tmp_path / ".a.holoptic.keep", tmp_path / ".a.holoptic.x1_b2c3d"]
    other = tmp_path / ".a.holoptic.backup"
    for file in (*earlier, other):
        file.write_bytes(b"half")
        os.utime(file, (1, 1))
    with writing.open("rb") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        assert sweep(tmp_path, "a.holoptic") == 3
    assert sorted(tmp_path.iterdir()) == sorted([writing, other])


def test_names_that_are_no_text_are_taken(tmp_path):
    folder = tmp_path / os.fsdecode(b"sheds\xff\nand more")
    folder.mkdir()
    long = folder / ("x" * (255 - len(".holoptic")) + ".holoptic")
    solid = ImportedSolid("pair", str(folder / os.fsdecode(b"pair\xe4.step")), 0)
    job = replace(job_of("lamp", [solid]), id="lamp")
    for _ in range(2):
        write_job(job, long)
    assert read_job(long) == job
    assert len(list(folder.iterdir())) == 2  # and the file before it
    assert parse_job(job_bytes(job)) == job
    remember_file(long)
    assert recent_files() == [long]
    autosave = Autosave()
    autosave.keep(job, long)
    os.close(autosave._lock)
    (found,) = left_behind()
    assert (found.job, found.path) == (job, long)


@pytest.mark.parametrize("path", ["pair\0.step", "x" * 5000, "a/" * 3000])
def test_a_path_in_a_job_that_is_none_is_refused_or_kept(tmp_path, path):
    job = replace(job_of("lamp", [ImportedSolid("pair", path, 0)]), id="lamp")
    (tmp_path / "a.holoptic").write_bytes(job_bytes(job))
    try:
        assert read_job(tmp_path / "a.holoptic").parts[0].source.path.endswith(path.rstrip("/"))
    except BadInput as error:
        assert "\n" not in str(error)
        assert len(str(error)) < 200


def test_what_is_quoted_is_one_line_that_can_be_written():
    name = os.fsdecode(b"a\nb\xff" + b"c" * 250 + b".step")
    for shown in (name_of(Path(name)), one_line(name * 50), str(BadInput(name * 50))):
        assert len(shown.encode("utf-8").splitlines()) == 1
        assert len(shown) <= 700
    assert name_of(Path(name)).endswith(".step")


def too_many(kind: str) -> bytes:
    content = json.loads(job_path().read_bytes())
    part = content["parts"][0]
    if kind == "parts":
        content["parts"] *= 300
    elif kind == "operations":
        part["source"]["operations"] *= 4000
    elif kind == "brackets":
        return b"[" * 100_000
    elif kind == "levels":
        deep: object = 0
        for _ in range(60):
            deep = {"x": deep}
        content["more"] = deep
    elif kind == "letters":
        content["name"] = "x" * 30_000
    else:
        return b" " * (LARGEST_BYTES + 1)
    return json.dumps(content).encode()


@pytest.mark.parametrize(
    "kind", ["parts", "operations", "brackets", "levels", "letters", "megabytes"]
)
def test_a_job_that_holds_too_much_is_refused_in_a_line(tmp_path, kind):
    file = tmp_path / "vast.holoptic"
    file.write_bytes(too_many(kind))
    with pytest.raises(BadInput, match=r"^vast\.holoptic"):
        read_job(file)


# --- state files -----------------------------------------------------------------------------


@pytest.mark.parametrize("kept", [b'{"files": 5}', b"[" * 100_000, b"\xff\xfe", b"[]", b"{"])
def test_damaged_state_is_set_aside_and_told_once(kept):
    recent = state_folder() / "recent.json"
    recent.write_bytes(kept)
    assert recent_files() == []
    assert not recent.exists()
    assert recent.with_name("recent.json.damaged").read_bytes() == kept
    assert "recent.json was damaged" in setbacks()[0]
    assert setbacks() == []


def test_a_recent_file_that_cannot_be_asked_about_is_none(tmp_path):
    names = ["/root\0/a", "x" * 10_000, str(tmp_path / "gone.holoptic"), 7]
    (state_folder() / "recent.json").write_text(json.dumps({"files": names}))
    assert recent_files() == []


def test_a_giant_process_number_stops_nothing():
    folder = state_folder()
    (folder / "autosave-1.holoptic").write_bytes(job_bytes(job_of("lamp", [])))
    (folder / "autosave-1.json").write_text('{"pid": 9999999999999999999999, "path": 5}')
    assert [found.job.name for found in left_behind()] == ["lamp"]


def test_without_a_state_folder_one_of_this_run_serves(tmp_path, monkeypatch):
    (tmp_path / "file").write_text("no folder")
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "file"))
    assert state_folder().is_dir()
    assert "cannot be used" in setbacks()[0]
    assert read_json_object(state_folder() / "none.json") == {}


# --- who has a job open ------------------------------------------------------------------------


def test_a_claim_is_held_until_it_is_released(tmp_path):
    job, link = tmp_path / "a.holoptic", tmp_path / "b.holoptic"
    job.write_text("{}")
    link.symlink_to(job)
    claim = Claim(job)
    with pytest.raises(Taken, match="open in another window"):
        Claim(link)  # by whatever name
    claim.release()
    Claim(link).release()
