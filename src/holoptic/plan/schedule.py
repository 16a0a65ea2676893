"""Instruments batched: the moves in an order that sets, turns and takes up as little as it can.

Which moves may change places is told by what they use. The order is found by a greedy rule with
a look ahead, tried a few times with other ties; it is compared with a bound that no order can
beat. The problem is one of sequential ordering with set-up costs (Escudero 1988), for which no
fast exact method is known.
"""

from __future__ import annotations

import heapq
import math
import random
from collections import Counter, defaultdict
from collections.abc import Hashable, Sequence
from dataclasses import replace

from holoptic.plan.effort import Demand, Desk, demands, doing_seconds, effort
from holoptic.plan.instruments import COMPASS, DIVIDERS, RULE, T_SQUARE
from holoptic.plan.moves import CENTRE_LINES, HEAVY_LINES, HIDDEN_LINES, Effort, Move
from holoptic.tolerance import ROUNDING

_FIXED = ("sheet", "start", "crate")
"""Phases that stay in front: nothing is carved before the crate has closed."""
_TRIES = 6
_SEED = 5


def batched(moves: Sequence[Move]) -> tuple[list[Move], Effort]:
    """Return the moves reordered, and the least effort that any order of them could cost."""
    asked = demands(moves)
    before = predecessors(moves)
    fixed = sum(move.phase in _FIXED for move in moves)
    best = list(range(len(moves)))
    best_cost = _cost(best, asked)
    for attempt in range(_TRIES):
        order = _Attempt(asked, before, fixed, random.Random(_SEED + attempt), attempt > 0).order()
        cost = _cost(order, asked)
        if cost < best_cost - ROUNDING:
            best, best_cost = order, cost
    return [_phased(moves[index], index < fixed) for index in best], least_effort(moves)


def predecessors(moves: Sequence[Move]) -> list[tuple[int, ...]]:
    """Return for each move the earlier moves that make what it uses."""
    maker = {name: index for index, move in enumerate(moves) for name in move.makes}
    return [tuple(sorted({maker[name] for name in move.uses if name in maker})) for move in moves]


def _cost(order: Sequence[int], asked: Sequence[Demand]) -> float:
    desk, cost = Desk(), 0.0
    for index in order:
        cost += desk.cost(asked[index])
        desk.meet(asked[index])
    return cost


class _Attempt:
    """One way of taking the moves: all that costs nothing at once, else what promises most.

    Moves that ask for the same are looked at together, so that choosing takes no longer than
    there are different things to do.
    """

    def __init__(
        self, asked: Sequence[Demand], before: Sequence[tuple[int, ...]], fixed: int,
        chance: random.Random, is_loose: bool,
    ) -> None:  # fmt: skip
        self.asked, self.fixed = asked, fixed
        self.chance, self.is_loose = chance, is_loose
        self.after: dict[int, list[int]] = defaultdict(list)
        self.open = [len(earlier) for earlier in before]
        for index, earlier in enumerate(before):
            for other in earlier:
                self.after[other].append(index)
        self.kinds = [_kind(demand) for demand in asked]
        self.left = Counter(self.kinds[fixed:])
        self.ready: dict[Hashable, list[int]] = {}
        self.count = 0
        self.done: list[int] = []
        self.desk = Desk()

    def order(self) -> list[int]:
        """Return the places of the moves in their new order."""
        for index in range(self.fixed):
            self._do(index)
        for index in range(self.fixed, len(self.asked)):
            # what hangs on fixed moves alone was found ready by them
            if self.open[index] == 0 and not self._waits(index):
                self._offer(index)
        while self.ready:
            self._do(self._taken(self._next()))
        return self.done

    def _waits(self, index: int) -> bool:
        return index in self.ready.get(self.kinds[index], ())

    def _offer(self, index: int) -> None:
        heapq.heappush(self.ready.setdefault(self.kinds[index], []), index)

    def _do(self, index: int) -> None:
        self.done.append(index)
        self.desk.meet(self.asked[index])
        for other in self.after[index]:
            self.open[other] -= 1
            if self.open[other] == 0 and other >= self.fixed:
                self._offer(other)

    def _taken(self, kind: Hashable) -> int:
        """Return the first ready move of a kind and take it out."""
        waiting = self.ready[kind]
        index = heapq.heappop(waiting)
        if not waiting:
            del self.ready[kind]
        self.left[kind] -= 1
        return index

    def _next(self) -> Hashable:
        """Return a kind of move that costs nothing, else the one that promises most."""
        best, best_worth = None, (math.inf, 0, 0)
        for kind, waiting in self.ready.items():
            cost = self.desk.cost(self.asked[waiting[0]])
            if cost == 0:
                return kind
            count = len(waiting)
            # moves of the kind that are not ready yet would need another turn
            worth = cost * (1 + 2 * (self.left[kind] > count)) / count
            if self.is_loose:
                worth *= self.chance.uniform(0.75, 1.25)
            best, best_worth = min((best, best_worth), (kind, (worth, -count, waiting[0])),
                                   key=lambda pair: pair[1])  # fmt: skip
        return best


