"""STEP solids that lie anyhow in space, and damaged STEP files."""

import math
import random

import pytest
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
from OCP.BRepPrimAPI import (
    BRepPrimAPI_MakeBox,
    BRepPrimAPI_MakeCone,
    BRepPrimAPI_MakeCylinder,
    BRepPrimAPI_MakeSphere,
)
from OCP.gp import gp_Ax1, gp_Ax2, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.STEPControl import STEPControl_StepModelType, STEPControl_Writer
from OCP.TopLoc import TopLoc_Location

from cast import VIEWS, look, proved
from holoptic.cli.main import main
from holoptic.curves.space import EllipticArc
from holoptic.errors import HolopticError
from holoptic.pictorial import draw


def write_step(path, shape):
    writer = STEPControl_Writer()
    writer.Transfer(shape, STEPControl_StepModelType.STEPControl_AsIs)
    writer.Write(str(path))
    return str(path)


def notched_block():
    block = BRepPrimAPI_MakeBox(52, 33.5, 21).Shape()
    notch = BRepPrimAPI_MakeBox(gp_Pnt(31, -1, 12.5), 40, 40, 40).Shape()
    return BRepAlgoAPI_Cut(block, notch).Shape()


def turned(shape, degrees=27.0):
    turn = gp_Trsf()
    turn.SetRotation(gp_Ax1(gp_Pnt(5, 3, 0), gp_Dir(0.3, 0.2, 1)), math.radians(degrees))
    return BRepBuilderAPI_Transform(shape, turn, True).Shape()


def solid_of(worker, path):
    (solid,) = worker.ask("list_solids", path)
    return solid


@pytest.mark.parametrize("make", [notched_block, lambda: turned(notched_block())],
                         ids=["square", "turned"])  # fmt: skip
def test_the_plan_of_a_foreign_solid_is_proved(worker, tmp_path, make):
    solid = solid_of(worker, write_step(tmp_path / "a.step", make()))
    seen = look(worker, solid, *VIEWS)
    for view in VIEWS:
        drawn = draw(seen.look(view.toward_viewer), view)
        _, proof = proved(solid, seen.facts, drawn)
        assert proof.deviation_mm < 0.001
        assert proof.strokes == len(drawn.visible)


def test_a_placed_solid_is_seen_where_it_stands(worker, tmp_path):
    move = gp_Trsf()
    move.SetTranslation(gp_Vec(100, 50, 25))
    placed = notched_block().Located(TopLoc_Location(move))
    solid = solid_of(worker, write_step(tmp_path / "a.step", placed))
    facts = look(worker, solid, VIEWS[0]).facts
    assert facts.low == pytest.approx((100, 50, 25))
    assert facts.high == pytest.approx((152, 83.5, 46))
    assert len(facts.edges) == 18


def test_outline_generators_of_a_cylinder_touch_its_rims(worker, tmp_path):
    lens = BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), 13.5, 22).Shape()
    solid = solid_of(worker, write_step(tmp_path / "a.step", lens))
    drawn = draw(look(worker, solid, VIEWS[0]).looks[0], VIEWS[0])
    generators = [s for s in drawn.visible if s.is_straight]
    assert len(generators) == 2
    assert {round(abs(s.path[0][1] - s.path[1][1]), 6) for s in generators} == {22.0}
    # they are tangent to the ovals: as far apart as the oval's major axis, 1.2247 D
    apart = abs(generators[0].path[0][0] - generators[1].path[0][0])
    assert apart == pytest.approx(27 * math.sqrt(1.5), abs=1e-6)


def test_the_outline_of_a_sphere_in_an_isometric_is_a_circle(worker, tmp_path):
    ball = BRepPrimAPI_MakeSphere(9.5).Shape()
    solid = solid_of(worker, write_step(tmp_path / "a.step", ball))
    drawn = draw(look(worker, solid, VIEWS[0]).looks[0], VIEWS[0])
    radii = [math.hypot(x, y) for stroke in drawn.visible for x, y in stroke.path]
    assert radii == pytest.approx([9.5 * math.sqrt(1.5)] * len(radii), abs=0.02)


def test_a_cone_on_a_disc_is_pictured(worker, tmp_path):
    disc = BRepPrimAPI_MakeCylinder(17, 5.5).Shape()
    cone = BRepPrimAPI_MakeCone(gp_Ax2(gp_Pnt(0, 0, 5.5), gp_Dir(0, 0, 1)), 12, 0, 21).Shape()
    roof = BRepAlgoAPI_Fuse(disc, cone).Shape()
    solid = solid_of(worker, write_step(tmp_path / "a.step", roof))
    seen = look(worker, solid, VIEWS[0])
    rims = {e.curve.major for e in seen.facts.edges if isinstance(e.curve, EllipticArc)}
    assert rims == {17, 12}
    sides = [s for s in draw(seen.looks[0], VIEWS[0]).visible if s.is_straight]
    tops = {max(s.path, key=lambda p: p[1]) for s in sides}
    assert (0.0, 26.5) in {(round(x, 6) + 0.0, round(y, 6)) for x, y in tops}


def test_step_sources_on_the_command_line(capsys, tmp_path):
    path = write_step(tmp_path / "block.step", notched_block())
    for out in ("b.json", "b.svg"):
        assert main(["pictorial", path, "--out", str(tmp_path / out)]) == 0
    assert main(["views", path, "--out", str(tmp_path / "v.pdf")]) == 0
    assert main(["plan", path, "--verify"]) == 0
    assert capsys.readouterr().out == "max deviation 0.0000 mm over 15 strokes\n"


def test_mutated_step_files_are_read_or_refused(worker, tmp_path):
    path = tmp_path / "a.step"
    write_step(path, notched_block())
    good = path.read_bytes()
    dice = random.Random(11)
    for _ in range(12):  # hundreds in `bench.fuzz_step`
        content = bytearray(good)
        for _ in range(dice.randint(1, 8)):
            at = dice.randrange(len(content))
            if dice.random() < 0.5:
                content[at] = dice.randrange(256)
            else:
                del content[at : at + dice.randint(1, 60)]
        path.write_bytes(content)
        try:
            for solid in worker.ask("list_solids", str(path), patience=30):
                look(worker, solid, VIEWS[0])
        except HolopticError as error:
            assert "\n" not in str(error)
    path.write_bytes(good)
    assert len(worker.ask("list_solids", str(path))) == 1
