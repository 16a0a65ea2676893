"""`spread`: what scripts read of arrangements, in every file, and with what is wrong."""

import csv
import json
import re
from itertools import pairwise
from xml.etree import ElementTree

import ezdxf
import pytest

from cast import crate, hole
from holoptic.cli.main import main
from holoptic.demo import job_path
from holoptic.exchange.job_file import job_bytes, read_job, write_job
from holoptic.job import Arrangement, Placed, Turn, job_of
from holoptic.part import Face, ImportedSolid, Part
from holoptic.solid.shelf import list_assembly
from holoptic.units import Length

LAMP = str(job_path("lamp-put-together"))


def run(capsys, *arguments):
    code = main(list(arguments))
    captured = capsys.readouterr()
    return code, captured.out, captured.err


def block(name, *sizes):
    return Part(name, crate(*sizes))


def at(*figures):
    return tuple(Length.read(str(figure)) for figure in figures)


def write(tmp_path, parts, *placed):
    job = job_of("stack", parts).with_arrangement(Arrangement("a1", "stack", placed))
    path = tmp_path / "stack.holoptic"
    write_job(job, path)
    return str(path)


def test_the_lamp_is_clean(capsys):
    assert run(capsys, "spread", LAMP, "--check") == (0, "10 bodies, 9 parts\n", "")


def test_strokes_and_bodies_say_what_they_are(capsys, tmp_path):
    out = tmp_path / "lamp.json"
    assert (
        run(capsys, "spread", LAMP, "--kind", "cabinet", "--gap", "14", "--out", str(out))[0] == 0
    )
    content = json.loads(out.read_text())
    assert content["format"] == "holoptic-pictorial"
    assert [set(body) for body in content["bodies"]] == [{"body", "part", "moved"}] * 10
    parts = {body["body"]: body["part"] for body in content["bodies"]}
    assert all(stroke["part"] == parts[stroke["body"]] for stroke in content["strokes"])
    assert {stroke["body"] for stroke in content["strokes"]} == set(range(10))
    up = [body["moved"][2] for body in content["bodies"]]
    assert up == sorted(up)
    assert up[3] - up[2] == 14 + 5  # the flange clears the stop on the plate by the gap
    run(capsys, "spread", LAMP, "--together", "--out", str(out), "--force")
    content = json.loads(out.read_text())
    assert {tuple(body["moved"]) for body in content["bodies"]} == {(0, 0, 0)}


def test_a_gap_left_open_is_as_wide_as_the_sheet_has_room(capsys, tmp_path):
    out = tmp_path / "lamp.json"
    moved = {}
    for paper in ("A4", "A3"):
        fit = ("--paper", paper, "--scale", "1:3", "--out", str(out), "--force")
        code, said, err = run(capsys, "spread", LAMP, *fit)
        assert (code, said) == (0, "")
        moved[paper] = [body["moved"][2] for body in json.loads(out.read_text())["bodies"]]
        assert ("has room for a gap of 27 mm only; 31 mm" in err) == (paper == "A4")
    gaps = [b - a for a, b in zip(moved["A4"], moved["A3"], strict=True)]
    assert max(gaps) > min(gaps)
    assert {round(b - a, 3) for a, b in pairwise(sorted(set(gaps)))} == {4.0}
    # with a given gap nothing is narrowed: what does not fit is told
    fit = ("--paper", "A4", "--scale", "1:3", "--gap", "60", "--out", str(tmp_path / "lamp.svg"))
    code, _, err = run(capsys, "spread", LAMP, *fit)
    assert (code, "will not fit on A4" in err) == (2, True)


