"""Dimensions on a sheet: clear of everything, by two habits, on views and in pictorials."""

import math
from dataclasses import replace

import pytest
import shapely
from bench.exercise_parts import exercise
from bench.overlap_judge import touched_words

from cast import crate, hole, prism
from holoptic.demo import job_path
from holoptic.exchange.job_file import job_bytes, parse_job, read_job
from holoptic.job import (
    AS_FITS,
    Orthographic,
    SheetOrder,
    SizeWish,
    TitleBlock,
    job_of,
    pose,
    sheet_order,
)
from holoptic.part import Corner, Face, Part, Prism, Slope
from holoptic.sheet.dimension_ink import LAYER, LETTER_MM, Habit, drawn_length
from holoptic.sheet.dimension_panes import DimensionPane
from holoptic.sheet.drawing import Ink
from holoptic.sheet.frames import drawing_area
from holoptic.sheet.planning import best_layout
from holoptic.units import Length, Unit
from holoptic.worker import tasks
from holoptic.worker.figures import items_of
from holoptic.worker.sizing import placed_on, set_up, told
from holoptic.worker.tasks import sheet

AUTO = replace(AS_FITS, dimensions="auto")


def plate():
    base = prism("plate", "add", Face.BOTTOM, [(0, 0), (71, 0), (71, 47), (0, 47)], 0, 13)
    return Part("plate", crate(71, 47, 13), (
        base, hole("bore", diameter=12, u=22, v=17), hole("pin", diameter=6.5, u=58, v=31, end=5),
    ), "empty")  # fmt: skip


DEMO = {part.source.name: part.source for part in read_job(job_path()).parts}


def order_of(part, *kinds, wish=AUTO, unit=Unit.MM):
    """Return a sheet with figures of a part: kinds of pictorial, or `views`."""
    posed = []
    for number, kind in enumerate(kinds):
        one = pose(part, "isometric" if kind == "views" else kind)
        view = Orthographic() if kind == "views" else one.figure.view
        posed.append(replace(one, figure=replace(one.figure, id=f"f{number}", view=view)))
    return SheetOrder(tuple(posed), wish, unit=unit)


def placed_for(order):
    found = set_up(order, lambda apart: items_of(order, apart))
    layout = best_layout(found.items, found.wish)
    return found, layout, placed_on(found, layout, order)


@pytest.mark.parametrize("kind", ["views", "isometric", "cabinet", "plan-oblique:30:1"])
@pytest.mark.parametrize("name", ["latch plate", "bearing bracket", "vent cowl"])
def test_demo_parts_are_dimensioned_clear_of_everything(name, kind):
    source = next(p.source for p in read_job(job_path("harbour-lamp")).parts
                  if p.source.name == name)  # fmt: skip
    order = order_of(source, kind)
    found, layout, (placed,) = placed_for(order)
    assert told(found, [placed]).lines == ()
    left, low, right, high = drawing_area(layout.paper)
    rooms = [one.drawn.room for one in placed]
    for k, room in enumerate(rooms):
        assert not any(room.intersects(other) for other in rooms[:k])
        assert shapely.box(left, low, right, high).contains(room)
    assert [one.overlaps for one in placed] == [0] * len(placed)


@pytest.mark.parametrize("job", ["harbour-lamp", "round-parts"])
def test_every_demo_part_is_complete_on_its_own_sheet(job):
    known = read_job(job_path(job))
    for part in known.parts:
        own = known.sheet_of(known.main_figure(part.id))
        order = sheet_order(known, replace(own, wish=replace(own.wish, dimensions="auto")))
        found, _, placed = placed_for(order)
        assert told(found, placed).lines == (), part.source.name


def test_words_stand_clear_of_every_line_of_the_drawing():
    order = order_of(exercise("steps", 2), "views")
    found, layout, (placed,) = placed_for(order)
    from holoptic.sheet.dimensioning import panes_of

    lines = [shapely.linestrings(path) for pane in panes_of(found.items[0], layout)
             for path in (*pane.lines, *pane.thin)]  # fmt: skip
    tree = shapely.STRtree(lines)
    for one in placed:
        assert len(tree.query(one.drawn.room, predicate="intersects")) == 0, one.drawn.words.text


def test_the_length_that_is_lettered_is_the_one_that_is_drawn_at_any_scale():
    for scale in (0.5, 2.0):
        order = order_of(plate(), "views", wish=replace(AUTO, scale=scale))
        _, _, (placed,) = placed_for(order)
        lengths = [one for one in placed if one.dimension.sort == "length"]
        assert lengths
        for one in lengths:
            assert one.drawn.line.length == pytest.approx(one.dimension.value * scale, abs=1e-6)
            assert float(one.drawn.words.text) == one.dimension.value


