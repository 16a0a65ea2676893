"""Whether one thing is done after the other: a phase works on one feature, and firms it in."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from functools import cache

from holoptic.catalogue import tr
from holoptic.plan.critic.remarks import Remark
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.instruments import PENCIL
from holoptic.plan.moves import CUT_FACE, Move, feature_of

_FIRM = "firm in"
_ENDING = ("meet", "nearest", "touch")
_SHAPES = ("touch", "curve", "arc", "same arc", "circle", "trammel", "freehand", "join")


def judge_sequence(sitting: Sitting) -> Iterator[Remark]:
    """Yield what is constructed before it is needed, or firmed in later than it could be."""
    way = sitting.plan.way
    if way is None or way.order == "batched" or sitting.picture is None:
        return
    yield from _ahead_of_time(sitting)
    if way.firming == "soon":
        yield from _late(sitting)


def _strokes(sitting: Sitting) -> dict[str, str]:
    """Return the feature of each stroke of the picture."""
    if sitting.picture is None:
        return {}
    whole = bool(sitting.features) and any(
        move.phase.startswith("part: ") for move in sitting.plan.moves
    )
    found = {}
    for stroke in sitting.picture.strokes:
        index = stroke.origin.body if whole else stroke.origin.operation
        name = tr("the block") if index is None else None
        if index is not None and index < len(sitting.features):
            name = sitting.features[index]
        found[stroke.id] = name or tr("the block")
    return found


def _dependants(sitting: Sitting) -> dict[str, set[str]]:
    """Return for everything on the paper the features of the strokes that hang on it."""
    feature = _strokes(sitting)
    hang: dict[str, set[str]] = defaultdict(set)
    for move in reversed(sitting.plan.moves):
        mine: set[str] = set()
        for name in move.makes:
            mine |= hang[name]
            if move.verb == _FIRM and name in feature:
                mine.add(feature[name])
        if move.verb == "check":
            mine.add("")
        for name in move.uses:
            hang[name] |= mine
    return hang


def _ahead_of_time(sitting: Sitting) -> Iterator[Remark]:
    hang, feature = _dependants(sitting), _strokes(sitting)
    runs: dict[str, set[str]] = defaultdict(set)
    firmed: dict[str, list[Move]] = defaultdict(list)
    for move in sitting.plan.moves:
        if move.verb == _FIRM and move.makes[0] in feature:
            for item in move.uses[2:]:
                runs[item].add(feature[move.makes[0]])
            for end in move.uses[:2]:
                firmed[end].append(move)
    for move in sitting.plan.moves:
        own = feature_of(move.phase)
        if own is None or move.verb in (_FIRM, "check"):
            continue
        needs = set().union(*(hang[name] for name in move.makes))
        ends_here = _is_about(sitting, move, own) or any(own in runs[name] for name in move.uses)
        if move.verb in _ENDING and (ends_here or _waited(sitting, firmed, move, own)):
            continue  # another feature's line ends at something of this one
        if needs and own not in needs and "" not in needs:
            yield Remark("sequence", move.n, tr(
                "made while the {own} is in hand, needed by the {other} alone", own=own,
                other=", ".join(sorted(needs))))  # fmt: skip
        others = runs.get(move.makes[0], set())
        if move.verb in _SHAPES and others and own not in others:
            yield Remark("sequence", move.n, tr("the {other} is drawn while the {own} is in hand",
                other=", ".join(sorted(others)), own=own))  # fmt: skip


def _is_cut(move: Move) -> bool:
    return move.phase.startswith(CUT_FACE)


def _is_about(sitting: Sitting, move: Move, own: str) -> bool:
    """Say whether a move works on something that was made for a feature."""
    makers = (sitting.plan.moves[sitting.made_at[name]] for name in move.uses
              if name in sitting.made_at)  # fmt: skip
    return any(feature_of(maker.phase) == own for maker in makers)


def _waited(sitting: Sitting, firmed: dict[str, list[Move]], move: Move, own: str) -> bool:
    """Say whether a point is an end of strokes that had to wait for something of a feature: their
    other end is marked on it, so that both are marked now.
    """
    strokes = firmed[move.makes[0]]
    ends = [end for stroke in strokes for end in stroke.uses[:2] if end != move.makes[0]]
    makers = [sitting.plan.moves[sitting.made_at[end]] for end in ends if end in sitting.made_at]
    return bool(makers) and all(
        feature_of(maker.phase) == own and maker.phase == move.phase
        and _is_about(sitting, maker, own)
        for maker in makers
    )  # fmt: skip


def _late(sitting: Sitting) -> Iterator[Remark]:
    """Yield strokes that were certain at the end of a phase, and are firmed in later.

    Where something is cut open the cut faces come first; what remains of a feature behind them has
    its own turn.
    """
    feature = _strokes(sitting)
    ends = _phase_ends(sitting)

    @cache
    def end_of(index: int) -> int:
        return next(end for end in ends if index < end)

    first: dict[tuple[str, bool], int] = {}
    for index, move in enumerate(sitting.plan.moves):
        own = feature_of(move.phase)
        if own is not None:
            first.setdefault((own, _is_cut(move)), index)
    for index, move in enumerate(sitting.plan.moves):
        if move.verb != _FIRM or move.makes[0] not in feature or move.instrument == PENCIL:
            continue  # thin lines have a turn of their own
        of = feature[move.makes[0]]
        turn = first.get((of, _is_cut(move)), first.get((of, False), index))
        ready = max([*(sitting.made_at.get(name, 0) for name in move.uses), turn])
        if end_of(ready) <= _begin(ends, index):
            yield Remark("sequence", move.n, tr(
                "{line} ({of}) was certain by move {ready}, and is firmed in here",
                line=_line_words(move), of=of, ready=ready + 1))  # fmt: skip


def _line_words(move: Move) -> str:
    return f"{move.uses[0]}–{move.uses[1]}"


def _phase_ends(sitting: Sitting) -> list[int]:
    return [last for _, _, last in sitting.plan.phases]


def _begin(ends: list[int], index: int) -> int:
    return max((end for end in ends if end <= index), default=0)
