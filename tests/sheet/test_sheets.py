"""Papers, scales and placement."""

from pathlib import Path

import pytest
from PIL import ImageFont

import holoptic
from cast import crate, picture, set_up, stepped_block
from holoptic.job import LineSchool, SheetWish, TitleBlock, pose
from holoptic.part import Part
from holoptic.plan.builder import start_on_picture
from holoptic.sheet import picture_item, picture_sheet, views_item
from holoptic.sheet.drawing import Ink, moved, rectangle
from holoptic.sheet.frames import block_rows, border_lines, frame_of, title_words
from holoptic.sheet.papers import PAPERS
from holoptic.sheet.sheets import full_sheet

TITLE = TitleBlock("Skerry Lamp Works", "part")


@pytest.mark.parametrize(
    ("sizes", "paper", "scale"),
    [((84, 46, 37.5), "A4", 1.0), ((11, 8, 4.5), "A4", 10.0), ((190, 140, 61), "A3", 1.0),
     ((420, 310, 95), "A3", 0.5), ((9000, 4000, 2500), "A3", 0.02)],
)  # fmt: skip
def test_a_picture_gets_the_first_paper_that_holds_it(worker, sizes, paper, scale):
    _, drawn = picture(worker, Part("p", crate(*sizes)))
    made = picture_sheet(drawn, TITLE)
    assert (made.paper.name, made.scale) == (paper, scale)
    xs = [x for ink in made.drawing.inks if ink.layer == "visible" for x, _ in ink.path]
    ys = [y for ink in made.drawing.inks if ink.layer == "visible" for _, y in ink.path]
    # centred between border and title block
    assert (min(xs) + max(xs)) / 2 == pytest.approx((28 + made.paper.width - 18) / 2)
    assert (min(ys) + max(ys)) / 2 == pytest.approx((48 + made.paper.height - 18) / 2)


def test_the_plan_starts_where_the_sheet_has_it(worker):
    part = stepped_block()
    seen, drawn = picture(worker, part, "cabinet")
    start = start_on_picture(part, seen.facts, drawn)
    setup, _ = set_up(part, seen.facts, drawn)
    made = picture_sheet(drawn, TITLE)
    on_page = [made.origin[i] + made.scale * start[i] - (20, 10)[i] for i in (0, 1)]
    assert setup.start == pytest.approx(on_page, abs=0.5)
    assert setup.on_sheet([start], start) == (setup.start,)


@pytest.mark.parametrize(
    ("hidden", "count", "dashes"), [("omit", 0, None), ("thin", 3, ()), ("dashed", 3, (3.0, 1.5))]
)
def test_hidden_lines_by_school(worker, hidden, count, dashes):
    _, drawn = picture(worker, Part("p", crate(30, 20, 10)))
    made = picture_sheet(drawn, TITLE, LineSchool(hidden=hidden))
    inks = [ink for ink in made.drawing.inks if ink.layer == "hidden"]
    assert len(inks) == count
    assert all(ink.pattern == dashes for ink in inks)


def test_long_names_shrink_to_their_cells(worker):
    _, drawn = picture(worker, stepped_block())
    title = TitleBlock("Skerry Lamp Works", "the very long name of a part that nobody can shorten")
    made = picture_sheet(drawn, title)
    name = next(words for words in made.drawing.words if words.text == title.part)
    work = next(words for words in made.drawing.words if words.text == title.work)
    assert work.height == 3.0
    assert len(name.text) * name.height * 0.78 <= 77.001


def test_rectangles_close_and_paths_move():
    box = rectangle(0, 0, 4, 3, "border", 0.7)
    assert isinstance(box, Ink)
    assert box.path[0] == box.path[-1]
    assert moved([(1, 2)], (10, 20), 0.5) == ((10.5, 21),)


# --- words on the sheet -------------------------------------------------------------------------


def box_of(words):
    """Where a line of words lies, on the safe side; the base line is lower left."""
    lettering = ImageFont.truetype(str(FONT), 720)
    capital = lettering.getbbox("H")
    wide = lettering.getlength(words.text) * words.height / (capital[3] - capital[1])
    left = words.at[0] - {"start": 0.0, "middle": wide / 2, "end": wide}[words.anchor]
    return left, words.at[1], left + wide, words.at[1] + words.height


FONT = next((Path(holoptic.__file__).parent / "assets" / "fonts").glob("Routed*.ttf"))


@pytest.mark.parametrize("upright", [False, True])
@pytest.mark.parametrize("paper", PAPERS, ids=lambda paper: paper.name)
def test_no_words_run_into_the_title_block_or_over_the_border(paper, upright):
    sheet = paper.turned(upright)
    frame = frame_of(sheet)
    title = TitleBlock("Skerry Lamp Works: harbour lamp", "bearing bracket", "SLW-108",
                       "2026-11-23", "a long name of somebody")  # fmt: skip
    words = title_words(sheet, block_rows(title, "isometric drawing and views", "1:2"))
    block = sheet.width - frame.right - frame.title_width
    for line in words:
        left, low, right, high = box_of(line)
        assert left >= frame.left
        assert frame.low <= low
        assert right <= sheet.width - frame.right
        if line.layer == "check":
            assert right <= block
            assert high <= frame.low + frame.title_height
    notes = " ".join(line.text for line in words if line.layer == "check")
    assert "explains a part" in notes
    assert "Print at 100 %" in notes
    bars = [ink for ink in border_lines(sheet) if ink.layer == "check"]
    top = max(y for ink in bars for _, y in ink.path)
    assert min(box_of(line)[1] for line in words if line.layer == "check") > top


def test_each_view_has_its_own_name_and_drawn_as_reads_plainly(worker):
    part = stepped_block()
    shown = worker.ask("show_views", pose(part))
    _, drawn = picture(worker, part)
    items = [picture_item(drawn, "f1"), views_item(shown.placed, "third", "f2")]
    made = full_sheet(items, TITLE, SheetWish(caption_mm=8.0))
    captions = [words.text for words in made.drawing.words if words.layer == "symbol"]
    assert sorted(captions) == sorted(
        ["isometric drawing", *(view.picture.view.title for view in shown.placed)]
    )
    assert "isometric drawing and views" in [words.text for words in made.drawing.words]
    names = [words for words in made.drawing.words if words.layer == "symbol"]
    boxes = [box_of(words) for words in names]
    for ink in made.drawing.inks:
        if ink.layer == "visible":
            for x, y in ink.path:
                assert not any(a < x < c and b < y < d for a, b, c, d in boxes)