def test_in_a_pictorial_a_length_runs_along_its_axis():
    order = order_of(plate(), "isometric", wish=replace(AUTO, scale=1.0))
    found, _, (placed,) = placed_for(order)
    view = found.items[0].pictures[0][0].view
    for one in placed:
        if one.dimension.sort == "length":
            (a, b), (c, d) = one.drawn.line.coords
            x, y = (row[one.dimension.axis] for row in view.matrix)
            assert abs((c - a) * y - (d - b) * x) < 1e-6


def test_diameters_say_depth_and_number_in_any_unit():
    order = order_of(plate(), "views", unit=Unit.INCH_DECIMAL)
    _, _, (placed,) = placed_for(order)
    said = {one.drawn.words.text for one in placed}
    assert "⌀0.2559, 0.1969 deep" in said
    assert "2.7953" in said


def test_where_a_part_has_views_its_sizes_stand_there():
    order = order_of(plate(), "isometric", "views")
    found, layout, (placed,) = placed_for(order)
    pictorial, views = (layout.of(item.figure).extent for item in found.items)
    middle = (pictorial[2] + views[0]) / 2 if pictorial[2] < views[0] else None
    assert middle is not None
    assert all(one.drawn.room.centroid.x > middle for one in placed)


def test_the_page_has_heads_words_and_lines_on_their_layer():
    order = order_of(plate(), "views")
    title = TitleBlock("lamp", "plate", "SLW-1", "", "", "", "", "", "1 of 1")
    planned = sheet(order, title)
    page = planned.pages[0]
    count = planned.sizes.count
    lengths = sum(words.layer == LAYER for words in page.words)
    assert lengths == count > 6
    assert sum(region.layer == LAYER for region in page.regions) >= count
    assert "Dimensions in mm after ISO 129-1." in " ".join(words.text for words in page.words)
    plain = sheet(replace(order, wish=AS_FITS), title)
    assert not any("ISO 129" in words.text for words in plain.pages[0].words)
    assert not any(ink.layer == LAYER for ink in plain.pages[0].inks)
    assert plain.sizes is None


def test_what_does_not_fit_with_dimensions_has_ways_out_that_ask_for_no_more_room():
    order = order_of(plate(), "isometric", wish=replace(AUTO, paper="A4", scale=2.0))
    planned = sheet(order, TitleBlock("lamp", "plate", "SLW-1", "", "", "", "", "", "1 of 1"))
    assert planned.misfit is not None
    wishes = {way.words: way.wish for way in planned.misfit.ways_out}
    assert wishes["leave out the dimensions"].dimensions == "none"
    assert {wish.dimensions_mm for wish in wishes.values()} == {0.0}
    for words, wish in wishes.items():
        again = sheet(replace(order, wish=wish), TitleBlock("lamp", "plate"))
        assert again.misfit is None, words


@pytest.mark.parametrize(("habit", "turned", "pieces"), [
    (Habit("ISO", "sheared"), True, 1), (Habit("ASME", "sheared"), True, 2),
    (Habit("ASME", "upright"), False, 2),
])  # fmt: skip
def test_two_habits_letter_a_length_in_their_own_way(habit, turned, pieces):
    drawn = drawn_length("44.5", ((0, 0), (0, 44.5)), ((9, 0), (9, 44.5)), (-1, 0), habit)
    assert (drawn.words.along_deg == 90.0) is turned
    own = [ink for ink in drawn.inks if all(abs(x) < 1e-9 for x, _ in ink.path)]
    assert len(own) == pieces
    assert drawn.words.height == LETTER_MM


def test_an_angle_is_an_arc_between_level_and_slope_in_the_view_that_shows_it():
    low_left, low_right, high = (
        Corner(*map(Length.of, at)) for at in ((0, 0), (64, 0), (0, 27))
    )  # fmt: skip
    outline = low_left, low_right, Slope(angle=118.0, rise=Length.of(27)), high
    part = Part("wedge", crate(64, 21, 27), (
        Prism("wedge", "add", Face.FRONT, outline, Length.of(0), None),), "empty")  # fmt: skip
    found, layout, (placed,) = placed_for(order_of(part, "views"))
    assert told(found, [placed]).lines == ()
    (angle,) = (one for one in placed if one.dimension.sort == "angle")
    assert (angle.drawn.words.text, angle.overlaps) == ("118°", 0)
    arc = angle.drawn.inks[0].arc
    assert math.degrees(arc.last - arc.first) == pytest.approx(118)
    _, (x, y) = found.items[0].pictures[0]
    at = layout.of(found.items[0].figure)
    corner = at.origin[0] + at.scale * (x + 64), at.origin[1] + at.scale * y
    assert arc.centre == pytest.approx(corner)


