"""Which move went wrong, told from places alone; no picture is needed for that."""

import numpy as np
import pytest
from bench.causes import Ink
from scipy.spatial import cKDTree

from holoptic.checking.accounted import Accounted
from holoptic.checking.causes import Suspects
from holoptic.checking.deciding import deciding_between
from holoptic.checking.mending import redraw_of
from holoptic.checking.placing import Placing
from holoptic.checking.report import StrokeFound
from holoptic.checking.rows import Rows, rows_of
from holoptic.checking.stories import cause_of
from holoptic.checking.traces import SlippedSheets, trace
from holoptic.job import Job, sheet_order
from holoptic.plan.hand import Hand
from holoptic.plan.moves import Move
from holoptic.sheet.frames import frame_of
from holoptic.worker.client import Worker


@pytest.fixture(scope="module")
def suspects(demo_job: Job, worker: Worker) -> Suspects:
    figure = demo_job.sheets[0].figures[0]
    made = worker.ask("plan", sheet_order(demo_job, demo_job.sheets[0]), figure.id)
    traced = trace(made.plan.moves, made.drafted, frame_of(made.paper).inner)
    return Suspects(traced, Hand())


class Drawn:
    """A sheet that was drawn with slips: told in places, as a picture would show them."""

    def __init__(self, suspects: Suspects, slips: dict[int, float], seed: int) -> None:
        dice = np.random.default_rng(seed)
        self.suspects = suspects
        traced = suspects.traced
        sheets = SlippedSheets(
            suspects.hand, 1,
            lambda k, spread: np.array([dice.normal(0, spread) + slips.get(k, 0.0)]),
        ).draw(traced.moves, traced.meant)  # fmt: skip
        self.places = [places[0] for places in traced.on(sheets)]
        ink = np.concatenate(self.places)
        self._ink = cKDTree(np.stack([ink.real, ink.imag], axis=1))

    def measure(self, expected) -> Rows:
        rows, missing, paths = [], 0, {}
        for number, (one, places, true) in enumerate(
            zip(self.suspects.traced.traces, expected, self.places, strict=True)
        ):
            off = ((true - places[0]) * one.normals.conj()).real[[0, -1]]
            if np.abs(off).max() > 3.5:
                missing += 1
                continue
            moves = (self.suspects.by_draw[number] * one.normals.conj()).real[:, [0, -1]]
            rows += [(float(off[k]), moves[:, k], 0.1, number) for k in range(2)]
            paths[number] = true
        return rows_of(rows, len(self.suspects.draws), missing, paths)

    def nearness(self, places):
        return self._ink.query(np.stack([places.real, places.imag], axis=-1))[0]


def effects(suspects: Suspects, draw: int) -> np.ndarray:
    return np.array([
        np.abs((places[draw] * one.normals.conj()).real).max()
        for one, places in zip(suspects.traced.traces, suspects.by_draw, strict=True)
    ])  # fmt: skip


def settings(suspects: Suspects) -> list[int]:
    """Settings on which some strokes hang, and not all."""
    return [k for k, draw in enumerate(suspects.draws)
            if not draw.is_angle and 3 <= (effects(suspects, k) > 0.5).sum() <= 15]  # fmt: skip


@pytest.mark.parametrize("size", [3.3, -4.7])
def test_the_move_that_slipped_comes_first(suspects: Suspects, size: float) -> None:
    some = settings(suspects)[::6]
    right = 0
    for seed, draw in enumerate(some):
        drawn = Drawn(suspects, {draw: size}, seed)
        known, told = suspects.look(drawn.measure, drawn.nearness)
        first = known[0] if known else None
        right += first is not None and suspects.draws[first.draw].move == suspects.draws[draw].move
        if first is not None and first.draw == draw:
            assert first.off == pytest.approx(size, abs=1.0)
        assert all(0 < one.weight <= 1 for one in told)
    assert right >= len(some) - 1


def test_a_slip_of_two_lengths_is_told_with_both(suspects: Suspects) -> None:
    changed = [slip for slip in suspects.together if slip.sort == "changed"
               and max(abs(off) for _, off in slip.offs) > 5][:4]  # fmt: skip
    for seed, slip in enumerate(changed):
        drawn = Drawn(suspects, dict(slip.offs), seed)
        known, _ = suspects.look(drawn.measure, drawn.nearness)
        assert suspects.moves_of(known) == suspects.moves_of((slip,))


