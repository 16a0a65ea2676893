"""Regions, turned words and layers: every writer shows the same."""

import io
import math
import re

import ezdxf
import numpy as np
import pypdfium2
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from shapely import LineString, Point

from holoptic.exchange.dxf import dxf_bytes
from holoptic.exchange.pdf import pdf_bytes
from holoptic.exchange.png import png_bytes
from holoptic.exchange.svg import svg_text
from holoptic.sheet.drawing import Drawing, Hatch, Ink, Region, Words, words_in_plane
from holoptic.sheet.hatching import area_of, hatch_lines
from holoptic.sheet.layers import LAYERS, LayerLook

SQUARE = ((10.0, 10.0), (50.0, 10.0), (50.0, 40.0), (10.0, 40.0))
HOLE = ((25.0, 20.0), (35.0, 20.0), (35.0, 30.0), (25.0, 30.0))
COS30, SIN30 = math.cos(math.radians(30)), 0.5
LEFT, RIGHT, TOP = ((COS30, -SIN30), (0.0, 1.0)), ((COS30, SIN30), (0.0, 1.0)), (
    (COS30, SIN30), (-COS30, SIN30),
)  # fmt: skip
"""The images of one mm across and up on the planes of an isometric cube."""


def page(*, regions=(), inks=(), words=()):
    return Drawing(120.0, 80.0, tuple(inks), tuple(words), "page", tuple(regions))


def grey_at(drawing, x, y):
    """The grey of a PNG page at a place in mm, 0 black to 255 white."""
    image = np.asarray(Image.open(io.BytesIO(png_bytes(drawing, 254))).convert("L"))
    return int(image[image.shape[0] - 1 - round(10 * y), round(10 * x)])


# --- regions ------------------------------------------------------------------------------------


@pytest.mark.parametrize(("tint", "wanted"), [(1.0, 0), (0.5, 128), (0.25, 191)])
def test_a_filled_region_is_filled_but_for_its_island(tint, wanted):
    drawing = page(regions=[Region("visible", (SQUARE, HOLE), tint)])
    assert grey_at(drawing, 15, 15) == pytest.approx(wanted, abs=2)
    assert grey_at(drawing, 30, 25) == 255
    shade = f"{wanted:02x}"
    assert f'fill="#{shade}{shade}{shade}" fill-rule="evenodd"' in svg_text(drawing)
    (hatch,) = ezdxf.read(io.StringIO(dxf_bytes(drawing).decode())).modelspace().query("HATCH")
    assert (hatch.dxf.layer, hatch.dxf.solid_fill, len(hatch.paths)) == ("visible", 1, 2)
    assert hatch.rgb == (wanted, wanted, wanted)


@given(angle=st.floats(-180, 180), pitch=st.floats(0.8, 9), offset=st.floats(-20, 20))
def test_hatch_lines_lie_in_their_region_in_their_pitch(angle, pitch, offset):
    region = Region("hidden", (SQUARE, HOLE), None, Hatch(angle, pitch, offset))
    area = area_of(region)
    assert area.area == pytest.approx(40 * 30 - 10 * 10)
    lines = hatch_lines(region)
    cos, sin = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    for ink in lines:
        (x, y), end = ink.path
        assert ink.pattern == ()
        away = (y * cos - x * sin - offset) / pitch
        assert away == pytest.approx(round(away), abs=1e-6)
        assert area.buffer(1e-6).covers(LineString(ink.path))
        middle = Point((x + end[0]) / 2, (y + end[1]) / 2)
        assert area.buffer(1e-6).covers(middle)
    length = sum(math.dist(*ink.path) for ink in lines)
    assert length * pitch == pytest.approx(area.area, rel=0.5)


def test_a_hatch_is_written_by_all():
    region = Region("visible", (SQUARE, HOLE), None, Hatch(45.0, 3.0, 1.0))
    drawing = page(regions=[region])
    count = len(hatch_lines(region))
    assert svg_text(drawing).count("<polyline") == count > 10
    (hatch,) = ezdxf.read(io.StringIO(dxf_bytes(drawing).decode())).modelspace().query("HATCH")
    (line,) = hatch.pattern.lines
    assert line.angle == 45.0
    assert math.hypot(*line.offset) == pytest.approx(3.0)
    assert -math.sin(math.pi / 4) * line.base_point[0] + math.cos(math.pi / 4) * \
        line.base_point[1] == pytest.approx(1.0)  # fmt: skip
    assert grey_at(drawing, 30, 25) == 255  # the island stays white


def test_a_hatch_needs_a_pitch_and_is_never_endless():
    with pytest.raises(ValueError, match="pitch"):
        hatch_lines(Region("visible", (SQUARE,), None, Hatch(45.0, 0.0)))
    assert len(hatch_lines(Region("visible", (SQUARE,), None, Hatch(45.0, 1e-6)))) < 6000
    assert hatch_lines(Region("visible", (), None, Hatch())) == []