def test_a_short_length_has_its_words_and_heads_outside():
    drawn = drawn_length("3.5", ((0, 0), (3.5, 0)), ((0, 9), (3.5, 9)), (0, -1), Habit())
    assert drawn.words.at[0] > 3.5
    tips = [region.outlines[0][0] for region in drawn.regions]
    backs = [region.outlines[0][1] for region in drawn.regions]
    assert backs[0][0] < tips[0][0] < tips[1][0] < backs[1][0]


def test_a_pane_knows_where_the_part_lies_on_the_page():
    order = order_of(plate(), "views")
    found, _, _ = placed_for(order)
    picture, (x, y) = found.items[0].pictures[0]
    pane = DimensionPane(picture, (x + 3.0, y + 4.0), 2.0, hidden=True, centres=True)
    assert pane.is_view
    assert pane.onto((0.0, 0.0, 0.0)) == pytest.approx((x + 3.0, y + 4.0))
    assert pane.way(1) is None  # the front view looks along the depth


def asked(order, **wish):
    """Return the longest length of a sheet, as it is proposed and as something is asked of it."""
    _, layout, (plain,) = placed_for(order)
    lengths = [one for one in plain if one.dimension.sort == "length"]
    first = max(lengths, key=lambda one: one.dimension.value)
    wishes = (SizeWish(first.dimension.key, **wish),)
    found, layout, (placed,) = placed_for(replace(order, sizes=wishes))
    key = first.dimension.key
    return found, layout, first, next(one for one in placed if one.dimension.key == key), placed


def test_a_dimension_that_was_dragged_stands_at_the_nearest_good_place():
    order = order_of(plate(), "views", wish=replace(AUTO, scale=1.0, paper="A3"))
    _, layout, plain, put, _ = asked(order, near=(30.0, -26.0))
    x, y = layout.of("f0").origin
    middle = put.drawn.room.centroid
    assert put.overlaps == 0
    assert abs(middle.y - (y - 26.0)) < 8.0
    assert put.drawn.words.text == plain.drawn.words.text
    assert math.dist((middle.x, middle.y), (x + 30.0, y - 26.0)) < 30.0


@pytest.mark.parametrize("kind", ["isometric", "views"])
def test_where_a_dimension_may_be_dragged_to_is_clear_and_there_it_stays(kind):
    order = order_of(plate(), kind, wish=replace(AUTO, scale=1.0, paper="A3"))
    _, layout, (plain,) = placed_for(order)
    x, y = layout.of("f0").origin
    for one in plain[:4]:
        places = tasks.good_places(order, one.dimension.key).places
        middles = [place.at for place in places]
        assert len(middles) > 3
        assert all(math.dist(a, b) >= 2.0 for k, a in enumerate(middles) for b in middles[:k])
        near = middles[-1][0] - x, middles[-1][1] - y
        wished = replace(order, sizes=(SizeWish(one.dimension.key, near=near),))
        _, after, (placed,) = placed_for(wished)
        put = next(each for each in placed if each.dimension.key == one.dimension.key)
        (u, v), middle = after.of("f0").origin, put.drawn.room.centroid
        assert (middle.x - u, middle.y - v) == pytest.approx(near, abs=0.02)
        assert not any(each.overlaps for each in placed)
    assert tasks.good_places(order, "no such size").places == ()


def test_good_places_follow_each_other_and_come_round_again():
    order = order_of(plate(), "views", wish=replace(AUTO, scale=1.0, paper="A2"))
    boxes = []
    for passed in range(1, 5):
        _, _, _, put, placed = asked(order, passed=passed)
        assert put.overlaps == 0
        assert sum(one.overlaps for one in placed) == 0
        boxes.append(tuple(round(v, 1) for v in put.drawn.room.bounds))
    assert len(set(boxes)) == len(boxes)


def test_what_is_written_beside_a_figure_never_touches_the_figure():
    wish = SizeWish("k", prefix="2 × ", suffix=" H7", tolerance="±0.1", reference=True)
    assert wish.lettered("⌀12") == "(2 × ⌀12 H7 ±0.1)"
    assert SizeWish("k").lettered("44.5") == "44.5"
    order = order_of(plate(), "views")
    found, _, _, put, placed = asked(order, suffix=" max", reference=True)
    assert put.drawn.words.text.endswith(" max)")
    told_now = told(found, [placed], (SizeWish(put.dimension.key, reference=True),))
    assert len(told_now.lines) == 1
    assert told_now.lines[0].startswith("missing ")


