"""Views drawn by hand: what panes offer each other, symmetry, and how they are read."""

import json
from dataclasses import replace

import pytest

from holoptic.part.walk import Walk
from holoptic.reading.draft import Draft
from holoptic.reading.draft_text import draft_of, draft_words
from holoptic.reading.dxf_sheet import read_dxf
from holoptic.reading.dxf_views import views_dxf
from holoptic.reading.lines import Bow, Straight
from holoptic.units import Length, Unit

SIZE = tuple(Length.read(text) for text in ("61", "38", "29.5"))


def walked(draft, *steps):
    walk = Walk()
    for step in steps:
        walk = walk.after(step, Unit.MM, draft.names())
    return walk


def drawn(draft, view, status, *steps):
    return draft.with_track(view, status, walked(draft, *steps))


def sill():
    """A block with a step to the right and a bore from above, in three views."""
    draft = Draft(SIZE)
    draft = drawn(draft, "front", "visible", "r L", "u 11.5", "l 24", "u to H", "l to 0", "close")
    draft = drawn(draft, "top", "visible", "r L", "u D", "l to 0", "close")
    draft = drawn(draft, "top", "visible", "at L-24, 0", "u D")
    draft = drawn(draft, "top", "visible", "at 18.5, D/2", "circle 13")
    draft = drawn(draft, "right", "visible", "r D", "u H", "l to 0", "close")
    draft = drawn(draft, "right", "visible", "at 0, 11.5", "r D")
    for at in ("18.5-13/2", "18.5+13/2"):
        draft = drawn(draft, "front", "hidden", f"at {at}, 0", "u H")
    for at in ("D/2-13/2", "D/2+13/2"):
        draft = drawn(draft, "right", "hidden", f"at {at}, 0", "u H")
    return draft


def test_a_height_of_the_front_view_offers_itself_in_the_side_view_in_its_words():
    draft = drawn(Draft(SIZE), "front", "visible", "at 0, 0", "r 20", "u 7+4.5", "l to 0")
    _, up = draft.offers("right")
    assert [(offer.length.text, offer.view) for offer in up] == [
        ("0", "right"), ("7+4.5", "front"), ("H", "right"),
    ]  # fmt: skip


def test_a_depth_of_the_top_view_comes_over_the_line_at_45_degrees():
    draft = drawn(Draft(SIZE), "top", "visible", "at 0, 12", "r L")
    across, _ = draft.offers("right")
    assert [offer.length.mm for offer in across] == [0, 12, 38]
    for angle in ("third", "first"):
        turned = Draft(SIZE, angle)
        start, corner, end = turned.transfer(12.0)
        assert start[1] == corner[1] == turned.origin("top")[1] + 12
        assert end[0] == corner[0] == turned.origin("right")[0] + 12
        other = turned.transfer(30.0)[1]
        assert other[0] - corner[0] == other[1] - corner[1]


def test_round_lines_offer_their_quadrants():
    draft = drawn(Draft(SIZE), "top", "visible", "at 18.5, 19", "circle 13")
    assert {12.0, 25.0} <= {offer.length.mm for offer in draft.offers("front")[0]}
    assert {12.5, 25.5} <= {offer.length.mm for offer in draft.offers("right")[0]}


def test_a_symmetric_part_is_drawn_by_halves_in_every_pane():
    draft = Draft(SIZE).next_symmetry("top")
    assert draft.symmetric == {0}
    draft = drawn(draft, "front", "visible", "at 8, 0", "u 5")
    straight = [line.shape for line in draft.lines("front") if line.status == "visible"]
    assert {shape.start[0] for shape in straight} == {8, 53}
    centre = [line.shape for line in draft.lines("front") if line.status == "centre"]
    assert [shape.start[0] for shape in centre] == [30.5]
    # what lies on the middle itself is drawn once
    draft = drawn(draft, "front", "hidden", "at L/2, 0", "u H")
    assert len([line for line in draft.lines("front") if line.status == "hidden"]) == 1


def test_a_circle_is_two_half_turns_about_the_start():
    draft = drawn(Draft(SIZE), "top", "visible", "at 20, 9", "circle 7")
    shapes = [line.shape for line in draft.lines("top")]
    assert all(isinstance(shape, Bow) and shape.centre == (20, 9) for shape in shapes)
    assert sum(shape.last - shape.first for shape in shapes) == pytest.approx(2 * 3.141592653589793)


@pytest.mark.parametrize("angle", ["third", "first"])
def test_what_was_drawn_reads_as_the_part(worker, angle):
    draft = sill()
    arrangement = Draft(draft.size, angle, tracks=draft.tracks).arrangement()
    reading = worker.ask("read", tuple(arrangement.drawn_views()), "sill")
    assert reading.verdict == "unique"
    assert reading.answers[0].volume == pytest.approx(
        61 * 38 * 29.5 - 24 * 38 * 18 - 3.141592653589793 * 6.5**2 * 29.5, rel=1e-6
    )


def test_drawn_views_come_back_from_their_own_file(tmp_path):
    arrangement = sill().arrangement()
    path = tmp_path / "sill.dxf"
    path.write_bytes(views_dxf(arrangement))
    sketch = read_dxf(path)
    lines = [line for placed in arrangement.views for line in placed.lines]
    assert len(sketch.lines) == len(lines)
    assert sorted(line.status for line in sketch.lines) == sorted(line.status for line in lines)
    lengths = [sum(
        ((a.start[0] - a.end[0]) ** 2 + (a.start[1] - a.end[1]) ** 2) ** 0.5
        for line in some if isinstance(a := line.shape, Straight)
    ) for some in (lines, sketch.lines)]  # fmt: skip
    assert lengths[0] == pytest.approx(lengths[1])


def test_a_draft_comes_back_from_its_words():
    draft = sill().next_symmetry("top")
    draft = drawn(draft, "front", "hidden", "at 8, 0", "u 5 arc bulge 1 left")
    edited = replace(draft.tracks[0], walk=replace(draft.tracks[0].walk, steps=()))
    draft = replace(draft, tracks=(edited, *draft.tracks[1:]))
    again = draft_of(json.loads(json.dumps(draft_words(draft))))
    assert again is not None
    assert again.size == draft.size
    assert again.symmetric == draft.symmetric
    for view in ("front", "top", "right"):
        assert again.lines(view) == draft.lines(view)


@pytest.mark.parametrize("spoil", [
    lambda words: words.clear(),
    lambda words: words.update(size=["61", "0", "29.5"]),
    lambda words: words.update(size=["61", "38"]),
    lambda words: words.update(unit="ell"),
    lambda words: words.update(symmetric=[7]),
    lambda words: words["tracks"][0].update(view="below"),
    lambda words: words["tracks"][0].update(steps=["r to nowhere"]),
    lambda words: words["tracks"][0].update(steps=[], corners="1, 1 arc 2 left; 30, 1"),
])  # fmt: skip
def test_spoilt_words_are_no_draft(spoil):
    words = draft_words(sill())
    spoil(words)
    assert draft_of(words) is None
    assert draft_of("nothing of the kind") is None
