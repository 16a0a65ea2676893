"""Scans and photos of views: lines found, levels shared, read back; bad pictures refused."""

import math

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from tests.paper.sheets import drawn, scanned

from holoptic import heads
from holoptic.checking.pictures import loading
from holoptic.cli.sources import open_sheet
from holoptic.demo import job_path, views_photo_path
from holoptic.errors import BadInput
from holoptic.exchange.job_file import read_job
from holoptic.foreign import require_readable
from holoptic.paper.axis_levels import Levels
from holoptic.paper.given import Given
from holoptic.paper.opening import Pictured, open_paper
from holoptic.paper.scan.levels import ViewFound, levels_of, likely_roundings, settled
from holoptic.paper.scan.meeting import met
from holoptic.paper.scan.roles import Found
from holoptic.paper.scan.thickness import parted
from holoptic.reading.lines import Bow, Straight


@pytest.fixture(scope="module")
def part():
    return next(p.source for p in read_job(job_path()).parts if p.source.name == "gallery block")


@pytest.fixture(scope="module")
def scan(worker, part, tmp_path_factory):
    return scanned(drawn(worker, part), tmp_path_factory.mktemp("scan") / "views.png")


def lengths(view, status):
    return sum(math.dist(x.shape.start, x.shape.end) for x in view.lines
               if x.status == status and isinstance(x.shape, Straight))  # fmt: skip


def test_a_scan_is_read_to_the_part(worker, part, scan):
    sheet = worker.ask("open_sheet", str(scan))
    assert sheet.picture.has_border
    assert sheet.picture.levels[0].placed == pytest.approx((0, 18, 40.5, 57.5, 70, 84), abs=0.05)
    assert sheet.picture.levels[1].placed == pytest.approx((0, 16, 17, 30, 46), abs=0.05)
    for view in sheet.arrangement.drawn_views():
        meant = next(v for v in worker.ask("derive_views", part) if v.name == view.name)
        for status in ("visible", "hidden"):
            assert lengths(view, status) == pytest.approx(lengths(meant, status), rel=0.02, abs=0.3)
    ways = tuple(tuple(one.drawn_views())
                 for one in (sheet.arrangement, *sheet.picture.others))  # fmt: skip
    found = worker.ask("read_one_of", ways, "views")
    assert found.reading.verdict == "unique"
    assert found.reading.answers[0].part.crate.sizes == pytest.approx((84, 46, 37.5), abs=0.1)


def test_what_is_told_of_a_sheet_counts(worker, scan):
    sizes = Given(sizes=(42.0, 23.0, None))
    halved = worker.ask("open_sheet", str(scan), "third", None, sizes)
    top = next(view for view in halved.arrangement.views if view.name == "top")
    assert (top.box[2] - top.box[0], top.box[3] - top.box[1]) == pytest.approx((42.0, 23.0))
    front = next(view for view in halved.arrangement.views if view.name == "front")
    assert front.box[3] - front.box[1] == pytest.approx(37.5 / 2, abs=0.1)
    level = halved.picture.levels[0].measured[1]
    told = Given(sizes=(84.0, None, None), levels=(((level, 19.0),), (), ()))
    moved = worker.ask("open_sheet", str(scan), "third", None, told)
    assert 19.0 in moved.picture.levels[0].placed
    boxes = tuple(sorted(moved.picture.boxes)[:2])
    two = worker.ask("open_sheet", str(scan), "third", None, Given(boxes=boxes))
    assert len(two.arrangement.views) == 2


def test_the_demo_photo_is_read(worker):
    sheet = worker.ask("open_sheet", str(views_photo_path()))
    assert [round(one.placed[-1]) for one in sheet.picture.levels] == [72, 38, 41]
    assert {view.name for view in sheet.arrangement.views} == {"front", "top", "right"}


def test_a_scan_without_a_border_is_taken_for_the_paper(scan, tmp_path):
    picture = cv2.imread(str(scan), cv2.IMREAD_GRAYSCALE)
    clean = np.full_like(picture, 240)
    clean[480:1150, 560:1850] = picture[480:1150, 560:1850]  # the views alone
    path = tmp_path / "views.png"
    cv2.imwrite(str(path), clean)
    opened = open_paper(path)
    assert isinstance(opened, Pictured)
    assert not opened.flat.has_border
    assert opened.shown[0].levels[0].placed[-1] == pytest.approx(84, abs=0.5)


