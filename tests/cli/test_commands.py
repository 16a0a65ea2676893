"""The command line: exit codes, one clear line, nothing half written."""

import json
import subprocess
import sys

import pytest

from holoptic.cli import refusals
from holoptic.cli.main import main
from holoptic.cli.parser import command_parser
from holoptic.demo import drawing_paths, job_path
from holoptic.errors import BadInput
from holoptic.pictorial import kind_families
from holoptic.plan.critic import RULES, Remark
from holoptic.worker.client import Worker
from holoptic.worker.messages import Criticised

JOB = str(job_path())


def run(capsys, *arguments):
    code = main(list(arguments))
    captured = capsys.readouterr()
    return code, captured.out, captured.err


def test_pictorial_by_suffix(capsys, tmp_path):
    heads = {".svg": b"<?xml", ".pdf": b"%PDF", ".png": b"\x89PNG", ".json": b"{"}
    for suffix, head in heads.items():
        out = tmp_path / f"picture{suffix}"
        assert run(capsys, "pictorial", JOB, "--out", str(out)) == (0, "", "")
        assert out.read_bytes().startswith(head)


def test_options_go_over_the_choices_of_the_job(capsys, tmp_path):
    out = tmp_path / "p.json"
    run(capsys, "pictorial", JOB, "--part", "bearing bracket", "--out", str(out))
    assert json.loads(out.read_text())["kind"] == "cabinet"
    run(capsys, "pictorial", JOB, "--part", "bearing bracket", "--kind", "isometric",
        "--corner", "front-left", "--out", str(out), "--force")  # fmt: skip
    content = json.loads(out.read_text())
    assert (content["kind"], content["toward_viewer"]) == ("isometric", [-1, -1, 1])


@pytest.mark.parametrize("part", ["gallery block", "wedge foot", "latch plate"])
def test_verify_prints_the_deviation(capsys, part):
    code, out, err = run(capsys, "plan", JOB, "--part", part, "--verify")
    assert (code, err) == (0, "")
    assert out.startswith("max deviation 0.0000 mm over ")


def test_plan_files(capsys, tmp_path):
    for suffix in (".json", ".csv", ".txt"):
        out = tmp_path / f"plan{suffix}"
        assert run(capsys, "plan", JOB, "--out", str(out))[0] == 0
        assert "dividers" in out.read_text("utf-8")
    assert "Firm in" in run(capsys, "plan", JOB)[1]


def test_views(capsys, tmp_path):
    out = tmp_path / "views.svg"
    assert run(capsys, "views", JOB, "--out", str(out))[0] == 0
    assert "third-angle views" in out.read_text("utf-8")


def test_demo_list(capsys):
    assert run(capsys, "demo", "--list") == (
        0,
        "harbour-lamp\nlamp-put-together\nround-parts\n",
        "",
    )


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["pictorial", "nowhere.holoptic", "--out", "a.svg"], "cannot be read: No such file"),
        (["pictorial", "nowhere.step", "--out", "a.svg"], "cannot be read: No such file"),
        (["pictorial", "notes.txt", "--out", "a.svg"], "a source ends in"),
        (["pictorial", JOB, "--out", "a.gif"], "must end in .svg, .pdf, .png, .dxf, .json"),
        (["pictorial", JOB, "--out", "/no/such/a.svg"], "cannot be written"),
        (["pictorial", JOB, "--kind", "sideways", "--out", "a.svg"], "unknown kind"),
        (["pictorial", JOB, "--corner", "top", "--out", "a.svg"], "unknown near corner"),
        (["pictorial", JOB, "--part", "rudder", "--out", "a.svg"], "known: gallery block"),
        (["pictorial", JOB], "--out"),
        (["juggle"], "invalid choice"),
        (["demo", "--job", "none"], "no demo job"),
        (["demo", "--page", "attic"], "no page is called"),
        (["--page", "attic", "demo"], "no page is called"),
        (["demo", "--size", "9"], "write it like 1280x800"),
        (["open", "nowhere.holoptic"], "no such file"),
    ],
)
def test_bad_input_is_one_line_and_2(capsys, tmp_path, monkeypatch, arguments, says):
    monkeypatch.chdir(tmp_path)
    (tmp_path / "notes.txt").write_text("a letter")
    code, out, err = run(capsys, *arguments)
    assert (code, out) == (2, "")
    assert says in err
    assert err.startswith("holoptic: ")
    assert err.count("\n") == 1
    assert [path.name for path in tmp_path.glob("*.*")] == ["notes.txt"]


