"""Section views: in their place, without hidden lines and turns, with a cutting line elsewhere."""

import io
from dataclasses import replace
from itertools import pairwise

import ezdxf
import pytest
import shapely

from cast import crate, hole, prism
from holoptic.errors import BadInput
from holoptic.exchange.dxf import dxf_bytes
from holoptic.job import (
    AS_FITS,
    VIEW_LINES,
    Figure,
    Orthographic,
    Posed,
    SheetOrder,
    TitleBlock,
    read_sections,
    written_sections,
)
from holoptic.part import Face, Part
from holoptic.worker import tasks

TITLE = TitleBlock("Skerry Lamp Works", "step")


def block():
    outline = [(0, 0), (71, 0), (71, 14), (37, 14), (37, 33), (0, 33)]
    return Part("step", crate(71, 43, 33), (
        prism("step", "add", Face.FRONT, outline), hole("bore", diameter=11, u=19, v=21.5),
        hole("pin 1", diameter=6, u=52, v=11), hole("pin 2", diameter=6, u=63, v=30),
    ), "empty")  # fmt: skip


def order_of(*sections, **changes):
    figure = Figure("f1", "p1", Orthographic(), VIEW_LINES, sections=read_sections(sections))
    return SheetOrder((Posed(replace(figure, **changes), block()),), AS_FITS)


def views_of(*sections):
    posed = order_of(*sections).posed[0]
    return {view.name: view for view in tasks.show_views(posed).placed}


@pytest.mark.parametrize(
    ("section", "name", "line_in", "corners"),
    [
        ("A=through:bore", "front", "top", 2),
        ("A=full:length=52", "right", "top", 2),
        ("A=full:height=7", "top", "front", 2),
        ("A=offset:pin 1,pin 2", "front", "top", 4),
        ("A=half:through=bore", "front", "top", 3),
    ],
)
def test_a_section_stands_in_its_place_and_another_view_says_where(
    section, name, line_in, corners
):  # fmt: skip
    views = views_of(section)
    picture = views[name].picture
    assert picture.view.title == "A–A"
    assert picture.regions
    assert not picture.of_role("hidden")
    for other, view in views.items():
        assert bool(view.picture.regions) == (other == name)
        assert len(view.picture.marks) == (other == line_in)
    (mark,) = views[line_in].picture.marks
    assert (mark.letter, len(mark.path)) == ("A", corners)
    low_x, low_y, high_x, high_y = views[line_in].picture.extent
    for x, y in (mark.path[0], mark.path[-1]):
        assert not (low_x < x < high_x and low_y < y < high_y)


def test_the_area_of_a_section_is_that_of_the_part_there():
    (region,) = views_of("A=full:length=52")["right"].picture.regions[:1]
    total = sum(r.area for r in views_of("A=full:length=52")["right"].picture.regions)
    assert total == pytest.approx((43 - 6) * 14)
    assert region.angle_deg in (45.0, 135.0)


def test_where_a_plane_turns_no_line_is_drawn():
    picture = views_of("A=offset:pin 1,pin 2")["front"].picture
    upright = [s.path for s in picture.visible
               if s.is_straight and abs(s.path[0][0] - s.path[-1][0]) < 1e-6]  # fmt: skip
    assert all(abs(path[0][0] - 57.5) > 0.01 for path in upright)


def test_two_sections_of_one_view_stand_side_by_side_and_keep_clear():
    views = views_of("A=through:bore", "B=full:depth=30")
    assert set(views) == {"front", "top", "right", "section 1"}
    boxes = sorted(view.extent for name, view in views.items() if name != "top")
    assert all(one[2] < other[0] for one, other in pairwise(boxes))
    assert [mark.letter for mark in views["top"].picture.marks] == ["A", "B"]


