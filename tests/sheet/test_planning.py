"""Planning the sheet: what fits where, and what is said where nothing does."""

import itertools
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic import regional
from holoptic.errors import BadInput
from holoptic.job import SheetWish
from holoptic.sheet.drawing import Ink
from holoptic.sheet.frames import drawing_area, frame_of
from holoptic.sheet.papers import (
    PAPERS,
    paper_named,
    read_scale,
    scale_words,
    scales_of,
    shown_scale,
)
from holoptic.sheet.planning import (
    Item,
    accepted,
    best_layout,
    plan_sheet,
    require_sound,
)
from holoptic.sheet.underlay import underlay

sizes = st.tuples(st.floats(3, 900), st.floats(3, 700))


def items_of(*wanted, low=(-20.0, 7.0)):
    return [
        Item(f"drawing {k}", "", (*low, low[0] + width, low[1] + height), ())
        for k, (width, height) in enumerate(wanted)
    ]


@given(wanted=st.lists(sizes, min_size=1, max_size=4), margin=st.floats(0, 20),
       room=st.sampled_from([0.0, 12.0]), caption=st.sampled_from([0.0, 9.0]))  # fmt: skip
def test_drawings_keep_the_margins_and_the_gaps_are_even(wanted, margin, room, caption):
    wish = SheetWish(margin_mm=margin, dimensions_mm=room, caption_mm=caption)
    layouts, misfit = plan_sheet(items_of(*wanted), wish)
    assert misfit is None
    for layout in layouts:
        left, low, right, high = drawing_area(layout.paper)
        blocks = [
            (p.extent[0] - room, p.extent[1] - room - caption, p.extent[2] + room,
             p.extent[3] + room)
            for p in layout.placed
        ]  # fmt: skip
        least = layout.gap
        assert least >= margin - 1e-6
        for box in blocks:
            assert min(box[0] - left, right - box[2], box[1] - low, high - box[3]) >= least - 1e-6
        for one, two in itertools.combinations(blocks, 2):
            apart = max(two[0] - one[2], one[0] - two[2], two[1] - one[3], one[1] - two[3])
            assert apart >= least - 1e-6
        for placed, (width, height) in zip(layout.placed, wanted, strict=True):
            xmin, ymin, xmax, ymax = placed.extent
            assert xmax - xmin == pytest.approx(layout.scale * width)
            assert ymax - ymin == pytest.approx(layout.scale * height)
            # the drawing's own origin lies where its extent says
            assert placed.origin[0] + layout.scale * -20.0 == pytest.approx(xmin)


def test_a_single_drawing_is_centred_in_what_is_left():
    layout = best_layout(items_of((96, 96)), SheetWish())
    left, low, right, high = drawing_area(layout.paper)
    xmin, ymin, xmax, ymax = layout.placed[0].extent
    assert xmin - left == pytest.approx(right - xmax)
    assert ymin - low == pytest.approx(high - ymax)


def test_several_drawings_stand_in_order_with_equal_gaps():
    layout = best_layout(items_of((100, 80), (70, 50), (60, 90)), SheetWish(paper="A3"))
    (a, b, c), (left, _, right, _) = layout.placed, drawing_area(layout.paper)
    gaps = [a.extent[0] - left, b.extent[0] - a.extent[2], c.extent[0] - b.extent[2],
            right - c.extent[2]]  # fmt: skip
    assert max(gaps) - min(gaps) < 1e-9


def test_the_first_answer_is_a_drafters_own():
    first = [(112, 102), (16, 14), (286, 226), (632, 460)]
    chosen = [best_layout(items_of(size), SheetWish()) for size in first]
    assert [(layout.paper.name, layout.scale) for layout in chosen] == [
        ("A4", 1.0), ("A4", 10.0), ("A3", 1.0), ("A3", 0.5),
    ]  # fmt: skip


def test_an_answer_that_is_accepted_stays_the_answer():
    items, wish = items_of((150, 120)), SheetWish(margin_mm=5)
    layouts, _ = plan_sheet(items, wish)
    assert len(layouts) == 5
    for layout in layouts:
        taken = accepted(wish, layout)
        assert plan_sheet(items, taken)[0] == (layout,)
        assert taken.margin_mm == 5


def test_what_does_not_fit_is_said_with_the_ways_out():
    items = items_of((150, 160), (120, 90))
    wish = SheetWish(paper="A4", upright=False, scale=1.0, dimensions_mm=10)
    layouts, misfit = plan_sheet(items, wish)
    assert "will not fit on A4 at 1:1" in misfit.trouble
    words = [way.words for way in misfit.ways_out]
    assert "another scale on this paper" in words
    assert "another paper at this scale" in words
    assert len(layouts) == len(words)
    for way, layout in zip(misfit.ways_out, layouts, strict=True):
        kept = [item for item in items if item.figure != way.moved]
        assert best_layout(kept, way.wish) == layout
    with pytest.raises(BadInput, match="what helps"):
        best_layout(items, wish)


