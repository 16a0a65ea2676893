"""Slips in the drafter's words."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from holoptic.catalogue import Saying, later
from holoptic.checking.causes import Suspect
from holoptic.checking.report import Cause
from holoptic.checking.slips import Slip, Sort
from holoptic.checking.traces import Draw
from holoptic.plan.moves import Move, bears_letter
from holoptic.units.spoken import on_rule


@dataclass(frozen=True)
class _Slipped:
    """What a story tells: the move's number, what it makes, what was set and what should be."""

    n: int
    name: str
    was: Saying
    should: Saying
    other: int
    """The number of the last move that was off with it; its own where there is none."""


def _all(one: _Slipped) -> dict[str, Saying | int]:
    return {"n": one.n, "name": one.name, "was": one.was, "should": one.should}


Told = Callable[[_Slipped], Saying]


def story(slip: Slip, move: Move, is_angle: bool, last: int | None = None) -> Saying:
    """Return what probably happened, as a question the drafter can answer; `last` is the number of
    the last move that was off with it.
    """
    was, should = (_angle(slip.was), _angle(slip.should)) if is_angle else (
        on_rule(abs(slip.was)), on_rule(slip.should)
    )  # fmt: skip
    name = name_of_made(move)
    return _STORIES[slip.sort if not (is_angle and slip.sort == "other") else "turned"](
        _Slipped(move.n, name, was, should, move.n if last is None else last)
    )


def cause_of(suspect: Suspect, draws: Sequence[Draw], moves: Sequence[Move]) -> Cause:
    """Return the last slip of a suspect as it is told."""
    slip = suspect.slips[-1]
    group = len(suspect.slips) - 1
    if slip.needle is not None:
        move = moves[slip.needle.move]
        told = later("move {n}: the needle stood on {at}, it should be on {should}: the arc from "
                     "the wrong corner?", n=move.n, at=slip.needle.at,
                     should=slip.needle.should)  # fmt: skip
        return Cause(move.n, "needle", round(slip.off, 2), 0.0, round(suspect.weight, 3), told,
                     group)  # fmt: skip
    draw = draws[slip.draw]
    move = moves[draw.move]
    last = max(moves[draws[number].move].n for number, _ in slip.offs)
    what = "angle" if draw.is_angle else ("compass" if move.verb in _ROUND else "setting")
    return Cause(move.n, what, round(slip.was, 2), round(slip.should, 2),
                 round(suspect.weight, 3), story(slip, move, draw.is_angle, last),
                 group)  # fmt: skip


_ROUND = ("circle", "arc", "same arc")


def name_of_made(move: Move) -> str:
    """Return what a move makes, as the paper calls it."""
    made = [name for name in move.makes if bears_letter(name)] or list(move.makes)
    return made[0] if made else ""


def _angle(degrees: float) -> Saying:
    return later("{degrees}°", degrees=round(degrees % 180.0, 1))


def _figures(one: _Slipped) -> Saying:
    return later("move {n}: {name} was set off {was}, it should be {should}: figures changed over?",
                 **_all(one))  # fmt: skip


def _graduation(one: _Slipped) -> Saying:
    return later("move {n}: {name} was set off {was}, it should be {should}: the neighbouring "
                 "graduation?", **_all(one))  # fmt: skip


def _whole(one: _Slipped) -> Saying:
    return later("move {n}: {name} was set off {was}, it should be {should}: the scale was not "
                 "taken?", **_all(one))  # fmt: skip


def _half(one: _Slipped) -> Saying:
    return later("move {n}: {name} was set off {was}, it should be {should}: half was taken for "
                 "whole?", **_all(one))  # fmt: skip


def _wrong_way(one: _Slipped) -> Saying:
    return later("move {n}: {name} was set off {should} the wrong way along its line?",
                 n=one.n, name=one.name, should=one.should)  # fmt: skip


def _other_length(one: _Slipped) -> Saying:
    return later("move {n}: {name} was set off {was}, it should be {should}: another length of the "
                 "part, changed over?", **_all(one))  # fmt: skip


def _edge(one: _Slipped) -> Saying:
    return later("move {n}: {name} was set off {was}, it should be {should}: measured to the edge, "
                 "not to the centre?", **_all(one))  # fmt: skip


def _square(one: _Slipped) -> Saying:
    return later("move {n}: the line was drawn at {was}, it should be at {should}: the other "
                 "square, or its other side?", n=one.n, was=one.was, should=one.should)  # fmt: skip


def _mirror(one: _Slipped) -> Saying:
    return later("move {n}: the line was drawn at {was}, it should be at {should}: the square lay "
                 "the other way round?", n=one.n, was=one.was, should=one.should)  # fmt: skip


def _turned(one: _Slipped) -> Saying:
    return later("move {n}: the line was drawn at {was}, it should be at {should}: the square "
                 "slipped?", n=one.n, was=one.was, should=one.should)  # fmt: skip


def _diameter(one: _Slipped) -> Saying:
    return later("move {n}: the compass was set to {was}, it should be {should}: the diameter, not "
                 "the radius?", n=one.n, was=one.was, should=one.should)  # fmt: skip


def _changed(one: _Slipped) -> Saying:
    return later("moves {n} and {other}: {name} was set off {was} instead of {should}, and the "
                 "other the other way round: two lengths changed over?",
                 **_all(one), other=one.other)  # fmt: skip


def _wrong_end(one: _Slipped) -> Saying:
    if one.other == one.n:
        return later("move {n}: {name} was set off {was}, it should be {should}: from the wrong "
                     "end of the crate?", **_all(one))  # fmt: skip
    return later("moves {n} to {other}: {name} was set off {was}, it should be {should}: "
                 "the feature from the wrong end of the crate?",
                 **_all(one), other=one.other)  # fmt: skip


def _other(one: _Slipped) -> Saying:
    return later("move {n}: {name} was set off {was}, it should be {should}", **_all(one))


_STORIES: dict[Literal["turned"] | Sort, Told] = {
    "figures": _figures, "graduation": _graduation, "whole": _whole, "half": _half,
    "wrong way": _wrong_way, "other length": _other_length, "edge": _edge, "angle": _square,
    "mirror": _mirror, "turned": _turned, "diameter": _diameter,
    "changed": _changed, "wrong end": _wrong_end, "other": _other,
}  # fmt: skip