def test_a_spoilt_part_is_one_line_and_2(capsys, tmp_path):
    content = json.loads(job_path().read_text("utf-8"))
    outline = content["parts"][0]["source"]["operations"][0]["outline"]
    outline[0], outline[1] = outline[1], outline[0]
    path = tmp_path / "spoilt.holoptic"
    path.write_text(json.dumps(content))
    code, _, err = run(capsys, "pictorial", str(path), "--out", str(tmp_path / "a.svg"))
    assert code == 2
    assert "“upper step” has an outline that crosses" in err
    assert not (tmp_path / "a.svg").exists()


def test_help_is_short_and_complete():
    result = subprocess.run(
        [sys.executable, "-m", "holoptic", "--help"], capture_output=True, text=True, check=True
    )
    for command in ("demo", "open", "pictorial", "plan", "views"):
        assert command in result.stdout
    assert len(result.stdout.splitlines()) < 36


def test_a_command_that_only_makes_files_needs_no_qt(tmp_path):
    code = (
        "import sys; from holoptic.cli.main import main; "
        f"main(['views', {JOB!r}, '--out', {str(tmp_path / 'v.svg')!r}]); "
        "sys.exit(any(name.split('.')[0] in ('PyQt6', 'OCP') for name in sys.modules))"
    )
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0


@pytest.mark.parametrize(
    "kind", ["isometric-projection", "dimetric", "trimetric:15:35", "cavalier", "oblique:30:0.6",
             "plan-oblique", "plan-oblique:30:0.75"],
)  # fmt: skip
def test_every_kind_has_a_proved_plan(capsys, kind):
    for corner in ("front-right", "rear-left-below"):
        code, out, _ = run(capsys, "plan", JOB, "--kind", kind, "--corner", corner, "--verify")
        assert (code, out[:27]) == (0, "max deviation 0.0000 mm ove")


def test_help_names_every_kind(capsys):
    with pytest.raises(SystemExit):
        main(["pictorial", "--help"])
    words = "".join(capsys.readouterr().out.split())
    assert all(family.pattern in words for family in kind_families())


def test_the_corner_rule_on_the_command_line(capsys, tmp_path):
    out = str(tmp_path / "a.json")
    code, said, _ = run(capsys, "pictorial", JOB, "--kind", "dimetric", "--check", "--out", out)
    assert (code, said) == (0, "corners: 20 complete, 8 edge hidden\n")


def test_lines_by_option(capsys, tmp_path):
    args = ("pictorial", JOB, "--part", "bearing bracket", "--out")
    run(capsys, *args, str(tmp_path / "a.svg"), "--centre-lines", "omit", "--hidden", "dashed")
    run(capsys, *args, str(tmp_path / "b.svg"), "--outline", "thick-and-thin")
    plain, weighted = ((tmp_path / name).read_text() for name in ("a.svg", "b.svg"))
    assert 'id="centre"' not in plain
    assert 'id="hidden"' in plain
    assert 'id="centre"' in weighted
    assert 'stroke-width="0.7"' in weighted
    assert 'stroke-width="0.35"' in weighted


def test_six_views_in_first_angle(capsys, tmp_path):
    out = tmp_path / "v.svg"
    code, *_ = run(capsys, "views", JOB, "--views", "six", "--angle", "first", "--out", str(out))
    assert code == 0
    assert "first-angle views" in out.read_text()


