"""Parts become exact solids in the worker, or a message that names the operation."""

import math
from pathlib import Path

import pytest
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox
from OCP.gp import gp_Pnt
from OCP.STEPControl import STEPControl_StepModelType, STEPControl_Writer

from cast import VIEWS, crate, hole, look, prism, stepped_block
from holoptic.curves.space import EllipticArc
from holoptic.errors import BadInput, PartError
from holoptic.part import Face, Part
from holoptic.pictorial import draw

BOX = crate(84, 46, 37.5)


def write_step(path: Path, *shapes) -> Path:
    writer = STEPControl_Writer()
    for shape in shapes:
        writer.Transfer(shape, STEPControl_StepModelType.STEPControl_AsIs)
    writer.Write(str(path))
    return path


@pytest.fixture(scope="module")
def two_boxes(tmp_path_factory) -> Path:
    path = tmp_path_factory.mktemp("step") / "pair.step"
    return write_step(
        path,
        BRepPrimAPI_MakeBox(31.5, 22, 14).Shape(),
        BRepPrimAPI_MakeBox(gp_Pnt(50, 5, 0), 12, 9.5, 40).Shape(),
    )


def test_volume_and_bounds_are_exact(worker):
    part = Part("p", BOX, (hole(diameter=17, u=30, v=20), *stepped_block().operations))
    facts = look(worker, part, VIEWS[0]).facts
    expected = 84 * 46 * 37.5 - 26.5 * 46 * 17.5 - math.pi * 8.5**2 * 37.5
    assert facts.volume == pytest.approx(expected, rel=1e-9)
    assert facts.low == (0, 0, 0)
    assert facts.high == (84, 46, 37.5)
    assert not facts.only_planes


def test_edges_know_their_operation_and_curve(worker):
    facts = look(worker, Part("p", BOX, (hole(diameter=17),)), VIEWS[0]).facts
    rounds = [edge for edge in facts.edges if isinstance(edge.curve, EllipticArc)]
    assert [edge.operation for edge in rounds] == [0, 0]
    assert {edge.curve.major for edge in rounds} == {8.5}
    # twelve crate edges and two circles: the hole's seam is no line
    assert len(facts.edges) == 14


def test_joints_between_added_pieces_are_not_drawn(worker):
    halves = [[(0, 0), (42, 0), (42, 37.5), (0, 37.5)], [(42, 0), (84, 0), (84, 37.5), (42, 37.5)]]
    pieces = tuple(prism(f"half {i}", "add", outline=half) for i, half in enumerate(halves))
    facts = look(worker, Part("p", BOX, pieces, begin="empty"), VIEWS[0]).facts
    assert len(facts.edges) == 12


@pytest.mark.parametrize(
    ("operations", "culprit", "says"),
    [
        ([prism("all", outline=[(0, 0), (84, 0), (84, 37.5), (0, 37.5)])], 0, "leaves nothing"),
        (
            [
                prism("sound", outline=[(0, 0), (5, 0), (5, 5), (0, 5)]),
                prism("saw", outline=[(40, 0), (44, 0), (44, 37.5), (40, 37.5)]),
                hole("later", diameter=4, u=10, v=10),
            ],
            1,
            "2 separate pieces",
        ),
    ],
)
def test_spoilt_parts_name_the_operation(worker, operations, culprit, says):
    with pytest.raises(PartError, match=says) as refused:
        look(worker, Part("p", BOX, tuple(operations)), VIEWS[0])
    assert refused.value.operation == culprit


def test_pieces_may_be_apart_until_they_are_joined(worker):
    pieces = (
        prism("left", "add", outline=[(0, 0), (10, 0), (10, 37.5), (0, 37.5)]),
        prism("right", "add", outline=[(74, 0), (84, 0), (84, 37.5), (74, 37.5)]),
        prism("bridge", "add", outline=[(0, 0), (84, 0), (84, 9), (0, 9)]),
    )
    facts = look(worker, Part("p", BOX, pieces, begin="empty"), VIEWS[0]).facts
    assert facts.volume == pytest.approx(46 * (2 * 10 * 37.5 + 64 * 9))


def test_each_solid_of_a_step_file_is_a_part(worker, two_boxes):
    solids = worker.ask("list_solids", str(two_boxes))
    assert [solid.name for solid in solids] == ["pair", "pair 1", "pair 2"]
    facts = look(worker, solids[2], VIEWS[0]).facts
    assert facts.low == (50, 5, 0)
    assert facts.high == (62, 14.5, 40)


def test_a_step_solid_is_pictured(worker, two_boxes):
    solid = worker.ask("list_solids", str(two_boxes))[1]
    seen = look(worker, solid, VIEWS[0])
    assert len(draw(seen.looks[0], VIEWS[0]).visible) == 9


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (b"", "not a STEP file"),
        (b"hello, this is a letter", "not a STEP file"),
        (b"ISO-10303-21;\nHEADER;\n", "cut off"),
        (
            b"ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n",
            "holds no|damaged",
        ),
    ],
)
def test_foreign_step_files_are_refused(worker, tmp_path, content, says):
    path = tmp_path / "bad.step"
    path.write_bytes(content)
    with pytest.raises(BadInput, match=says):
        worker.ask("list_solids", str(path))


def test_a_step_file_cut_in_half_is_refused(worker, tmp_path, two_boxes):
    path = tmp_path / "half.step"
    data = two_boxes.read_bytes()
    path.write_bytes(data[: len(data) // 2])
    with pytest.raises(BadInput, match="cut off"):
        worker.ask("list_solids", str(path))


def test_operations_on_every_face_reach_inward(worker):
    for face in Face:
        width, height = BOX.face_size(face)
        cut = hole("h", face, 6.0, width / 2, height / 2, 4.0)
        facts = look(worker, Part("p", BOX, (cut,)), VIEWS[0]).facts
        assert facts.volume == pytest.approx(84 * 46 * 37.5 - math.pi * 9 * 4)


def test_what_touches_a_face_from_within_leaves_no_edge_in_it(worker):
    within = prism("within", "add", Face.LEFT, [(5, 0), (0, 5), (5, 5)], 0, 10)
    part = Part("block with a prism inside", crate(20, 20, 20), (within,))
    assert len(look(worker, part, *VIEWS).facts.edges) == 12