def _kind(demand: Demand) -> Hashable:
    return demand.hand, demand.settings, demand.square


def least_effort(moves: Sequence[Move]) -> Effort:
    """Return a bound on the effort of any order: what must be set anew along some chain of moves.

    Each stand of each instrument is looked at by itself. Two uses of one stand need it set twice
    if some chain of moves runs from one to the other through another stand of that instrument.
    """
    asked = demands(moves)
    before = predecessors(moves)
    settings = sum(demand.extra for demand in asked)
    for device in (DIVIDERS, COMPASS):
        settings += _least_runs([dict(d.settings).get(device) for d in asked], before)
    squares = _least_runs([demand.square for demand in asked], before)
    pick_ups = _least_runs([demand.hand for demand in asked], before)
    return effort(settings, squares, pick_ups, doing_seconds(moves))


def _least_runs(stands: Sequence[Hashable], before: Sequence[tuple[int, ...]]) -> int:
    """Return how often one instrument must at least be set, over all its stands."""
    uses = Counter(stand for stand in stands if stand is not None)
    total = sum(count == 1 for count in uses.values())
    for stand in (stand for stand, count in uses.items() if count > 1):
        inside = [0] * len(stands)  # the longest chain so far that ends in this stand
        outside = [0] * len(stands)  # and that ends in another one
        most = 0
        for index, found in enumerate(stands):
            within = max((inside[p] for p in before[index]), default=0)
            without = max((outside[p] for p in before[index]), default=0)
            if found == stand:
                inside[index], outside[index] = max(within, without + 1), without
            elif found is None:
                inside[index], outside[index] = within, without
            else:
                inside[index], outside[index] = 0, max(within, without)
            most = max(most, inside[index])
        total += most
    return total


_OWN_WEIGHTS = (HIDDEN_LINES, CENTRE_LINES, HEAVY_LINES)
_PHASES = {DIVIDERS: "settings", RULE: "settings", COMPASS: "compass"}


def _phased(move: Move, is_fixed: bool) -> Move:
    """Return a move in the band of its instrument."""
    if is_fixed:
        return move
    if move.verb in ("draw", "parallel", "square"):
        turn = (move.angle_deg or 0.0) % 180
        level = move.instrument == T_SQUARE
        phase = "level lines" if level else "uprights" if turn == 90 else f"lines at {turn:.3g}°"
    elif move.verb in ("firm in", "check", "go over"):
        # what is dashed, chained or heavy stays apart from what is firmed in
        phase = move.phase if move.phase in _OWN_WEIGHTS else move.verb
    else:
        phase = _PHASES.get(move.instrument, "joins and marks")
    return replace(move, phase=phase)