def test_the_round_parts_of_the_demo_are_pictured(capsys, tmp_path):
    job = str(job_path("round-parts"))
    for part in ("counterbored flange", "on the bench together"):
        out = tmp_path / "round.json"
        args = ("--part", part, "--kind", "cavalier", "--out", str(out), "--force")
        assert run(capsys, "pictorial", job, *args) == (0, "", "")
        types = {stroke["curve"]["type"] for stroke in json.loads(out.read_text())["strokes"]}
        assert {"line", "circle"} <= types


def test_ways_by_hand_on_the_command_line(capsys):
    bracket = ["plan", JOB, "--part", "bearing bracket", "--kind", "isometric", "--verify"]
    gaps = {}
    for way in (["--circles", "four-centre"], ["--limit", "0.5"], ["--circles", "true"]):
        assert main([*bracket, *way]) == 0
        first, *rest = capsys.readouterr().out.splitlines()
        assert first.startswith("max deviation 0.000")
        assert first.endswith("over 36 strokes")
        gaps[way[-1]] = float(rest[0].split()[3]) if rest else 0.0
    assert gaps["four-centre"] > 1
    assert 0.5 >= gaps["0.5"] > gaps["true"]
    for wrong in (["--limit", "x"], ["--ordinates", "3"], ["--circles", "oval"]):
        assert main([*bracket, *wrong]) == 2
        assert len(capsys.readouterr().err.splitlines()) == 1


def test_ways_of_working_on_the_command_line(tmp_path, capsys):
    assert main(["plan", JOB, "--order", "batched", "--strategy", "faces-first", "--firming",
                 "end", "--verify", "--out", str(tmp_path / "p.json")]) == 0  # fmt: skip
    assert "max deviation 0.0000 mm" in capsys.readouterr().out
    way = json.loads((tmp_path / "p.json").read_text("utf-8"))["way"]
    assert (way["strategy"], way["order"], way["firming"]) == ("faces-first", "batched", "end")
    assert main(["plan", JOB, "--compare", "--hand", "0.4,0.3,0.2"]) == 0
    table = capsys.readouterr().out.splitlines()
    assert len(table) == 7
    assert table[1].startswith("crate and carve, by feature")


def test_a_booklet_a_sheet_and_an_underlay(tmp_path):
    for command in (
        ["plan", JOB, "--out", str(tmp_path / "booklet.pdf")],
        ["sheet", JOB, "--beside", "views,cabinet", "--caption", "8", "--out",
         str(tmp_path / "sheet.pdf")],
        ["grid", "--paper", "A4", "--kind", "isometric", "--pitch", "5", "--out",
         str(tmp_path / "grid.pdf")],
    ):  # fmt: skip
        assert main(command) == 0
        assert (tmp_path / command[-1]).read_bytes().startswith(b"%PDF")


@pytest.mark.parametrize(
    ("command", "says"),
    [(["--paper", "A4", "--scale", "5:1"], "will not fit"), (["--paper", "A9"], "no paper"),
     (["--scale", "huge"], "no scale"), (["--margin", "-3"], "margin"),
     (["--hand", "1,2"], "A,B,C"), (["--beside", "moon"], "moon")],
)  # fmt: skip
def test_what_a_sheet_cannot_be_is_one_line(command, says, capsys):
    assert main(["plan", JOB, *command]) == 2
    error = capsys.readouterr().err
    assert says in error
    assert error.count("\n") == 1


