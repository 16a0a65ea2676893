"""Exported files are true to scale, read back by independent readers."""

import io
import json
import re
from dataclasses import replace
from xml.etree import ElementTree

import pypdfium2
import pytest
from PIL import Image
from pypdf import PdfReader

from cast import crate, hole, intended_of, picture, set_up, stepped_block
from holoptic.errors import BadInput
from holoptic.exchange.pdf import pdf_bytes
from holoptic.exchange.pictorial_json import pictorial_json
from holoptic.exchange.plan_files import plan_csv, plan_json, plan_text
from holoptic.exchange.png import png_bytes
from holoptic.exchange.svg import svg_text
from holoptic.job import LineSchool, TitleBlock
from holoptic.part import Part
from holoptic.plan import make_plan
from holoptic.sheet import picture_sheet, views_sheet
from holoptic.sheet.papers import scale_words
from holoptic.views import lay_out, orthographic, view_directions

TITLE = TitleBlock("Skerry Lamp Works", "stepped block", "SLW-900", "2026-11-23")
POINTS_PER_MM = 72 / 25.4
SVG = "{http://www.w3.org/2000/svg}"


@pytest.fixture(scope="module")
def sheet(worker):
    return picture_sheet(picture(worker, stepped_block())[1], TITLE, LineSchool(hidden="dashed"))


def pdf_lines(data):
    """Return the straight lines of a PDF page in mm, read from its content stream."""
    content = PdfReader(io.BytesIO(data)).pages[0].get_contents().get_data().decode("latin-1")
    number = r"(-?[\d.]+)"
    found = re.findall(rf"{number} {number} ([ml])\b", content)
    lines, last = [], None
    for x, y, action in found:
        point = float(x) / POINTS_PER_MM, float(y) / POINTS_PER_MM
        if action == "l":
            lines.append((last, point))
        last = point
    return lines


def test_the_pdf_page_is_as_large_as_its_paper(sheet):
    page = PdfReader(io.BytesIO(pdf_bytes(sheet.drawing))).pages[0]
    size = [float(value) / POINTS_PER_MM for value in page.mediabox[2:]]
    assert size == pytest.approx([297, 210], abs=0.05)


def test_pdf_lines_lie_where_they_must(sheet):
    lines = pdf_lines(pdf_bytes(sheet.drawing))
    expected = [
        (a, b) for ink in sheet.drawing.inks for a, b in zip(ink.path, ink.path[1:], strict=False)
    ]
    assert len(lines) == len(expected)
    for got, wanted in zip(lines, expected, strict=True):
        for point, target in zip(got, wanted, strict=True):
            assert point == pytest.approx(target, abs=0.05)


def test_the_check_bar_is_50_mm(sheet):
    (bar,) = [i for i in sheet.drawing.inks if i.layer == "check" and i.path[0][1] == i.path[1][1]]
    assert bar.path[1][0] - bar.path[0][0] == 50
    assert any(
        b[0] - a[0] == pytest.approx(50, abs=0.01) and a[1] == pytest.approx(bar.path[0][1])
        for a, b in pdf_lines(pdf_bytes(sheet.drawing))
    )


def test_the_picture_is_true_to_scale_and_inside_the_border(sheet):
    inks = [ink for ink in sheet.drawing.inks if ink.layer == "visible"]
    upright = [i for i in inks if i.path[0][0] == pytest.approx(i.path[1][0])]
    lengths = {round(abs(i.path[0][1] - i.path[1][1]), 6) for i in upright}
    assert {37.5, 17.5, 20.0} <= {round(length / sheet.scale, 6) for length in lengths}
    for ink in inks:
        assert all(20 < x < 287 and 40 < y < 200 for x, y in ink.path)


def test_a_large_part_is_reduced_by_a_standard_scale(worker):
    drawn = picture(worker, Part("pier", crate(2400, 900, 750)))[1]
    made = picture_sheet(drawn, TITLE)
    assert (made.paper.name, scale_words(made.scale)) == ("A4", "1:20")
    setup, paper = set_up(Part("pier", crate(2400, 900, 750)), _facts(worker), drawn)
    assert (paper, setup.scale) == (made.paper, made.scale)


def _facts(worker):
    return picture(worker, Part("pier", crate(2400, 900, 750)))[0].facts


def test_svg_has_layers_and_true_size(sheet):
    root = ElementTree.fromstring(svg_text(sheet.drawing))
    assert (root.get("width"), root.get("height")) == ("297mm", "210mm")
    assert root.get("viewBox") == "0 0 297 210"
    layers = {group.get("id"): group for group in root.iter(f"{SVG}g")}
    assert {"border", "visible", "hidden", "title", "check"} <= set(layers)
    drawn = [i for i in sheet.drawing.inks if i.layer == "visible"]
    lines = layers["visible"].findall(f"{SVG}polyline")
    assert len(lines) == len(drawn)
    for line, ink in zip(lines, drawn, strict=True):
        points = [tuple(map(float, pair.split(","))) for pair in line.get("points").split()]
        for (x, y), (u, v) in zip(points, ink.path, strict=True):
            assert (x, 210 - y) == pytest.approx((u, v), abs=1e-3)


