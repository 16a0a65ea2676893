"""Drawings that a hand has put somewhere: where they stand, and what happens without room."""

from dataclasses import replace

import pytest

from holoptic.job import SheetWish
from holoptic.sheet.dragged_drawing import drawing_at
from holoptic.sheet.planning import Item, PlacedFigure, best_layout, plan_sheet
from holoptic.units.spoken import said

WISH = SheetWish(paper="A3", scale=1.0, upright=False)


def item(name, wide, high, at=None):
    return Item(name, name, (0.0, 0.0, wide, high), (), at=at)


def test_a_drawing_stands_where_it_was_put_and_the_others_stay():
    items = [item("one", 80, 50), item("two", 60, 40)]
    rows = best_layout(items, WISH)
    moved = best_layout([items[0], replace(items[1], at=(300.0, 210.0))], WISH)
    assert moved.of("two").extent == (300.0, 210.0, 360.0, 250.0)
    assert moved.of("one") == rows.of("one")


@pytest.mark.parametrize("at", [(500.0, 20.0), (2.0, 100.0), (350.0, 12.0)])
def test_without_room_the_way_out_is_back_into_rows(at):
    items = [item("one", 80, 50), item("two", 60, 40, at)]
    layouts, misfit = plan_sheet(items, WISH)
    assert "where it was put" in said(misfit.trouble)
    assert misfit.ways_out[0].in_rows
    assert layouts[0] == best_layout([items[0], replace(items[1], at=None)], WISH)


def test_a_drawing_put_onto_another_one_is_refused():
    rows = best_layout([item("one", 80, 50), item("two", 60, 40)], WISH)
    left, low, _, _ = rows.of("one").extent
    _, misfit = plan_sheet(
        [item("one", 80, 50), item("two", 60, 40, (left + 70, low + 10))], WISH
    )  # fmt: skip
    assert misfit is not None


PLACED = (PlacedFigure("a", (40.0, 60.0, 120.0, 110.0), (0, 0)),
          PlacedFigure("b", (200.0, 150.0, 260.0, 190.0), (0, 0)),
          PlacedFigure("inner", (60.0, 70.0, 80.0, 90.0), (0, 0)))  # fmt: skip


def test_the_smallest_drawing_under_the_pointer_is_taken():
    assert drawing_at(PLACED, (65.0, 75.0)).figure == "inner"
    assert drawing_at(PLACED, (100.0, 75.0)).figure == "a"
    assert drawing_at(PLACED, (150.0, 75.0)) is None


def test_it_snaps_to_edges_and_middles_of_the_others_and_to_whole_millimetres():
    held = drawing_at(PLACED[:2], (210.0, 160.0))
    held.pull((210.3, 160.2), 3.0)
    assert not held.is_moved
    held.pull((52.0, 118.6), 3.0)  # its left edge near that of the other one
    assert held.corner == (40.0, 110.0)
    assert (held.uprights, held.levels) == ([40.0], [110.0])
    held.pull((62.0, 74.3), 3.0)  # the middles
    assert held.corner[0] == 50.0
    assert held.corner[1] == 65.0
    held.pull((153.37, 20.71), 3.0)
    assert held.corner == (143.0, 11.0)
    assert (held.uprights, held.levels) == ([], [])
    assert held.box == (143.0, 11.0, 203.0, 51.0)
