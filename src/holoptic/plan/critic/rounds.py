"""Whether round work goes as it is taught, with the instruments there are."""

from __future__ import annotations

from collections.abc import Iterator

from holoptic.catalogue import tr
from holoptic.plan.critic.remarks import Remark
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.instruments import COMPASS, DIVIDERS, RULE
from holoptic.tolerance import SEEN_MM

_RULED = ("draw", "parallel", "square", "join")
_ENDS = ("where the curve ends", "the end of the curve", "where a curve ends")


def judge_rounds(sitting: Sitting) -> Iterator[Remark]:
    """Yield compasses that cannot be set so, ends of what has none, balls without their ovals."""
    whole = {move.uses[0] for move in sitting.plan.moves
             if move.verb == "firm in" and move.uses[0] == move.uses[1]}  # fmt: skip
    for move in sitting.plan.moves:
        if move.instrument == COMPASS and move.setting_mm is not None:
            if move.setting_mm < sitting.outfit.least_radius:
                yield Remark("round", move.n, tr("no compass draws a radius of {size:.3g} mm",
                                                 size=move.setting_mm))  # fmt: skip
            elif move.setting_mm > sitting.outfit.largest_radius:
                yield Remark("round", move.n, tr("no compass opens to {size:.4g} mm",
                                                 size=move.setting_mm))  # fmt: skip
        if whole.intersection(move.makes) and any(words in move.english for words in _ENDS):
            yield Remark("round", move.n, tr("a closed curve has no end: {text}", text=move.text))
    yield from _bare_balls(sitting)
    yield from _too_short(sitting)


def _too_short(sitting: Sitting) -> Iterator[Remark]:
    """A line longer than the square's edge, or a distance longer than the rule, that is not said
    to be.
    """
    for move in sitting.plan.moves:
        size = move.setting_mm or 0.0
        is_set = move.verb == "set off" and not move.kept and move.instrument in (RULE, DIVIDERS)
        if is_set and size > sitting.outfit.rule + SEEN_MM and "from there" not in move.english:
            yield Remark("round", move.n, tr("no rule measures {size:.4g} mm", size=size))
        if "set square" in move.instrument and move.verb in _RULED:
            long = max((sitting.span_of(name) for name in move.makes), default=0.0)
            if long > sitting.outfit.square + SEEN_MM and "carry it on" not in move.english:
                yield Remark("round", move.n, tr("no set square is {size:.4g} mm long", size=long))


def _bare_balls(sitting: Sitting) -> Iterator[Remark]:
    """A ball is a circle about three ovals; the short way without them must be said to be one."""
    for move in sitting.plan.moves:
        if move.verb != "circle" or "ball's radius" not in move.english:
            continue
        ovals = [name for name in move.uses[1:] if name in sitting.paper.curves]
        if not ovals and "short way" not in move.english:
            yield Remark("round", move.n, tr("a ball without its three ovals"))