def test_colours_of_a_file_go_out_again(capsys, tmp_path):
    step = tmp_path / "stack.step"
    placed = (Placed("b1", "p1", colour="#b08020"),
              Placed("b2", "p2", at(0, 0, 12.5), colour="#2f6f8f"))  # fmt: skip
    parts = [block("sole", 44, 31, 12.5), block("cap", 38.5, 31, 9)]
    job = write(tmp_path, parts, *placed)
    assert run(capsys, "spread", job, "--together", "--out", str(step))[0] == 0
    found = {solid.name: solid.colour for solid in list_assembly(str(step))}
    assert found == {"sole": "#b08020", "cap": "#2f6f8f"}


def test_list_groups_layers_and_solids(capsys, tmp_path):
    files = {suffix: tmp_path / f"lamp{suffix}" for suffix in (".csv", ".svg", ".dxf", ".step")}
    for out in files.values():
        assert run(capsys, "spread", LAMP, "--out", str(out)) == (0, "", "")
    rows = list(csv.DictReader(files[".csv"].read_text("utf-8").splitlines()))
    assert list(rows[0]) == ["number", "name", "quantity", "material"]
    assert [row["quantity"] for row in rows] == ["2", *["1"] * 8]
    assert rows[6] == {"number": "7", "name": "lens ring", "quantity": "1", "material": "brass"}
    tree = ElementTree.parse(files[".svg"])
    ids = [group.get("id") for group in tree.iter("{http://www.w3.org/2000/svg}g")]
    assert [f"part-{number}" for number in range(1, 11)] == [i for i in ids if i and "part-" in i]
    layers = {entity.dxf.layer for entity in ezdxf.readfile(files[".dxf"]).modelspace()}
    assert {"8 lens ring", "10 roof cone and finial", "number", "title"} <= layers
    # the assembly comes back as it went out: drawn apart, so that nothing touches
    code, out, err = run(capsys, "spread", str(files[".step"]), "--check")
    assert (code, out) == (0, "10 bodies, 9 parts\n")
    assert err.count("touches nothing") == 10


def test_an_assembly_from_a_file_keeps_names_and_counts_equal_solids(capsys, tmp_path, foot_job):
    step, listed = tmp_path / "lamp.step", tmp_path / "lamp.csv"
    run(capsys, "spread", str(foot_job), "--together", "--out", str(step))
    assert run(capsys, "spread", str(step), "--check") == (0, "5 bodies, 4 parts\n", "")
    run(capsys, "spread", str(step), "--out", str(listed))
    rows = list(csv.DictReader(listed.read_text("utf-8").splitlines()))
    assert [row["quantity"] for row in rows] == ["2", *["1"] * 3]
    assert [rows[k]["name"] for k in (0, 3)] == ["wedge foot", "lamp pedestal"]
    code, out, _ = run(capsys, "plan", str(step), "--arrangement", "lamp", "--spread", "--verify")
    assert code == 0
    assert float(re.search(r"max deviation ([\d.]+) mm", out)[1]) <= 0.01


@pytest.mark.parametrize("options", [("--spread",), ("--spread", "--kind", "cabinet"), ()])
def test_the_plan_of_the_lamp_is_proved(capsys, foot_job, options):
    job = LAMP if options == ("--spread",) else str(foot_job)
    code, out, err = run(capsys, "plan", job, "--arrangement", "harbour lamp", *options, "--verify")
    assert (code, err) == (0, "")
    assert float(re.search(r"max deviation ([\d.]+) mm", out)[1]) <= 0.01


def test_overlaps_and_what_is_locked_are_told_in_a_line_each(capsys, tmp_path):
    parts = [block("slab", 40, 30, 8), block("post", 6, 6, 30)]
    path = write(tmp_path, parts, Placed("b1", "p1"), Placed("b2", "p2", at(10, 10, -5)))
    code, out, _ = run(capsys, "spread", path, "--check")
    assert code == 3
    assert out == "overlap slab post 288.000 mm3\nlocked slab, post\n2 bodies, 2 parts\n"


def test_a_part_twice_in_one_place_is_an_overlap_of_all_of_it(capsys, tmp_path):
    path = write(tmp_path, [block("slab", 40, 30, 8)], Placed("b1", "p1"), Placed("b2", "p1"))
    code, out, _ = run(capsys, "spread", path, "--check")
    assert code == 3
    assert out.startswith("overlap slab 1 slab 2 9600.000 mm3\n")