def test_names_cannot_break_the_svg(worker):
    title = TitleBlock('<&">', "</svg>", "]]>", "")
    made = picture_sheet(picture(worker, stepped_block())[1], title)
    text = "".join(ElementTree.fromstring(svg_text(made.drawing)).itertext())
    assert '<&">' in text
    assert "</svg>" in text


def test_png_shows_the_page_with_its_resolution(sheet):
    image = Image.open(io.BytesIO(png_bytes(sheet.drawing, 100)))
    assert image.size == pytest.approx((297 / 25.4 * 100, 210 / 25.4 * 100), abs=1.5)
    assert image.info["dpi"] == pytest.approx((100, 100), abs=0.1)
    assert image.convert("L").getextrema() == (0, 255)


def test_the_page_says_the_title_and_the_cautions(sheet):
    page = pypdfium2.PdfDocument(pdf_bytes(sheet.drawing))[0]
    text = page.get_textpage().get_text_range()
    for words in ("Skerry Lamp Works", "stepped block", "SLW-900", "isometric drawing",
                  "A pictorial explains a part", "must measure 50 mm"):  # fmt: skip
        assert words in text


def test_the_views_sheet_states_its_angle(worker):
    seen = worker.ask("look", stepped_block(), view_directions())
    made = views_sheet(lay_out(orthographic(seen)), TITLE)
    assert any(words.text == "third-angle views" for words in made.drawing.words)
    assert any(ink.layer == "symbol" for ink in made.drawing.inks)


def test_a_part_too_large_for_any_paper_is_refused(worker):
    drawn = picture(worker, Part("island", crate(99999, 99999, 99999)))[1]
    wide = type(drawn)(drawn.view, drawn.strokes)
    made = picture_sheet(wide, TITLE)
    assert scale_words(made.scale) == "1:1000"
    huge = picture(worker, Part("island", crate(1e5, 1e5, 1e5)))[1]
    nine_times = tuple(tuple(9 * value for value in row) for row in huge.view.matrix)
    strokes = tuple(replace(stroke, matrix=nine_times) for stroke in huge.strokes)
    with pytest.raises(BadInput, match="too large"):
        picture_sheet(type(huge)(replace(huge.view, matrix=nine_times), strokes), TITLE)


def test_pictorial_json_holds_the_contract(worker):
    part = Part("plate", crate(60, 50, 6), (hole("eye", diameter=17, u=30, v=20),))
    _, drawn = picture(worker, part)
    content = json.loads(pictorial_json(drawn, part))
    assert (content["format"], content["version"], content["units"]) == (
        "holoptic-pictorial", 1, "mm",
    )  # fmt: skip
    assert content["kind"] == "isometric"
    assert content["toward_viewer"] == [1, -1, 1]
    assert content["extent"] == pytest.approx(drawn.extent)
    assert {stroke["role"] for stroke in content["strokes"]} == {"visible", "hidden", "centre"}
    (row_x, row_y) = content["matrix"]
    for stroke in content["strokes"]:
        curve = stroke["curve"]
        if curve["type"] == "line":
            for point, (x, y) in zip((curve["start"], curve["end"]), stroke["path"], strict=True):
                assert sum(a * b for a, b in zip(row_x, point, strict=True)) == pytest.approx(x)
                assert sum(a * b for a, b in zip(row_y, point, strict=True)) == pytest.approx(y)
        else:
            assert (curve["type"], curve["radius"]) == ("circle", 8.5)
            assert stroke["source"] == {"part": "plate", "operation": "eye",
                                        "edge": stroke["source"]["edge"]}  # fmt: skip


def test_plan_files_say_the_same_moves(worker):
    part = stepped_block()
    seen, drawn = picture(worker, part)
    setup, paper = set_up(part, seen.facts, drawn)
    assert all(value == round(value) for value in setup.start)
    plan = make_plan(intended_of(part, seen.facts, drawn, setup.scale), setup)
    content = json.loads(plan_json(plan, drawn, part, paper))
    assert (content["format"], content["version"]) == ("holoptic-plan", 1)
    keys = {"n", "verb", "instrument", "setting_mm", "angle_deg", "uses", "makes", "text", "source"}
    assert all(keys <= set(move) for move in content["moves"])
    lifted = next(move for move in content["moves"] if move["source"])
    assert lifted["source"] == {
        "view": "front", "from": [84, 0], "to": [84, 37.5], "true_mm": 37.5, "sum": "37.5",
    }  # fmt: skip
    assert len(plan_csv(plan).splitlines()) == len(plan.moves) + 1
    page = plan_text(plan, drawn, part, paper)
    assert all(move.text in page for move in plan.moves)
    assert "cap them" in page
