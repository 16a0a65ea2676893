"""Plans for orthographic views: laid out, ruled in light lines, carried over, proved."""

import math
import re
from dataclasses import replace

import pytest
from bench.exercise_parts import PLAIN_FAMILIES, SKEW_FAMILIES, exercise
from bench.random_parts import random_part

from cast import crate
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import VIEW_LINES, Figure, HandWays, Orthographic, Posed, SheetOrder
from holoptic.part import Face, Offset, Part, Polygon
from holoptic.plan.drafter import Drafter, DraftingError
from holoptic.plan.hand import Hand
from holoptic.plan.in_views.planner import ViewsMeant
from holoptic.plan.lying_instruments import instrument_shapes
from holoptic.plan.moves import CENTRE_LINES, HIDDEN_LINES
from holoptic.plan.proof import compare
from holoptic.plan.showing import thin_strokes
from holoptic.units import Length
from holoptic.worker import planning, tasks

DEMO = {part.source.name: part.source for part in read_job(job_path()).parts}
STEADY, PLAIN_WAYS = Hand(), HandWays()


def order_of(part, views="three", angle="third", ways=PLAIN_WAYS, lines=VIEW_LINES):
    figure = Figure("f1", "p1", Orthographic(views), lines, ways)
    return SheetOrder((Posed(figure, part),), angle=angle)


def planned(part, **asked) -> tuple:
    made, meant = planning.planned_and_meant(order_of(part, **asked), "f1", STEADY)
    assert isinstance(meant, ViewsMeant)
    return made.plan, meant


@pytest.mark.parametrize(("views", "angle"), [("three", "third"), ("six", "first")])
@pytest.mark.parametrize("name", ["latch plate", "lens ring", "roof cone and finial"])
def test_the_virtual_drafter_draws_every_stroke_of_the_views(name, views, angle):
    proof = tasks.verify(order_of(DEMO[name], views, angle), "f1")
    assert proof.holds
    assert proof.strokes > 30


@pytest.mark.parametrize("family", [*PLAIN_FAMILIES, *SKEW_FAMILIES])
def test_views_of_exercises_are_proved(family):
    assert tasks.verify(order_of(exercise(family, 7)), "f1").holds


@pytest.mark.parametrize("seed", range(4))
def test_views_of_random_parts_are_proved_in_either_order(seed):
    for ways in (HandWays(), HandWays(order="batched")):
        assert tasks.verify(order_of(random_part(900 + seed), ways=ways), "f1").holds


def test_sizes_and_gaps_are_added_up_before_the_first_line():
    plan, _ = planned(DEMO["latch plate"])
    first = next(move for move in plan.moves if move.phase == "start")
    sums = re.findall(r"(?:across|up) ([\d.+ ]+) = ([\d.]+)", first.text)
    assert len(sums) == 2
    for terms, whole in sums:
        assert math.isclose(sum(map(float, terms.split("+"))), float(whole), abs_tol=0.02)
    gaps = [move for move in plan.moves if move.text.startswith("The gap")]
    assert len(gaps) == 2
    assert all(move.setting_mm == round(move.setting_mm) for move in gaps)


def test_a_depth_is_measured_once_and_goes_over_the_45_degree_line():
    plan, _ = planned(DEMO["latch plate"])
    depths = [
        move
        for move in plan.moves
        if move.verb == "set off"
        and move.lift
        and move.lift.start[1] != move.lift.end[1]
        and move.phase.startswith("carve")
    ]
    places = [round(move.lift.end[1], 4) for move in depths]
    assert len(places) == len(set(places)) > 3
    diagonal = next(move for move in plan.moves if "45° line" in move.makes)
    over = [move for move in plan.moves if move.verb == "meet" and diagonal.makes[0] in move.uses]
    assert len(over) >= len(places)


def test_what_a_circle_gives_is_not_measured_again():
    plan, _ = planned(DEMO["latch plate"])
    against = [move for move in plan.moves if move.verb == "touch"]
    assert len(against) >= 6
    for move in against:
        before = Drafter().carry_out(plan.moves[: move.n - 1])
        after = Drafter().carry_out(plan.moves[: move.n])
        assert instrument_shapes(move, before, after)