def test_what_cannot_be_placed_or_made_is_named_and_the_rest_stands(capsys, tmp_path):
    broken = Part("broken", crate(20, 20, 20), (hole("bore", diameter=50, u=10, v=10),))
    parts = [block("slab", 40, 30, 8), block("post", 6, 6, 30), broken]
    path = write(
        tmp_path, parts, Placed("b1", "p1"), Placed("b2", "p2", at(5, 5, 8)),
        Placed("b3", "p9"), Placed("b4", "p2", at(20, 5, 8), Turn(Face.TOP, Face.BOTTOM)),
        Placed("b5", "p3", at(0, 0, -60)), Placed("b6", "p2", at(30, 5, 8), Turn(
            degrees=20.0, about=(0.0, 0.0, 0.0))),
    )  # fmt: skip
    code, out, err = run(capsys, "spread", path, "--check")
    assert (code, out.splitlines()[-1].split(",")[0]) == (3, "3 bodies")
    for words in ("its part is not in the job", "do not meet", "“broken”", "without direction"):
        assert words in err
    assert "Traceback" not in err
    picture = tmp_path / "a.svg"
    assert run(capsys, "spread", path, "--out", str(picture))[0] == 0
    assert read_job(tmp_path / "stack.holoptic").arrangements[0].placed[3].turn.top is Face.BOTTOM


def test_missing_solids_of_an_assembly_are_named(capsys, tmp_path):
    gone = ImportedSolid("gone", str(tmp_path / "nowhere.step"), 0)
    path = write(tmp_path, [block("slab", 40, 30, 8), gone], Placed("b1", "p1"), Placed("b2", "p2"))
    code, out, err = run(capsys, "spread", path, "--check")
    assert (code, out) == (3, "1 bodies, 1 parts\n")
    assert "“gone”" in err


@pytest.mark.parametrize("arguments, says", [
    (("--axis", "sideways", "--check"), "is no axis"),
    (("--gap", "wide", "--check"), ""),
    (("--gap=-3", "--check"), "cannot be"),
    (("--order", "nose", "--check"), "no part is called “nose”"),
    (("--arrangement", "lantern", "--check"), "no arrangement is called"),
    (("--kind", "fisheye", "--check"), ""),
    (("--out", "a.txt"), "must end in"),
    ((), "--check"),
])  # fmt: skip
def test_wrong_options_are_refused_in_a_line(capsys, arguments, says):
    code, out, err = run(capsys, "spread", LAMP, *arguments)
    assert (code, out) == (2, "")
    assert err.count("\n") == 1
    assert says in err


def test_a_job_without_arrangements_says_so(capsys, tmp_path):
    path = tmp_path / "plain.holoptic"
    path.write_bytes(job_bytes(job_of("plain", [block("slab", 4, 3, 2)])))
    code, _, err = run(capsys, "spread", str(path), "--check")
    assert (code, err) == (2, "holoptic: plain.holoptic holds no arrangement\n")


def test_the_order_asked_for_holds_where_it_can(capsys, tmp_path):
    parts = [block("slab", 40, 30, 8), block("post", 6, 6, 30)]
    path = write(tmp_path, parts, Placed("b1", "p1"), Placed("b2", "p2", at(5, 5, 8)),
                 Placed("b3", "p2", at(25, 5, 8)))  # fmt: skip
    listed = tmp_path / "list.csv"
    run(capsys, "spread", path, "--order", "post 2,post 1", "--out", str(listed))
    rows = csv.DictReader(listed.read_text("utf-8").splitlines())
    assert [row["name"] for row in rows] == ["slab", "post"]
    code, _, err = run(capsys, "spread", path, "--order", "post,slab", "--check")
    assert code == 0
    assert "lies in the way" in err
