"""The plan as JSON (format `holoptic-plan`), CSV and plain text."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

from holoptic.exchange.outputs import Maker
from holoptic.part import Source
from holoptic.pictorial import Picture
from holoptic.plan import Move, Plan
from holoptic.sheet.papers import Paper, scale_words
from holoptic.sheet.sheets import CAUTION
from holoptic.views.orthographic import paper_point

FORMAT = "holoptic-plan"
VERSION = 1


def plan_makers(plan: Plan, picture: Picture, source: Source, paper: Paper) -> dict[str, Maker]:
    """Return the makers of a plan's files by suffix."""
    return {
        ".json": lambda: plan_json(plan, picture, source, paper).encode("utf-8"),
        ".csv": lambda: plan_csv(plan).encode("utf-8"),
        ".txt": lambda: plan_text(plan, picture, source, paper).encode("utf-8"),
    }


def plan_json(plan: Plan, picture: Picture, source: Source, paper: Paper) -> str:
    """Return the plan as JSON text."""
    content = {
        "format": FORMAT,
        "version": VERSION,
        "units": "mm",
        "part": source.name,
        "kind": picture.view.kind,
        "corner": picture.view.corner.value if picture.view.corner else None,
        "paper": paper.name,
        "scale": scale_words(plan.setup.scale),
        "moves": [_move(move) for move in plan.moves],
    }
    return json.dumps(content, ensure_ascii=False, indent=1) + "\n"


def plan_csv(plan: Plan) -> str:
    """Return the plan as a table, one move a row."""
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\n")
    writer.writerow(
        ["n", "phase", "verb", "instrument", "setting_mm", "angle_deg", "uses", "makes", "text"]
    )
    for move in plan.moves:
        writer.writerow(
            [move.n, move.phase, move.verb, move.instrument, _rounded(move.setting_mm),
             _rounded(move.angle_deg), "; ".join(move.uses), "; ".join(move.makes), move.text]
        )  # fmt: skip
    return buffer.getvalue()


def plan_text(plan: Plan, picture: Picture, source: Source, paper: Paper) -> str:
    """Return the plan as a page to read beside the drawing board."""
    lines = [
        f"{source.name}: {picture.view.title} on {paper.name}, {scale_words(plan.setup.scale)}",
        *CAUTION,
        "Compass, divider and knife points: cap them, cut away from you.",
    ]
    phase = ""
    for move in plan.moves:
        if move.phase != phase:
            phase = move.phase
            lines += ["", phase.upper()]
        lines.append(f"{move.n:4}  [{move.instrument}]  {move.text}")
        lines += _table_lines(move)
    return "\n".join(lines) + "\n"


def _move(move: Move) -> dict[str, Any]:
    return {
        "n": move.n,
        "phase": move.phase,
        "verb": move.verb,
        "instrument": move.instrument,
        "setting_mm": _rounded(move.setting_mm),
        "angle_deg": _rounded(move.angle_deg),
        "uses": list(move.uses),
        "makes": list(move.makes),
        "text": move.text,
        "source": _source(move),
        **({"table_mm": [list(row) for row in move.table]} if move.table else {}),
    }


def _table_lines(move: Move) -> list[str]:
    """Return the offsets of a move as lines, one for each point it makes."""
    width = max((len(name) for name in move.makes), default=0)
    return [
        f"        {name:<{width}}  " + "  ".join(f"{value:8.2f}" for value in row)
        for name, row in zip(move.makes, move.table, strict=False)
    ]


def _source(move: Move) -> dict[str, Any] | None:
    lift = move.lift
    if lift is None:
        return None
    return {
        "view": lift.view,
        "from": [_rounded(value) for value in paper_point(lift.view, lift.start)],
        "to": [_rounded(value) for value in paper_point(lift.view, lift.end)],
        "true_mm": _rounded(lift.true_mm),
        "sum": lift.words,
    }


def _rounded(value: float | None) -> float | None:
    return None if value is None else round(value, 6) + 0.0
