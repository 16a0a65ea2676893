"""Instruments batched: the moves in an order that sets, turns and takes up as little as it can.

Which moves may change places is told by what they use, and by the stages of the work: the sheet
first, then the start, then the crate. The order is found by a greedy rule with a look ahead, and
improved by taking the best one up to some place and going on by other ties from there (iterated
greedy, Ruiz and Stützle 2007); it is compared with a bound that no order can beat. The problem is
one of sequential ordering with set-up costs (Escudero 1988), for which no fast exact method is
known.
"""

from __future__ import annotations

import heapq
import math
import random
from collections import Counter, defaultdict
from collections.abc import Hashable, Sequence
from dataclasses import dataclass, replace

from holoptic.catalogue import words_in
from holoptic.plan.effort import Demand, Desk, demands, doing_seconds, effort
from holoptic.plan.instruments import COMPASS, DIVIDERS, RULE, T_SQUARE
from holoptic.plan.moves import CENTRE_LINES, HEAVY_LINES, HIDDEN_LINES, Effort, Move
from holoptic.tolerance import ROUNDING

_IN_FRONT = ("sheet", "start", "crate")
"""Phases that stay in front: nothing is carved before the crate has closed."""
_FRESH_TRIES, _FEWEST_TRIES, _MOST_TRIES = 3, 6, 60
_MOVES_TRIED = 6_000
"""How many moves are put in order by all tries together: long plans get fewer of them."""
_EARLY = 1.5
"""A power: a try rather leaves the best order early than late."""
_SPREAD, _AGAIN = (0.2, 0.8), (3, 4, 6)
"""How far a loose try misjudges what a move promises, and how often over it counts a setting that
will be wanted once more.
"""
_SEED = 5