def test_too_large_for_any_paper():
    _, misfit = plan_sheet(items_of((5e6, 10)), SheetWish())
    assert "too large for any paper" in str(misfit)
    assert misfit.ways_out == ()


@pytest.mark.parametrize("series", ["ISO", "ANSI", "architectural"])
def test_every_standard_scale_is_read_as_it_is_written(series):
    for scale in scales_of(series):
        assert read_scale(scale_words(scale, series)) == pytest.approx(scale)


def test_a_comma_in_a_scale_is_one_of_decimals_where_these_have_commas(monkeypatch):
    with pytest.raises(BadInput):
        read_scale("1:1,000")
    monkeypatch.setattr(regional, "decimal_mark", lambda: ",")
    assert read_scale("1:2,5") == read_scale("1:2.5") == pytest.approx(0.4)
    assert shown_scale(0.4) == "1:2,5"
    assert scale_words(0.4) == "1:2.5"


def test_inch_sheets_have_inch_scales():
    layout = best_layout(items_of((900, 700)), SheetWish(series="architectural"))
    assert layout.paper.series == "architectural"
    assert scale_words(1 / 24, "ANSI") == "½\" = 1'"
    assert layout.scale_text in {scale_words(s, "architectural") for s in scales_of("ANSI")}
    assert paper_named("arch d").width == pytest.approx(36 * 25.4)


@pytest.mark.parametrize(
    ("wish", "says"),
    [(SheetWish(paper="A9"), "no paper"), (SheetWish(scale=0.0), "scale"),
     (SheetWish(margin_mm=-1), "margin"), (SheetWish(caption_mm=500), "captions")],
)  # fmt: skip
def test_what_cannot_be_asked_of_a_sheet_is_refused(wish, says):
    with pytest.raises(BadInput, match=says):
        require_sound(wish)
    require_sound(replace(SheetWish(), paper="ANSI C"))


@pytest.mark.parametrize("text", ["", "big", "1:0", "-1:2", "1:1e9"])
def test_scales_that_are_none_are_refused(text):
    with pytest.raises(BadInput, match="no scale"):
        read_scale(text)


@pytest.mark.parametrize("paper", PAPERS, ids=lambda paper: paper.name)
def test_borders_leave_room_on_every_paper(paper):
    for upright in (False, True):
        turned = paper.turned(upright)
        frame = frame_of(turned)
        width, height = frame.inner
        assert width > frame.title_width
        assert height > 4 * frame.title_height
        assert (turned.height > turned.width) == upright


# --- underlays ----------------------------------------------------------------------------------


def lines_of(drawing) -> list[Ink]:
    return [ink for ink in drawing.inks if ink.layer == "construction"]


@pytest.mark.parametrize("kind", ["isometric", "isometric-dots", "oblique", "square", "dimetric"])
def test_underlays_keep_inside_their_border(kind):
    drawing = underlay(paper_named("A4"), kind, 7.0)
    for ink in lines_of(drawing):
        assert all(9.99 <= x <= 287.01 and 25.99 <= y <= 200.01 for x, y in ink.path)
    assert any("this way up" in words.text for words in drawing.words)
    bar = max((ink for ink in drawing.inks if ink.layer == "check"),
              key=lambda ink: ink.path[1][0] - ink.path[0][0])  # fmt: skip
    assert bar.path[1][0] - bar.path[0][0] == pytest.approx(50)


def test_the_cells_of_an_isometric_underlay_measure_the_pitch():
    uprights = sorted(
        {round(ink.path[0][0], 6) for ink in lines_of(underlay(paper_named("A4"), "isometric", 5))
         if abs(ink.path[0][0] - ink.path[1][0]) < 1e-9}
    )  # fmt: skip
    steps = {round(b - a, 5) for a, b in itertools.pairwise(uprights)}
    assert sorted(steps) == pytest.approx([5 * 3**0.5 / 2] * len(steps), abs=1e-4)


def test_an_underlay_needs_a_usable_pitch():
    with pytest.raises(BadInput, match="pitch"):
        underlay(paper_named("A4"), "square", 0.5)


def test_many_drawings_are_set_out_in_even_rows():
    wanted = [(40 + k, 30) for k in range(24)]
    layouts, misfit = plan_sheet(items_of(*wanted), SheetWish())
    assert misfit is None
    rows = {round(item.extent[1], 3) for item in layouts[0].placed}
    assert 1 < len(rows) < 24