def test_keys_stay_where_other_features_come_and_go():
    def keys(part):
        found, _, _ = placed_for(order_of(part, "views"))
        return {one.key for one in found.sizes[0].sized.dimensions}

    part = plate()
    more = replace(part, operations=(*part.operations, hole("eye", diameter=9, u=40, v=12)))
    assert keys(part) < keys(more)


def test_what_is_asked_of_dimensions_is_kept_in_the_job_file():
    job = job_of("lamp", [plate()])
    wish = SizeWish("p1 L bore 1", tolerance="±0.1", near=(12.5, -9.0), passed=2)
    sheet = replace(job.sheet_of(job.main_figure("p1")), figures=(job.main_figure("p1"),))
    job = job.with_sheet(sheet.with_size(wish))
    again = parse_job(job_bytes(job))
    assert again.sheets[-1].size("p1 L bore 1") == wish
    assert again.sheets[-1].with_size(SizeWish("p1 L bore 1")).sizes == ()


@pytest.mark.parametrize("kinds", [("views",), ("isometric", "views")])
def test_names_under_drawings_and_dimensions_keep_clear_of_each_other(kinds):
    order = order_of(plate(), *kinds, wish=replace(AUTO, caption_mm=8.0))
    page = sheet(order, TitleBlock("lamp", "plate")).pages[0]
    names = [w for w in page.words if w.layer == "symbol"]
    assert len(names) >= 3
    for name in names:
        wide = 0.6 * name.height * len(name.text)
        room = shapely.box(name.at[0] - wide / 2, name.at[1], name.at[0] + wide / 2,
                           name.at[1] + name.height)  # fmt: skip
        for ink in page.inks:
            if ink.layer == LAYER and ink.arc is None:
                line = shapely.LineString(ink.path)
                assert not room.intersects(line) or not line.crosses(room.buffer(-0.1)), name.text


def test_room_is_kept_only_where_dimensions_stand():
    order = order_of(plate(), "isometric", "views", wish=AUTO)
    found = set_up(order, lambda apart: items_of(order, apart))
    bare, dimensioned = (item.rooms for item in found.items)
    assert max(bare) == 0.0
    assert max(dimensioned) > 8.0
    assert len(set(dimensioned)) > 1


@pytest.mark.parametrize("habit", [{}, {"style": "ASME", "text": "upright"}])
@pytest.mark.parametrize("kind", ["isometric", "views"])
def test_another_judge_finds_no_letter_touched(kind, habit):
    for part in (DEMO["bearing bracket"], DEMO["counterbored flange"], exercise("mixed", 0)):
        order = order_of(part, kind, wish=replace(AUTO, **habit))
        page = sheet(order, TitleBlock("lamp", "plate")).pages[0]
        assert touched_words(page) == []


def test_the_judge_sees_a_line_through_a_letter_and_words_upon_each_other():
    page = sheet(order_of(plate(), "views"), TitleBlock("lamp", "plate")).pages[0]
    one = next(words for words in page.words if words.layer == LAYER)
    (x, y), size = one.at, one.height
    across = Ink("visible", ((x - 5, y + size / 2), (x + 5, y + size / 2)))
    assert one.text in touched_words(replace(page, inks=(*page.inks, across)))
    again = replace(one, text="71.5")
    assert len(touched_words(replace(page, words=(*page.words, again)))) >= 2


@pytest.mark.parametrize(("ends", "corners"), [("arrow", 4), ("slash", 5), ("dot", 25)])
def test_lines_of_lengths_end_as_is_asked_and_leaders_in_heads(ends, corners):
    order = order_of(plate(), "views", wish=replace(AUTO, ends=ends))
    page = sheet(order, TitleBlock("lamp", "plate")).pages[0]
    shapes = [len(region.outlines[0]) for region in page.regions if region.layer == LAYER]
    lengths = sum(measure.value > 0 for measure in page.measures)
    assert shapes.count(corners) == 2 * lengths + (corners == 4) * (len(shapes) - 2 * lengths)
    assert touched_words(page) == []
    for measure in page.measures:
        for region, end in zip(measure.regions, sorted(measure.ends), strict=True):
            middle = shapely.Polygon(region.outlines[0]).centroid
            assert math.dist((middle.x, middle.y), end) < (2.1 if ends == "arrow" else 0.01)


def test_the_hand_ends_its_lines_in_the_same_way():
    order = order_of(plate(), "isometric", wish=replace(AUTO, ends="slash"))
    assert tasks.verify(order, "f0").holds
    texts = [move.text for move in tasks.plan(order, "f0").plan.moves if move.verb == "head"]
    assert any("45°" in text for text in texts)
