"""Views become parts: what is drawn is read back, and what is wrong with it is found."""

import random
from dataclasses import replace

import pytest
from bench.exercise_parts import PLAIN_FAMILIES, exercise

from cast import crate, hole, prism, stepped_block
from holoptic.demo import drawing_paths
from holoptic.errors import BadInput
from holoptic.job import pose
from holoptic.part import Part
from holoptic.reading.arrangement import Arrangement, ViewOnSheet
from holoptic.reading.compare import compare
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Straight

USUAL = ("front", "top", "right")


def views_of(worker, part, names=USUAL):
    return [view for view in worker.ask("derive_views", part) if view.name in names]


def read(worker, views, **options):
    return worker.ask("read", tuple(views), "read", *options.values())


def volume(worker, part):
    return worker.ask("present", pose(part)).facts.volume


def assert_reads_back(worker, part):
    reading = read(worker, views_of(worker, part))
    assert reading.verdict == "unique", reading
    (answer,) = reading.answers
    assert not answer.differences
    assert volume(worker, answer.part) == pytest.approx(volume(worker, part), abs=1.0)
    return answer.part


@pytest.mark.parametrize("family", PLAIN_FAMILIES)
def test_exercise_parts_are_read_back(worker, family):
    for seed in (1, 2, 5):
        part = exercise(family, seed)
        if not worker.ask("present", pose(part)).troubles:
            assert_reads_back(worker, part)


@pytest.mark.parametrize("name", ["gallery block", "wedge foot", "bearing bracket", "latch plate",
                                  "lamp pedestal", "vent cowl", "counterbored flange"])  # fmt: skip
def test_demo_parts_are_read_back(worker, demo_job, name):
    assert_reads_back(worker, demo_job.find(name).source)


def test_a_reading_is_made_of_features_that_a_drafter_would_name(worker, demo_job):
    flange = demo_job.find("counterbored flange").source
    read_part = assert_reads_back(worker, flange)
    seats = [o for o in read_part.operations if getattr(o, "seat", "") == "counterbored"]
    assert [seat.copies.count for seat in seats] == [6]
    latch = demo_job.find("latch plate").source
    assert sum(o.type == "slot" for o in assert_reads_back(worker, latch).operations) == 2


def test_two_views_with_centre_lines_leave_round_and_square_open(worker):
    part = Part("p", crate(61.5, 38, 27), (hole(diameter=13, u=22.5, v=17),))
    reading = read(worker, views_of(worker, part, ("front", "right")))
    assert reading.verdict == "several"
    shapes = [[item.type for item in answer.part.operations] for answer in reading.answers[:2]]
    assert shapes == [["hole"], ["prism"]]
    assert "which top view" in reading.question


def test_two_views_that_leave_nothing_open_are_read(worker):
    reading = read(worker, views_of(worker, stepped_block(), ("front", "top")))
    assert reading.verdict == "unique"
    assert "third" in reading.notes[0]


def test_a_missing_line_is_found_and_the_nearest_part_is_the_right_one(worker):
    part = stepped_block()
    views = views_of(worker, part)
    front = views[0]
    floor = next(line for line in front.lines if line.shape in (
        Straight((57.5, 20.0), (84.0, 20.0)), Straight((84.0, 20.0), (57.5, 20.0))))  # fmt: skip
    top = next(view for view in views if view.name == "top")
    wall = next(line for line in top.lines if isinstance(line.shape, Straight)
                and line.shape.start[0] == line.shape.end[0] == 57.5)  # fmt: skip
    left = [replace(v, lines=tuple(x for x in v.lines if x is not wall)) for v in views]
    reading = read(worker, left)
    assert floor.status == "visible"
    assert reading.verdict == "contradictory"
    assert any(s.view == "top" and abs(s.path[0][0] - 57.5) < 0.1 for s in reading.suspects)
    assert volume(worker, reading.answers[0].part) == pytest.approx(volume(worker, part))


