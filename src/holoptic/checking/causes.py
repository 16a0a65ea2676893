"""Which setting was off: the pattern of deviations, told by what hangs on each setting.

With one slip of a little in one draw per sheet, the sheets that `plan.errors` draws at once give
the derivative of each place by each setting. With the hand's ordinary spread and the error of
measuring as covariance, the gain in likelihood of a slip ranks the settings (generalised least
squares; Aitken 1935). What hands usually do wrong is tried with its own size, and everything else
with any size; a large slip moves places too far to be found beside where they should be, so all of
them are laid on the ink first, as whole sheets.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from holoptic.checking.accounted import Accounted
from holoptic.checking.rows import MISSING_COSTS, Likelihood, Rows
from holoptic.checking.slips import Slip, needle_slips, setting_of, slips_together, usual_slips
from holoptic.checking.traces import Draw, Offs, SlippedSheets, Traced, draws_of
from holoptic.plan.errors import Places
from holoptic.plan.hand import Hand
from holoptic.tolerance import SOLVED

Slips = tuple[Slip, ...]
_EPS = 0.001
MEASURED_MM = 0.12
"""How far a measured offset scatters by itself: the pencil, the paper, the picture."""
_FAR_MM = 2.0
"""Further from ink than this is simply not there."""
_UNTOLD_MM = 1.2
"""So far off ink counts that other strokes account for."""
_SIZES = (1.0, 1.5, 2.0, 2.5, 3.0, 3.5, 4.0, 4.5, 5.0, 6.0, 7.0, 8.0, 10.0, 12.0)
_ANGLES = (2.0, 3.0, 4.0, 6.0, 8.0, 11.0)
_BATCH = 400
_SHORT_LIST = 9
_REFINED, _APART_MM = 3, 0.6
_MOST_LOST, _OF_LOST, _OF_ONE_STROKE, _OF_ONE_DRAW = 8, 28, (5, 16), 3
_MOST_BARE_MM = 3.0
"""A stroke of which more lacks ink is looked for elsewhere too."""
_LOST_WEIGHT = 4.0
"""How much a square mm counts by which a stroke that was not found lies off ink."""
_FRESH_WORTH = 6.0
"""So much likelier a slip is that puts a stroke on ink that nothing else accounts for."""
_FRESH_SHARE, _SAME_SHARE = 0.4, 0.7
_LEAST_GAIN = 9.0
"""So much likelier (a logarithm) must a slip make what was measured to be told at all."""
_LEAST_SPREADS, _STILL_MM, _DRIFT_MM, _NEAR_MM = 2.3, 1.2, 3.0, 4.0
_MOST_ON_VERGE = 2
_MOST_DEG, _MOST_MM = 32.0, 16.0
"""No slip is larger, but for lengths that were taken double."""
_MOST_SLIPS = 2


@dataclass(frozen=True)
class Suspect:
    """Slips that may have caused what was measured, the gain in likelihood over none, and the share
    of all that is likely.
    """

    slips: Slips
    gain: float
    weight: float


Measure = Callable[[list[Places]], Rows]
"""Measures ink about the places of strokes (each 1 × places) that are expected."""
Nearness = Callable[[Places], Offs]
"""Returns how far places (any shape) lie from ink, mm."""


class Suspects:
    """Looks for the slips behind a drawn sheet."""

    def __init__(self, traced: Traced, hand: Hand) -> None:
        self.traced, self.hand = traced, hand
        self.draws: list[Draw] = draws_of(traced.moves, traced.meant, hand)
        self.spreads = np.array([one.spread for one in self.draws])
        self.usual = usual_slips(traced.moves, self.draws)
        self.together = [
            *slips_together(traced.moves, self.draws),
            *needle_slips(traced.moves, self.draws, traced.meant.points),
        ]
        self.likelihood = Likelihood(self.spreads)

    def sheets(self, slips: Sequence[Slips]) -> SlippedSheets:
        """Return sheets, one for each row of slips, drawn without any other error."""
        count = len(slips)
        offs: dict[int, Offs] = {}
        needles: dict[int, Places] = {}
        for number, row in enumerate(slips):
            for draw, off in (pair for slip in row for pair in slip.offs):
                offs.setdefault(draw, np.zeros(count))[number] += off
            for needle in (slip.needle for slip in row if slip.needle is not None):
                needles.setdefault(needle.move, np.zeros(count, complex))[number] += needle.off
        none = np.zeros(count)
        sheets = SlippedSheets(self.hand, count, lambda k, _: offs.get(k, none), needles)
        return sheets.draw(self.traced.moves, self.traced.meant)

    @cached_property
    def by_draw(self) -> list[Places]:
        """How far each place moves for each unit of a slip: (draws, places) for each stroke."""
        count = len(self.draws)
        sheets = SlippedSheets(
            self.hand, count + 1, lambda k, _: _EPS * (np.arange(count + 1) == k)
        )
        found = self.traced.on(sheets.draw(self.traced.moves, self.traced.meant))
        return [(places[:-1] - places[-1]) / _EPS for places in found]

    @cached_property
    def scatter(self) -> list[Offs]:
        """Return how far each place of each stroke scatters across it, mm."""
        return [
            np.sqrt((((places * one.normals.conj()).real * self.spreads[:, None]) ** 2).sum(axis=0))
            for one, places in zip(self.traced.traces, self.by_draw, strict=True)
        ]

    def end_scatter(self, number: int) -> float:
        """Return how far the ends of a straight stroke scatter along it, the more of both; mm."""
        one, places = self.traced.traces[number], self.by_draw[number][:, [0, -1]]
        way = (one.meant[-1] - one.meant[0]) / max(one.length, SOLVED)
        along = (places * way.conjugate()).real * self.spreads[:, None]
        return float(np.sqrt((along**2).sum(axis=0)).max())

    def moves_of(self, slips: Slips) -> set[int]:
        """Return the numbers of the moves in which slips were made."""
        moves = [self.draws[draw].move for slip in slips for draw, _ in slip.offs]
        moves += [slip.needle.move for slip in slips if slip.needle is not None]
        return {self.traced.moves[number].n for number in moves}

    # --- looking ----------------------------------------------------------------------------

    def look(self, measure: Measure, nearness: Nearness) -> tuple[Slips, list[Suspect]]:
        """Return the likeliest slips, and all that come near, the likeliest first.

        None where the sheet is as the hand's ordinary spread makes it.
        """
        known: Slips = ()
        told: list[Suspect] = []
        for _ in range(_MOST_SLIPS):
            ranked = self._ranked(known, measure, nearness)
            if not ranked or ranked[0][0] < _LEAST_GAIN:
                break
            told += _shared(ranked, known)
            known = (*known, ranked[0][1])
        return known, told

    def _ranked(
        self, known: Slips, measure: Measure, nearness: Nearness
    ) -> list[tuple[float, Slip]]:
        """Return slips besides those that are known, with their gains, the best first."""
        plain = self._places([known])[0]
        raw, errors = self._measured_twice(plain, measure)
        base = self.likelihood.credible(raw)
        before = self.likelihood.of(base)
        unslipped = _unslipped(base, plain, self.leans(errors))
        tried = [slip for slip in self._all_slips() if slip.draw not in {k.draw for k in known}]
        best: dict[int, tuple[float, Slip]] = {}
        # what contradicts all else may be just what a slip has moved: it points to settings too
        near = {(slip.draw, round(slip.off, 1)): slip
                for rows in (base, raw) for slip in self._near(rows, known)}  # fmt: skip
        for slip in (*near.values(), *self._laid(tried, known, unslipped, nearness)):
            found = self._weighed(slip, known, unslipped, measure)
            if found is None:
                continue
            gain, fitted = found[0] - before, found[1]
            if slip.draw not in best or gain > best[slip.draw][0]:
                best[slip.draw] = gain, fitted
        return sorted(best.values(), key=lambda one: -one[0])

    def _weighed(
        self, slip: Slip, known: Slips, unslipped: _Unslipped, measure: Measure
    ) -> tuple[float, Slip] | None:
        """Return how likely what was measured is with a slip, and the slip as it fits best; None
        where no hand slips so, or so far off a hand is by itself.
        """
        for _ in range(_REFINED):
            places = self._places([(*known, slip)])[0]
            errors = self._errors_besides(slip, places, unslipped)
            rows = self.likelihood.credible(self._measured(places, errors, measure))
            fitted, gain = self._fitted(rows, slip)
            by_chance, fresh = _newly_found(unslipped, rows, places)
            gain += _FRESH_WORTH * fresh - MISSING_COSTS * by_chance + self.likelihood.of(rows)
            if not self._is_possible(fitted):
                return None
            if abs(fitted.off - slip.off) < self._told_apart(slip.draw):
                break
            slip = fitted  # so far from what was tried other strokes may be found
        if abs(fitted.off) < _LEAST_SPREADS * self.draws[slip.draw].spread:
            return None
        return gain, fitted

    # --- the hand's own errors: a sheet tells them too, and strokes are looked for along with them

    def leans(self, errors: Offs) -> list[Places]:
        """Return how far errors of the draws (mm, degrees) put all strokes off, place by place."""
        return [errors @ moved for moved in self.by_draw]

    def leaning(self, slips: Slips, measure: Measure) -> list[Places]:
        """Return where strokes are expected after slips, with the errors of the hand that the sheet
        tells.
        """
        plain = self._places([slips])[0]
        _, errors = self._measured_twice(plain, measure)
        return [(place + lean)[0] for place, lean in zip(plain, self.leans(errors), strict=True)]

    def _measured(self, places: list[Places], errors: Offs, measure: Measure) -> Rows:
        """Measure the ink about strokes that a hand with such errors has put off; the offsets that
        are returned are those from the places without them.
        """
        leaned = [place + lean for place, lean in zip(places, self.leans(errors), strict=True)]
        rows = measure(leaned)
        return replace(rows, off=rows.off + errors @ rows.by_draw)

    def _measured_twice(self, places: list[Places], measure: Measure) -> tuple[Rows, Offs]:
        """Measure the ink about strokes, once more with the errors that the first time told."""
        errors = self.likelihood.errors(self.likelihood.credible(measure(places)))
        return self._measured(places, errors, measure), errors

    def _errors_besides(self, slip: Slip, places: list[Places], unslipped: _Unslipped) -> Offs:
        """Return the hand's errors besides a slip, as strokes tell them that it hardly moves: what
        it moves far may have been found on other ink.
        """
        still = {
            number for number, (place, before) in enumerate(
                zip(places, unslipped.places, strict=True)
            ) if np.abs(place - before).max() < _NEAR_MM
        }  # fmt: skip
        rows = unslipped.rows.of_strokes(still)
        by_slip = sum((off * rows.by_draw[draw] for draw, off in slip.offs),
                      start=np.zeros(len(rows.off)))  # fmt: skip
        return self.likelihood.errors(replace(rows, off=rows.off - by_slip))

    def _told_apart(self, draw: int) -> float:
        """Return by how much two slips differ that move some stroke differently (mm, degrees)."""
        reach = max(float(np.abs(places[draw]).max()) for places in self.by_draw)
        return _APART_MM / max(reach, SOLVED)

    def _is_possible(self, slip: Slip) -> bool:
        """Say whether a hand can slip so far: nobody sets off several times a length, but as one of
        the usual slips has it.
        """
        if slip.sort != "other":
            return True
        if self.draws[slip.draw].is_angle:
            return abs(slip.off) <= _MOST_DEG
        return abs(slip.off) <= max(_MOST_MM, 2.2 * slip.should)

    def _places(self, slips: Sequence[Slips]) -> list[list[Places]]:
        """Return the places of all strokes for each row of slips."""
        found = self.traced.on(self.sheets(slips))
        return [[places[k : k + 1] for places in found] for k in range(len(slips))]

    def _all_slips(self) -> list[Slip]:
        """Return the usual slips, and others of many sizes."""
        found = [*self.usual, *self.together]
        for number, one in enumerate(self.draws):
            should = setting_of(self.traced.moves[one.move], one)
            for size in _ANGLES if one.is_angle else _SIZES:
                found += [Slip(number, off, "other", should + off, should) for off in (size, -size)]
        return found

    def _laid(
        self, tried: Sequence[Slip], known: Slips, unslipped: _Unslipped, nearness: Nearness
    ) -> list[Slip]:
        """Return of some slips those whose sheets lie best on the ink: of each draw the best usual
        one, and the best of any size; and those that lay strokes that were not found where nothing
        else accounts for the ink.
        """
        lost = [number for number in range(len(self.scatter)) if number not in unslipped.whole]
        found = [self._costs([(*known, slip) for slip in batch], nearness, lost, unslipped)
                 for batch in _batches(tried)]  # fmt: skip
        worth = np.array([slip.worth for slip in tried])
        costs = np.concatenate([cost for cost, _ in found]) - worth
        best: dict[tuple[int, bool], Slip] = {}
        for number in np.argsort(costs):
            slip = tried[int(number)]
            best.setdefault((slip.draw, slip.sort == "other"), slip)
            if len({draw for draw, _ in best}) > _SHORT_LIST:
                break
        # what lays one stroke on ink and others beside it explains nothing
        plain, _ = self._costs([known], nearness, lost, unslipped)
        worse = np.maximum(costs + worth - plain[0], 0.0)
        of_lost = np.concatenate([of for _, of in found], axis=1) - worth + worse
        count = int(np.clip(_OF_LOST / max(len(lost), 1), *_OF_ONE_STROKE))
        others = [slip for row in of_lost[:_MOST_LOST] for slip in self._of_one(tried, row, count)]
        return list(dict.fromkeys((*best.values(), *others)))

    def _of_one(self, tried: Sequence[Slip], costs: Offs, count: int) -> list[Slip]:
        """Return so many slips that explain one stroke that was not found best."""
        found: dict[int, list[Slip]] = {}
        for number in np.argsort(costs):
            slip = tried[int(number)]
            own = found.setdefault(slip.draw, [])
            if len(own) < _OF_ONE_DRAW:
                own.append(slip)
            if sum(map(len, found.values())) >= count:
                break
        return [slip for own in found.values() for slip in own]

    def _costs(
        self,
        slips: Sequence[Slips],
        nearness: Nearness,
        lost: Sequence[int],
        unslipped: _Unslipped,
    ) -> tuple[Offs, Offs]:
        """Return how badly sheets lie on the ink: half squares of what is off in its scatter; and
        how badly each of some strokes does (strokes × sheets), that were not found, on ink that
        nothing else accounts for.
        """
        cost, of_lost = np.zeros(len(slips)), np.zeros((len(lost), len(slips)))
        laid = self.traced.on(self.sheets(slips))
        for number, (meant, spread) in enumerate(zip(laid, self.scatter, strict=True)):
            places = meant + unslipped.lean[number]
            some = slice(None, None, max(1, places.shape[1] // 8))
            near = np.minimum(nearness(places[:, some]), _FAR_MM)
            own = spread[some] ** 2 + (2 * MEASURED_MM) ** 2
            # places along one stroke are not independent of each other: two of them count
            cost += (near**2 / (2 * own)).mean(axis=1) * 2
            if number in lost:
                near = np.where(unslipped.ink.lies_on(places[:, some]), _UNTOLD_MM, near)
                of_lost[lost.index(number)] = (near**2).mean(axis=1) * _LOST_WEIGHT
        return cost, of_lost

    def _near(self, base: Rows, known: Slips) -> Iterator[Slip]:
        """Yield the slips that what was measured about the sheet points to, of any size."""
        if not len(base.off):
            return
        inverse = self.likelihood.inverse(base)
        told = np.einsum("ki,ij,kj->k", base.by_draw, inverse, base.by_draw)
        along = base.by_draw @ inverse @ base.off
        gains = np.where(told > SOLVED, along**2 / np.maximum(told, SOLVED), 0.0)
        taken = {slip.draw for slip in known}
        for number in np.argsort(-gains)[:_SHORT_LIST].tolist():
            if number in taken or gains[number] < 2.0:
                continue
            one = self.draws[number]
            off = float(along[number] / told[number])
            should = setting_of(self.traced.moves[one.move], one)
            found = Slip(number, off, "other", should + off, should)
            if self._is_possible(found):
                yield self._as_usual(found, told[number])

    def _as_usual(self, slip: Slip, told: float) -> Slip:
        """Return a slip of any size as a usual one that is as near as can be told."""
        reach = max(3.0 / math.sqrt(told), 2 * self.draws[slip.draw].spread)
        near = [one for one in self.usual
                if one.draw == slip.draw and abs(one.off - slip.off) < reach]  # fmt: skip
        return max(near, key=lambda one: one.worth - ((one.off - slip.off) / reach * 3) ** 2 / 2,
                   default=slip)  # fmt: skip

    def _fitted(self, rows: Rows, slip: Slip) -> tuple[Slip, float]:
        """Return a slip, or one of any size that fits so much better that it is likelier, and what
        it gains over the slip as it was measured, and over one of any size.
        """
        if not slip.has_size or not len(rows.off):
            return slip, slip.worth
        inverse = self.likelihood.inverse(rows)
        row = rows.by_draw[slip.draw]
        told = float(row @ inverse @ row)
        if told < SOLVED:
            return slip, slip.worth
        more = float(row @ inverse @ rows.off) / told
        gain = more * more * told / 2
        if slip.sort != "other" and gain <= slip.worth:
            return slip, slip.worth
        fitted = replace(slip, off=slip.off + more, was=slip.was + more, sort="other")
        if not self._is_possible(fitted):
            return slip, slip.worth
        usual = self._as_usual(fitted, told)
        lost = (usual.off - fitted.off) ** 2 * told / 2
        return (usual, gain - lost + usual.worth) if lost < usual.worth else (fitted, gain)


@dataclass(frozen=True)
class _Unslipped:
    """The sheet as it is known so far: what is found on it, which strokes are found whole, the ink
    that these account for, where all strokes are expected (each 1 × places), and how far the hand's
    errors put them off.
    """

    rows: Rows
    whole: frozenset[int]
    ink: Accounted
    places: list[Places]
    lean: list[Places]


def _unslipped(rows: Rows, places: list[Places], lean: list[Places]) -> _Unslipped:
    whole = frozenset(stroke for stroke in rows.strokes
                      if rows.bare.get(stroke, 0.0) <= _MOST_BARE_MM)  # fmt: skip
    known = [path for stroke, path in rows.paths.items() if stroke in whole]
    return _Unslipped(rows, whole, Accounted(known), places, lean)


def _newly_found(before: _Unslipped, after: Rows, places: Sequence[Places]) -> tuple[int, int]:
    """Return how many strokes more are found with a slip by chance alone, and how many on ink that
    nothing else accounts for; `places` are where it puts all strokes.

    What a slip hardly moves lies on the verge of being found at all, and what it puts on the ink of
    other strokes finds ink there anyway: neither tells anything.
    """
    were, are = before.rows.strokes, after.strokes

    moved = [(a - b)[0] for a, b in zip(places, before.places, strict=True)]
    # a small motion of the whole drawing is none of any stroke: ink is looked for along with it
    whole = complex(*np.nanmedian(np.concatenate(moved).view(float).reshape(-1, 2), axis=0))
    drift = whole if abs(whole) < _DRIFT_MM else 0.0

    def is_still(stroke: int) -> bool:
        return bool(np.abs(moved[stroke] - drift).max() < _STILL_MM)

    # a slip for which many strokes are lost has put them where they are not
    lost = min(sum(map(is_still, were - are)), _MOST_ON_VERGE)
    by_chance = sum(map(is_still, are - were)) - lost
    shares = [before.ink.share(after.paths[stroke]) for stroke in are - were
              if not is_still(stroke)]  # fmt: skip
    by_chance += sum(share > _SAME_SHARE for share in shares)
    return by_chance, sum(share < _FRESH_SHARE for share in shares)


def _batches(tried: Sequence[Slip]) -> Iterator[Sequence[Slip]]:
    for start in range(0, len(tried), _BATCH):
        yield tried[start : start + _BATCH]


def _shared(ranked: Sequence[tuple[float, Slip]], known: Slips) -> list[Suspect]:
    best = ranked[0][0]
    shares = [math.exp(gain - best) for gain, _ in ranked]
    total = sum(shares)
    return [
        Suspect((*known, slip), gain, share / total)
        for (gain, slip), share in zip(ranked, shares, strict=True)
        if share / total > _LEAST_SHARE
    ]


_LEAST_SHARE = 0.02
