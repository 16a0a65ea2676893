"""Plans for orthographic views: is every stroke drawn, and where it should be; what is measured.

Run: .venv/bin/python -m bench.view_plans [parts]   (how many random parts; 60 without a number)
"""

from __future__ import annotations

import sys
import time
from collections import Counter
from itertools import product

from bench.dimensions import demo_parts, exercise_parts, random_parts
from holoptic.errors import HolopticError
from holoptic.job import VIEW_LINES, Angle, Figure, Orthographic, Posed, SheetOrder, ViewSet
from holoptic.part import Part
from holoptic.plan.builder import STEADY
from holoptic.tolerance import GIVEN_MM
from holoptic.worker import tasks

_RANDOM = 60
_VIEWS: tuple[ViewSet, ...] = ("three", "six")
_ANGLES: tuple[Angle, ...] = ("third", "first")


def main() -> None:
    """Plan the views of many parts, let the virtual drafter draw them, and print what is off."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else _RANDOM
    total: Counter[str] = Counter()
    for name, part in (*demo_parts(), *exercise_parts(), *random_parts(count)):
        for views, angle in product(_VIEWS, _ANGLES):
            line = _plan(part, views, angle, total)
            if line:
                print(f"{name}, {views} views, {angle} angle: {line}")
    print(
        f"{total['plans']} plans, {total['proved']} proved; {total['strokes']} strokes, "
        f"{total['moves']} moves, {total['settings']} settings, {total['odd']} of them in no whole "
        f"hundredths, {total['plotted']} points by offsets; "
        f"{total['ms'] / max(total['plans'], 1):.0f} ms a plan"
    )


def _plan(part: Part, views: ViewSet, angle: Angle, total: Counter[str]) -> str:
    """Plan the views of a part and count; return what is wrong, or nothing."""
    figure = Figure("f1", "p1", Orthographic(views), VIEW_LINES)
    order = SheetOrder((Posed(figure, part),), angle=angle)
    try:
        tasks.sheet(order, tasks.TitleBlock("", ""))
    except HolopticError:
        return ""  # nothing to be drawn, or no sheet is large enough
    total["plans"] += 1
    began = time.perf_counter()
    try:
        made = tasks.plan(order, "f1", STEADY).plan
        total["ms"] += round(1000 * (time.perf_counter() - began))
        proof = tasks.verify(order, "f1")
    except Exception as error:
        return f"{type(error).__name__}: {error}"
    total["proved"] += proof.holds
    total["strokes"] += proof.strokes
    total["moves"] += len(made.moves)
    settings = [move.setting_mm or 0.0 for move in made.moves if move.verb == "set off"]
    total["settings"] += len(settings)
    total["odd"] += sum(abs(round(size, 2) - size) > GIVEN_MM for size in settings)
    total["plotted"] += sum(len(move.makes) for move in made.moves if move.verb == "plot")
    return "" if proof.holds else str(proof)


if __name__ == "__main__":
    main()
