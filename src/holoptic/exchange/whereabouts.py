"""Where a drafter is in the plan of each figure, and how long each move took.

Small JSON files in the XDG state folder, one a job. They may never stop the program: what cannot
be read is as if it were not there.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
from dataclasses import dataclass, field
from pathlib import Path

from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.places import read_json_object, state_folder
from holoptic.plan import Plan


@dataclass
class Whereabouts:
    """How many moves of a plan are done, the seconds that moves took, by their number, and the
    names of what stood on the paper without the plan.
    """

    at: int = 0
    seconds: dict[int, float] = field(default_factory=dict)
    stands: set[str] = field(default_factory=set)
    readings: dict[int, float] = field(default_factory=dict)
    """What rules read at check moves, mm, by the number of the move."""

    @property
    def total(self) -> float:
        """The seconds of all moves that were timed."""
        return sum(self.seconds.values())


def read_whereabouts(job_id: str, figure_id: str, plan: Plan) -> Whereabouts:
    """Return where the drafter is; at the start where the plan is another than was kept."""
    kept = read_json_object(_file(job_id)).get(figure_id)
    if not isinstance(kept, dict) or kept.get("plan") != plan_mark(plan):
        return Whereabouts()
    at = kept.get("at")
    found = Whereabouts(at if isinstance(at, int) and 0 <= at <= len(plan.moves) else 0)
    found.seconds, found.readings = (_by_number(kept.get(key)) for key in ("seconds", "readings"))
    stands, made = kept.get("stands"), {name for move in plan.moves for name in move.makes}
    if isinstance(stands, list):
        found.stands = {name for name in stands if isinstance(name, str) and name in made}
    return found


def _by_number(kept: object) -> dict[int, float]:
    pairs = kept.items() if isinstance(kept, dict) else ()
    return {int(number): float(value) for number, value in pairs
            if number.isdecimal() and isinstance(value, int | float)}  # fmt: skip


def keep_whereabouts(job_id: str, figure_id: str, plan: Plan, where: Whereabouts) -> None:
    """Keep where the drafter is; a full disk is no reason to disturb the work."""
    seconds = {str(number): round(taken, 1) for number, taken in sorted(where.seconds.items())}
    content = read_json_object(_file(job_id))
    content[figure_id] = {"plan": plan_mark(plan), "at": where.at, "seconds": seconds,
                          **({"stands": sorted(where.stands)} if where.stands else {}),
                          **({"readings": {str(n): mm for n, mm in where.readings.items()}}
                             if where.readings else {})}  # fmt: skip
    with contextlib.suppress(BadInput, OSError):
        write_atomically(_file(job_id), json.dumps(content, indent=1).encode())


def plan_mark(plan: Plan) -> str:
    """Return what tells plans apart: a digest of what the hand does and sets, not of the words."""
    moves = [
        (move.verb, len(move.uses), len(move.makes), _rounded(move.setting_mm),
         _rounded(move.angle_deg), [[_rounded(value) for value in row] for row in move.table])
        for move in plan.moves
    ]  # fmt: skip
    return hashlib.sha256(json.dumps(moves).encode()).hexdigest()[:16]


def _rounded(value: float | None) -> float | None:
    """Return a figure as coarse as a hand sets it, so that the last bits tell nothing apart."""
    return None if value is None else round(value, 2) + 0.0


def _file(job_id: str) -> Path:
    return state_folder() / f"plan-{hashlib.sha256(job_id.encode()).hexdigest()[:16]}.json"
