"""Nothing before its time: what only a later feature needs is made when that one is in hand."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import replace

from holoptic.plan.moves import HIDDEN_LINES, Move, feature_of


def postponed(moves: Sequence[Move], features: Mapping[str, str]) -> list[Move]:
    """Return moves with each that only later features need put before the first move that uses
    it, into the phase of that move. `features` has the feature of each stroke by name.

    Places that two features share are found with the first of them. Where the first turns out not
    to need them, whoever draws it would ask what they are for. Nothing is put where all is only
    gone over.
    """
    needs, users = _hanging_on(moves, features)
    bands = _bands(moves)
    place = list(range(len(moves)))
    for index in range(len(moves) - 1, -1, -1):
        own, asked = feature_of(moves[index].phase), [place[user] for user in users[index]]
        if own is None or not asked or moves[index].verb in ("firm in", "check"):
            continue
        first = min(asked)
        is_construction = feature_of(moves[first].phase) or moves[first].phase == HIDDEN_LINES
        if not needs[index] & {own, ""} and bands[first] > bands[index] and is_construction:
            place[index] = first
    order = sorted(range(len(moves)), key=lambda index: (place[index], index))
    return [replace(moves[index], phase=moves[place[index]].phase) for index in order]


def _hanging_on(
    moves: Sequence[Move], features: Mapping[str, str]
) -> tuple[list[set[str]], list[list[int]]]:
    """Return for each move the features of the strokes that hang on it, "" for a check; and the
    later moves that use what it makes.
    """
    needs: list[set[str]] = [set() for _ in moves]
    users: list[list[int]] = [[] for _ in moves]
    by_name: dict[str, list[int]] = defaultdict(list)
    for index in range(len(moves) - 1, -1, -1):
        move = moves[index]
        users[index] = [user for name in move.makes for user in by_name[name]]
        own = {features.get(name, "") for name in move.makes} if move.verb == "firm in" else set()
        needs[index] = own.union(*(needs[user] for user in users[index]))
        if move.verb == "check":
            needs[index].add("")
        for name in move.uses:
            by_name[name].append(index)
    return needs, users


def _bands(moves: Sequence[Move]) -> list[int]:
    """Return for each move the number of the run of moves of one phase that it belongs to."""
    numbers: list[int] = []
    for index, move in enumerate(moves):
        is_new = index == 0 or move.phase != moves[index - 1].phase
        numbers.append((numbers[-1] if numbers else 0) + is_new)
    return numbers
