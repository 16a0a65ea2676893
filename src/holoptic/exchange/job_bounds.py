"""How much a job file may hold: looked at before anything is made of it.

What is bounded is far above what a drafter can follow, and far below what keeps a machine busy.
"""

from __future__ import annotations

from typing import Any

from holoptic.catalogue import tr
from holoptic.errors import BadInput

_DEEPEST = 40
"""Of what is nested in a file; a sound one has a dozen levels."""
_MOST = {
    "parts": 2_000,
    "sheets": 1_000,
    "arrangements": 200,
    "operations": 5_000,
    "names": 2_000,
    "steps": 20_000,
    "ties": 5_000,
    "revisions": 1_000,
    "details": 500,
}
"""Of the things in one list of that name."""
_MOST_OPERATIONS = 20_000
"""In all parts together."""
_MOST_THINGS = 500_000
"""Lists and objects; an operation has some eight."""
_LONGEST_TEXT = 20_000
_LONGEST_STEP = 4_000_000
"""Of the text of a solid that stands in the job itself."""


def require_few(data: bytes) -> None:
    """Raise BadInput where the bytes of a job file hold more lists and objects than any job does.

    They are counted before anything is made of them, as each takes some hundred bytes then.
    """
    if data.count(b"[") + data.count(b"{") > _MOST_THINGS:
        raise BadInput(tr("it holds too much for a job"))


def require_bounds(content: dict[str, Any]) -> None:
    """Raise BadInput where the plain content of a job file holds more than any job does."""
    operations = 0
    waiting: list[tuple[str, Any, int]] = [("", content, 0)]
    while waiting:
        name, item, depth = waiting.pop()
        if depth > _DEEPEST:
            raise BadInput(tr("not a sound job file: nested more than {most} deep", most=_DEEPEST))
        if isinstance(item, str):
            if len(item) > (_LONGEST_STEP if name == "step" else _LONGEST_TEXT):
                raise BadInput(tr("not a sound job file: “{name}” is too long", name=name))
            continue
        if not isinstance(item, dict | list):
            continue
        most = _MOST.get(name)
        if most is not None and len(item) > most:
            raise BadInput(tr("more than {most} {name} stand in the job", most=most, name=name))
        if name == "operations":
            operations += len(item)
            if operations > _MOST_OPERATIONS:
                raise BadInput(
                    tr("more than {most} {name} stand in the job", most=_MOST_OPERATIONS, name=name)
                )
        if isinstance(item, dict):
            waiting += [(str(key), value, depth + 1) for key, value in item.items()]
        else:
            waiting += [(f"{name} ·", value, depth + 1) for value in item]
