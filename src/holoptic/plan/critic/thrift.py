"""Whether the hand is spared: no move without use, nothing measured twice, centres by diagonals."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from holoptic.catalogue import tr
from holoptic.plan.critic.distances import axis_of
from holoptic.plan.critic.remarks import Remark
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.instruments import DIVIDERS, RULE
from holoptic.plan.moves import Move

_METHOD_PHASES = ("sheet", "start", "crate")
_ENDS_IN_THEMSELVES = (
    "firm in", "check", "go over", "letter", "shade", "head", "guides", "lay",
)  # fmt: skip

_OF_A_SLOPE = (": a mark.", ": the second mark.")
"""How the run and the rise are told by which a line at an odd angle is found."""


def judge_thrift(sitting: Sitting) -> Iterator[Remark]:
    """Yield moves without use, distances measured twice, halves that are not swung over."""
    yield from _useless(sitting)
    yield from _measured_twice(sitting)
    yield from _not_swung(sitting)


def _useless(sitting: Sitting) -> Iterator[Remark]:
    used: set[str] = set()
    for move in reversed(sitting.plan.moves):
        is_end = move.verb in _ENDS_IN_THEMSELVES or move.phase in _METHOD_PHASES
        if not is_end and not used.intersection(move.makes):
            yield Remark("thrift", move.n, tr("nothing hangs on it: {text}", text=move.text))
        used.update(move.uses)


def _measured_twice(sitting: Sitting) -> Iterator[Remark]:
    lifted: dict[tuple[object, ...], int] = {}
    ruled: dict[float, int] = {}
    for move in sitting.plan.moves:
        if move.verb not in ("set off", "swing") or move.setting_mm is None:
            continue
        size = round(move.setting_mm, 3)
        if move.instrument == DIVIDERS and move.lift is not None and "Lift" in move.english:
            key = (axis_of(move.lift), size, round(move.lift.true_mm, 3))
            if key in lifted:
                yield Remark("thrift", move.n, tr("{size:.4g} was lifted in move {n} already",
                                                  size=size, n=lifted[key]))  # fmt: skip
            lifted.setdefault(key, move.n)
        elif size > sitting.outfit.largest_radius:
            continue  # dividers do not span it
        elif move.english.endswith(_OF_A_SLOPE):
            continue  # run and rise, by the rule: nothing of the part is measured
        elif move.instrument == RULE and move.phase not in _METHOD_PHASES:
            if size in ruled and "as they are" not in move.english:
                yield Remark("thrift", move.n, tr("{size:.4g} was measured in move {n} already",
                                                  size=size, n=ruled[size]))  # fmt: skip
            ruled.setdefault(size, move.n)


def _not_swung(sitting: Sitting) -> Iterator[Remark]:
    """Yield the second of two equal settings to both sides of one point, each made by itself."""
    from_point: dict[tuple[object, ...], list[Move]] = defaultdict(list)
    for move in sitting.plan.moves:
        if move.verb == "set off" and move.setting_mm is not None and move.angle_deg is not None:
            key = move.phase, move.uses[0], move.uses[1], round(move.setting_mm, 3)
            from_point[key].append(move)
    for same in from_point.values():
        for other in same[1:]:
            yield Remark("thrift", other.n, tr("the other half of move {n}: swing it over",
                                               n=same[0].n))  # fmt: skip