def test_views_are_read_into_a_part_and_compared(capsys, tmp_path):
    sound, odd = (str(path) for path in drawing_paths())
    job, step = tmp_path / "shoe.holoptic", tmp_path / "shoe.step"
    code, out, err = run(capsys, "read", sound, "--out", str(job))
    assert (code, err) == (0, "")
    assert "mean one part" in out
    assert run(capsys, "read", sound, "--out", str(step))[0] == 0
    assert step.read_bytes().startswith(b"ISO-10303")
    code, out, _ = run(capsys, "compare", sound, str(job))
    assert (code, out) == (0, "front, top, right: every line agrees\n")
    code, out, _ = run(capsys, "read", odd, "--out", str(tmp_path / "plate.holoptic"))
    assert code == 4
    assert "front: an edge should show here, but nothing is drawn at (31.75, 18.00)" in out
    code, out, _ = run(capsys, "compare", odd, str(job))
    assert code == 4
    assert "missing" in out
    picture = tmp_path / "picture.json"
    assert run(capsys, "pictorial", sound, "--out", str(picture))[0] == 0
    code, _, err = run(capsys, "pictorial", odd, "--out", str(tmp_path / "odd.json"))
    assert code == 2
    assert "contradict themselves in 1 place" in err


def test_all_readings_are_written(capsys, tmp_path):
    import ezdxf

    document = ezdxf.readfile(drawing_paths()[0])
    space = document.modelspace()
    for entity in list(space):  # the top view is gone
        names = [name for name in ("start", "center") if entity.dxf.is_supported(name)]
        places = [entity.dxf.get(name) for name in names]
        if any(place is not None and place.y > 125 for place in places):
            space.delete_entity(entity)
    path = tmp_path / "two.dxf"
    document.saveas(path)
    code, out, _ = run(capsys, "read", str(path), "--all", "--out", str(tmp_path / "s.holoptic"))
    assert code == 3
    assert "which top view is meant?" in out
    assert (tmp_path / "s-1.holoptic").exists()
    assert (tmp_path / "s-4.holoptic").exists()


def test_a_figure_is_named_by_its_id(capsys, tmp_path):
    out = tmp_path / "p.json"
    assert run(capsys, "pictorial", JOB, "--figure", "f12", "--out", str(out))[0] == 0
    content = json.loads(out.read_text())
    assert content["kind"] == "cabinet"
    assert {stroke["source"]["operation"] for stroke in content["strokes"]} >= {"bevel", "groove"}
    code, text, _ = run(capsys, "plan", JOB, "--figure", "f12", "--verify")
    assert code == 0
    assert text.startswith("max deviation 0.000")


def test_figures_of_two_parts_and_scales_stand_on_one_sheet(capsys, tmp_path):
    out = tmp_path / "s.svg"
    assert run(capsys, "sheet", JOB, "--figure", "f11", "--out", str(out))[0] == 0
    text = out.read_text("utf-8")
    for words in ("latch plate, isometric drawing", "lens ring, cabinet oblique, 1:2", "10 of 11",
                  "lantern door", "top view"):  # fmt: skip
        assert words in text


@pytest.mark.parametrize(
    ("command", "says"),
    [
        (["pictorial", "--figure", "f99"], "no figure is called “f99” (known: f1 isometric of"),
        (["pictorial", "--figure", "f11"], "is views"),
        (["plan", "--kind", "view"], "unknown kind"),
        (["sheet", "--figure", "f12", "--part", "wedge foot"], "shows “lens ring”, not"),
    ],
)
def test_a_figure_that_cannot_be_had_is_refused_in_a_line(capsys, tmp_path, command, says):
    name, *rest = command
    out = tmp_path / "out.svg" if name != "plan" else tmp_path / "out.csv"
    code, _, err = run(capsys, name, JOB, *rest, "--out", str(out))
    assert code == 2
    assert says in err
    assert err.count("\n") == 1
    assert not out.exists()


def test_the_critic_reads_a_plan(capsys):
    code, out, _ = run(capsys, "plan", JOB, "--part", "wedge foot", "--critic", "--verify")
    assert code == 0
    lines = out.splitlines()
    assert lines[: len(RULES)] == [f"{rule}: 0" for rule in RULES.values()]
    assert lines[-1].startswith("max deviation 0.000")
    code, out, err = run(capsys, "plan", JOB, "--figures", "isometric,views", "--critic")
    assert (code, out) == (2, "")
    assert "one plan at a time" in err


