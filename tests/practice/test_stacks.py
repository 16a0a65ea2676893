"""Stacks of cubes: counted, and told apart by their views, as going through all of them tells."""

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from holoptic.errors import BadInput
from holoptic.practice.stack_part import stack_part
from holoptic.practice.stacks import CORNERS, bounds, same_views, seen, turned, views_of
from holoptic.solid.shelf import seen as seen_solid
from holoptic.units import Unit

HIGH = 3


def all_stacks(rows, columns):
    for heights in product(range(HIGH + 1), repeat=rows * columns):
        yield tuple(tuple(heights[r * columns : (r + 1) * columns]) for r in range(rows))


@st.composite
def stacks(draw):
    rows, columns = draw(st.sampled_from([(2, 2), (2, 3), (3, 2)]))
    heights = st.integers(0, HIGH)
    stack = tuple(tuple(draw(heights) for _ in range(columns)) for _ in range(rows))
    return stack if any(map(any, stack)) else ((1,) * columns, *stack[1:])


@settings(max_examples=15)
@given(stacks())
def test_least_and_most_are_those_of_all_stacks_that_look_the_same(stack):
    counts = [sum(map(sum, other)) for other in all_stacks(len(stack), len(stack[0]))
              if seen(other) == seen(stack)]  # fmt: skip
    told = bounds(stack)
    assert (told.least, told.most) == (min(counts), max(counts))


@settings(max_examples=30)
@given(stacks())
def test_stacks_with_the_same_views_are_all_found(stack):
    alike = [other for other in all_stacks(len(stack), len(stack[0]))
             if views_of(other) == views_of(stack)]  # fmt: skip
    assert sorted(same_views(stack, most=10_000)) == sorted(alike)


@given(stacks(), st.sampled_from(CORNERS))
def test_turning_a_stack_loses_no_cube(stack, corner):
    heights = sorted(h for row in stack for h in row)
    assert sorted(h for row in turned(stack, corner) for h in row) == heights


@pytest.mark.parametrize("corner, nearest", [
    ("front-right", 2), ("front-left", 1), ("rear-right", 4), ("rear-left", 3),
])  # fmt: skip
def test_the_nearest_column_is_that_of_the_corner(corner, nearest):
    # front: 1 at the left, 2 at the right; rear: 3 at the left, 4 at the right
    assert turned(((1, 2), (3, 4)), corner)[0][0] == nearest


def test_a_hidden_column_is_told_as_least_and_most():
    # a tower before a square: nothing, or as much as it hides, may stand there
    told = bounds(((3, 2), (2, 0)))
    assert (told.least, told.most) == (7, 9)


@settings(max_examples=20)
@given(stacks())
def test_a_stack_becomes_a_part_of_as_many_cubes(stack):
    try:
        part = stack_part(stack, 10.0, "stack", Unit.MM)
    except BadInput as refused:
        assert "one piece" in str(refused)
        return
    facts = seen_solid(part).facts
    assert facts.volume == pytest.approx(1000 * sum(map(sum, stack)))
    assert part.crate.sizes == tuple(high - low for low, high in zip(facts.low, facts.high,
                                                                     strict=True))  # fmt: skip


@pytest.mark.parametrize("plan, side", [(((0, 0), (0, 0)), 10.0), (((1, 0), (0, 0)), 0.0)])
def test_a_stack_that_cannot_be_is_refused_in_a_line(plan, side):
    with pytest.raises(BadInput):
        stack_part(plan, side, "stack", Unit.MM)
