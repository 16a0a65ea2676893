"""Long work tells how far it is, and can be stopped without loss."""

import pytest
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt

from cast import VIEWS, look
from holoptic import progress
from holoptic.job import pose
from holoptic.solid.anatomy.kernel_shapes import together
from holoptic.solid.making.step import write_solid
from holoptic.worker.client import Worker


@pytest.fixture
def two_bodies(tmp_path):
    box = BRepPrimAPI_MakeBox(40, 25, 12.5).Shape()
    pin = BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(20, 12, 12.5), gp_Dir(0, 0, 1)), 6.5, 19).Shape()
    path = tmp_path / "pin on a block.step"
    write_solid(together([box, pin]), str(path), "pin on a block")
    return str(path)


def test_the_worker_tells_what_it_is_doing(two_bodies):
    told = []
    with Worker(on_progress=told.append) as worker:
        whole, *_ = worker.ask("list_solids", two_bodies)
        worker.ask("present", pose(whole))
    words = [str(item) for item in told]
    assert any(word.startswith("reading pin on a block.step") for word in words)
    assert all(item.share is None or 0 <= item.share <= 1 for item in told)


def test_nobody_listening_is_fine():
    progress.listen(None)
    progress.tell("working", 0.5)


def test_bodies_are_pictured_together_and_one_by_one(worker, two_bodies):
    whole, block, pin = worker.ask("list_solids", two_bodies)
    assert [item.index for item in (whole, block, pin)] == [None, 0, 1]
    together_, alone = look(worker, whole, VIEWS[0]), look(worker, block, VIEWS[0])
    assert together_.facts.volume == pytest.approx(
        sum(look(worker, item, VIEWS[0]).facts.volume for item in (block, pin))
    )
    assert len(together_.facts.edges) == len(alone.facts.edges) + 2
    # the pin covers a piece of the block behind it
    visible = [
        sum(p.curve.length for p in seen.looks[0].pieces if p.visible and p.edge in range(12))
        for seen in (together_, alone)
    ]
    assert visible[0] < visible[1]
