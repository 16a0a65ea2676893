"""Plans of cut figures: the plane, what it meets, what remains, the hatching; all proved."""

import pytest
from bench.exercise_parts import PLAIN_FAMILIES, exercise

from cast import crate, prism
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import AS_FITS, Figure, Pictorial, Posed, SheetOrder
from holoptic.part import Face, Offset, Part, Polygon
from holoptic.plan.finish import Finish
from holoptic.plan.moves import CUT_FACE, CUT_PLANE, HATCHING
from holoptic.units import Length
from holoptic.worker import tasks
from holoptic.worker.settling import sound

DEMO = {part.source.name: part.source for part in read_job(job_path()).parts}

FAMILIES = sorted(PLAIN_FAMILIES)


def order_of(part, cut, kind="isometric"):
    return SheetOrder((Posed(Figure("f1", "p1", Pictorial(kind), cut=cut), part),), AS_FITS)


@pytest.mark.parametrize("kind", ["isometric", "cabinet"])
@pytest.mark.parametrize(
    ("name", "cut"),
    [
        ("counterbored flange", "half"), ("bearing bracket", "full:length=33"),
        ("latch plate", "offset:depth,slot 1,slot 2"), ("vent cowl", "plane:face=top,in=9,turn=20"),
        ("gallery block", "broken:face=top,deep=9,outline=9 8/40 8/40 30/9 30"),
    ],
)  # fmt: skip
def test_the_drafter_draws_and_hatches_what_is_cut(name, cut, kind):
    order = order_of(DEMO[name], cut, kind)
    if sound(order.posed[0])[0].refused:
        cut = "half"
        order = order_of(DEMO[name], cut, kind)
    assert tasks.verify(order, "f1").holds
    plan = tasks.plan(order, "f1").plan
    phases = [phase for phase, _, _ in plan.phases]
    assert phases[-1] == HATCHING
    assert any(phase.startswith(CUT_FACE) for phase in phases)
    if CUT_PLANE in phases:
        first = next(k for k, phase in enumerate(phases) if phase.startswith(CUT_FACE))
        assert phases.index(CUT_PLANE) < first
    finish = plan.setup.finish or Finish()
    hatching = [move for move in plan.moves if move.phase == HATCHING]
    assert sum(len(move.makes) for move in hatching) == sum(len(h.lines) for h in finish.hatches)
    assert all("apart" in str(m.text) or "slide the square" in str(m.text) or "Fill" in str(m.text)
               for m in hatching)  # fmt: skip
    # what the plane meets comes before what remains of the same part
    faces = [k for k, phase in enumerate(phases) if phase.startswith(CUT_FACE)]
    rest = [k for k, phase in enumerate(phases) if phase.startswith("carve: ")]
    assert not rest or max(faces) < max(rest)


@pytest.mark.parametrize("seed", range(6))
def test_exercise_parts_are_proved_cut_too(seed):
    part = exercise(FAMILIES[seed % len(FAMILIES)], seed)
    order = order_of(part, ("half", "full:depth", "full:length=L/3")[seed % 3], "cabinet")
    assert not sound(order.posed[0])[0].refused
    assert tasks.verify(order, "f1").holds


@pytest.mark.parametrize("kind", ["plan-oblique", "isometric"])
@pytest.mark.parametrize("corner", ["front-left", "front-right"])
def test_a_plane_through_the_apex_of_a_pyramid_lies_on_its_axis(kind, corner):
    sizes = (28.6, 28.9, 24.6, 12.1, 42.9, 0)
    size, u, v, start, end, none = (Length.of(value) for value in sizes)
    plate = prism(
        "plate", "add", Face.BOTTOM, [(0, 0), (57.8, 0), (57.8, 49.2), (0, 49.2)], 0, 12.1
    )
    pyramid = Polygon("pyramid", "add", Face.BOTTOM, 3, size, "across corners", Offset(u),
                      Offset(v), start, end, 0.0, none)  # fmt: skip
    part = Part("spire", crate(57.8, 49.2, 42.9), (plate, pyramid), "empty")
    figure = Figure("f1", "p1", Pictorial(kind, corner), cut="full:depth")
    assert tasks.verify(SheetOrder((Posed(figure, part),), AS_FITS), "f1").holds


def test_what_remains_behind_a_cut_has_its_own_turn():
    """The critic knows that cut faces come first: nothing of a plain block came too late."""
    order = order_of(DEMO["gallery block"], "half")
    assert not [each for each in tasks.criticise(order, "f1").remarks if each.rule == "sequence"]
