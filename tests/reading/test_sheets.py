"""Drawings from files: every sort of line, blocks, units, arrangement; damaged ones are refused."""

import math
import random

import ezdxf
import pytest
from bench.fuzz_dxf import mutated

from holoptic.demo import drawing_paths
from holoptic.errors import BadInput
from holoptic.reading.arrangement import arrange
from holoptic.reading.dxf_sheet import read_dxf
from holoptic.reading.lines import Bow, DrawnLine, Free, Straight, mirrored, moved, turned


def saved(tmp_path, draw, units=4):
    document = ezdxf.new("R2010", units=units)
    document.linetypes.add("DASHY", [6.0, 4.0, -2.0], description="________  ________")
    document.layers.add("HIDDEN EDGES", linetype="DASHY")
    draw(document)
    path = tmp_path / "sheet.dxf"
    document.saveas(path)
    return path


def test_every_sort_of_line_is_read(tmp_path):
    def draw(document):
        space = document.modelspace()
        space.add_line((0, 0), (38.5, 0))
        space.add_arc((5, 5), 3.5, 30, 140)
        space.add_circle((12, 5), 2.25)
        space.add_ellipse((20, 5), (4, 0), 0.5)
        space.add_spline([(0, 9), (3, 11), (7, 9), (11, 12)])
        space.add_lwpolyline([(0, 20, 0), (10, 20, 1), (10, 26, 0)], format="xyb")

    lines = read_dxf(saved(tmp_path, draw)).lines
    kinds = [type(line.shape) for line in lines]
    assert (kinds.count(Straight), kinds.count(Bow), kinds.count(Free)) == (2, 3, 2)
    half = next(x.shape for x in lines if isinstance(x.shape, Bow) and x.shape.radius == 3)
    assert half.last - half.first == pytest.approx(math.pi)


def test_blocks_in_blocks_are_taken_apart_and_units_are_kept(tmp_path):
    def draw(document):
        inner = document.blocks.new("inner")
        inner.add_line((0, 0), (1, 0))
        outer = document.blocks.new("outer")
        outer.add_blockref("inner", (2, 0), dxfattribs={"xscale": 2})
        document.modelspace().add_blockref(
            "outer", (0, 1), dxfattribs={"rotation": 90, "layer": "HIDDEN EDGES"}
        )

    (line,) = read_dxf(saved(tmp_path, draw, units=1)).lines
    assert line.status == "hidden"
    assert line.shape.start == pytest.approx((0, 3 * 25.4))
    assert line.shape.end == pytest.approx((0, 5 * 25.4))


def test_lines_are_told_apart_or_said_to_be_unclear(tmp_path):
    def draw(document):
        document.linetypes.add("XQ", [6.0, 4.0, -2.0], description="")
        for layer, linetype in (("0", "CONTINUOUS"), ("HIDDEN EDGES", "BYLAYER"),
                                ("axis", "CONTINUOUS"), ("odd", "XQ")):  # fmt: skip
            document.modelspace().add_line(
                (0, 0), (9, 0), dxfattribs={"layer": layer, "linetype": linetype}
            )

    path = saved(tmp_path, draw)
    sketch = read_dxf(path)
    assert [line.status for line in sketch.lines] == ["visible", "hidden", "centre", "hidden"]
    (odd,) = (group for group in sketch.groups if not group.is_clear)
    assert odd.layer == "odd"
    told = read_dxf(path, {odd.key: "visible"})
    assert [line.status for line in told.lines][-1] == "visible"