def nut(sides, measure, turn):
    """Return a bar with the section of a polygon, and a smaller one sunk in it."""
    middle = Offset(Length.read("37"))
    bar, hole = (
        Polygon(name, mode, Face.TOP, sides, Length.read(size), measure, middle, middle,
                Length.read("0"), end, turn)
        for name, mode, size, end in (
            ("bar", "add", "63", None), ("socket", "cut", "26.5", Length.read("9.5")))
    )  # fmt: skip
    return Part("gland nut", crate(74, 74, 21), (bar, hole), "empty")


@pytest.mark.parametrize(("measure", "turn"), [("across flats", 0.0), ("across flats", 30.0),
                                               ("across corners", 0.0)])  # fmt: skip
def test_a_hexagon_comes_from_its_middle_by_the_set_square(measure, turn):
    order = order_of(nut(6, measure, turn))
    assert tasks.verify(order, "f1").holds
    assert not tasks.criticise(order, "f1").remarks
    plan, _ = planned(nut(6, measure, turn))
    lifts = [move.lift for move in plan.moves if move.lift and move.phase.startswith("carve")]
    # the flat sides, and never what would have to be worked out
    assert all(round(lift.true_mm, 2) * 4 % 1 == 0 for lift in lifts)
    slants = [move for move in plan.moves if move.verb == "draw" and "rises at" in move.english]
    assert len(slants) == len({(move.uses[0], move.angle_deg) for move in slants})
    middle = slants[0].uses[0]
    assert sum(move.uses[0] == middle for move in slants) == 2  # both polygons are about it


@pytest.mark.parametrize(("sides", "measure", "turn"), [
    (3, "side", 0.0), (4, "across corners", 30.0), (5, "across corners", 0.0),
    (8, "across corners", 22.5), (8, "across flats", 0.0), (12, "across corners", 15.0),
    (6, "across flats", 10.0),
])  # fmt: skip
def test_other_polygons_are_proved_too(sides, measure, turn):
    assert tasks.verify(order_of(nut(sides, measure, turn)), "f1").holds


def test_hidden_lines_are_dashed_and_centre_lines_chained_after_the_firm_ones():
    plan, meant = planned(DEMO["latch plate"])
    phases = [name for name, _, _ in plan.phases]
    assert phases.index("firm in") < phases.index(HIDDEN_LINES) < phases.index(CENTRE_LINES, -3)
    roles = {f"{view.name} {stroke.id}": stroke.role
             for view in meant.views for stroke in view.picture.strokes}  # fmt: skip
    thin = thin_strokes(plan)
    assert set(thin.values()) == {"hidden", "centre"}
    assert all(roles[name] == style for name, style in thin.items())
    plain, _ = planned(DEMO["latch plate"], lines=replace(VIEW_LINES, hidden="omit",
                                                          centre_lines=False))  # fmt: skip
    assert not thin_strokes(plain)


def test_a_wrong_setting_a_missing_and_a_strange_stroke_are_found():
    plan, meant = planned(DEMO["wedge foot"])

    def proof_of(moves):
        return compare(replace(plan, moves=tuple(moves)), meant.wanted, meant.worst)

    assert proof_of(plan.moves).holds
    at = next(k for k, move in enumerate(plan.moves)
              if move.verb == "set off" and move.phase.startswith("carve"))  # fmt: skip
    wrong = replace(plan.moves[at], setting_mm=plan.moves[at].setting_mm + 0.3)
    try:
        assert not proof_of((*plan.moves[:at], wrong, *plan.moves[at + 1 :])).holds
    except DraftingError as error:  # a point is off its line then
        assert error.move.n > wrong.n
    last = next(k for k, move in reversed(list(enumerate(plan.moves))) if move.verb == "firm in")
    assert proof_of(plan.moves[:last]).deviation_mm == math.inf
    again = replace(plan.moves[last], makes=("front s999",))
    assert proof_of((*plan.moves, again)).deviation_mm == math.inf


@pytest.mark.parametrize("seed", [264, 676])
def test_curves_that_run_back_on_themselves_and_tiny_ones_are_proved(seed):
    assert tasks.verify(order_of(random_part(seed)), "f1").holds
