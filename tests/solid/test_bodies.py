"""Several bodies in one picture: each line knows its body, and they hide each other."""

import pickle

import pytest
from OCP.gp import gp_Trsf, gp_Vec

from cast import crate, hole
from holoptic.job import pose
from holoptic.part import ImportedSolid, Part
from holoptic.solid.anatomy.kernel_shapes import together
from holoptic.solid.making.stages import build
from holoptic.solid.making.step import write_solid


def moved(shape, *by):
    from OCP.TopLoc import TopLoc_Location

    turn = gp_Trsf()
    turn.SetTranslation(gp_Vec(*by))
    return shape.Moved(TopLoc_Location(turn))


@pytest.fixture
def pair(tmp_path, worker):
    """A bored block, and a small round boss standing before it."""
    block = build(Part("block", crate(40, 20, 30), (hole(diameter=9, u=20, v=10),)))
    boss = build(Part("boss", crate(16, 16, 22), (
        hole("boss", diameter=16, u=8, v=8, mode="add"),), "empty"))  # fmt: skip
    path = tmp_path / "pair.step"
    write_solid(together([block, moved(boss, 12.0, -40.0, 0.0)]), str(path), "pair")
    return ImportedSolid("pair", str(path), None)


def test_edges_outlines_and_strokes_name_their_body(worker, pair):
    shown = worker.ask("present", pose(pair))
    assert shown.facts.bodies == 2
    boss = {edge.index for edge in shown.facts.edges if edge.body == 1}
    for edge in shown.facts.edges:
        is_before = edge.curve.middle[1] < -10
        assert is_before == (edge.index in boss)
    outlines = [s for s in shown.picture.strokes if s.origin.edge is None and s.role != "centre"]
    assert {stroke.origin.body for stroke in outlines} == {0, 1}
    for stroke in outlines:
        assert (stroke.origin.body == 1) == (stroke.curve.middle[1] < -10)
        assert shown.picture.body_of(stroke.key, shown.facts) == stroke.origin.body
    for stroke in shown.picture.strokes:
        assert stroke.key.body == stroke.origin.body
        assert pickle.loads(pickle.dumps(stroke.key)).body == stroke.key.body
        if stroke.origin.edge is not None:
            assert stroke.origin.body == shown.facts.edges[stroke.origin.edge].body


def test_bodies_hide_each_other(worker, pair):
    views = worker.ask("show_views", pose(pair)).placed
    front = next(view for view in views if view.name == "front").picture
    hidden = {stroke.origin.body for stroke in front.of_role("hidden")}
    assert hidden == {0}  # nothing stands before the boss
    # the block's lower edge runs behind the boss: it is seen on both sides of it only
    low = [s for s in front.visible if s.origin.body == 0 and s.is_straight
           and {round(p[1], 3) for p in (s.path[0], s.path[-1])} == {30.0}]  # fmt: skip
    assert low  # the upper edge stands clear above the boss
    boss = [s for s in front.visible if s.origin.body == 1]
    left = min(p[0] for s in boss for p in s.path)
    right = max(p[0] for s in boss for p in s.path)
    for stroke in front.visible:
        if stroke.origin.body == 0:
            for x, y in stroke.path:
                assert not (left + 0.01 < x < right - 0.01 and 0.01 < y < 21.9)


def test_one_part_is_one_body(worker):
    shown = worker.ask("present", pose(Part("block", crate(40, 20, 30), (hole(),))))
    assert shown.facts.bodies == 1
    assert {stroke.origin.body for stroke in shown.picture.strokes} == {0}
