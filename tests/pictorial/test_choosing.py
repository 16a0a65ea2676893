"""Proposals, and the trihedral corner rule."""

import pytest
from hypothesis import assume, given, settings

from cast import crate, hole, look, parts, picture, prism, stepped_block
from holoptic.errors import PartError
from holoptic.part import Face, Part
from holoptic.pictorial import draw, view_of
from holoptic.pictorial.corners import check_corners
from holoptic.pictorial.proposal import appraise, better, candidates, ranked, reasons


def appraisals(worker, part):
    views = candidates(look(worker, part).facts)
    seen = look(worker, part, *views)
    looks = [(seen.look(view.toward_viewer), view) for view in views]
    return [appraise(seen.facts, one, draw(one, view)) for one, view in looks]


def one(worker, part, kind, corner="front-right"):
    view = view_of(kind, corner)
    seen = look(worker, part, view)
    return appraise(seen.facts, seen.looks[0], draw(seen.looks[0], view))


def test_the_corner_that_shows_the_features_is_proposed(worker):
    notch = prism("notch", face=Face.LEFT, outline=[(9, 0), (30, 0), (30, 14), (9, 14)], end=8)
    part = Part("notched", crate(61, 40, 33), (notch,))
    first = ranked(appraisals(worker, part), 5)[0]
    assert (first.kind, first.corner) == ("isometric", "front-left")
    assert reasons(first, ["notch"]).startswith("shows the feature")
    hidden = one(worker, part, "isometric")
    assert reasons(hidden, ["notch"]).startswith("hides “notch”")
    assert hidden.score < first.score


def test_a_part_carved_from_below_is_shown_from_below(worker):
    cut = prism("pocket", face=Face.BOTTOM, outline=[(9, 7), (50, 7), (50, 30), (9, 30)], end=8)
    assert (
        "below" in ranked(appraisals(worker, Part("tray", crate(61, 40, 33), (cut,))), 1)[0].corner
    )


def test_round_edges_seen_true_are_counted(worker):
    part = Part("eyed", crate(61, 20, 52), (hole("eye", face=Face.FRONT, diameter=27, u=30, v=26),))
    assert one(worker, part, "cabinet").rounds_true == 2
    assert one(worker, part, "isometric").rounds_true == 0
    assert "all round edges true" in reasons(one(worker, part, "cabinet"), ["eye"])


def test_edges_on_one_line_are_found_and_a_better_choice_offered(worker, demo_job):
    part = demo_job.find("latch plate").source
    names = [operation.name for operation in part.operations]
    now = one(worker, part, "isometric", "front-right")
    assert len(now.on_one_line) == 3
    assert "3 pairs of edges on one line" in reasons(now, names)
    found = appraisals(worker, part)
    choice = better(found, now)
    assert choice is not None
    assert not choice.collides
    assert choice.features_seen == now.features_seen
    assert one(worker, stepped_block(), "isometric").on_one_line == ()


def test_a_face_seen_edge_on_is_told(worker):
    slope = prism("slope", face=Face.TOP, outline=[(40, 0), (60, 0), (60, 20)])
    item = one(worker, Part("mitred", crate(60, 40, 25), (slope,)), "isometric", "front-left")
    assert item.edge_on
    assert item.collides
    assert "a face edge-on" in reasons(item, ["slope"])


def lines(drawn, role):
    return [(s.path[0], s.path[-1]) for s in drawn.of_role(role) if s.is_straight]


@settings(max_examples=25)
@given(part=parts(rounds=False))
def test_every_corner_of_a_picture_obeys_the_rule(worker, part):
    try:
        _, drawn = picture(worker, part, "trimetric:17:31")
    except PartError:
        assume(False)
    verdicts = {f.verdict for f in check_corners(lines(drawn, "visible"), lines(drawn, "hidden"))}
    assert verdicts <= {"complete", "edge hidden"}


def test_a_forgotten_line_is_noticed(worker):
    _, drawn = picture(worker, stepped_block(), "dimetric")
    visible, hidden = lines(drawn, "visible"), lines(drawn, "hidden")
    wrong = ("edge missing", "loose end")
    for forgotten in visible:
        rest = [line for line in visible if line != forgotten]
        found = [f for f in check_corners(rest, hidden) if f.verdict in wrong]
        near = [f for f in found if any(f.place == pytest.approx(end) for end in forgotten)]
        assert near, forgotten


def test_without_the_hidden_lines_two_lines_are_open_to_doubt():
    corner = [((0, 0), (30, 0)), ((0, 0), (0, 20))]
    assert {f.verdict for f in check_corners(corner)} == {"edge hidden or missing", "loose end"}
    along = [((0, 0), (30, 0)), ((30, 0), (50, 0))]
    assert [f.verdict for f in check_corners(along)] == ["loose end", "complete", "loose end"]