@pytest.mark.parametrize("angle", ["third", "first"])
def test_the_sheet_has_hatch_arrows_letters_and_the_name(angle):
    order = replace(order_of("A=full:length=52"), angle=angle)
    page = tasks.sheet(order, TITLE).pages[0]
    assert sum(region.hatch is not None for region in page.regions) == 2
    words = [w.text for w in page.words if w.layer == "section"]
    assert sorted(words) == ["A", "A", "A–A"]
    chain = [ink for ink in page.inks if ink.layer == "section" and ink.dashes is None]
    assert any(len(ink.path) == 2 and ink.weight is None for ink in chain)
    drawing = ezdxf.read(io.StringIO(dxf_bytes(page).decode("utf-8")))
    assert not drawing.audit().errors
    hatches = [h for h in drawing.modelspace().query("HATCH") if h.dxf.layer == "hatch"]
    assert len(hatches) == 2
    assert all(len(h.pattern.lines) == 1 for h in hatches)


@pytest.mark.parametrize(
    "sections",
    [("A=through:bore",), ("A=half:through=bore", "B=full:length=52"),
     ("A=offset:pin 1,pin 2",), ("A=through:bore", "B=full:depth=30")],
)  # fmt: skip
def test_the_drafter_draws_sections_with_their_cutting_lines(sections):
    order = order_of(*sections)
    assert tasks.verify(order, "f1").holds
    plan = tasks.plan(order, "f1").plan
    names = [phase for phase, _, _ in plan.phases]
    assert names[-2:] == ["hatching", "cutting lines"]
    assert len(plan.setup.finish.cutting_lines) == len(sections)
    # each line of a hatch ends at firm lines of its view, as that stands on the board
    drafted = tasks.plan(order, "f1").drafted
    firm = shapely.union_all([shapely.LineString(path) for name, path in drafted.strokes.items()
                              if "hatch" not in name and len(path) > 1])  # fmt: skip
    lines = [path for name, path in drafted.strokes.items() if "hatch" in name]
    assert lines
    if any("offset" in section for section in sections):
        return  # where its plane turns no line is drawn, and the hatch runs on
    assert all(firm.distance(shapely.Point(end)) < 0.02 for path in lines for end in path)


def test_what_is_broken_out_is_seen_with_its_border_in_the_view_of_its_face():
    views = views_of("A=broken:face=front,deep=6,outline=40 2/66 2/66 11/40 11")
    picture = views["front"].picture
    (region,) = picture.regions
    assert region.area == pytest.approx(26 * 9)
    border = shapely.box(40, 2, 66, 11).exterior
    drawn = shapely.union_all([shapely.LineString(s.path) for s in picture.visible])
    assert border.difference(drawn.buffer(0.01)).length < 0.1
    assert not any(view.picture.marks for view in views.values())
    assert views_of("A=broken:face=top,deep=3,outline=2 2/9 2/9 9")["top"].picture.regions
    with pytest.raises(BadInput, match="break it out of front"):
        tasks.require_cuts(order_of("A=broken:face=left,deep=3,outline=2 2/9 2/9 9"))


def test_sections_that_cannot_be_are_told_and_the_views_stay_whole():
    order = order_of("A=full:depth=99", "B=through:bore")
    planned = tasks.sheet(order, TITLE)
    assert len(planned.troubles) == 1
    assert planned.troubles[0].startswith("section A: the plane at depth 99 misses it")
    assert {p.view.title for p, _ in planned.items[0].pictures} >= {"B–B"}
    with pytest.raises(BadInput, match="section A"):
        tasks.require_cuts(order)
    lean = order_of("A=plane:face=top,in=9,turn=20")
    with pytest.raises(BadInput, match="no view shows this cut true"):
        tasks.require_cuts(lean)


def test_sections_are_written_as_they_are_read():
    texts = ("A=through:bore,pin 1", "B=half;plain=rib")
    assert written_sections(read_sections(texts)) == texts
    for wrong, why in ((("half",), "write it like"), (("A=half", "a=half"), "two sections A"),
                       (("AB=half",), "write it like")):  # fmt: skip
        with pytest.raises(BadInput, match=why):
            read_sections(wrong)