@pytest.mark.parametrize(("name", "write", "why"), [
    ("half.png", lambda p, s: p.write_bytes(s.read_bytes()[:4000]), "no picture|only a part"),
    ("small.png", lambda p, _: cv2.imwrite(str(p), np.zeros((20, 20), np.uint8)), "too few"),
    ("empty.png", lambda p, _: p.write_bytes(b""), "empty"),
])  # fmt: skip
def test_a_picture_that_shows_no_views_gets_one_line(scan, tmp_path, name, write, why):
    path = tmp_path / name
    write(path, scan)
    with pytest.raises(BadInput, match=why) as told:
        open_paper(path)
    assert "\n" not in str(told.value)


@pytest.mark.parametrize("make", [
    lambda: np.full((900, 1300), 250, np.uint8),
    lambda: np.random.default_rng(1).integers(0, 255, (900, 1300)).astype(np.uint8),
])  # fmt: skip
def test_a_picture_without_views_says_so_and_can_be_told_more(worker, tmp_path, make):
    path = tmp_path / "blank.png"
    cv2.imwrite(str(path), make())
    sheet = worker.ask("open_sheet", str(path))
    assert "view" in sheet.picture.trouble
    assert not sheet.arrangement.views
    with pytest.raises(BadInput, match=r"blank.png: .*view"):
        open_sheet(path, worker)


def grey(scan):
    return Image.open(scan).convert("L")


@pytest.mark.parametrize(
    ("name", "how"),
    [("s.webp", {"lossless": True}), ("s.bmp", {}), ("s.tif", {"compression": "group4"}),
     ("s.tiff", {"compression": "tiff_lzw"}), ("one.png", {})],
)  # fmt: skip
def test_a_scan_is_the_same_in_every_format(scan, tmp_path, name, how):
    image = grey(scan)
    if how.get("compression") == "group4" or name == "one.png":  # black or white, nothing between
        image = image.point(lambda dark: 255 * (dark > 140)).convert("1")
    image.save(tmp_path / name, **how)
    opened = open_paper(tmp_path / name)
    assert isinstance(opened, Pictured)
    assert opened.flat.has_border
    assert opened.shown[0].levels[0].placed == pytest.approx((0, 18, 40.5, 57.5, 70, 84), abs=0.1)


def test_a_page_of_a_tiff_is_chosen_and_what_moves_gives_its_first_picture(scan, tmp_path):
    sheet, blank = grey(scan), Image.new("L", (900, 700), 250)
    blank.save(tmp_path / "pages.tif", save_all=True, append_images=[sheet])
    second = open_paper(tmp_path / "pages.tif", given=Given(page=2))
    assert (second.pages, second.flat.has_border) == (2, True)
    with pytest.raises(BadInput, match="has no page 3: it has 2"):
        open_paper(tmp_path / "pages.tif", given=Given(page=3))
    for name in ("moves.webp", "moves.png"):
        sheet.save(tmp_path / name, save_all=True, append_images=[blank.resize(sheet.size)])
        assert open_paper(tmp_path / name).flat.has_border


def test_a_photo_with_small_pictures_behind_it_is_turned_as_it_says(scan, tmp_path):
    image, turned = grey(scan).resize((900, 640)), Image.Exif()
    turned[0x0112] = 6  # to be turned by a quarter
    image.save(tmp_path / "several.jpg", format="MPO", save_all=True, exif=turned,
               append_images=[image.resize((300, 210))])  # fmt: skip
    image.save(tmp_path / "one.jpg", exif=turned)
    several, one = loading.load(tmp_path / "several.jpg"), loading.load(tmp_path / "one.jpg")
    assert several.shape == one.shape == (900, 640)


@pytest.mark.parametrize("name", ["huge.jpg", "huge.tif", "huge.bmp", "huge.webp"])
def test_what_its_head_says_is_too_large_is_never_decoded(tmp_path, monkeypatch, name):
    Image.new("L", (3000, 2000)).save(tmp_path / name)
    monkeypatch.setattr(heads, "MOST_PIXELS", 5_000_000)
    monkeypatch.setattr(cv2, "imdecode", None)
    for refuses in (loading.load, require_readable):  # the worker, and whoever would ask it
        with pytest.raises(BadInput, match="3000 × 2000 dots are more than can be checked"):
            refuses(tmp_path / name)


