"""A drafter's own instruments: what they do not reach is done otherwise, and said."""

from dataclasses import replace

import pytest

from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import Orthographic, Outfit, alone, pose
from holoptic.plan.critic import criticise
from holoptic.plan.instruments import COMPASS, TEMPLATE, TRAMMEL
from holoptic.views import orthographic, view_directions
from holoptic.worker import planning
from holoptic.worker.criticism import sitting_of
from holoptic.worker.figures import look_at, picture_of
from holoptic.worker.settling import view_in

PARTS = {
    part.source.name: part.source
    for name in ("harbour-lamp", "round-parts")
    for part in read_job(job_path(name)).parts
}
SMALL = Outfit(least_radius=6.0, largest_radius=45.0, square=70.0, rule=110.0)


def posed_with(outfit, name="bearing bracket", kind="isometric"):
    posed = pose(PARTS[name], kind)
    figure = posed.figure
    return replace(posed, figure=replace(figure, by_hand=replace(figure.by_hand, outfit=outfit)))


def plan_of(posed):
    return planning.plan(alone(posed), posed.id).plan


@pytest.mark.parametrize(
    ("name", "kind"),
    [("bearing bracket", "isometric"), ("bearing bracket", "cabinet"),
     ("counterbored flange", "cavalier"), ("lens ring", "isometric")],
)  # fmt: skip
def test_no_setting_is_out_of_reach_and_the_plan_is_still_proved(name, kind):
    posed = posed_with(SMALL, name, kind)
    radii = [move.setting_mm for move in plan_of(posed).moves
             if move.instrument == COMPASS and move.setting_mm is not None]  # fmt: skip
    assert all(SMALL.least_radius <= radius <= SMALL.largest_radius for radius in radii)
    assert planning.verify(alone(posed), posed.id).holds


def test_another_way_is_found_and_small_arcs_are_told_to_be_drawn_without():
    by_template = [
        sum(move.instrument == TEMPLATE for move in plan_of(posed_with(outfit)).moves)
        for outfit in (Outfit(least_radius=0.5), Outfit(), Outfit(least_radius=12.0))
    ]
    assert by_template == sorted(set(by_template))
    assert by_template[0] == 0


def test_what_is_too_long_is_said_to_be_and_in_which_parts():
    plan = plan_of(posed_with(SMALL))
    texts = [move.text for move in plan.moves]
    assert any("longer than the set square: carry it on" in text for text in texts)
    assert any("longer than the rule: 110 first, then" in text for text in texts)
    assert not any("longer than" in move.text for move in plan_of(posed_with(Outfit())).moves)


def test_the_critic_misses_what_is_not_said():
    posed = posed_with(SMALL)
    drawn = picture_of(posed, view_in(posed))[1]
    views = orthographic(look_at(posed, view_directions("three")), "three")
    found = sitting_of(plan_of(posed), posed, drawn, views)
    assert [str(remark) for remark in criticise(found) if remark.rule == "round"] == []
    unaware = sitting_of(plan_of(posed_with(Outfit())), posed, drawn, views)
    words = " ".join(str(remark) for remark in criticise(unaware) if remark.rule == "round")
    assert "no set square is" in words
    assert "no rule measures" in words


def test_large_circles_of_views_are_drawn_with_a_strip():
    big = posed_with(Outfit(largest_radius=40.0, least_radius=1.0), "counterbored flange")
    big = replace(big, figure=replace(big.figure, view=Orthographic()))
    moves = plan_of(big).moves
    large = [move for move in moves if move.verb == "circle" and move.setting_mm > 40.0]
    assert large
    assert all(move.instrument == TRAMMEL and "strip of card" in move.text for move in large)


def test_a_set_that_nobody_has_is_none():
    assert Outfit().is_sound
    assert not Outfit(least_radius=200.0).is_sound
    assert not Outfit(rule=-1.0).is_sound
