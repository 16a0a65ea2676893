"""Control distances: where a rule across the paper catches most of the error, soonest."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from holoptic.catalogue import later
from holoptic.plan.drafter import Drafter
from holoptic.plan.errors import Sheets, budget_of, errors_at, stroke_ends
from holoptic.plan.hand import Hand
from holoptic.plan.instruments import RULE
from holoptic.plan.moves import BORDER_MARK, Budget, Move, bears_letter
from holoptic.tolerance import SOLVED
from holoptic.units.spoken import on_rule

CLOSURE = later("The back corner must close")
_SHEETS = 600
_WORTH = 0.08
"""A check must explain this share of what the errors scatter, or it is not worth the time."""
_MOST = 6
_DIRECTIONS, _NEARLY_ALL = 200, 0.9995
"""Errors of more columns than this are looked at along those directions that hold this share."""
_CANDIDATES = 14
_SURE = 2.0
"""Tolerances are two standard deviations: one good drawing in twenty is looked at twice."""

_WIDEST = 0.05
"""Of its reading: what may be off by more tells the hand nothing, however much it would explain."""

Samples = NDArray[np.float64]


def with_controls(moves: Sequence[Move], meant: Drafter, hand: Hand) -> tuple[list[Move], Budget]:
    """Return the moves with control distances put in, and the errors to expect of them.

    `meant` is the paper of the virtual drafter after all of them.
    """
    sheets = Sheets(hand, _SHEETS).draw(moves, meant)
    start = start_point(moves)
    checked = _Chooser(moves, sheets, meant, start).checks()
    made: list[Move] = []
    closure = None
    for index, move in enumerate(moves):
        if move.verb == "check":
            spread = _spread(sheets, move.uses[0], move.uses[1])
            closure = spread if closure is None else closure
            made.append(_worded(move, spread))
        else:
            made.append(move)
        made += checked.get(index, [])
    return made, budget_of(moves, sheets, meant, start, closure)


def expected(moves: Sequence[Move], meant: Drafter, hand: Hand) -> Budget:
    """Return the errors to expect of moves, as `with_controls` does, without putting checks in."""
    sheets = Sheets(hand, _SHEETS).draw(moves, meant)
    return budget_of(moves, sheets, meant, start_point(moves), None)


def start_point(moves: Sequence[Move]) -> str:
    """Return the name of the start point: the first that is set off from the border mark."""
    return next(move.makes[0] for move in moves if move.uses[:1] == (BORDER_MARK,)
                and move.verb == "set off")  # fmt: skip


def _reading(sheets: Sheets, one: str, two: str) -> Samples:
    return np.abs(sheets.points[one] - sheets.points[two])


def _spread(sheets: Sheets, one: str, two: str) -> float:
    return float(np.std(_reading(sheets, one, two)))


def _worded(move: Move, spread: float) -> Move:
    tolerance = max(round(_SURE * spread, 1), 0.1)
    one, two = move.uses[:2]
    reading = move.setting_mm or 0.0
    return replace(
        move, tolerance_mm=tolerance,
        template=later("{what}: the rule reads {reading} ± {tolerance} from {one} to {two}.",
                    what=move.template, reading=on_rule(reading), tolerance=on_rule(tolerance),
                    one=one, two=two),
    )  # fmt: skip


def _shortened(errors: Samples) -> Samples:
    """Return errors (sheets × n) along the few directions in which nearly all of them lie.

    What a reading tells about them is the same along any directions that are square to each other.
    """
    if errors.shape[1] <= _DIRECTIONS:
        return errors
    gram = errors @ errors.T
    values, vectors = np.linalg.eigh(gram)
    enough = np.cumsum(values[::-1]) >= _NEARLY_ALL * values.sum()
    count = int(np.argmax(enough)) + 1
    kept: Samples = vectors[:, -count:] * np.sqrt(np.maximum(values[-count:], 0.0))
    return kept


class _Chooser:
    """Picks the pairs of points whose distance tells most about the errors of the strokes' ends.

    The share of an error that a reading explains is the square of their covariance over the
    reading's variance. What a check explains is taken out before the next one is weighed.
    """

    def __init__(self, moves: Sequence[Move], sheets: Sheets, meant: Drafter, start: str) -> None:
        self.moves, self.sheets, self.meant = moves, sheets, meant
        self.ends = stroke_ends(moves)
        errors = errors_at(sheets, meant, self.ends, start) if self.ends else np.zeros((1, 1))
        rest: Samples = errors - errors.mean(axis=0)
        self.total = float((rest**2).sum()) or 1.0
        self.rest = _shortened(rest)
        self.start = start

    def checks(self) -> dict[int, list[Move]]:
        """Return the checks to be put in, by the index of the move that they follow.

        The end gets one only where ends of strokes have come on the paper since the last check: a
        plain block, whose back corner was seen to close, is not measured across again.
        """
        made: dict[int, list[Move]] = {}
        known: list[str] = []
        fresh: list[str] = []
        count = 0
        last_end = max((k for k, move in enumerate(self.moves)
                        if any(name in self.ends for name in move.makes)), default=0)  # fmt: skip
        for index, move in enumerate(self.moves):
            if move.verb == "check":
                self._explain(self._centred(move.uses[0], move.uses[1]))
                if index > last_end:
                    fresh = []
            names = [n for n in move.makes if n in self.meant.points and bears_letter(n)]
            fresh += [name for name in names if name in self.ends]
            known += names
            is_last = index + 1 == len(self.moves)
            if not is_last and self.moves[index + 1].phase == move.phase:
                continue
            may_check = fresh and (count < _MOST or is_last)
            pair = self._best(fresh, known) if may_check else None
            if pair is not None:
                made[index] = [self._check(move.phase, *pair)]
                self._explain(self._centred(*pair))
                fresh = []
                count += 1
        if fresh and len(self.moves) - 1 not in made and len(self.ends) > 1:
            made[len(self.moves) - 1] = [self._check("check", *self._farthest())]
        return made

    def _best(self, fresh: Sequence[str], known: Sequence[str]) -> tuple[str, str] | None:
        """Return the pair of a new and an earlier point that explains most, if it is worth it."""
        pairs = self._pairs(fresh, known)
        if not pairs:
            return None
        olds, news = (np.array([self.sheets.points[name] for name in names])
                      for names in zip(*pairs, strict=True))  # fmt: skip
        readings = np.abs(olds - news)
        readings -= readings.mean(axis=1, keepdims=True)
        variance = (readings**2).sum(axis=1)
        explained = ((readings @ self.rest) ** 2).sum(axis=1) / np.maximum(variance, SOLVED)
        lengths = np.array([math.dist(*(self.meant.points[name] for name in pair))
                            for pair in pairs])  # fmt: skip
        sure = _SURE * np.sqrt(variance / self.sheets.count) <= _WIDEST * lengths
        explained[~sure] = 0.0
        best = int(np.argmax(explained))
        return pairs[best] if explained[best] / self.total >= _WORTH else None

    def _pairs(self, fresh: Sequence[str], known: Sequence[str]) -> list[tuple[str, str]]:
        """Return new points with earlier ones, a few of each, the farthest from the start."""

        def far(names: Sequence[str]) -> list[str]:
            origin = self.meant.points[self.start]
            return sorted(
                names, key=lambda name: -math.dist(self.meant.points[name], origin)
            )[:_CANDIDATES]  # fmt: skip

        places = self.meant.points
        earlier = dict.fromkeys([self.start, *far(known)])
        return [
            (old, new)
            for new in far(fresh)
            for old in earlier
            if math.dist(places[old], places[new]) > 10.0
        ]

    def _centred(self, one: str, two: str) -> Samples:
        reading = _reading(self.sheets, one, two)
        centred: Samples = reading - reading.mean()
        return centred

    def _explain(self, reading: Samples) -> None:
        """Take out of the errors what a reading tells about them."""
        variance = float((reading**2).sum())
        if variance > SOLVED:
            self.rest = self.rest - np.outer(reading, reading @ self.rest / variance)

    def _farthest(self) -> tuple[str, str]:
        """Return the two ends of strokes that lie farthest apart, the first two of equal ones."""
        places = np.array([complex(*self.meant.points[name]) for name in self.ends])
        # to a thousandth: what is equal must not hang on the last rounding
        reach = [np.round(np.abs(places[k:] - place), 3) for k, place in enumerate(places)]
        one = max(range(len(reach)), key=lambda k: float(reach[k].max()))
        return self.ends[one], self.ends[one + int(np.argmax(reach[one]))]

    def _check(self, phase: str, one: str, two: str) -> Move:
        reading = math.dist(self.meant.points[one], self.meant.points[two])
        bare = Move(0, phase, "check", RULE, (one, two), (), later("Control distance"), reading)
        return _worded(bare, _spread(self.sheets, one, two))
