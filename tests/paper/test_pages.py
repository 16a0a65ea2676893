"""Views on pages of lines, PDF and SVG: read as exactly as from DXF; hostile ones are refused."""

import math
import random

import pytest
from bench.paper.pages import HABITS, pdf_bytes, svg_bytes
from bench.paper.printing import print_views
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader, PdfWriter
from tests.paper.sheets import drawn, written

from holoptic.demo import drawing_paths, job_path
from holoptic.errors import BadInput
from holoptic.exchange.job_file import read_job
from holoptic.paper.figures import length_of
from holoptic.paper.given import Given
from holoptic.paper.opening import Opened, open_paper
from holoptic.paper.vector.beziers import shapes_of
from holoptic.paper.vector.dashes import joined
from holoptic.paper.vector.page import Look, Stroke
from holoptic.reading.lines import Bow, Straight


@pytest.fixture(scope="module")
def part():
    return next(p.source for p in read_job(job_path()).parts if p.source.name == "gallery block")


def printed(worker, part, seed=1):
    return print_views(worker.ask("derive_views", part)[:3], random.Random(seed))


@pytest.mark.parametrize("suffix", [".pdf", ".svg"])
def test_the_own_sheet_of_views_is_read_back(worker, part, tmp_path, suffix):
    path = written(drawn(worker, part), tmp_path / f"views{suffix}")
    sheet = worker.ask("open_sheet", str(path))
    assert {view.name for view in sheet.arrangement.views} == {"front", "top", "right"}
    reading = worker.ask("read", tuple(sheet.arrangement.drawn_views()), "views")
    assert reading.verdict == "unique"
    assert reading.answers[0].part.crate.sizes == pytest.approx((84.0, 46.0, 37.5))


@pytest.mark.parametrize("habit", HABITS)
@pytest.mark.parametrize("make", [pdf_bytes, svg_bytes])
def test_lines_are_told_apart_whatever_the_habit(worker, part, tmp_path, habit, make):
    page = printed(worker, part)
    path = tmp_path / ("views.pdf" if make is pdf_bytes else "views.svg")
    path.write_bytes(make(page, habit, random.Random(2)))
    opened = open_paper(path)
    assert isinstance(opened, Opened)
    sheet = worker.ask("open_sheet", str(path), page.angle)
    told = worker.ask("derive_views", part)
    for view in sheet.arrangement.drawn_views():
        meant = next(one for one in told if one.name == view.name)
        for status in ("visible", "hidden"):
            lengths = [sum(math.dist(x.shape.start, x.shape.end) for x in one.lines
                           if x.status == status) for one in (view, meant)]  # fmt: skip
            assert lengths[0] == pytest.approx(lengths[1], abs=0.05)


def test_the_figures_tell_the_scale(worker, part, tmp_path):
    page = printed(worker, part)
    half = tmp_path / "half.svg"
    words = svg_bytes(page, HABITS[0], random.Random(2)).decode()
    wide, high = page.size
    half.write_text(words.replace(f'width="{wide}mm" height="{high}mm"',
                                  f'width="{wide / 2}mm" height="{high / 2}mm"'))  # fmt: skip
    sketch = open_paper(half).sketch
    assert sketch.unit_is_given
    assert sorted({size.written for size in sketch.sizes}) == pytest.approx(
        sorted({size.drawn for size in sketch.sizes}), abs=0.02)  # fmt: skip
    assert {37.5, 46.0, 84.0} <= {size.written for size in sketch.sizes}


def test_a_size_that_is_given_scales_the_views(worker, part, tmp_path):
    path = written(drawn(worker, part), tmp_path / "views.pdf")
    given = Given(sizes=(None, 92.0, None))
    sheet = worker.ask("open_sheet", str(path), "third", None, given)
    top = next(view for view in sheet.arrangement.views if view.name == "top")
    assert top.box[3] - top.box[1] == pytest.approx(92.0, abs=0.01)
    assert top.box[2] - top.box[0] == pytest.approx(168.0, abs=0.02)


def test_a_turned_page_lies_upright_and_pages_are_chosen(worker, part, tmp_path):
    path = written(drawn(worker, part), tmp_path / "views.pdf")
    writer = PdfWriter()
    writer.add_blank_page(300, 200)
    for turn in (0, 90, 270):
        page = PdfReader(path).pages[0]
        writer.add_page(page)
        writer.pages[-1].rotate(turn)
    many = tmp_path / "many.pdf"
    writer.write(many)
    upright = open_paper(many, given=Given(page=2))
    assert upright.pages == 4
    for number, quarters in ((3, 90), (4, 270)):
        turned = open_paper(many, given=Given(page=number)).sketch
        assert len(turned.lines) == len(upright.sketch.lines), quarters
    with pytest.raises(BadInput, match="no page 9"):
        open_paper(many, given=Given(page=9))


