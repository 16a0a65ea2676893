"""Round strokes in files are arcs and ellipses, read back by independent readers."""

import io
import math
import re
from xml.etree import ElementTree

import ezdxf
import numpy as np
import pytest
from OCP.BRepCheck import BRepCheck_Analyzer
from pypdf import PdfReader

from cast import crate, hole, picture, stepped_block
from holoptic.cli.main import main
from holoptic.curves.paper_arc import PaperArc
from holoptic.demo import job_path
from holoptic.exchange.dxf import dxf_bytes
from holoptic.exchange.pdf import pdf_bytes
from holoptic.exchange.svg import svg_text
from holoptic.job import LineSchool, TitleBlock
from holoptic.part import Part
from holoptic.sheet import picture_sheet, views_sheet
from holoptic.solid.anatomy.kernel_shapes import volume
from holoptic.solid.making.step import read_solids
from holoptic.views import lay_out, orthographic, view_directions

EYED = Part("eyed plate", crate(61, 47, 15.5), (
    hole("eye", diameter=19, u=26, v=21), hole("pin", diameter=6.5, u=50, v=36, end=7),
))  # fmt: skip
TITLE = TitleBlock("Skerry Lamp Works", "eyed plate")
CHOICES = (
    LineSchool(hidden="dashed"),
    LineSchool(hidden="thin", outline="thick-and-thin", centre_lines=False),
)
SVG = "{http://www.w3.org/2000/svg}"


@pytest.fixture(scope="module", params=["isometric", "cabinet", "plan-oblique"])
def drawn(request, worker):
    return picture(worker, EYED, request.param)[1]


def on_line(path, points, slack):
    """Say whether all points lie within `slack` of a polyline."""
    path = np.array(path)
    starts, steps = path[:-1], np.diff(path, axis=0)
    for point in np.array(points):
        t = ((point - starts) * steps).sum(axis=1) / np.maximum((steps**2).sum(axis=1), 1e-18)
        gaps = starts + np.clip(t, 0, 1)[:, None] * steps - point
        if np.hypot(*gaps.T).min() > slack:
            return False
    return True


def flattened(entity):
    if entity.dxftype() == "LINE":
        points = [entity.dxf.start, entity.dxf.end]
    elif entity.dxftype() == "LWPOLYLINE":
        points = entity.get_points("xy")
        points += points[:1] if entity.closed else []
    else:
        points = list(entity.flattening(0.002))
    return [(p[0], p[1]) for p in points]


def read_dxf(data):
    document = ezdxf.read(io.StringIO(data.decode("utf-8")))
    audit = document.audit()
    assert (audit.errors, audit.fixes) == ([], [])
    return document


@pytest.mark.parametrize("choice", CHOICES, ids=["dashed", "thick and thin"])
def test_dxf_holds_the_strokes_as_what_they_are(drawn, choice):
    sheet = picture_sheet(drawn, TITLE, choice)
    document = read_dxf(dxf_bytes(sheet.drawing))
    assert document.dxfversion == "AC1024"  # R2010
    assert document.units == ezdxf.units.MM
    for layer in ("visible", "hidden", "centre"):
        inks = [ink for ink in sheet.drawing.inks if ink.layer == layer]
        entities = list(document.modelspace().query(f'*[layer=="{layer}"]'))
        assert len(entities) == len(inks)
        for entity, ink in zip(entities, inks, strict=True):
            assert (ink.arc is None) == (entity.dxftype() == "LINE")
            assert on_line(ink.path, flattened(entity), 0.03)
            assert on_line(flattened(entity), ink.path, 0.03)
            assert entity.dxf.lineweight == round(ink.width * 100)
            dashed = entity.dxf.linetype == "BYLAYER" and layer != "visible"
            assert dashed == bool(ink.pattern)
    linetypes = {layer.dxf.name: layer.dxf.linetype for layer in document.layers}
    assert linetypes["hidden"] == "HOLOPTIC_DASHED"
    assert linetypes["centre"] == "HOLOPTIC_CHAIN"


def test_dxf_has_circles_only_where_they_are_seen_true(worker):
    kinds = {"isometric": {"ELLIPSE"}, "plan-oblique": {"CIRCLE", "ARC"}}
    for kind, expected in kinds.items():
        sheet = picture_sheet(picture(worker, EYED, kind)[1], TITLE)
        space = read_dxf(dxf_bytes(sheet.drawing)).modelspace()
        found = {entity.dxftype() for entity in space.query('*[layer=="visible"]')}
        assert found == {"LINE", *expected}
    (ring,) = [c for c in space.query("CIRCLE") if c.dxf.radius > 9 * sheet.scale]
    assert ring.dxf.radius == pytest.approx(9.5 * sheet.scale)


