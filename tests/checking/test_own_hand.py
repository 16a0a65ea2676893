"""One's own hand, from sheets that were checked."""

import numpy as np
import pytest

from holoptic.checking.causes import MEASURED_MM, Suspects
from holoptic.checking.own_hand import STEPS_MM, likelihood_of_hands, own_hand
from holoptic.checking.rows import Rows
from holoptic.checking.traces import SlippedSheets, trace
from holoptic.job import sheet_order
from holoptic.plan.hand import Hand
from holoptic.sheet.frames import frame_of

SIZE = len(STEPS_MM) ** 3


@pytest.fixture(scope="module")
def suspects(demo_job, worker):
    sheet = demo_job.sheets[2]
    planned = worker.ask("plan", sheet_order(demo_job, sheet), sheet.figures[0].id)
    inner = frame_of(planned.paper).inner
    return Suspects(trace(planned.plan.moves, planned.drafted, inner), Hand())


def rows_of(suspects, hand, chance):
    """Measure a sheet that a hand has drawn, at the ends of its strokes."""
    traced = suspects.traced
    sheet = SlippedSheets(hand, 1, lambda _, spread: chance.normal(0.0, spread, 1))
    drawn = traced.on(sheet.draw(traced.moves, traced.meant))
    offs, moves = [], []
    for one, places, by_draw in zip(traced.traces, drawn, suspects.by_draw, strict=True):
        for end in (0, -1):
            normal = one.normals[end].conjugate()
            offs.append(((places[0, end] - one.meant[end]) * normal).real)
            moves.append((by_draw[:, end] * normal).real)
    count = len(offs)
    return Rows(np.array(offs) + chance.normal(0.0, MEASURED_MM, count), np.array(moves).T,
                np.full(count, MEASURED_MM), np.arange(count), 0)  # fmt: skip


@pytest.mark.parametrize("hand", [Hand(0.25, 0.25, 0.2), Hand(0.6, 0.15, 0.4)])
def test_some_sheets_tell_the_hand_that_drew_them(suspects, hand):
    chance = np.random.default_rng(11)
    told = [likelihood_of_hands(suspects, rows_of(suspects, hand, chance)) for _ in range(5)]
    found = own_hand(told)
    assert found.sheets == 5
    assert found.setting.is_sure
    assert found.setting.value == pytest.approx(hand.setting_mm, rel=0.35)
    assert found.angle.value == pytest.approx(hand.angle_deg, rel=0.5)
    assert found.hand.setting_mm == round(found.setting.value, 2)


def test_what_nothing_is_told_of_stays_as_usual():
    assert own_hand([]) is None
    nothing = own_hand([[0.0] * SIZE])
    assert not nothing.is_known
    assert nothing.hand == Hand()
    # what is damaged in the register is passed over
    assert own_hand([[0.0] * 7, [float("nan")] * SIZE]) is None


def test_more_sheets_make_it_surer(suspects):
    chance = np.random.default_rng(4)
    told = [likelihood_of_hands(suspects, rows_of(suspects, Hand(), chance)) for _ in range(6)]
    one, all_of_them = own_hand(told[:1]), own_hand(told)
    for name in ("setting", "angle"):
        few, many = getattr(one, name), getattr(all_of_them, name)
        assert many.high / many.low < few.high / few.low


def test_too_little_tells_nothing(suspects):
    rows = rows_of(suspects, Hand(), np.random.default_rng(1))
    few = Rows(rows.off[:4], rows.by_draw[:, :4], rows.scatter[:4], rows.stroke[:4], 0)
    assert likelihood_of_hands(suspects, few) is None
