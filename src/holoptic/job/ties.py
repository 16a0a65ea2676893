"""Placing by meaning: face on face, axis on axis, flush with, same middle.

A tie says how one placed part stands to another. Together the ties of a part give its turn and its
place as far as they say anything; the rest stays as it was, and what may still move is told. Ties
are written as a line: `bottom on latch plate.top`, `bore on flange.bore`,
`front flush block.front`, `length middle latch plate`.

A first direction is turned to by the smallest turn, a second one about it (the two-vector
construction, TRIAD; Black 1964); the place is the one nearest to the present that solves the
linear equations of all ties.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3, add, cross, dot, subtract, unit
from holoptic.errors import BadInput
from holoptic.part.crate import AXIS_NAMES
from holoptic.part.grips import Grip, grip_of
from holoptic.part.part import Part
from holoptic.part.whole import PartSource, Turning, after, rotation, turned
from holoptic.tolerance import FINE, GIVEN_MM, SHARE
from holoptic.units import Length, Unit

TieSort = Literal["on", "flush", "middle"]
_AXIS_WORDS = ("length", "depth", "height")
_LINE = re.compile(r"\s*(?P<own>.+?)\s+(?P<sort>on|flush|middle)\s+(?P<other>.+?)\s*")
_GAP = re.compile(r"(?P<other>.+?)\s+(?P<sign>[+-])\s*(?P<gap>.+)")


@dataclass(frozen=True)
class Tie:
    """How a placed part stands to another one (`to`, its id).

    on: a face lies on a face, or an axis runs in an axis; flush: two faces lie in one plane, turned
    the same way; middle: the middles of two crates lie level along an axis of the other one. `gap`
    is kept between faces. `own` and `other` are grips (`part.grips`), or an axis for middles.
    """

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    sort: TieSort
    own: str
    to: str
    other: str
    gap: Length | None = None

    def words(self, name: str) -> str:
        """Return it as it is written; `name` is that of the other placed part."""
        rest = name if self.sort == "middle" else f"{name}.{self.other}"
        if self.gap is None:
            return f"{self.own} {self.sort} {rest}"
        size = self.gap.text
        gap = f"- {size[1:]}" if size.startswith("-") else f"+ {size}"
        return f"{self.own} {self.sort} {rest} {gap}"


def read_tie(text: str, names: Mapping[str, str], unit: Unit = Unit.MM) -> Tie:
    """Read a tie; `names` are the other placed parts' ids by their names. Raises BadInput."""
    found = _LINE.fullmatch(text)
    if found is None:
        raise BadInput(tr("write it like “bottom on latch plate.top”"))
    own, sort, rest = found["own"], found["sort"], found["other"]
    name = max((n for n in names if rest == n or rest.startswith(n + ".")), key=len, default=None)
    if name is None:
        known = ", ".join(names) or tr("none here")
        raise BadInput(tr("no other part is called so (known: {known})", known=known))
    other, gap = rest[len(name) + 1 :], None
    if sort == "middle":
        if own not in _AXIS_WORDS:
            raise BadInput(tr("a middle is along length, depth or height"))
        return Tie("middle", own, names[name], own)
    if not other:
        raise BadInput(tr("on which face or axis of “{name}”? write {name}.top", name=name))
    with_gap = _GAP.fullmatch(other) if "(" not in other else None
    if with_gap is not None:
        sign = "-" if with_gap["sign"] == "-" else ""
        other, gap = with_gap["other"], Length.read(f"{sign}{with_gap['gap']}", unit)
    return Tie("on" if sort == "on" else "flush", own, names[name], other, gap)


@dataclass(frozen=True)
class Stand:
    """Where a placed part stands: what it is, how it is turned, and where its origin lies, mm."""

    source: PartSource
    turning: Turning
    at: Vec3

    def held(self, grip: Grip) -> Grip:
        """Return a grip of it as it stands."""
        place = add(turned(self.turning, grip.place), self.at)
        return Grip(grip.sort, place, turned(self.turning, grip.way))


