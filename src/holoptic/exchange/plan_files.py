"""The plan as JSON (format `holoptic-plan`), CSV, plain text, and as a booklet."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

from holoptic.catalogue import tr
from holoptic.exchange.booklet import POINTS_CAUTION, booklet_bytes
from holoptic.exchange.outputs import Maker
from holoptic.job import VIEWS
from holoptic.part import Source
from holoptic.pictorial import Picture
from holoptic.plan import Drafter, Move, Plan
from holoptic.plan.moves import Budget, Effort, Way
from holoptic.plan.words import phase_title, plan_summary
from holoptic.sheet.frames import CAUTION
from holoptic.sheet.papers import Paper, scale_words
from holoptic.units import Unit, show, written
from holoptic.units.spoken import said
from holoptic.views.orthographic import paper_point

FORMAT = "holoptic-plan"
VERSION = 1


def plan_makers(
    plan: Plan,
    picture: Picture | None,
    source: Source,
    paper: Paper,
    drafted: Drafter,
    unit: Unit = Unit.MM,
) -> dict[str, Maker]:
    """Return the makers of a plan's files by suffix; `drafted` is the paper after all moves.

    `picture` is what the plan leads to, None for orthographic views.

    Sentences and tables for readers are in `unit`; figures called `_mm` are in mm.
    """
    title = f"{source.name}: {_title(picture)}"
    return {
        ".pdf": lambda: booklet_bytes(plan, paper, drafted, title, unit),
        ".json": lambda: plan_json(plan, picture, source, paper, unit).encode("utf-8"),
        ".csv": lambda: plan_csv(plan, unit).encode("utf-8"),
        ".txt": lambda: plan_text(plan, picture, source, paper, unit).encode("utf-8"),
    }


def plan_json(
    plan: Plan, picture: Picture | None, source: Source, paper: Paper, unit: Unit = Unit.MM
) -> str:
    """Return the plan as JSON text; `picture` is None for orthographic views."""
    corner = picture.view.corner if picture is not None else None
    content = {
        "format": FORMAT,
        "version": VERSION,
        "units": "mm",
        "part": source.name,
        "kind": picture.view.kind if picture is not None else VIEWS,
        "corner": corner.value if corner else None,
        "paper": paper.title,
        "scale": scale_words(plan.setup.scale, paper.series),
        "way": _way(plan.way),
        "effort": _effort(plan.effort),
        "errors_mm": _budget(plan.budget),
        "moves": [_move(move, unit) for move in plan.moves],
    }
    return json.dumps(content, ensure_ascii=False, indent=1) + "\n"


_CSV_HEAD = (
    "n", "phase", "verb", "instrument", "setting_mm", "angle_deg", "tolerance_mm", "kept",
    "true_mm", "sum", "view", "uses", "makes", "text", "offset_1_mm", "offset_2_mm", "offset_3_mm",
)  # fmt: skip
_INCH_HEAD = ("setting_in", "tolerance_in", "true_in")


def plan_csv(plan: Plan, unit: Unit = Unit.MM) -> str:
    """Return the plan as a table, one move a row; under a move its offset table, a point a row.

    For a job in inches three columns follow at the end, with the settings as a rule has them.
    """
    buffer = io.StringIO()
    writer = csv.writer(buffer, lineterminator="\n")
    inches = unit is not Unit.MM
    writer.writerow((*_CSV_HEAD, *(_INCH_HEAD if inches else ())))
    for move in plan.moves:
        lift = move.lift
        writer.writerow(
            [move.n, move.phase, move.verb, move.instrument, _rounded(move.setting_mm),
             _rounded(move.angle_deg), _rounded(move.tolerance_mm), "yes" if move.kept else "",
             _rounded(lift.true_mm) if lift else None, said(lift.words, unit) if lift else "",
             lift.view if lift else "", "; ".join(move.uses), "; ".join(move.makes),
             move.said(unit),
             "", "", "", *(_in_inches(move, unit) if inches else ())]
        )  # fmt: skip
        if move.verb == "plot":
            for name, row in zip(move.makes, move.table, strict=True):
                offsets = [_rounded(value) for value in row] + [""] * (3 - len(row))
                before = [move.n, move.phase, "offsets", *[""] * 9, name, ""]
                writer.writerow([*before, *offsets])
    return buffer.getvalue()


def _in_inches(move: Move, unit: Unit) -> list[str]:
    """Return setting, tolerance and true size of a move as a rule in inches has them."""
    sizes = (move.setting_mm, move.tolerance_mm, move.lift.true_mm if move.lift else None)
    return ["" if size is None else written(size, unit) for size in sizes]


def plan_text(
    plan: Plan, picture: Picture | None, source: Source, paper: Paper, unit: Unit = Unit.MM
) -> str:
    """Return the plan as a page to read beside the drawing board."""
    lines = [
        tr(
            "{name}: {title} on {title2}, {scale_text}",
            name=source.name,
            title=_title(picture),
            title2=paper.title,
            scale_text=plan.setup.scale_text,
        ),
        *CAUTION,
        POINTS_CAUTION,
        *(said(line, unit) for line in plan_summary(plan)),
    ]
    phase = ""
    for move in plan.moves:
        if move.phase != phase:
            phase = move.phase
            lines += ["", phase_title(phase).upper()]
        lines.append(f"{move.n:4}  [{tr(move.instrument)}]  {move.said(unit)}")
        lines += _table_lines(move, unit)
    return "\n".join(lines) + "\n"


def _title(picture: Picture | None) -> str:
    return picture.view.title if picture is not None else tr("orthographic views")


def _move(move: Move, unit: Unit) -> dict[str, Any]:
    return {
        "n": move.n,
        "phase": move.phase,
        "verb": move.verb,
        "instrument": move.instrument,
        "setting_mm": _rounded(move.setting_mm),
        "angle_deg": _rounded(move.angle_deg),
        "uses": list(move.uses),
        "makes": list(move.makes),
        "text": move.said(unit),
        "source": _source(move, unit),
        **({"tolerance_mm": _rounded(move.tolerance_mm)} if move.tolerance_mm else {}),
        **({"kept": True} if move.kept else {}),
        **({"table_mm": [list(row) for row in move.table]} if move.table else {}),
    }


def _way(way: Way | None) -> dict[str, Any] | None:
    if way is None:
        return None
    return {
        "strategy": way.strategy, "order": way.order, "firming": way.firming,
        "why": said(way.why, Unit.MM),
    }  # fmt: skip


def _effort(effort: Effort | None) -> dict[str, Any] | None:
    if effort is None:
        return None
    return {
        "settings": effort.settings, "squares": effort.squares, "instruments": effort.pick_ups,
        "seconds": round(effort.seconds),
    }  # fmt: skip


def _budget(budget: Budget | None) -> dict[str, Any] | None:
    if budget is None:
        return None
    return {
        "sheets": budget.sheets, "typical": round(budget.typical, 3),
        "closure": None if budget.closure is None else round(budget.closure, 3),
        "points": {name: round(value, 3) for name, value in budget.points.items()},
    }  # fmt: skip


def _table_lines(move: Move, unit: Unit) -> list[str]:
    """Return the offsets of a move as lines, one for each point it makes."""
    if move.verb != "plot":
        return []
    width = max((len(name) for name in move.makes), default=0)
    return [
        f"        {name:<{width}}  " + "  ".join(f"{show(value, unit):>8}" for value in row)
        for name, row in zip(move.makes, move.table, strict=False)
    ]


def _source(move: Move, unit: Unit) -> dict[str, Any] | None:
    lift = move.lift
    if lift is None:
        return None
    source = {
        "view": lift.view,
        "from": [_rounded(value) for value in paper_point(lift.view, lift.start)],
        "to": [_rounded(value) for value in paper_point(lift.view, lift.end)],
        "true_mm": _rounded(lift.true_mm),
        "sum": said(lift.words, unit),
    }
    return {**source, "worked_out": True} if lift.is_worked_out else source


def _rounded(value: float | None) -> float | None:
    return None if value is None else round(value, 6) + 0.0