@pytest.mark.parametrize(
    ("dpi", "paper", "long"),
    [(300, None, 297.0), (None, None, 297.0), (72, None, 297.0), (300, "A3", 420.0)],
)
def test_a_scan_without_a_border_has_the_size_that_its_dots_say(tmp_path, dpi, paper, long):
    """Where that is a paper, and nobody chose another."""
    wide, high = round(297 / 25.4 * 300), round(210 / 25.4 * 300)
    picture = np.full((high, wide), 250, np.uint8)
    for at in (400, 1900):
        cv2.rectangle(picture, (at, 500), (at + 900, 1400), 20, 6)
    how = {} if dpi is None else {"dpi": (dpi, dpi)}
    Image.fromarray(picture).save(tmp_path / "s.png", **how)
    flat = open_paper(tmp_path / "s.png", given=Given(paper=paper)).flat
    assert flat.size[0] == pytest.approx(long, abs=0.5)


@pytest.mark.parametrize(
    ("dpi", "given", "paper", "size"),
    [
        (150, Given(), "A3", (396.0, 273.0)),
        (150, Given(paper="A2"), "A2", Given(paper="A2").inner()),
        (None, Given(), "A4", Given().inner()),
    ],
)
def test_a_scan_says_which_paper_it_is_and_how_large_its_border(tmp_path, dpi, given, paper, size):
    """Where nobody chose another; without its dots an inch it is the usual paper."""
    per_mm = 150 / 25.4
    picture = np.full((round(297 * per_mm), round(420 * per_mm)), 250, np.uint8)

    def rectangle(x, y, wide, high):
        low, far = (x * per_mm, y * per_mm), ((x + wide) * per_mm, (y + high) * per_mm)
        cv2.rectangle(picture, tuple(map(round, low)), tuple(map(round, far)), 20, 4)

    rectangle(12, 12, 396, 273)  # the same margin all around is another office's habit
    rectangle(60, 70, 80, 50)
    rectangle(60, 150, 80, 40)
    how = {} if dpi is None else {"dpi": (dpi, dpi)}
    Image.fromarray(picture).save(tmp_path / "s.png", **how)
    flat = open_paper(tmp_path / "s.png", given=given).flat
    assert (flat.has_border, flat.paper) == (True, paper)
    assert flat.size == pytest.approx(size, abs=0.5)