@given(st.floats(1, 80), st.floats(0, 6.2), st.floats(0.2, 6.2), st.integers(1, 4))
def test_cubics_of_one_circle_are_one_arc(radius, first, turn, most):
    count = max(most, math.ceil(turn / (math.pi / 2)))
    step = turn / count
    handle = 4 / 3 * math.tan(step / 4) * radius
    run = []
    for k in range(count):
        a, b = first + k * step, first + (k + 1) * step
        on = [(30 + radius * math.cos(t), 20 + radius * math.sin(t)) for t in (a, b)]
        out = on[0][0] - handle * math.sin(a), on[0][1] + handle * math.cos(a)
        back = on[1][0] + handle * math.sin(b), on[1][1] - handle * math.cos(b)
        run.append((on[0], out, back, on[1]))
    (bow,) = shapes_of(run)
    assert isinstance(bow, Bow)
    assert bow.centre == pytest.approx((30, 20), abs=0.003 * radius + 0.01)
    assert bow.radius == pytest.approx(radius, rel=0.003)
    assert bow.last - bow.first == pytest.approx(turn, abs=0.02)


def test_dashes_are_joined_and_edges_in_one_line_are_not():
    look = Look(0.3)
    dashes = [Stroke(Straight((x, 5.0), (x + 3.0, 5.0)), look) for x in (0.0, 4.2, 8.4, 12.6)]
    teeth = [Stroke(Straight((x, 12.0), (x + 3.0, 12.0)), look) for x in (0.0, 4.2, 8.4)]
    sides = [Stroke(Straight((x, 12.0), (x, 16.0)), look) for x in (0.0, 3.0, 4.2, 7.2, 8.4, 11.4)]
    found = joined([*dashes, *teeth, *sides])
    (line,) = [stroke for stroke in found if stroke.look.dashes]
    assert {line.shape.start, line.shape.end} == {(0.0, 5.0), (15.6, 5.0)}
    assert sum(not stroke.look.dashes for stroke in found) == len(teeth) + len(sides)


@pytest.mark.parametrize(("text", "length"), [
    ("26.5", 26.5), ("26,5", 26.5), ("(84)", 84.0), ("84 mm", 84.0), ("R21", None), ("A-A", None),
    ("SLW-114", None), ("", None),
])  # fmt: skip
def test_lengths_are_read_in_words(text, length):
    assert length_of(text) == length


BOMB = (
    '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"><defs>'
    + "".join(f'<g id="a{k + 1}">' + f'<use xlink:href="#a{k}"/>' * 10 + "</g>" for k in range(9))
    + '<line id="a0" x2="9" stroke="black"/></defs><use xlink:href="#a9"/></svg>'
)
ENTITIES = '<!DOCTYPE svg [<!ENTITY a "aa">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>'
SELF = '<svg xmlns="http://www.w3.org/2000/svg"><g id="a"><use href="#a"/></g></svg>'


@pytest.mark.parametrize(("name", "data", "why"), [
    ("bomb.svg", BOMB, "more than"), ("self.svg", SELF, "more than"),
    ("words.svg", ENTITIES, "plain SVG"), ("half.svg", "<svg><g>", "sound SVG"),
    ("none.svg", "<svg xmlns='http://www.w3.org/2000/svg'/>", "holds no lines"),
    ("other.svg", "<html/>", "not an SVG"), ("none.pdf", "words", "not a PDF"),
    ("half.pdf", "%PDF-1.7\n1 0 obj", "sound PDF"), ("views.txt", "words", "views are read from"),
])  # fmt: skip
def test_a_file_that_is_no_sheet_gets_one_line(tmp_path, name, data, why):
    path = tmp_path / name
    path.write_text(data)
    with pytest.raises(BadInput, match=why) as told:
        open_paper(path)
    assert "\n" not in str(told.value)


def test_a_locked_file_says_so(worker, part, tmp_path):
    writer = PdfWriter(clone_from=written(drawn(worker, part), tmp_path / "views.pdf"))
    writer.encrypt("oil", algorithm="RC4-128")
    path = tmp_path / "locked.pdf"
    writer.write(path)
    with pytest.raises(BadInput, match="password"):
        open_paper(path)


def test_a_line_drawn_twice_leaves_the_longer_one(worker):
    """A short piece on a long line goes; the long line stays."""
    views = worker.ask("open_sheet", str(drawing_paths()[0])).arrangement.drawn_views()
    front = views[0]
    long = max((x for x in front.lines if isinstance(x.shape, Straight)),
               key=lambda x: math.dist(x.shape.start, x.shape.end))  # fmt: skip
    (x, y), (u, v) = long.shape.start, long.shape.end
    piece = type(long)(Straight((x, y), (x + (u - x) / 4, y + (v - y) / 4)), long.status)
    doubled = type(front)(front.name, (long, piece, *(o for o in front.lines if o is not long)))
    mended = worker.ask("mend_views", [doubled, *views[1:]])[0]
    lengths = sorted(math.dist(o.shape.start, o.shape.end) for o in mended.lines
                     if isinstance(o.shape, Straight))  # fmt: skip
    assert lengths[-1] == pytest.approx(math.dist(long.shape.start, long.shape.end), abs=0.01)
    assert len(mended.lines) == len(front.lines)
