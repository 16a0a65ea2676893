"""Whether what the picture shows is drawn, and what is left out is said."""

from __future__ import annotations

from collections.abc import Iterator

from holoptic.catalogue import tr
from holoptic.plan.critic.remarks import Remark
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.moves import HEAVY_LINES

_OPENING = 24
"""What is left out is said within the first moves, before the crate is carved."""


def judge_contents(sitting: Sitting) -> Iterator[Remark]:
    """Yield lines of the picture that are neither drawn nor said to be left out."""
    picture, plan = sitting.picture, sitting.plan
    if picture is None:
        return
    drawn = {name for move in plan.moves for name in move.makes}
    opening = " ".join(move.english for move in plan.moves[:_OPENING])
    missing = [stroke for stroke in picture.visible if stroke.id not in drawn]
    if missing:
        yield Remark("whole", 0, tr("{count} visible lines are not drawn", count=len(missing)))
    hidden = [s for s in picture.of_role("hidden") if s.id not in drawn]
    if hidden and sitting.lines.hidden != "omit":
        yield Remark("whole", 0, tr("{count} hidden lines are not drawn", count=len(hidden)))
    elif hidden and "idden lines" not in opening:
        yield Remark("whole", 0, tr("nothing says that hidden lines are left out"))
    centres = [s for s in picture.of_role("centre") if s.id not in drawn]
    if centres and sitting.lines.centre_lines:
        yield Remark("whole", 0, tr("{count} centre lines are not drawn", count=len(centres)))
    elif centres and "entre lines" not in opening:
        yield Remark("whole", 0, tr("nothing says that centre lines are left out"))
    if sitting.lines.outline == "thick-and-thin":
        heavy = {name for move in plan.moves if move.phase == HEAVY_LINES for name in move.uses}
        thick = [s for s in picture.visible if s.thick]
        if thick and not heavy:
            yield Remark("whole", 0, tr("{count} lines are not made heavy", count=len(thick)))