@dataclass(frozen=True)
class Settled:
    """A part as its ties place it, and what is to be said of that.

    `freedom` says what may still move, empty where nothing may; `conflict` which tie contradicts
    the others.
    """

    stand: Stand
    freedom: str = ""
    conflict: str = ""


def settle(stand: Stand, ties: Sequence[tuple[Tie, Stand]], names: Mapping[str, str]) -> Settled:
    """Return a part as its ties to others place it; `names` are the others' by their ids.

    A tie that cannot be met beside those before it is left out, and told.

    Raises BadInput for a tie that holds by what is not there.
    """
    holds: list[_Hold] = []
    found, conflicts = _settle(stand, ()), []
    for tie, other in ties:
        hold = _Hold.of(tie, stand, other, names[tie.to])
        more = _settle(stand, (*holds, hold))
        if more.conflict:
            conflicts.append(hold.words)
        else:
            holds.append(hold)
            found = more
    words = [tr("“{tie}” contradicts the others", tie=each) for each in conflicts]
    return replace(found, conflict="; ".join(words))


def _settle(stand: Stand, holds: Sequence[_Hold]) -> Settled:
    """Return a part as all its ties place it, with the one that cannot be met."""
    turning, turns, askew = _turned_to(stand.turning, [h for h in holds if h.sort != "middle"])
    moved = replace(stand, turning=turning)
    at, ways, off = _placed_at(moved, [level for hold in holds for level in hold.levels()])
    return Settled(replace(moved, at=at), _freedom(turns, ways), askew or off)


@dataclass(frozen=True)
class _Hold:
    """A tie with its two grips: the part's own as described, the other's as it stands."""

    words: str
    own: Grip
    other: Grip
    sort: TieSort
    gap: float

    @classmethod
    def of(cls, tie: Tie, stand: Stand, other: Stand, name: str) -> _Hold:
        gap = 0.0 if tie.gap is None else tie.gap.mm
        words = tie.words(name)
        if tie.sort == "middle":
            own_grip, other_grip = (_middle(one.source, tie.own) for one in (stand, other))
        else:
            own_grip = grip_of(stand.source, tie.own)
            other_grip = grip_of(other.source, tie.other)
            if own_grip.sort != other_grip.sort or (
                tie.sort == "flush" and own_grip.sort == "axis"
            ):
                raise BadInput(
                    tr("“{words}”: a face lies on a face, an axis runs in an axis", words=words)
                )
        return cls(words, own_grip, other.held(other_grip), tie.sort, gap)

    @property
    def target(self) -> Vec3:
        """The direction that its own is to have."""
        x, y, z = self.other.way
        return (-x, -y, -z) if self.sort == "on" and self.own.sort == "face" else self.other.way

    @property
    def is_either_way(self) -> bool:
        """Whether the opposite direction does as well."""
        return self.own.sort == "axis"

    def levels(self) -> Iterator[tuple[str, Vec3, Vec3, float]]:
        """Yield what is to be level: along a direction, its own place with a coordinate."""
        way, place = self.other.way, self.other.place
        if self.own.sort == "axis" and self.sort != "middle":
            for across in _square_to(way):
                yield self.words, across, self.own.place, dot(across, place)
        else:
            yield self.words, way, self.own.place, dot(way, place) + self.gap


def _middle(source: PartSource, axis_word: str) -> Grip:
    """Return the middle of a crate with the direction of one of its axes."""
    if not isinstance(source, Part):
        raise BadInput(
            tr("“{name}” comes from a file and has no crate to be in the middle of",
               name=source.name)
        )  # fmt: skip
    axis = _AXIS_WORDS.index(axis_word)
    x, y, z = (size / 2 for size in source.crate.sizes)
    way = [0.0, 0.0, 0.0]
    way[axis] = 1.0
    return Grip("face", (x, y, z), (way[0], way[1], way[2]))


