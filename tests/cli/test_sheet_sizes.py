"""Sizes on a sheet from the command line: the check's words and exit codes, and the files."""

import ezdxf
import pytest
from ezdxf.math import Vec2

from holoptic.cli.main import main
from holoptic.demo import job_path

JOB = str(job_path())
ROUND = str(job_path("round-parts"))


def run(capsys, *arguments):
    code = main(list(arguments))
    captured = capsys.readouterr()
    return code, captured.out, captured.err


@pytest.mark.parametrize("name", ["wedge foot", "lens ring", "lamp pedestal"])
def test_demo_parts_are_complete_on_their_own_sheets(capsys, name):
    assert run(capsys, "sheet", JOB, "--part", name, "--check") == (0, "complete\n", "")


def test_what_is_missing_is_a_line_each(capsys):
    code, out, err = run(capsys, "sheet", JOB, "--dimension", "none", "--check")
    assert (code, err) == (3, "")
    assert len(out.splitlines()) == 14
    assert out.splitlines()[:4] == ["missing L 84", "missing D 46", "missing H 37.5",
                                    "missing L 18"]  # fmt: skip


def test_parts_from_files_are_checked_too(capsys):
    assert run(capsys, "sheet", ROUND, "--part", "lens ring", "--check")[:2] == (0, "complete\n")


@pytest.mark.parametrize("run_of", ["chain", "edge"])
def test_lengths_that_run_otherwise_suffice_too(capsys, run_of):
    command = ["sheet", JOB, "--figures", "views", "--run", run_of, "--check"]
    assert run(capsys, *command) == (0, "complete\n", "")


def test_one_of_file_and_check_is_needed(capsys):
    code, out, err = run(capsys, "sheet", JOB)
    assert (code, out) == (2, "")
    assert "--check" in err


@pytest.mark.parametrize("style", ["ISO", "ASME"])
def test_the_file_has_the_sizes_that_were_checked(capsys, tmp_path, style):
    out = tmp_path / "sheet.dxf"
    command = ["sheet", JOB, "--part", "latch plate", "--beside", "views", "--style", style,
               "--text", "upright", "--check", "--out", str(out)]  # fmt: skip
    assert run(capsys, *command) == (0, "complete\n", "")
    drawing = ezdxf.readfile(out)
    assert not drawing.audit().has_errors
    sizes = {one.dxf.text: one for one in drawing.modelspace().query("DIMENSION")}
    assert {"92", "54", "16.5"} <= set(sizes)
    long = sizes["92"]
    assert long.dxf.actual_measurement == 92
    assert {e.dxftype() for e in drawing.blocks.get(long.dxf.geometry)} == {"LINE", "SOLID", "TEXT"}
    along = Vec2(long.dxf.defpoint3) - Vec2(long.dxf.defpoint2)
    scale = 1.0
    assert abs(along.rotate_deg(-long.dxf.angle).x) == pytest.approx(92 * scale, abs=1e-6)
    bare = tmp_path / "bare.dxf"
    assert run(capsys, "sheet", JOB, "--part", "latch plate", "--out", str(bare))[0] == 0
    plain = ezdxf.readfile(bare).modelspace()
    assert not [t for t in plain if t.dxf.layer == "dimension"]


def test_figures_are_named_and_a_template_is_laid_over(capsys, tmp_path):
    template = tmp_path / "works.sheet.json"
    template.write_text(
        '{"format": "holoptic-sheet", "version": 1, "wish": {"paper": "A2", "dimensions": "auto"},'
        ' "title": {"checked_by": "O. Fenn"}}', "utf-8")  # fmt: skip
    out = tmp_path / "s.svg"
    command = ["sheet", JOB, "--figures", "isometric,views", "--template", str(template)]
    assert run(capsys, *command, "--out", str(out)) == (0, "", "")
    text = out.read_text("utf-8")
    assert 'width="594mm"' in text
    assert ">O. Fenn<" in text
    assert ">37.5<" in text
    code, _, err = run(capsys, "sheet", JOB, "--figures", "moon", "--out", str(out))
    assert (code, err.count("\n")) == (2, 1)


def test_an_arrangement_has_no_sizes_to_check(capsys):
    lamp = str(job_path("lamp-put-together"))
    code, out, err = run(capsys, "sheet", lamp, "--arrangement", "harbour lamp", "--check")
    assert (code, out) == (2, "")
    assert "sheets of its parts" in err