def test_lines_are_told_apart_by_colour_where_nothing_else_tells(tmp_path):
    def draw(document):
        space = document.modelspace()
        for layer, colour, count in (("a", 7, 5), ("a", 1, 2), ("a", 3, 1), ("hidden lines", 3, 1)):
            for number in range(count):
                place = 10 * number, 7 * colour
                space.add_line(place, (place[0] + 6, place[1]),
                               dxfattribs={"layer": layer, "color": colour})  # fmt: skip

    groups = {group.key: group for group in read_dxf(saved(tmp_path, draw)).groups}
    told = {(layer, colour): (g.status, g.is_clear) for (layer, _, colour), g in groups.items()}
    assert told == {
        ("a", 7): ("visible", True),  # most of the lines
        ("a", 1): ("hidden", False),  # nobody said: the panel asks
        ("a", 3): ("hidden", True),  # as on the layer that says so
        ("hidden lines", 3): ("hidden", True),
    }


def box(x, y, width, height):
    corners = [(x, y), (x + width, y), (x + width, y + height), (x, y + height)]
    return [DrawnLine(Straight(corners[k - 1], corners[k])) for k in range(4)]


@pytest.mark.parametrize(("places", "angle", "names"), [
    ([(0, 0, 40, 30), (0, 50, 40, 22), (60, 0, 22, 30)], "third", {"front", "top", "right"}),
    ([(0, 0, 40, 30), (0, -50, 40, 22), (-60, 0, 22, 30)], "first", {"front", "top", "right"}),
    ([(0, 0, 40, 30), (0, -50, 40, 22), (60, 0, 22, 30)], "first", {"front", "top", "left"}),
    ([(0, 0, 40, 30), (0.3, 50, 40, 22)], "third", {"front", "top"}),
    ([(0, 0, 40, 30), (60, 0, 30, 22)], "third", {"front", "right"}),
])  # fmt: skip
def test_the_arrangement_is_recognised(places, angle, names):
    found = arrange([line for place in places for line in box(*place)])
    assert found.angle == angle
    assert {view.name for view in found.views} == names
    front = next(view for view in found.views if view.name == "front")
    assert front.box == (0, 0, 40, 30)
    for view in found.drawn_views():
        assert view.box[:2] == pytest.approx((0, 0))
    if places[-1] == (60, 0, 30, 22):  # turned by a quarter
        side = found.drawn_views()[1]
        assert side.box[2:] == pytest.approx((22, 30))


def test_a_view_that_is_called_otherwise_changes_names():
    found = arrange(box(0, 0, 40, 30) + box(0, 50, 40, 22) + box(60, 0, 22, 30))
    renamed = found.renamed(0, "top")
    assert renamed.views[0].name == "top"
    assert sorted(view.name for view in renamed.views) == ["front", "right", "top"]


def test_shapes_turn_and_mirror_and_come_back():
    bow = Bow((3.0, 4.0), 2.5, 0.4, 1.9)
    again = turned(turned(bow, 1), 3)
    assert again.start == pytest.approx(bow.start)
    twice = mirrored(mirrored(bow, True, True), True, True)
    assert twice.end == pytest.approx(bow.end)
    assert mirrored(bow, True, False).start == pytest.approx((-bow.end[0], bow.end[1]))
    assert moved(bow, 1, 2).at(0.7) == pytest.approx((bow.at(0.7)[0] + 1, bow.at(0.7)[1] + 2))


@pytest.mark.parametrize("words", [b"", b"no drawing at all\n", b"\x00\xff" * 300])
def test_what_is_no_drawing_is_refused(tmp_path, words):
    path = tmp_path / "odd.dxf"
    path.write_bytes(words)
    with pytest.raises(BadInput, match=r"odd\.dxf"):
        read_dxf(path)


@pytest.mark.parametrize("seed", range(12))
def test_mutated_drawings_are_read_or_refused(worker, tmp_path, seed):
    path = tmp_path / "mutated.dxf"
    source = drawing_paths()[seed % 2].read_bytes()
    path.write_bytes(mutated(source, random.Random(seed)))
    try:
        sheet = worker.ask("open_sheet", str(path))
        worker.ask("read", tuple(sheet.arrangement.drawn_views()), "x", 2, 4.0)
    except BadInput as error:
        assert "\n" not in str(error)