@pytest.mark.parametrize("cut", [3, 8, 30, 120])
@pytest.mark.parametrize("name", ["s.webp", "s.tif", "s.bmp", "s.png"])
def test_heads_that_are_cut_off_are_told_in_a_line(scan, tmp_path, name, cut):
    grey(scan).resize((400, 300)).save(tmp_path / name)
    whole = (tmp_path / name).read_bytes()
    (tmp_path / name).write_bytes(whole[: len(whole) // cut])
    with pytest.raises(BadInput, match="no picture that can be read, or only a part of one"):
        loading.load(tmp_path / name)


def test_a_huge_picture_is_refused_unread(tmp_path):
    head = b"\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR" + (40_000).to_bytes(4, "big") * 2
    path = tmp_path / "huge.png"
    path.write_bytes(head + bytes(60))
    with pytest.raises(BadInput, match="more than can be checked"):
        open_paper(path)


@given(st.floats(0.3, 0.8), st.floats(1.45, 2.5), st.integers(0, 10_000))
def test_thick_and_thin_are_parted_and_one_sort_is_not(thick, ratio, seed):
    dice = np.random.default_rng(seed)
    lengths = dice.uniform(3, 60, 24)
    scatter = np.exp(dice.uniform(-0.08, 0.08, 24))
    two = np.where(np.arange(24) % 2, thick, thick / ratio) * scatter
    found = parted(two.tolist(), lengths.tolist())
    assert two[0::2].max() < found.least < two[1::2].min()
    assert parted((thick * scatter).tolist(), lengths.tolist()).least == 0.0


def box_lines(x, y, wide, high, gap):
    """Return a rectangle whose sides end a little beside its corners."""
    sides = []
    for at in (y, y + high):
        sides.append(((x + gap, at), (x + wide - gap, at), 0))
    for at in (x, x + wide):
        sides.append(((at, y + gap), (at, y + high - gap), 1))
    return [Found("visible", Straight(start, end), axis) for start, end, axis in sides]


@given(st.floats(8, 60), st.floats(8, 60), st.floats(-0.9, 0.9))
def test_ends_meet_at_corners(wide, high, gap):
    found = met(box_lines(10, 20, wide, high, gap))
    corners = {(round(x, 6), round(y, 6)) for line in found
               for x, y in (line.shape.start, line.shape.end)}  # fmt: skip
    assert corners == {(round(x, 6), round(y, 6)) for x in (10, 10 + wide) for y in (20, 20 + high)}


def test_a_line_ends_where_it_touches_an_arc():
    bow = Bow((20.0, 10.0), 6.0, -0.3, math.pi + 0.3)
    side = Found("visible", Straight((26.0, 0.0), (26.0, 12.4)), 1)
    arc, line = met([Found("visible", bow), side])
    assert line.shape.end == pytest.approx((26.0, 10.0))
    assert arc.shape.start == pytest.approx((26.0, 10.0), abs=0.01)


def test_levels_are_shared_and_stretched_to_sizes():
    front = ViewFound("front", tuple(box_lines(0, 0, 50.2, 20.1, 0)), (0, 0, 50.2, 20.1))
    top = ViewFound("top", tuple(box_lines(0, 40, 50.0, 30.0, 0)), (0, 40, 50.0, 70.0))
    length, depth, height = levels_of([front, top], (100.0, None, None))
    assert length.placed == pytest.approx((0, 100))
    assert length.measured[-1] == pytest.approx(50.1, abs=0.1)
    assert depth.placed[-1] == pytest.approx(60, abs=0.3)
    assert height.put(20.0) == height.placed[-1]


def test_figures_that_are_whole_halves_or_tenths_are_seen():
    assert likely_roundings([Levels((0.0,), (0.0, 12.49, 20.02, 33.51, 40.0))])[0] == 0.5
    assert likely_roundings([Levels((0.0,), (0.0, 12.301, 20.702, 33.099, 40.0))])[0] == 0.1
    assert likely_roundings([Levels((0.0,), (0.0, 12.337, 20.762, 33.084, 40.0))])[0] == 0.0


def test_circles_agree_with_the_levels_that_they_touch():
    """A slot whose arcs, sides and centre were measured a little differently."""
    sides = [Found("visible", Straight((14.02, y), (30.0, y)), 0) for y in (11.98, 20.03)]
    end = Found("visible", Bow((14.02, 16.01), 4.01, math.pi / 2, 3 * math.pi / 2))
    outline = box_lines(0, 0, 40.0, 30.0, 0)
    front = ViewFound("front", (*outline, *sides, end), (0.0, 0.0, 40.0, 30.0))
    for rounding in (0.0, 0.1):
        levels = levels_of([front], rounding=rounding)
        lines = settled(front, levels)
        bow = next(line.shape for line in lines if isinstance(line.shape, Bow))
        straight = [line.shape for line in lines if isinstance(line.shape, Straight)]
        slot = sorted(one.start[1] for one in straight if 0 < one.start[1] < 30)
        assert [bow.centre[1] - bow.radius, bow.centre[1] + bow.radius] == pytest.approx(
            [slot[0], slot[1]], abs=0.001)  # fmt: skip


@pytest.mark.parametrize("first", [0, 1])
def test_circles_about_one_centre_agree_in_whatever_order_they_were_found(first):
    """The outer one touches the end of the part, which stays; the inner one was measured beside."""
    outer = Found("visible", Bow((13.85, 26.17), 13.85, 0.0, math.pi))
    inner = Found("visible", Bow((13.85, 26.2), 5.8, 0.0, 2 * math.pi))
    outline = [
        Found("visible", Straight(*ends), axis)
        for ends, axis in ((((0.0, 0.0), (0.0, 26.17)), 1), (((27.7, 0.0), (27.7, 26.17)), 1),
                           (((0.0, 0.0), (27.7, 0.0)), 0))
    ]  # fmt: skip
    circles = [outer, inner]
    front = ViewFound("front", (*outline, circles[first], circles[1 - first]),
                      (0.0, 0.0, 27.7, 40.0))  # fmt: skip
    bores = [Found("hidden", Straight((0.0, y), (16.6, y)), 0) for y in (20.35, 31.96)]
    right = ViewFound("right", (*box_lines(0, 0, 16.6, 40.0, 0), *bores), (0.0, 0.0, 16.6, 40.0))
    height = levels_of([front, right], rounding=0.05)[2]
    assert height.placed == pytest.approx((0.0, 20.35, 26.15, 31.95, 40.0), abs=0.001)