def test_a_drawing_of_nothing_possible_names_its_lines(worker):
    views = [box_view(name, 40, 30) for name in USUAL]
    views[0] = replace(views[0], lines=(*views[0].lines, line((10, 0), (30, 30))))
    reading = read(worker, views)
    assert reading.verdict == "contradictory"
    assert any(len(s.path) == 2 or s.view == "front" for s in reading.suspects)


def test_lines_that_cannot_be_true_together_are_named_and_none_of_them_is_idle(worker):
    """A block whose side view shows a step that front and top view lack."""
    views = [box_view("front", 40, 30), box_view("top", 40, 22), box_view("right", 22, 30)]
    step = line((0, 12.5), (22, 12.5))
    views[2] = replace(views[2], lines=(*views[2].lines, step))
    reading = read(worker, views)
    assert reading.verdict == "contradictory"
    assert [(s.view, s.path) for s in reading.conflict] == [("right", ((0, 12.5), (22, 12.5)))]
    assert "what is left blank" in reading.conflict[0].words
    views[2] = replace(views[2], lines=views[2].lines[:-1])
    assert read(worker, views).conflict == ()


@pytest.mark.parametrize("seed", range(3))
def test_a_contradiction_always_comes_with_a_part(worker, seed):
    dice = random.Random(seed)
    views = views_of(worker, exercise("mixed", seed))
    for _ in range(3):  # whatever is left out
        number = dice.randrange(len(views))
        lines = list(views[number].lines)
        del lines[dice.randrange(len(lines))]
        views[number] = replace(views[number], lines=tuple(lines))
    reading = read(worker, views)
    assert reading.answers
    assert volume(worker, reading.answers[0].part) > 0


def test_reading_stops_at_its_limit_and_says_how_far_it_got(worker, demo_job):
    flange = demo_job.find("counterbored flange").source
    reading = worker.ask("read", tuple(views_of(worker, flange)), "read", 6, 0.05)
    assert reading.verdict == "unfinished"
    assert "it got as far as" in reading.notes[0]


def test_one_view_is_refused(worker):
    with pytest.raises(BadInput, match="two views"):
        read(worker, views_of(worker, stepped_block(), ("front",)))


def test_a_view_from_the_other_side_is_read_as_what_it_is(worker):
    part = Part("p", crate(58, 41, 33), (
        prism("step", outline=[(0, 33), (21, 33), (21, 18.5), (0, 18.5)]),
        hole(diameter=9, u=39, v=14, end=12.5),
    ))  # fmt: skip
    for names in (("front", "top", "left"), ("rear", "bottom", "right")):
        reading = read(worker, views_of(worker, part, names))
        assert reading.verdict == "unique"
        assert volume(worker, reading.answers[0].part) == pytest.approx(volume(worker, part))


# --- slips ------------------------------------------------------------------------------------


def line(start, end, status="visible"):
    return DrawnLine(Straight(start, end), status)


def box_view(name, width, height):
    corners = [(0, 0), (width, 0), (width, height), (0, height)]
    return DrawnView(name, tuple(line(corners[k - 1], corners[k]) for k in range(4)))


def sorts(worker, views):
    sheet = Arrangement("third", tuple(ViewOnSheet(view.name, view.lines) for view in views))
    return {check.sort for check in worker.ask("check_sheet", sheet)}


def test_each_slip_has_its_remark(worker):
    views = [box_view("front", 40, 30), box_view("top", 40, 22), box_view("right", 22, 30)]
    assert sorts(worker, views) == set()
    front = views[0]
    for odd, sort in (
        (line((0, 30), (40.06, 30.0)), "near miss"),
        (line((10, 12), (20, 12)), "loose end"),
        (line((0, 0), (40, 0)), "doubled"),
        (line((5, 0), (35, 0), "hidden"), "hidden under visible"),
        (line((17, 0), (17, 30)), "no counterpart"),
    ):
        changed = [replace(front, lines=(*front.lines, odd)), *views[1:]]
        assert sort in sorts(worker, changed), sort
    assert "sizes" in sorts(worker, [box_view("front", 41, 30), *views[1:]])


