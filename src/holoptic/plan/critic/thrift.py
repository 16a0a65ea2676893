"""Whether the hand is spared: no move without use, nothing measured twice, centres by diagonals."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.plan.critic.distances import axis_of
from holoptic.plan.critic.remarks import Remark
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.instruments import DIVIDERS, RULE
from holoptic.plan.moves import Move

_METHOD_PHASES = ("sheet", "start", "crate")
_OF_THE_SHEET = (*_METHOD_PHASES, "numbers and list")
"""Places read off along the sheet's edges: that two readings are alike is chance."""
_ENDS_IN_THEMSELVES = (
    "firm in", "check", "go over", "letter", "shade", "head", "guides", "lay",
)  # fmt: skip

_OF_A_SLOPE = (": a mark.", ": the second mark.")
"""How the run and the rise are told by which a line at an odd angle is found."""


def judge_thrift(sitting: Sitting) -> Iterator[Remark]:
    """Yield moves without use, distances measured twice, halves that are not swung over."""
    yield from _useless(sitting)
    yield from _made_twice(sitting)
    yield from _measured_twice(sitting)
    yield from _not_swung(sitting)


def _useless(sitting: Sitting) -> Iterator[Remark]:
    used: set[str] = set()
    for move in reversed(sitting.plan.moves):
        is_end = move.verb in _ENDS_IN_THEMSELVES or move.phase in _METHOD_PHASES
        if not is_end and not used.intersection(move.makes):
            yield Remark("thrift", move.n, tr("nothing hangs on it: {text}", text=move.text))
        used.update(move.uses)


def _made_twice(sitting: Sitting) -> Iterator[Remark]:
    """Yield points marked where a letter stands, and lines drawn where one lies already.

    Borders and what is drawn for them are no lines of the drawing.
    """
    if sitting.picture is None:
        return
    letters: dict[Vec2, str] = {}
    lines: dict[Vec2, str] = {}
    for move in sitting.plan.moves:
        if move.phase in _METHOD_PHASES[:2]:
            continue
        for name in move.makes:
            at = _place_of(sitting, name)
            known = letters if name in sitting.letters else lines
            is_marked = move.verb == "meet" or name in sitting.paper.lines
            if at is not None and at in known and is_marked and move.verb != "touch":
                yield Remark("thrift", move.n, tr("{name} stands already: {other}", name=name,
                                                  other=known[at]))  # fmt: skip
            elif at is not None and known.get(at) is None:
                known[at] = name


def _place_of(sitting: Sitting, name: str) -> Vec2 | None:
    """Return where a letter stands, or the direction of a line and how far it lies off, so that
    what lies on each other (`ON_PAPER_MM`) is alike.
    """
    if name in sitting.letters:
        x, y = sitting.paper.points[name]
        return round(x, 4) + 0.0, round(y, 4) + 0.0
    if name not in sitting.paper.lines:
        return None
    (x, y), _ = sitting.paper.lines[name]
    turn = round(sitting.angle_of(name), 3) % 180.0
    way = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    return turn, round(y * way[0] - x * way[1], 4) + 0.0


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
        elif move.instrument == RULE and move.phase not in _OF_THE_SHEET:
            if size in ruled and "as they are" not in move.english:
                yield Remark("thrift", move.n, tr("{size:.4g} was measured in move {n} already",
                                                  size=size, n=ruled[size]))  # fmt: skip
            ruled.setdefault(size, move.n)


def _not_swung(sitting: Sitting) -> Iterator[Remark]:
    """Yield the second of two equal settings to both sides of one point, each made by itself."""
    from_point: dict[tuple[object, ...], list[Move]] = defaultdict(list)
    for move in sitting.plan.moves:
        is_run = move.english.endswith(_OF_A_SLOPE)
        if move.verb == "set off" and None not in (move.setting_mm, move.angle_deg) and not is_run:
            key = move.phase, move.uses[0], move.uses[1], round(move.setting_mm or 0.0, 3)
            from_point[key].append(move)
    for same in from_point.values():
        for other in same[1:]:
            yield Remark("thrift", other.n, tr("the other half of move {n}: swing it over",
                                               n=same[0].n))  # fmt: skip
