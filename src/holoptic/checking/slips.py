"""What hands usually do wrong with one setting, each with the size that it comes to.

The list follows what drafters own up to (handbook, Checking): the neighbouring graduation, figures
changed over, half taken for whole, the wrong way along an axis, another length of the part, the
angle of the other square, the edge instead of the centre.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise
from typing import Literal, NamedTuple

from holoptic.checking.traces import Draw
from holoptic.curves.vectors import Vec2
from holoptic.plan.instruments import COMPASS
from holoptic.plan.moves import Move, feature_of
from holoptic.tolerance import SOLVED

Sort = Literal[
    "graduation", "figures", "whole", "half", "wrong way", "other length", "edge", "angle",
    "mirror", "diameter", "changed", "wrong end", "needle", "other",
]  # fmt: skip

_GRADUATIONS = (1.0, 5.0, 10.0)
_SQUARES_DEG = (15.0, 30.0, 45.0, 60.0)
_ADDEND = re.compile(r"\d+(?:\.\d+)?")
_GLARING_DEG = 32.0
"""A line that is turned further looks wrong at once."""
_LEAST_MM = 0.8
"""A slip of less is hardly told from the hand's ordinary spread, and asks for no story."""
_MOST_OTHERS = 12
_MOST_PAIRS = 60
_MOST_CENTRES = 3
_ARCS = ("arc", "same arc")
_BORDER, _CRATE = "sheet", "crate"
_WORTH = {
    "graduation": 1.5, "figures": 2.0, "whole": 2.5, "half": 2.5, "wrong way": 2.0,
    "other length": 1.5, "edge": 1.0, "angle": 2.5, "mirror": 1.5, "diameter": 2.0, "changed": 1.0,
    "wrong end": 2.0, "needle": 2.0, "other": 0.0,
}  # fmt: skip
"""How much likelier each is than a slip of any size: the logarithm of a share of all slips over the
share of one size among the hundreds that could be."""


class Needle(NamedTuple):
    """A compass's needle on the wrong place: the index of the move, how far off that is on the
    paper (mm, across and up as a complex number), and the names of that place and of the right one.
    """

    move: int
    off: complex
    at: str
    should: str


@dataclass(frozen=True)
class Slip:
    """One setting that was off: `draw` is its number among the draws of a plan, `off` by how much
    (mm; of an angle degrees), `was` what was set and `should` what the plan says. `more` are other
    settings that are off with it, each with by how much: two lengths changed over, a feature on
    the wrong side. With a `needle` on the wrong place no setting is off: `draw` is that of the
    compass then, and `off` how far the places lie apart.
    """

    draw: int
    off: float
    sort: Sort
    was: float
    should: float
    more: tuple[tuple[int, float], ...] = ()
    needle: Needle | None = None

    @property
    def worth(self) -> float:
        """How much likelier it is than one of any size, as a logarithm."""
        if self.sort in ("angle", "mirror") and abs(self.off) > _GLARING_DEG:
            return _WORTH["edge"]
        return _WORTH[self.sort]

    @property
    def offs(self) -> tuple[tuple[int, float], ...]:
        """The draws that are off, each with by how much."""
        return () if self.needle else ((self.draw, self.off), *self.more)

    @property
    def has_size(self) -> bool:
        """Whether it may be of any size, and not as it is or not at all."""
        return not self.more and self.needle is None


def usual_slips(moves: Sequence[Move], draws: Sequence[Draw]) -> list[Slip]:
    """Return the usual slips of each setting, each size once, the likeliest sort of it."""
    radii = sorted({move.setting_mm for move in moves
                    if move.instrument == COMPASS and move.setting_mm})  # fmt: skip
    found: dict[tuple[int, float], Slip] = {}
    for number, one in enumerate(draws):
        move = moves[one.move]
        should = setting_of(move, one)
        slips = (_turns(move) if one.is_angle
                 else _lengths(moves, move, one.move, should, radii))  # fmt: skip
        for sort, was in slips:
            slip = Slip(number, was - should, sort, was, should)
            key = number, round(slip.off, 2)
            if abs(slip.off) >= _LEAST_MM and (key not in found or slip.worth > found[key].worth):
                found[key] = slip
    return list(found.values())


class _Length(NamedTuple):
    """A length that is set off along an axis: the number of its draw, and how long it should be."""

    draw: int
    axis: str
    size: float


def slips_together(moves: Sequence[Move], draws: Sequence[Draw]) -> list[Slip]:
    """Return the usual slips that put several settings wrong at once: two lengths along different
    axes changed over, and a feature set off from the wrong end of the crate.
    """
    phases: dict[str, list[_Length]] = {}
    for number, one in enumerate(draws):
        length = _length_of(moves[one.move], one, number)
        if length is not None and moves[one.move].phase != _BORDER:
            phases.setdefault(moves[one.move].phase, []).append(length)
    crate: dict[str, float] = {}
    for side in phases.get(_CRATE, ()):
        crate[side.axis] = max(side.size, crate.get(side.axis, 0.0))
    found: list[Slip] = []
    for phase, lengths in phases.items():
        found += _changed(lengths)
        if feature_of(phase) is not None:
            found += _from_the_other_end(lengths, crate)
    return found


def _length_of(move: Move, draw: Draw, number: int) -> _Length | None:
    """Return the length that a draw sets off along an axis; None of another sort of draw."""
    if draw.is_angle or move.verb not in ("set off", "plot"):
        return None
    lines = [move.uses[1]]
    if move.verb == "plot":
        lines = [line for row in move.table
                 for line, size in zip(move.uses[1:], row, strict=True) if size]  # fmt: skip
    size = setting_of(move, draw)
    if size <= 0 or draw.part >= len(lines):
        return None
    return _Length(number, lines[draw.part].rpartition(" ")[0], size)