def test_an_arc_from_the_wrong_corner_is_told_with_its_places(
    demo_job: Job, worker: Worker
) -> None:
    figure = next(f for s in demo_job.sheets for f in s.figures if f.subject == "p3")
    made = worker.ask("plan", sheet_order(demo_job, demo_job.sheet_of(figure)), figure.id)
    suspects = Suspects(trace(made.plan.moves, made.drafted, frame_of(made.paper).inner), Hand())
    needles = [slip for slip in suspects.together if slip.needle is not None]
    plain = suspects.traced.on(suspects.sheets([()]))

    def moved(slip) -> float:
        laid = suspects.traced.on(suspects.sheets([(slip,)]))
        return max(np.abs(a - b).mean() for a, b in zip(laid, plain, strict=True))

    slip = max(needles, key=lambda one: moved(one) * (one.off < 30))
    ink = Ink(suspects, slip, 3)
    known, told = suspects.look(ink.measure, ink.nearness)
    assert [one.needle for one in known] == [slip.needle]
    cause = cause_of(told[0], suspects.draws, suspects.traced.moves)
    assert cause.what == "needle"
    assert slip.needle.at in str(cause.story)


def test_ink_that_other_strokes_account_for_tells_nothing() -> None:
    line = np.linspace(0, 40, 20) + 0j
    known = Accounted([line])
    assert known.share(line + 0.4j) == 1.0
    assert known.share(line + 5j) == 0.0
    assert known.share(np.linspace(20, 60, 20) + 0j) == pytest.approx(0.5, abs=0.1)
    assert known.lies_on(np.array([[10 + 0.2j, np.nan]])).tolist() == [[True, False]]
    assert Accounted([]).share(line) == 0.0


def test_an_ordinary_hand_is_blamed_for_nothing(suspects: Suspects) -> None:
    for seed in range(4):
        drawn = Drawn(suspects, {}, seed)
        assert suspects.look(drawn.measure, drawn.nearness)[0] == ()


def test_places_move_as_far_as_settings_say(suspects: Suspects) -> None:
    draw = settings(suspects)[0]
    still = SlippedSheets(suspects.hand, 1, lambda _, __: np.zeros(1))
    slipped = SlippedSheets(suspects.hand, 1, lambda k, _: np.array([0.5 if k == draw else 0.0]))
    traced = suspects.traced
    before = traced.on(still.draw(traced.moves, traced.meant))
    after = traced.on(slipped.draw(traced.moves, traced.meant))
    for one, a, b, by_draw in zip(traced.traces, before, after, suspects.by_draw, strict=True):
        assert np.abs(a[0] - one.meant).max() < 0.02
        assert np.abs((b - a)[0] - 0.5 * by_draw[draw]).max() < 0.05


def test_a_motion_of_the_whole_is_no_error_of_a_stroke(suspects: Suspects) -> None:
    offs = [(0.3 * one.normals.conj() + 0.2j * one.normals.conj()).real
            for one in suspects.traced.traces]  # fmt: skip
    within, allowed = Placing(suspects).within(offs)
    assert max(np.abs(off).max() for off in within) < 0.01
    assert all(0.3 < most < 4 for most in allowed)


def test_two_causes_that_look_alike_are_told_apart_by_one_distance(suspects: Suspects) -> None:
    drawn = Drawn(suspects, {settings(suspects)[0]: 4.0}, 1)
    _, told = suspects.look(drawn.measure, drawn.nearness)
    one, other = told[0], told[0]
    assert deciding_between(suspects, one, other) is None  # nothing differs


def _move(n: int, verb: str, uses: str, makes: str) -> Move:
    return Move(n, "", verb, "", tuple(uses.split()), tuple(makes.split()), "")


def _stroke(name: str, state: str, move: int) -> StrokeFound:
    return StrokeFound(name, state, 3.0, 1.0, move, ())


def test_no_more_is_drawn_again_than_a_wrong_stroke_needs() -> None:
    moves = [
        _move(1, "set off", "O base", "A"),
        _move(2, "set off", "O base", "B"),
        _move(3, "draw", "A", "side"),
        _move(4, "draw", "B", "other"),
        _move(5, "draw", "A", "spare"),
        _move(6, "firm in", "O A side", "s1"),
        _move(7, "firm in", "O B other", "s2"),
    ]
    strokes = [_stroke("s1", "shifted", 6), _stroke("s2", "there", 7)]
    redraw = redraw_of(moves, strokes, {1})
    assert redraw.rub_out == ("s1",)
    assert redraw.moves == (1, 3, 6)


def test_a_missing_stroke_is_drawn_and_nothing_rubbed_out() -> None:
    moves = [_move(1, "draw", "O", "side"), _move(2, "firm in", "O A side", "s1")]
    redraw = redraw_of(moves, [_stroke("s1", "missing", 2)], set())
    assert (redraw.rub_out, redraw.moves) == ((), (2,))
