"""Where instruments lie: on the line, on the board, on the side of the hand that draws."""

import pytest

from holoptic.curves.paper import offset_from_line
from holoptic.plan import Drafter
from holoptic.plan.instruments import BOTH_SQUARES, RULE, SLIDING, SQUARE_30, SQUARE_45, T_SQUARE
from holoptic.plan.lying_instruments import Board, instrument_shapes
from holoptic.plan.moves import BORDER_CORNER, BORDER_LINE, Move

BOARD = Board(-50, -40, 300, 230)


def line_at(angle, instrument, place=(120.0, 80.0)):
    """A line through a place, with the papers before and after it."""
    set_off = [
        Move(1, "p", "set off", RULE, (BORDER_CORNER, BORDER_LINE), ("m",), "", place[0], 0.0),
        Move(2, "p", "draw", SQUARE_30, ("m",), ("u",), "", None, 90.0),
        Move(3, "p", "set off", RULE, ("m", "u"), ("A",), "", place[1], 90.0),
    ]
    move = Move(4, "p", "draw", instrument, ("A",), ("l",), "", None, angle)
    if instrument == SLIDING:
        return None
    before = Drafter().carry_out(set_off)
    return move, before, Drafter().carry_out([*set_off, move])


@pytest.mark.parametrize(
    ("angle", "instrument"),
    [(30.0, SQUARE_30), (60.0, SQUARE_30), (90.0, SQUARE_30), (150.0, SQUARE_30), (45.0, SQUARE_45),
     (135.0, SQUARE_45), (15.0, BOTH_SQUARES), (75.0, BOTH_SQUARES), (105.0, BOTH_SQUARES),
     (165.0, BOTH_SQUARES)],
)  # fmt: skip
@pytest.mark.parametrize("left", [False, True])
def test_a_square_has_an_edge_on_its_line_and_stands_on_the_blade(angle, instrument, left):
    board = Board(BOARD.left, BOARD.low, BOARD.right, BOARD.high, left)
    move, before, after = line_at(angle, instrument)
    blade, head, *bodies = instrument_shapes(move, before, after, board)
    origin, along = after.lines["l"]
    on_line = [p for p in bodies[-1].path if abs(offset_from_line(p, origin, along)) < 1e-6]
    assert len(on_line) == 2
    edge = max(y for _, y in blade.path)
    standing = [p for p in bodies[0].path if abs(p[1] - edge) < 1e-6]
    assert len(standing) == 2
    # the line begins clear of the square's rounded tip
    assert edge < min(y for _, y in after.drawn_span("l"))
    heads = [x for x, _ in head.path]
    assert (min(heads) >= board.right) if left else (max(heads) <= board.left)
    if instrument == BOTH_SQUARES:
        shared = set(bodies[0].path) & set(bodies[1].path)
        assert len(shared) == 2  # one square lies on the other's long edge


def test_the_guide_lies_above_where_the_board_ends_below():
    move, before, after = line_at(30.0, SQUARE_30, (120.0, -28.0))
    blade, _, square = instrument_shapes(move, before, after, BOARD)
    high = max(y for _, y in after.drawn_span("l"))
    assert min(y for _, y in blade.path) > high
    assert min(y for _, y in square.path) < high


def test_the_square_is_turned_over_where_the_board_ends_beside():
    for x, left, side in ((120.0, False, 1), (120.0, True, -1), (290.0, False, -1), (-40, True, 1)):
        board = Board(BOARD.left, BOARD.low, BOARD.right, BOARD.high, left)
        move, before, after = line_at(90.0, SQUARE_30, (x, 80.0))
        square = instrument_shapes(move, before, after, board)[-1]
        reach = max((px - x for px, _ in square.path), key=abs)
        assert reach * side > 0


def test_a_slid_square_has_its_leg_on_the_line():
    first = Move(1, "p", "draw", T_SQUARE, (BORDER_CORNER,), ("a",), "", None, 0.0)
    slid = Move(2, "p", "square", SLIDING, (BORDER_CORNER, "a"), ("b",), "", None, 90.0)
    before, after = Drafter().carry_out([first]), Drafter().carry_out([first, slid])
    square, guide = instrument_shapes(slid, before, after, BOARD)
    origin, along = after.lines["b"]
    assert sum(abs(offset_from_line(p, origin, along)) < 1e-6 for p in square.path) == 2
    assert len(guide.path) == 4


def test_a_rule_has_its_zero_at_the_start_and_ticks_each_centimetre():
    move = Move(1, "p", "set off", RULE, (BORDER_CORNER, BORDER_LINE), ("m",), "", 64.0, 0.0)
    before, after = Drafter(), Drafter().carry_out([move])
    body, zero, *ticks = instrument_shapes(move, before, after, BOARD)
    assert body.closed
    assert zero.label == "0"
    assert zero.path[-1] == (0.0, 0.0)
    assert [tick.path[-1][0] for tick in ticks] == pytest.approx([10, 20, 30, 40, 50, 60, 70])