def _square_to(way: Vec3) -> tuple[Vec3, Vec3]:
    """Return two directions square to one and to each other."""
    steepest = max(range(3), key=lambda k: abs(way[k]))
    other = [0.0, 0.0, 0.0]
    other[(steepest + 1) % 3] = 1.0
    first = unit(cross(way, (other[0], other[1], other[2])))
    return first, cross(way, first)


# --- turning ------------------------------------------------------------------------------------


def _turned_to(present: Turning, holds: Sequence[_Hold]) -> tuple[Turning, Vec3 | int, str]:
    """Return the turn that ties ask for: what may still turn, and the tie that cannot be met.

    What may still turn is an axis, or the number of directions: 3 without a tie, else 0.
    """
    turning, first, second = present, None, False
    # what may lie either way follows what may not
    for hold in sorted(holds, key=lambda hold: hold.is_either_way):
        own, target = turned(turning, hold.own.way), hold.target
        if hold.is_either_way and dot(own, target) < 0:
            target = (-target[0], -target[1], -target[2])
        if first is None:
            turning, first = after(_smallest(own, target), turning), target
            continue
        if not second and abs(dot(target, first)) < 1 - SHARE:
            turning, second = after(_about(first, own, target), turning), True
        gap = subtract(turned(turning, hold.own.way), target)
        if dot(gap, gap) > FINE:
            return turning, first, hold.words
    if first is None:
        return turning, 3, ""
    return turning, (0 if second else first), ""


def _smallest(start: Vec3, end: Vec3) -> Turning:
    """Return the smallest turn from one direction to another (Rodrigues)."""
    axis, cosine = cross(start, end), dot(start, end)
    sine = math.sqrt(dot(axis, axis))
    if sine < FINE:
        if cosine > 0:
            return rotation((0.0, 0.0, 1.0), 0.0)
        return rotation(_square_to(start)[0], math.pi)
    return rotation(unit(axis), math.atan2(sine, cosine))


def _about(axis: Vec3, start: Vec3, end: Vec3) -> Turning:
    """Return the turn about an axis that brings a direction nearest to another."""
    a, b = (add(way, axis, -dot(way, axis)) for way in (start, end))
    return rotation(axis, math.atan2(dot(axis, cross(a, b)), dot(a, b)))


# --- placing ------------------------------------------------------------------------------------


def _placed_at(
    stand: Stand, levels: Sequence[tuple[str, Vec3, Vec3, float]]
) -> tuple[Vec3, np.ndarray, str]:
    """Return the place that ties ask for, the ways in which it may still move (n × 3), and the tie
    that cannot be met.
    """
    if not levels:
        return stand.at, np.eye(3), ""
    rows = np.array([way for _, way, _, _ in levels])
    wanted = np.array([
        level - dot(way, turned(stand.turning, place)) for _, way, place, level in levels
    ])  # fmt: skip
    present = np.array(stand.at)
    move, *_ = np.linalg.lstsq(rows, wanted - rows @ present, rcond=SHARE)
    x, y, z = (present + move).tolist()
    left = np.abs(rows @ (present + move) - wanted)
    worst = int(np.argmax(left))
    _, sizes, ways = np.linalg.svd(rows, full_matrices=True)
    rank = int((sizes > SHARE).sum())
    return (x, y, z), ways[rank:], levels[worst][0] if left[worst] > GIVEN_MM else ""


def _freedom(turns: Vec3 | int, ways: np.ndarray) -> str:
    """Say what may still move."""
    found = []
    if len(ways) == 3 and turns == 3:
        return tr("nothing holds it yet")
    if len(ways):
        along = [AXIS_NAMES[k] for k in range(3) if np.abs(ways[:, k]).max() > 0.5]
        found.append(tr("may still move along {axes}", axes=", ".join(along)))
    if turns == 3:
        found.append(tr("may still turn in any way"))
    elif isinstance(turns, tuple):
        names = [n for k, n in enumerate(AXIS_NAMES) if abs(turns[k]) > 1 - FINE]
        axis = tr("the {name}", name=names[0]) if names else tr("its axis")
        found.append(tr("may still turn about {axis}", axis=axis))
    return "; ".join(found)