def _changed(lengths: Sequence[_Length]) -> Iterator[Slip]:
    """Yield the slips of two lengths along different axes that were changed over."""
    for one, other in list(combinations(lengths, 2))[:_MOST_PAIRS]:
        off = other.size - one.size
        if one.axis != other.axis and abs(off) >= _LEAST_MM:
            yield Slip(one.draw, off, "changed", other.size, one.size, ((other.draw, -off),))


def _from_the_other_end(
    lengths: Sequence[_Length], crate: Mapping[str, float]
) -> Iterator[Slip]:  # fmt: skip
    """Yield for each axis the slip of all lengths of a feature set off from its other end."""
    for axis in crate:
        offs = [(one, crate[axis] - 2 * one.size) for one in lengths if one.axis == axis]
        offs = [(one, off) for one, off in offs if abs(off) >= _LEAST_MM]
        if offs and all(one.size < crate[axis] for one, _ in offs):
            (first, off), *rest = offs
            yield Slip(first.draw, off, "wrong end", first.size + off, first.size,
                       tuple((one.draw, other) for one, other in rest))  # fmt: skip


def needle_slips(
    moves: Sequence[Move], draws: Sequence[Draw], places: Mapping[str, Vec2]
) -> list[Slip]:
    """Return the slips of arcs that were drawn from the centre of another arc of their feature, as
    of an oval from the acute corner; `places` are where points should lie, mm.
    """
    centres: dict[str, list[str]] = {}
    for move in moves:
        if move.verb in _ARCS and move.uses[0] not in centres.setdefault(move.phase, []):
            centres[move.phase].append(move.uses[0])
    found: list[Slip] = []
    compass = {one.move: number for number, one in enumerate(draws)}
    last = 0
    for number, move in enumerate(moves):
        last = compass.get(number, last) if move.instrument == COMPASS else last
        if move.verb not in _ARCS:
            continue
        right = complex(*places[move.uses[0]])
        offs = [(name, complex(*places[name]) - right) for name in centres[move.phase]]
        near = sorted((abs(off), name, off) for name, off in offs if abs(off) >= _LEAST_MM)
        found += (Slip(last, size, "needle", size, 0.0,
                       needle=Needle(number, off, name, move.uses[0]))
                  for size, name, off in near[:_MOST_CENTRES])  # fmt: skip
    return found


def setting_of(move: Move, draw: Draw) -> float:
    """Return what a move sets in one of its draws: mm, of an angle degrees; 0 where by eye."""
    if draw.is_angle:
        return move.angle_deg or 0.0
    if move.verb == "plot":
        sizes = [size for row in move.table for size in row if size]
        return sizes[draw.part] if draw.part < len(sizes) else 0.0
    return move.setting_mm or 0.0


def _lengths(
    moves: Sequence[Move], move: Move, number: int, should: float, radii: Sequence[float]
) -> Iterator[tuple[Sort, float]]:
    """Yield what may have been set instead of a length."""
    if should <= 0:
        return
    for step in _GRADUATIONS:
        yield "graduation", should + step
        if should > step:
            yield "graduation", should - step
    for other in changed_over(should):
        yield "figures", other
    if move.instrument == COMPASS:
        yield "diameter", 2 * should
        yield "half", should / 2
        return
    true = move.lift.true_mm if move.lift is not None else should
    if abs(true - should) > _LEAST_MM:
        yield "whole", true  # as it measures on the part, not as it is drawn
        for other in changed_over(true):
            yield "figures", other * should / true
    yield "half", should / 2
    yield "whole", 2 * should
    yield "wrong way", -should
    near = sorted(
        {size for k, other in enumerate(moves)
         if other.verb == move.verb and other.phase == move.phase
         for size in _lengths_read(other) if k != number or size != should},
        key=lambda size: abs(size - should),
    )  # fmt: skip
    for size in near[:_MOST_OTHERS]:
        yield "other length", size
    for radius in radii:
        yield "edge", should + radius
        if should > radius:
            yield "edge", should - radius


def _lengths_read(move: Move) -> Iterator[float]:
    """Yield the lengths that a move has before the eye: its setting, and what that is a sum of."""
    if not move.setting_mm:
        return
    yield move.setting_mm
    if move.lift is not None and "+" in move.lift.words and move.lift.true_mm > SOLVED:
        for addend in _ADDEND.findall(move.lift.words):
            yield float(addend) * move.setting_mm / move.lift.true_mm


def _turns(move: Move) -> Iterator[tuple[Sort, float]]:
    """Yield the directions that a square may have been laid along instead, degrees."""
    should = move.angle_deg or 0.0
    for other in (0.0, *_SQUARES_DEG, 75.0, 90.0, 105.0, 120.0, 135.0, 150.0, 165.0):
        turn = (other - should + 90.0) % 180.0 - 90.0  # a line runs both ways
        if 0 < abs(turn) <= 60.0:
            yield ("mirror" if abs((should + other) % 180.0) < 1.0 else "angle"), should + turn


def changed_over(length: float) -> list[float]:
    """Return what a length reads as with two neighbouring figures changed over: 26.5 as 62.5, 25.6.

    Lengths of three decimals and more are none that a rule is set to.
    """
    text = f"{length:.1f}" if abs(length - round(length, 1)) < SOLVED else f"{length:.2f}"
    places = [k for k, sign in enumerate(text) if sign.isdigit()]
    found = []
    for a, b in pairwise(places):
        signs = list(text)
        signs[a], signs[b] = signs[b], signs[a]
        other = float("".join(signs))
        if other > 0 and other != length:
            found.append(other)
    return found