def test_remarks_of_the_critic_are_told_by_their_number(capsys, monkeypatch):
    remarks = (Remark("true", 7, "said of nothing"), Remark("whole", 0, "left out"))
    asked = Worker.ask

    def ask(self, task, *arguments, **patience):
        if task == "criticise":
            return Criticised("f1", remarks)
        return asked(self, task, *arguments, **patience)

    monkeypatch.setattr(Worker, "ask", ask)
    code, out, _ = run(capsys, "plan", JOB, "--part", "wedge foot", "--critic")
    assert code == 3
    lines = out.splitlines()
    assert lines[:2] == ["true · move 7 · said of nothing", "whole · plan · left out"]
    assert "no sentence is false: 1" in lines


def test_a_drawn_sheet_is_checked(capsys, tmp_path):
    scan, report, page = (tmp_path / name for name in ("sheet.png", "report.json", "report.pdf"))
    args = JOB, "--part", "gallery block"
    assert run(capsys, "scan", *args, "--dpi", "150", "--out", str(scan)) == (0, "", "")
    assert scan.read_bytes().startswith(b"\x89PNG")
    assert run(capsys, "check", str(scan), *args, "--out", str(report)) == (0, "agrees\n", "")
    content = json.loads(report.read_text())
    assert {stroke["state"] for stroke in content["strokes"]} == {"there"}
    assert (content["extra"], content["causes"]) == ([], [])

    run(capsys, "scan", *args, "--dpi", "150", "--slip", "38:+4", "--leave-out", "s10",
        "--out", str(scan), "--force")  # fmt: skip
    code, out, err = run(capsys, "check", str(scan), *args, "--out", str(page))
    assert (code, err) == (3, "")
    assert "s10: missing" in out
    assert "move 38" in out
    assert page.read_bytes().startswith(b"%PDF")


@pytest.mark.parametrize(
    ("more", "says"),
    [
        (("--slip", "38"), "--slip 38"),
        (("--slip", "99999:1"), "move 99999"),
        (("--leave-out", "nothing"), "nothing"),
        (("--dpi", "7"), "72 to 600"),
    ],
)
def test_a_scan_that_cannot_be_is_refused(capsys, tmp_path, more, says):
    out = tmp_path / "sheet.png"
    code, _, err = run(capsys, "scan", JOB, *more, "--out", str(out))
    assert (code, err.count("\n")) == (2, 1)
    assert says in err
    assert not out.exists()


@pytest.mark.parametrize("data", [b"", b"words"])
def test_a_scan_that_is_none_is_refused(capsys, tmp_path, data):
    scan = tmp_path / "scan.png"
    scan.write_bytes(data)
    code, _, err = run(capsys, "check", str(scan), JOB)
    assert (code, err.count("\n")) == (2, 1)
    assert "scan.png" in err


@pytest.mark.parametrize(
    "arguments",
    [
        ["plan"],
        ["plan", "x", "--kind"],
        ["juggle"],
        ["plan", "a", "b"],
        ["sheet", "a", "--upright", "--lengthwise"],
        ["sheet", "a", "--force=3"],
        ["plan", "--out=a", "--s", "a"],
        ["plan", "a", "--hidden", "much"],
    ],
)
def test_what_the_parser_refuses_is_said_by_the_catalogue(monkeypatch, arguments):
    monkeypatch.setattr(refusals, "tr", lambda text, **places: f"<{text.format(**places)}>")
    with pytest.raises(BadInput) as refused:
        command_parser().parse_args(arguments)
    said = str(refused.value).rpartition(" (see")[0]
    assert said.startswith("<")
    assert said.count("<") == (2 if "<argument" in said else 1)