def svg_points(element):
    """Return points along a polyline, or along a path of elliptic arcs (SVG 1.1, F.6.5)."""
    if element.tag == f"{SVG}polyline":
        return [tuple(map(float, pair.split(","))) for pair in element.get("points").split()]
    numbers = [float(n) for n in re.findall(r"-?[\d.]+", element.get("d"))]
    start, points = np.array(numbers[:2]), []
    for i in range(2, len(numbers), 7):
        rx, ry, lean, large, sweep, x, y = numbers[i : i + 7]
        c, s = math.cos(math.radians(lean)), math.sin(math.radians(lean))
        turn = np.array([[c, s], [-s, c]])
        a = turn @ (start - (x, y)) / 2
        root = max(0, (rx * ry) ** 2 / ((rx * a[1]) ** 2 + (ry * a[0]) ** 2) - 1)
        sign = -1 if large == sweep else 1
        middle = sign * math.sqrt(root) * np.array([rx * a[1] / ry, -ry * a[0] / rx])
        first, last = (math.atan2(*((p - middle) / (rx, ry))[::-1]) for p in (a, -a))
        last += math.tau * (sweep and last < first) - math.tau * (not sweep and last > first)
        t = np.linspace(first, last, 40)
        local = middle + np.stack([rx * np.cos(t), ry * np.sin(t)], axis=1)
        points += [tuple(turn.T @ p + (start + np.array([x, y])) / 2) for p in local]
        start = np.array([x, y])
    return points


@pytest.mark.parametrize("choice", CHOICES, ids=["dashed", "thick and thin"])
def test_svg_holds_the_strokes_exactly(drawn, choice):
    sheet = picture_sheet(drawn, TITLE, choice)
    root = ElementTree.fromstring(svg_text(sheet.drawing))
    layers = {group.get("id"): list(group) for group in root.iter(f"{SVG}g")}
    for layer in ("visible", "hidden", "centre"):
        inks = [ink for ink in sheet.drawing.inks if ink.layer == layer]
        assert len(layers.get(layer, ())) == len(inks)
        for element, ink in zip(layers.get(layer, ()), inks, strict=True):
            points = [(x, sheet.drawing.height - y) for x, y in svg_points(element)]
            assert on_line(ink.path, points, 0.03)
            assert on_line(points, ink.path, 0.03)
            assert float(element.get("stroke-width")) == pytest.approx(ink.width)
            assert bool(element.get("stroke-dasharray")) == bool(ink.pattern)


def test_pdf_has_the_weights_and_dashes(drawn):
    sheet = picture_sheet(drawn, TITLE, CHOICES[0])
    page = PdfReader(io.BytesIO(pdf_bytes(sheet.drawing))).pages[0]
    content = page.get_contents().get_data().decode("latin-1")
    weights = {round(float(w) * 25.4 / 72, 3) for w in re.findall(r"([\d.]+) w\b", content)}
    assert weights >= {round(ink.width, 3) for ink in sheet.drawing.inks}
    dashes = re.findall(r"\[([\d. ]*)\] [\d.]+ d\b", content)
    inks = [ink for ink in sheet.drawing.inks if ink.pattern]
    assert sum(bool(pattern.strip()) for pattern in dashes) == len(inks)


def test_paper_arcs_keep_their_points_on_their_axes():
    for a, b, first, last in (
        ((3, 1), (-1, 4), 0.2, 2.0),
        ((3, 1), (1, -4), -1.0, 4.0),
        ((2, 0), (0, 2), 0.0, math.tau),
        ((0, 5), (2, 0), 1.0, 1.5),
    ):
        arc = PaperArc((7.0, -2.0), a, b, first, last)
        turned = arc.on_axes()
        assert turned.a[0] * turned.b[0] + turned.a[1] * turned.b[1] == pytest.approx(0, abs=1e-9)
        assert math.hypot(*turned.a) >= math.hypot(*turned.b) - 1e-12
        ends = {tuple(round(v, 9) for v in arc.at(t)) for t in (first, last)}
        assert {
            tuple(round(v, 9) for v in turned.at(t)) for t in (turned.first, turned.last)
        } == ends
        middle = turned.at((turned.first + turned.last) / 2)
        assert middle == pytest.approx(arc.at((first + last) / 2))


@pytest.mark.parametrize("angle", ["third", "first"])
def test_the_dxf_of_the_views_shows_their_angle(worker, angle):
    seen = worker.ask("look", stepped_block(), view_directions("six"))
    sheet = views_sheet(lay_out(orthographic(seen, "six"), angle), TITLE, angle)
    space = read_dxf(dxf_bytes(sheet.drawing)).modelspace()
    texts = {text.dxf.text for text in space.query("TEXT")}
    assert f"{angle}-angle views" in texts
    symbol = sorted(space.query('LWPOLYLINE[layer=="symbol"]'), key=len, reverse=True)
    middle = [np.mean([p[0] for p in entity.get_points()]) for entity in symbol]
    # the frustum's small end looks left: its end view stands left of it in third angle
    assert (middle[0] < middle[-1]) == (angle == "third")


def test_the_solid_of_a_part_goes_out_and_comes_back(tmp_path, capsys):
    for part, cubic in (("bearing bracket", 56.29), ("latch plate", 42.69)):
        out = tmp_path / "solid.step"
        assert main(["solid", str(job_path()), "--part", part, "--out", str(out), "--force"]) == 0
        (solid,) = read_solids(str(out))
        assert BRepCheck_Analyzer(solid).IsValid()
        assert volume(solid) / 1000 == pytest.approx(cubic, abs=0.05)
        head = out.read_text()[:600]
        assert part in head
        assert str(tmp_path) not in head
    assert main(["solid", str(job_path()), "--out", str(tmp_path / "solid.obj")]) == 2
    assert ".step, .stp" in capsys.readouterr().err
