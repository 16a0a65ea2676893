"""The scanner's line protocol, what lies on its glass, and its stand-in."""

import contextlib
import json
import subprocess
import sys

import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.demo import job_path
from holoptic.devices.scanner import (
    Glass,
    ScannerLine,
    glass_json,
    read_glass,
    read_line,
    read_slip,
)
from holoptic.devices.scanner_stand import main
from holoptic.errors import BadInput
from holoptic.paper.given import Given
from holoptic.paper.opening import open_paper


def test_lines_of_the_protocol():
    assert read_line("P 40") == ScannerLine("progress", "40")
    assert read_line("I /tmp/a page.png\n") == ScannerLine("picture", "/tmp/a page.png")
    assert read_line("E no paper") == ScannerLine("trouble", "no paper")
    assert read_line("  ") is None


@pytest.mark.parametrize("line", ["P 400", "P forty", "I", "I  ", "Q 3", "I" * 9000])
def test_lines_that_say_nothing_are_refused_in_one_line(line):
    with pytest.raises(BadInput) as refused:
        read_line(line)
    assert "\n" not in str(refused.value)


@given(st.text(max_size=200))
def test_no_line_does_harm(line):
    with contextlib.suppress(BadInput):
        read_line(line)
    with contextlib.suppress(BadInput):
        read_slip(line)


def test_a_glass_comes_back_from_its_file(tmp_path):
    glass = Glass("job.holoptic", "f1", ((54, 9.0), (41, -4.5)), ("s3",), True, True, 150, 7, 60,
                  (0.3, 0.2, 0.1), "views")  # fmt: skip
    file = tmp_path / "glass.json"
    file.write_text(glass_json(glass), "utf-8")
    assert read_glass(file) == glass


@pytest.mark.parametrize("content", [
    "", "[]", "{}", '{"job": "a", "figure": "f1", "slips": [[1]]}', '{"job": 1, "other": 2}',
    '{"job": "a", "figure": "f1", "dpi": 9000}', '{"job": "a", "figure": "f1", "hand": [1]}',
    '{"job": "a", "figure": "f1", "shows": "windows"}', '{"job": "a", "figure": "f1", "shows": []}',
])  # fmt: skip
def test_a_glass_that_says_nothing_is_refused(tmp_path, content):
    file = tmp_path / "glass.json"
    file.write_text(content, "utf-8")
    with pytest.raises(BadInput):
        read_glass(file)


def test_the_stand_in_draws_the_sheet(tmp_path):
    glass, sheet = tmp_path / "glass.json", tmp_path / "sheet.png"
    glass.write_text(glass_json(Glass(str(job_path()), "f2", dpi=75)), "utf-8")
    done = subprocess.run([sys.executable, "-m", "holoptic.devices.scanner_stand", str(glass),
                           str(sheet)], capture_output=True, text=True, timeout=120,
                          check=False)  # fmt: skip
    assert done.returncode == 0
    said = [read_line(line) for line in done.stdout.splitlines()]
    assert said[-1] == ScannerLine("picture", str(sheet))
    assert {line.sort for line in said[:-1]} == {"progress"}
    assert sheet.read_bytes().startswith(b"\x89PNG")


@pytest.mark.parametrize("is_photo", [False, True])
def test_the_stand_in_prints_views_that_can_be_read(tmp_path, is_photo, kept_worker, capsys):
    glass, sheet = tmp_path / "glass.json", tmp_path / "sheet.png"
    lies = Glass(str(job_path()), "f1", dpi=150, is_photo=is_photo, shows="views")
    glass.write_text(glass_json(lies), "utf-8")
    assert main([str(glass), str(sheet)]) == 0
    capsys.readouterr()
    taken = open_paper(sheet, given=Given(sizes=(84.0, None, None)))
    assert taken.flat.has_border
    # a scanner says how fine it takes, so the paper is known; of a photo it is not
    assert taken.flat.paper == ("A4" if is_photo else "A3")
    shown = taken.shown[0].arrangement
    assert [view.name for view in shown.views] == ["front", "top", "right"]
    front = shown.views[0].box
    assert (front[2] - front[0], front[3] - front[1]) == pytest.approx((84.0, 37.5), abs=0.3)


@pytest.mark.parametrize("change", [{"figure": "f99"}, {"job": "nowhere.holoptic"},
                                    {"slips": [[10**6 - 1, 3.0]]}])  # fmt: skip
def test_what_cannot_be_taken_is_told_by_a_line(tmp_path, change, capsys, kept_worker):
    glass = tmp_path / "glass.json"
    content = json.loads(glass_json(Glass(str(job_path()), "f2", dpi=75))) | change
    glass.write_text(json.dumps(content), "utf-8")
    assert main([str(glass), str(tmp_path / "sheet.png")]) == 2
    last = capsys.readouterr().out.splitlines()[-1]
    assert read_line(last).sort == "trouble"
    assert not (tmp_path / "sheet.png").exists()
