"""Taking apart: what comes off along which axis, in which order, how far, and what is stuck."""

from itertools import combinations, pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.curves.vectors import dot
from holoptic.errors import BadInput
from holoptic.job import OwnDistance, Spread, axis_word, read_axis
from holoptic.solid.pieces import AxisRelations, Relations
from holoptic.spread import draw_apart, least_gap, take_apart
from holoptic.units import Length

X, Y, Z = (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)


def relations(held_z=(), held_x=(), touching=(), spans=(), volumes=None):
    """Relations by hand: `spans` are those along the height."""
    spans = tuple(spans)
    flat = tuple((0.0, 10.0) for _ in spans)
    axes = (
        AxisRelations(Z, frozenset(held_z), spans), AxisRelations(X, frozenset(held_x), flat),
        AxisRelations(Y, frozenset(), flat),
    )  # fmt: skip
    return Relations(axes, (), frozenset(touching), tuple(volumes or [1.0] * len(spans)))


def ids(count):
    return [f"b{k}" for k in range(count)]


def stack(heights):
    """Parts that stand on each other."""
    spans, low = [], 0.0
    for height in heights:
        spans.append((low, low + height))
        low += height
    count = len(heights)
    held = [(a, b) for a, b in combinations(range(count), 2)]
    return relations(held, (), [(k, k + 1) for k in range(count - 1)], spans, heights)


@given(st.lists(st.floats(3, 80), min_size=2, max_size=9), st.floats(0, 60), st.randoms())
def test_a_stack_in_any_order_comes_apart_crate_from_crate(heights, gap, chance):
    names = list(range(len(heights)))
    chance.shuffle(names)
    made = stack(heights)
    new = {old: k for k, old in enumerate(names)}
    axis = made.axes[0]
    turned = relations(
        {(new[a], new[b]) for a, b in axis.held}, (), {tuple(sorted((new[a], new[b]))) for a, b
        in made.touching}, [axis.spans[old] for old in names],
        [made.volumes[old] for old in names],
    )  # fmt: skip
    parting = take_apart(turned, ids(len(heights)), Spread())
    assert [names[k] for k in parting.order] == sorted(names)
    assert parting.tier.axis == Z
    assert "one axis suffices" in parting.reason
    moved = draw_apart(parting.tier, turned, gap)
    at = sorted((low + moved[k][2], high + moved[k][2])
                for k, (low, high) in enumerate(turned.axes[0].spans))  # fmt: skip
    for (_, high), (low, _) in pairwise(at):
        assert low - high == pytest.approx(gap, abs=2e-4)
    # one of the largest stays where it is
    largest = [k for k, volume in enumerate(turned.volumes) if volume == max(turned.volumes)]
    assert (0.0, 0.0, 0.0) in [moved[k] for k in largest]


def test_parts_that_hold_each_other_in_a_ring_leave_together_and_then_along_another_axis():
    """A cross pin (2) keeps cap (1) on shaft (0): along the length the pin leaves first."""
    made = relations(
        held_z={(0, 1), (2, 0), (0, 2), (1, 2), (2, 1)}, held_x={(0, 1), (1, 0)},
        touching=[(0, 1), (0, 2), (1, 2)], spans=[(0, 30), (10, 40), (20, 24)],
        volumes=[9.0, 4.0, 1.0],
    )  # fmt: skip
    parting = take_apart(made, ids(3), Spread())
    assert parting.tier.axis == X
    assert [cluster.bodies for cluster in parting.tier.clusters] == [(0, 1), (2,)]
    assert parting.tier.clusters[0].inner.axis == Z
    assert parting.locked == ()
    moved = draw_apart(parting.tier, made, 5.0)
    assert moved[0] == (0.0, 0.0, 0.0)
    assert moved[1] == (0.0, 0.0, 25.0)
    assert moved[2] == (15.0, 0.0, 0.0)


def test_an_axis_that_slides_parts_past_each_other_draws_nothing_apart():
    made = stack([10, 20])
    assert take_apart(made, ids(2), Spread(axis="length")).tier is None
    assert take_apart(made, ids(2), Spread(axis="length")).locked == ((0, 1),)


def test_the_drafter_takes_another_way_round_order_group_and_distance():
    made = stack([10, 20, 30])
    down = take_apart(made, ids(3), Spread(axis="-height"))
    assert down.order == (2, 1, 0)
    assert draw_apart(down.tier, made, 8.0) == draw_apart(
        take_apart(made, ids(3), Spread()).tier, made, 8.0
    )
    kept = take_apart(made, ids(3), Spread(groups=(("b0", "b1"),)))
    assert [cluster.bodies for cluster in kept.tier.clusters] == [(0, 1), (2,)]
    assert kept.locked == ()
    own = draw_apart(kept.tier, made, 8.0, {2: 77.0})
    assert own[2] == (0.0, 0.0, 77.0)
    assert OwnDistance("b2", Length.read("77")).distance.mm == 77


def test_an_order_that_cannot_be_is_told_and_the_rest_stands():
    made = stack([10, 20, 30])
    wrong = take_apart(made, ids(3), Spread(order=("b2", "b0", "b1")))
    assert wrong.order == (0, 1, 2)
    (trouble,) = wrong.troubles
    assert set(trouble.bodies) == {0, 2}
    free = relations((), (), (), [(0, 5), (0, 5), (0, 5)])
    wished = take_apart(free, ids(3), Spread(order=("b2", "b0", "b1")))
    assert (wished.order, wished.troubles) == ((2, 0, 1), ())


def test_what_touches_nothing_is_loose():
    made = relations([(0, 1)], (), [(0, 1)], [(0, 5), (5, 9), (50, 60)])
    assert take_apart(made, ids(3), Spread()).loose == (2,)


def test_one_part_alone_has_nothing_to_be_drawn_apart():
    parting = take_apart(relations(spans=[(0, 5)]), ids(1), Spread())
    assert (parting.tier, parting.order, parting.locked) == (None, (), ())


@pytest.mark.parametrize("text", ["length", "-depth", "height", "0.6,0,0.8", "1,1,1"])
def test_an_axis_is_read_as_it_is_written(text):
    way = read_axis(text)
    assert dot(way, way) == pytest.approx(1)
    assert dot(read_axis(axis_word(way)), way) == pytest.approx(1)


@pytest.mark.parametrize("text", ["up", "", "1,2", "0,0,0", "nan,0,1", "1,2,3,4"])
def test_what_is_no_axis_is_refused(text):
    with pytest.raises(BadInput, match="no axis"):
        read_axis(text)


@given(st.floats(5, 250), st.integers(0, 3))
def test_the_least_gap_is_found_to_half_a_millimetre(needed, stuck):
    hidden = tuple((9, k) for k in range(stuck))

    def unseen(gap):
        return hidden if gap >= needed else (*hidden, (1, 0))

    found = least_gap(unseen)
    assert found.unseen == hidden
    assert needed <= found.gap <= max(needed + 1.01, 5.0)