def from_behind(worker, part):
    """Three views of which the front one is that from behind."""
    views = views_of(worker, part, ("rear", "top", "right"))
    return [replace(v, name="front") if v.name == "rear" else v for v in views]


def test_a_front_view_from_the_wrong_side_is_told(worker):
    part = Part("p", crate(58, 41, 33), (
        prism("step", outline=[(0, 33), (21, 33), (21, 18.5), (0, 18.5)]),
        hole(diameter=9, u=39, v=14, end=12.5),
    ))  # fmt: skip
    views = from_behind(worker, part)
    assert "wrong side" in sorts(worker, views)
    reading = read(worker, views)
    assert reading.verdict == "contradictory"
    assert "taken for a rear view" in reading.notes[-1]


def test_a_front_view_from_the_wrong_side_shows_in_what_is_hidden(worker):
    """Where all lines find their counterparts, reading itself still tells."""
    pocket = prism("pocket", outline=[(18, 10), (40, 10), (40, 25), (18, 25)], end=13.5)
    reading = read(worker, from_behind(worker, Part("p", crate(58, 41, 33), (pocket,))))
    assert "taken for a rear view" in reading.notes[-1]


@pytest.mark.parametrize("seed", range(4))
def test_noise_of_the_pen_is_mended(worker, seed):
    dice = random.Random(seed)
    part = exercise("steps", seed)

    def shaken(drawn):
        if not isinstance(drawn.shape, Straight):
            return drawn
        ends = [tuple(x + dice.uniform(-0.03, 0.03) for x in end)
                for end in (drawn.shape.start, drawn.shape.end)]  # fmt: skip
        return replace(drawn, shape=Straight(*ends))

    views = [replace(v, lines=tuple(shaken(x) for x in v.lines)) for v in views_of(worker, part)]
    mended = worker.ask("mend_views", views)
    reading = read(worker, mended)
    assert reading.verdict == "unique"
    assert volume(worker, reading.answers[0].part) == pytest.approx(volume(worker, part), rel=5e-3)


def test_a_tangent_line_may_be_drawn_or_not(worker):
    part = exercise("rounded ends", 1)
    views = views_of(worker, part)
    side = next(view for view in views if view.name == "right")
    bow = next(x.shape for x in views[0].lines if isinstance(x.shape, Bow) and x.shape.radius > 12)
    thick = part.operations[0].end.mm
    level = bow.centre[1]
    drawn = replace(side, lines=(*side.lines, line((0, level), (thick, level))))
    reading = read(worker, [drawn if view.name == "right" else view for view in views])
    assert reading.verdict == "unique"
    assert volume(worker, reading.answers[0].part) == pytest.approx(volume(worker, part), abs=1.0)


# --- comparing --------------------------------------------------------------------------------


def test_compare_tells_missing_extra_and_exchanged_lines(worker):
    part = stepped_block()
    views = views_of(worker, part)
    assert compare(views, views) == []
    front = views[0]
    without = replace(front, lines=front.lines[1:])
    assert {d.kind for d in compare([without], views)} == {"missing"}
    more = replace(front, lines=(*front.lines, line((3, 5), (30, 5))))
    assert [d.kind for d in compare([more], views)] == ["extra"]
    exchanged = replace(front.lines[0], status="hidden")
    found = compare([replace(front, lines=(exchanged, *front.lines[1:]))], views)
    assert {d.kind for d in found} <= {"status", "missing"}
    assert found


# --- sheets -----------------------------------------------------------------------------------


def test_the_demo_drawings_are_one_sound_and_one_with_slips(worker):
    sound, odd = (worker.ask("open_sheet", str(path)) for path in drawing_paths())
    assert sound.checks == ()
    assert any("64 stands on a distance of 68" in check.words for check in odd.checks)
    good, bad = (read(worker, s.arrangement.drawn_views()) for s in (sound, odd))
    assert good.verdict == "unique"
    assert bad.verdict == "contradictory"
    assert [suspect.view for suspect in bad.suspects] == ["front"]
    assert bad.answers