# --- words --------------------------------------------------------------------------------------


@pytest.mark.parametrize("plane", [LEFT, RIGHT, TOP], ids=["left", "right", "top"])
def test_words_lie_in_a_plane_of_a_pictorial(plane):
    words = words_in_plane((40.0, 30.0), "H", 10.0, *plane)
    across, up = words.axes
    # a capital of ten mm on the part: its foot and its head as the plane has them
    assert [words.height * value for value in up] == pytest.approx([10 * v for v in plane[1]])
    # as wide as it is tall in the same proportion as upright words
    assert [words.height * value for value in across] == pytest.approx([10 * v for v in plane[0]])


def test_words_seen_from_behind_are_refused():
    with pytest.raises(ValueError, match="from behind"):
        words_in_plane((0.0, 0.0), "x", 3.0, (-1.0, 0.0), (0.0, 1.0))


@pytest.mark.parametrize("plane", [LEFT, RIGHT, TOP], ids=["left", "right", "top"])
@pytest.mark.parametrize("anchor", ["start", "middle", "end"])
def test_all_writers_put_turned_words_at_the_same_place(plane, anchor):
    words = words_in_plane((60.0, 40.0), "HHH", 6.0, *plane, anchor=anchor)
    drawing = page(words=[words])
    across, up = words.axes
    (matrix,) = re.findall(r"matrix\(([^)]*)\)", svg_text(drawing))
    assert [float(value) for value in matrix.split()] == pytest.approx(
        [across[0], -across[1], -up[0], up[1], 60.0, 40.0], abs=1e-3
    )
    (text,) = ezdxf.read(io.StringIO(dxf_bytes(drawing).decode())).modelspace().query("TEXT")
    turn, lean = math.radians(text.dxf.rotation), math.radians(text.dxf.oblique)
    assert [math.cos(turn) * text.dxf.width, math.sin(turn) * text.dxf.width] == pytest.approx(
        across
    )
    head = math.tan(lean) * np.array([math.cos(turn), math.sin(turn)]) + [
        -math.sin(turn),
        math.cos(turn),
    ]
    assert list(head) == pytest.approx(up)
    # on paper the letters lie about the anchor, along the line
    left, low, right, high = ink_box(drawing)
    begin = {"start": 0.0, "middle": -0.5, "end": -1.0}[anchor]
    long = 3 * 6.0 * 0.75
    reach = [60.0 + across[0] * long * (begin + part) for part in (0.0, 1.0)]
    assert left == pytest.approx(min(reach) + min(0.0, 6.0 * up[0] / 1.0), abs=3.5)
    assert low > 10
    assert high < 70
    assert right - left > 5


def ink_box(drawing):
    """The box about all ink of a PDF page, mm."""
    pdf = pypdfium2.PdfDocument(pdf_bytes(drawing))
    image = np.asarray(pdf[0].render(scale=10 / 72 * 25.4 / 10 * 10).to_pil().convert("L"))
    pdf.close()
    rows, columns = np.nonzero(image < 128)
    scale = image.shape[1] / drawing.width
    return (columns.min() / scale, (image.shape[0] - rows.max()) / scale,
            columns.max() / scale, (image.shape[0] - rows.min()) / scale)  # fmt: skip


# --- layers -------------------------------------------------------------------------------------


def test_a_new_layer_is_one_line(monkeypatch):
    monkeypatch.setitem(LAYERS, "heat", LayerLook("heat", "what glows", 0.4, (2.0, 1.0), 0.2,
                                                  "quiet", 3))  # fmt: skip
    drawing = page(inks=[Ink("heat", ((10.0, 40.0), (110.0, 40.0)))],
                   words=[Words((10.0, 50.0), "glow", layer="heat")])  # fmt: skip
    svg = svg_text(drawing)
    assert '<g id="heat">' in svg
    assert 'stroke="#333333" stroke-width="0.4"' in svg
    assert 'stroke-dasharray="2 1"' in svg
    document = ezdxf.read(io.StringIO(dxf_bytes(drawing).decode()))
    layer = document.layers.get("heat")
    assert (layer.color, layer.description) == (3, "what glows")
    (line,) = document.modelspace().query("LINE")
    assert line.dxf.lineweight == 40
    greys = {grey_at(drawing, 10.5 + step, 40) for step in range(3)}
    assert min(greys) < 90 < max(greys)


def test_every_layer_says_what_it_means_and_how_it_looks():
    assert len({look.meaning for look in LAYERS.values()}) == len(LAYERS)
    for name, look in LAYERS.items():
        assert look.name == name
        assert 0.1 <= look.weight <= 1.0
        assert 0 <= look.grey < 0.8
    document = ezdxf.read(io.StringIO(dxf_bytes(page()).decode()))
    for look in LAYERS.values():
        dashed = document.layers.get(look.name).dxf.linetype != "CONTINUOUS"
        assert dashed == bool(look.dashes)
