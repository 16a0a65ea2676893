"""Papers, scales and placement."""

import pytest

from cast import crate, picture, set_up, stepped_block
from holoptic.job import Choice
from holoptic.part import Part
from holoptic.plan.builder import start_on_picture
from holoptic.sheet import TitleBlock, picture_sheet
from holoptic.sheet.drawing import Ink, moved, rectangle

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
    made = picture_sheet(drawn, TITLE, Choice(hidden=hidden))
    inks = [ink for ink in made.drawing.inks if ink.layer == "hidden"]
    assert len(inks) == count
    assert all(ink.dashes == dashes for ink in inks)


def test_long_names_shrink_to_their_cells(worker):
    _, drawn = picture(worker, stepped_block())
    title = TitleBlock("Skerry Lamp Works", "the very long name of a part that nobody can shorten")
    made = picture_sheet(drawn, title)
    name = next(words for words in made.drawing.words if words.text == title.part)
    work = next(words for words in made.drawing.words if words.text == title.work)
    assert work.height == 3.5
    assert len(name.text) * name.height * 0.78 <= 77.001


def test_rectangles_close_and_paths_move():
    box = rectangle(0, 0, 4, 3, "border", 0.7)
    assert isinstance(box, Ink)
    assert box.path[0] == box.path[-1]
    assert moved([(1, 2)], (10, 20), 0.5) == ((10.5, 21),)
