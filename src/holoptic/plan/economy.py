"""Sparing the hand: nothing that is not needed, and no distance measured twice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from holoptic.catalogue import later, sentences
from holoptic.plan.instruments import COMPASS, DIVIDERS
from holoptic.plan.moves import Move
from holoptic.units.spoken import on_rule

_METHOD_PHASES = ("sheet", "start", "crate")
"""Phases drawn whole: what they leave out could not be checked."""
_RULED = ("draw", "parallel", "square", "join")


def needed(moves: Sequence[Move]) -> list[Move]:
    """Return the moves without construction that no firm line and no check hangs on."""
    used: set[str] = set()
    kept: list[Move] = []
    for move in reversed(moves):
        is_end = move.verb in ("firm in", "check", "go over") or move.phase in _METHOD_PHASES
        if is_end or used.intersection(move.makes):
            used.update(move.uses)
            kept.append(move)
    return kept[::-1]


def marked_with_lines(moves: Sequence[Move]) -> list[Move]:
    """Return the moves with crossings marked in the move before, where that draws one of the lines:
    whoever draws a line marks at once where it meets another.
    """
    made: list[Move] = []
    for move in moves:
        last = made[-1] if made else move
        lines = move.uses[:2]
        if move.met and last.verb in _RULED and last.makes[0] in lines:
            fresh = lines.index(last.makes[0])
            made[-1] = replace(last, uses=(*last.uses, lines[1 - fresh]),
                               makes=(*last.makes, *move.makes),
                               template=sentences(last.template, move.met[fresh]))  # fmt: skip
        else:
            made.append(move)
    return made


def share_settings(moves: Sequence[Move]) -> list[Move]:
    """Return the moves with their settings shared.

    Dividers and compass that still stand as a move needs them are kept; a distance that has been
    set off before is carried from the paper and not lifted again.
    """
    dividers: float | None = None
    compass: float | None = None
    on_paper: dict[float, tuple[str, str]] = {}
    shared: list[Move] = []
    for move in moves:
        made = move
        if move.instrument == DIVIDERS and move.verb in ("set off", "swing"):
            size = _rounded(move)
            if size == dividers:
                made = _kept(move)
            elif size in on_paper and len(move.uses) == 2:
                made = _carried(move, *on_paper[size])
            dividers = size
            on_paper.setdefault(size, (move.uses[0], move.makes[0]))
        elif move.verb == "plot":
            dividers = None
        elif move.instrument == COMPASS and move.setting_mm is not None:
            size = _rounded(move)
            if size == compass:
                made = _kept_compass(move)
            elif move.verb == "same arc":
                made = _reset_compass(move)
            compass = size
        shared.append(made)
    return shared


def _rounded(move: Move) -> float:
    return round(move.setting_mm or 0.0, 6)


def _kept(move: Move) -> Move:
    size = on_rule(move.setting_mm or 0.0)
    text = sentences(later("Dividers as they are, {size}.", size=size), move.rest)
    # what is kept between the points is the span itself, wherever it was taken first
    return replace(move, kept=True, template=text, uses=move.uses[:2])


def _carried(move: Move, start: str, end: str) -> Move:
    take = later(
        "Take {start} to {end}, {size}, from the paper with the dividers.",
        start=start,
        end=end,
        size=on_rule(move.setting_mm or 0.0),
    )
    text = sentences(take, move.rest)
    return replace(move, template=text, uses=(*move.uses, start, end))


def _kept_compass(move: Move) -> Move:
    if not move.rest or move.verb == "same arc":
        return replace(move, kept=True)
    radius = on_rule(move.setting_mm or 0.0)
    text = sentences(later("Compass as it is, {radius}.", radius=radius), move.rest)
    return replace(move, kept=True, template=text)


def _reset_compass(move: Move) -> Move:
    back = later(
        "Compass back to {radius}, needle on {centre}.", centre=move.uses[0],
        radius=on_rule(move.setting_mm or 0.0),
    )  # fmt: skip
    text = sentences(back, move.rest)
    return replace(move, template=text)