def batched(moves: Sequence[Move]) -> tuple[list[Move], Effort]:
    """Return the moves reordered, and the least effort that any order of them could cost."""
    work = _Work.of(moves)
    chance = random.Random(_SEED)
    best = list(range(len(moves)))
    best_cost = _cost(work.asked)
    most = min(max(_MOVES_TRIED // max(len(moves), 1), _FEWEST_TRIES), _MOST_TRIES)
    for number in range(most):
        kept = int(len(moves) * chance.random() ** _EARLY) if number >= _FRESH_TRIES else 0
        attempt = _Attempt(work, chance, is_loose=number > 0)
        order, cost = attempt.order(best[:kept]), attempt.desk.seconds
        if cost < best_cost + ROUNDING:  # one as good leads on to others
            best, best_cost = order, cost
    in_front = [stage < len(_IN_FRONT) for stage in work.stages]
    return [_phased(moves[index], in_front[index]) for index in best], least_effort(moves)


@dataclass(frozen=True)
class _Work:
    """What is to be put in order: what each move asks for, which ones come before it because it
    uses what they make, and its stage; stages follow one another.
    """

    asked: list[Demand]
    before: list[tuple[int, ...]]
    stages: list[int]

    @classmethod
    def of(cls, moves: Sequence[Move]) -> _Work:
        stages, stage = [], 0
        for move in moves:
            own = _IN_FRONT.index(move.phase) if move.phase in _IN_FRONT else len(_IN_FRONT)
            stage = max(stage, own)  # a later crate, of another body, is carved among the rest
            stages.append(stage)
        return cls(demands(moves), predecessors(moves), stages)


def predecessors(moves: Sequence[Move]) -> list[tuple[int, ...]]:
    """Return for each move the earlier moves that make what it uses, or what its words name."""
    maker = {name: index for index, move in enumerate(moves) for name in move.makes}
    found = []
    for index, move in enumerate(moves):
        used = {maker[name] for name in move.uses if name in maker}
        told = {maker[name] for name in words_in(move.template) if name in maker}
        # a sheet's size or the like may be written as a letter that comes later
        found.append(tuple(sorted(used | {other for other in told if other < index})))
    return found


def _cost(asked: Sequence[Demand]) -> float:
    """Return the seconds for all changes where moves are done one after the other."""
    desk = Desk()
    for demand in asked:
        desk.meet(demand)
    return desk.seconds


class _Attempt:
    """One way of taking the moves: all that costs nothing at once, else what promises most.

    Moves that ask for the same are looked at together, so that choosing takes no longer than
    there are different things to do.
    """

    def __init__(self, work: _Work, chance: random.Random, *, is_loose: bool) -> None:
        self.asked, self.stages = work.asked, work.stages
        self.chance = chance
        self.spread = chance.uniform(*_SPREAD) if is_loose else 0.0
        self.again = chance.choice(_AGAIN) if is_loose else min(_AGAIN)
        self.after: dict[int, list[int]] = defaultdict(list)
        self.open = [len(earlier) for earlier in work.before]
        for index, earlier in enumerate(work.before):
            for other in earlier:
                self.after[other].append(index)
        self.kinds = [_kind(demand) for demand in self.asked]
        self.left = Counter(self.kinds)
        self.in_stage = Counter(self.stages)
        self.stage = 0
        self.waiting: list[int] = []
        self.ready: dict[Hashable, list[int]] = {}
        self.done: list[int] = []
        self.desk = Desk()

    def order(self, kept: Sequence[int]) -> list[int]:
        """Return the places of the moves in their new order, which begins with those `kept`."""
        for index, count in enumerate(self.open):
            if count == 0:
                self._offer(index)
        self._go_on()
        for index in kept:
            self._do(self._taken(self.kinds[index], index))
        while self.ready:
            self._do(self._taken(self._next()))
        return self.done

    def _offer(self, index: int) -> None:
        if self.stages[index] > self.stage:
            self.waiting.append(index)
        else:
            heapq.heappush(self.ready.setdefault(self.kinds[index], []), index)

    def _do(self, index: int) -> None:
        self.done.append(index)
        self.desk.meet(self.asked[index])
        for other in self.after[index]:
            self.open[other] -= 1
            if self.open[other] == 0:
                self._offer(other)
        self.in_stage[self.stages[index]] -= 1
        self._go_on()

    def _go_on(self) -> None:
        """Open the next stage where this one is through."""
        while self.in_stage[self.stage] == 0 and self.stage < len(_IN_FRONT):
            self.stage += 1
            waiting, self.waiting = self.waiting, []
            for index in waiting:
                self._offer(index)

    def _taken(self, kind: Hashable, index: int | None = None) -> int:
        """Return the first ready move of a kind, or a certain one, and take it out."""
        waiting = self.ready[kind]
        if index is None:
            index = heapq.heappop(waiting)
        else:
            waiting.remove(index)
            heapq.heapify(waiting)
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
            worth = cost * (1 + self.again * (self.left[kind] > count)) / count
            worth *= self.chance.uniform(1 - self.spread, 1 + self.spread)
            found = worth, -count, waiting[0]
            if found < best_worth:
                best, best_worth = kind, found
        return best


def _kind(demand: Demand) -> Hashable:
    return demand.hand, demand.settings, demand.square


def least_effort(moves: Sequence[Move]) -> Effort:
    """Return a bound on the effort of any order: what must be set anew along some chain of moves.

    Each stand of each instrument is looked at by itself. Two uses of one stand need it set twice
    if some chain of moves runs from one to the other through another stand of that instrument.
    """
    work = _Work.of(moves)
    asked = work.asked
    settings = sum(demand.extra for demand in asked)
    for device in (DIVIDERS, COMPASS):
        settings += _least_runs([dict(d.settings).get(device) for d in asked], work)
    squares = _least_runs([demand.square for demand in asked], work)
    pick_ups = _least_runs([demand.hand for demand in asked], work)
    return effort(settings, squares, pick_ups, doing_seconds(moves))


def _least_runs(stands: Sequence[Hashable], work: _Work) -> int:
    """Return how often one instrument must at least be set, over all its stands."""
    uses = Counter(stand for stand in stands if stand is not None)
    total = sum(count == 1 for count in uses.values())
    for stand in (stand for stand, count in uses.items() if count > 1):
        total += _least_runs_of(stand, stands, work)
    return total


def _least_runs_of(stand: Hashable, stands: Sequence[Hashable], work: _Work) -> int:
    inside = [0] * len(stands)  # the longest chain so far that ends in this stand
    outside = [0] * len(stands)  # and that ends in another one
    # every move comes after all those of the stages before
    most_inside = most_outside = least_inside = least_outside = 0
    stage = 0
    for index, found in enumerate(stands):
        if work.stages[index] > stage:
            stage = work.stages[index]
            least_inside, least_outside = most_inside, most_outside
        within = max((inside[p] for p in work.before[index]), default=0)
        without = max((outside[p] for p in work.before[index]), default=0)
        within, without = max(within, least_inside), max(without, least_outside)
        if found == stand:
            inside[index], outside[index] = max(within, without + 1), without
        elif found is None:
            inside[index], outside[index] = within, without
        else:
            inside[index], outside[index] = 0, max(within, without)
        most_inside = max(most_inside, inside[index])
        most_outside = max(most_outside, outside[index])
    return most_inside


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
