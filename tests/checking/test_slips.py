"""What hands usually do wrong, and what a plan makes of it."""

import numpy as np
import pytest

from holoptic.checking.slips import Slip, changed_over, needle_slips, slips_together, usual_slips
from holoptic.checking.stories import story
from holoptic.checking.traces import Draw, homographies
from holoptic.plan.moves import Move
from holoptic.units.spoken import said


def _move(n: int, setting: float | None = None, **more) -> Move:
    return Move(n, more.pop("phase", "crate"), more.pop("verb", "set off"),
                more.pop("instrument", "scale rule"), (), ("J",), "", setting, **more)  # fmt: skip


@pytest.mark.parametrize(
    ("length", "others"),
    [(26.5, [62.5, 25.6]), (30.0, [3.0]), (7.0, []), (11.0, [10.1]), (100.0, [10.0])],
)
def test_neighbouring_figures_are_changed_over(length: float, others: list[float]) -> None:
    assert set(others) <= set(changed_over(length))
    assert length not in changed_over(length)


def test_a_length_is_set_wrong_in_the_usual_ways() -> None:
    moves = [_move(1, 26.5), _move(2, 41.0), _move(3, 12.0, verb="circle", instrument="compass")]
    draws = [Draw(0, 0, 0.25, False), Draw(1, 0, 0.25, False), Draw(2, 0, 0.2, False)]
    offs = {(slip.draw, round(slip.off, 2)): slip.sort for slip in usual_slips(moves, draws)}
    assert offs[0, -0.9] == "figures"
    assert offs[0, 5.0] == "graduation"
    assert offs[0, -53.0] == "wrong way"
    assert offs[0, 14.5] == "other length"
    assert offs[0, -12.0] == "edge"
    assert offs[2, 12.0] == "diameter"


def test_a_square_is_laid_along_other_directions() -> None:
    slips = usual_slips([_move(1, angle_deg=30.0, verb="draw")], [Draw(0, 0, 0.25, True)])
    offs = {round(slip.off): slip.sort for slip in slips}
    assert offs[15] == "angle"
    assert offs[-60] == "mirror"
    assert max(abs(off) for off in offs) <= 60


def _set_off(n: int, line: str, setting: float, phase: str) -> Move:
    return Move(n, phase, "set off", "scale rule", ("A", line), (f"P{n}",), "", setting)


def _along(settings: list[tuple[str, float, str]]) -> tuple[list[Move], list[Draw]]:
    moves = [_set_off(n, *one) for n, one in enumerate(settings, 1)]
    return moves, [Draw(k, 0, 0.25, False) for k in range(len(moves))]


def test_lengths_along_two_axes_are_changed_over_within_a_phase() -> None:
    moves, draws = _along([("length 1", 92.0, "crate"), ("depth 1", 54.0, "crate"),
                           ("depth 2", 54.0, "carve: stop")])  # fmt: skip
    changed = [slip for slip in slips_together(moves, draws) if slip.sort == "changed"]
    assert [slip.offs for slip in changed] == [((0, -38.0), (1, 38.0))]
    told = said(str(story(changed[0], moves[0], is_angle=False, last=2)))
    assert told == ("moves 1 and 2: P1 was set off 54 instead of 92, and the other the other way "
                    "round: two lengths changed over?")  # fmt: skip


def test_a_feature_is_set_off_from_the_wrong_end_with_all_its_lengths() -> None:
    moves, draws = _along([("length 1", 92.0, "crate"), ("depth 1", 54.0, "crate"),
                           ("length 4", 73.5, "carve: stop"), ("length 4", 61.0, "carve: stop"),
                           ("depth 3", 27.0, "carve: stop")])  # fmt: skip
    turned = [slip for slip in slips_together(moves, draws) if slip.sort == "wrong end"]
    # half of the depth is the same from either end
    assert [slip.offs for slip in turned] == [((2, -55.0), (3, -30.0))]
    several, alone = (said(str(story(turned[0], moves[2], is_angle=False, last=n))) for n in (4, 3))
    assert several.startswith("moves 3 to 4: ")
    assert alone == ("move 3: P3 was set off 18.5, it should be 73.5: from the wrong end of the "
                     "crate?")  # fmt: skip


def test_lengths_of_a_table_belong_to_their_lines() -> None:
    moves, draws = _along([("length 1", 40.0, "crate"), ("height 1", 30.0, "crate")])
    moves.append(Move(3, "carve: cap", "plot", "scale rule", ("A", "length 1", "height 1"),
                      ("P", "Q"), "", table=((0.0, 9.0), (12.0, 21.0))))  # fmt: skip
    draws += [Draw(2, part, 0.25, False) for part in range(3)]
    turned = {slip.offs for slip in slips_together(moves, draws) if slip.sort == "wrong end"}
    assert turned == {((2, 12.0), (4, -12.0)), ((3, 16.0),)}


def test_an_arc_is_drawn_from_the_centre_of_another_of_its_feature() -> None:
    places = {"O": (0.0, 0.0), "P": (0.0, 20.0), "Q": (50.0, 0.0)}
    moves = [Move(n, phase, "arc", "compass", (centre, "X", "Y"), (f"arc {n}",), "", 9.0)
             for n, phase, centre in ((1, "carve: eye", "O"), (2, "carve: eye", "P"),
                                      (3, "carve: foot", "Q"))]  # fmt: skip
    draws = [Draw(k, 0, 0.2, False) for k in range(3)]
    needles = [slip.needle for slip in needle_slips(moves, draws, places) if slip.needle]
    assert [(one.move, one.off, one.at) for one in needles] == [(0, 20j, "P"), (1, -20j, "O")]


def test_a_story_names_move_and_figures() -> None:
    slip = Slip(0, -0.9, "figures", 25.6, 26.5)
    told = said(str(story(slip, _move(47, 26.5), is_angle=False)))
    assert told == "move 47: J was set off 25.6, it should be 26.5: figures changed over?"


def test_four_places_tell_a_perspective() -> None:
    square = np.array([[0j, 10 + 0j, 10 + 8j, 8j]])
    seen = np.array([1 + 1j, 12 + 0.5j, 11 + 9j, 0.5 + 8j])
    a = homographies(square, seen)[0]
    for place, there in zip(square[0], seen, strict=True):
        under = a[6] * place.real + a[7] * place.imag + 1
        x = (a[0] * place.real + a[1] * place.imag + a[2]) / under
        y = (a[3] * place.real + a[4] * place.imag + a[5]) / under
        assert complex(x, y) == pytest.approx(there)
