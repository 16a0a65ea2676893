"""Plans of cut pictorials and of views with a section, of exercise and random parts, all proved.

Run: .venv/bin/python -m bench.cut_plans [SEED [SECONDS]]   (seed 1, two minutes without figures)
"""

from __future__ import annotations

import random
import sys
import time
from collections import Counter

from bench.exercise_parts import PLAIN_FAMILIES, SKEW_FAMILIES, exercise
from bench.random_parts import random_part
from holoptic.errors import HolopticError
from holoptic.job import (
    AS_FITS,
    VIEW_LINES,
    Figure,
    Orthographic,
    Pictorial,
    Posed,
    SheetOrder,
    read_sections,
)
from holoptic.part import Part
from holoptic.worker import tasks
from holoptic.worker.settling import sound

_CUTS = (
    "half", "half:corner=rear-left", "full:depth", "full:length=L/3", "full:height=H/2",
    "plane:face=top,in=7,turn=23", "broken:face=top,deep=4,outline=3 3/15 3/15 12/3 12",
)  # fmt: skip
_KINDS = ("isometric", "cabinet", "dimetric", "trimetric:20:40", "plan-oblique")
_CORNERS = ("front-right", "front-left", "rear-left", "front-right-below")
_FAMILIES = (*sorted(PLAIN_FAMILIES), *sorted(SKEW_FAMILIES))


def _part(dice: random.Random) -> Part:
    if dice.random() < 0.6:
        return exercise(dice.choice(_FAMILIES), dice.randrange(1000))
    return random_part(dice.randrange(1000))


def _orders(part: Part, cut: str, kind: str, corner: str) -> list[SheetOrder]:
    """Return a sheet of the cut pictorial, and one of views with that cut as a section."""
    section = "full:depth" if cut.startswith("plane") else cut
    figures = (
        Figure("f1", "p1", Pictorial(kind, corner), cut=cut),
        Figure("f1", "p1", Orthographic(), VIEW_LINES, sections=read_sections((f"A={section}",))),
    )
    return [SheetOrder((Posed(figure, part),), AS_FITS) for figure in figures]


def main() -> None:
    """Draw plans until the time is over, and tell which do not hold."""
    dice = random.Random(int(sys.argv[1]) if len(sys.argv) > 1 else 1)
    until = time.monotonic() + (float(sys.argv[2]) if len(sys.argv) > 2 else 120.0)
    counts: Counter[str] = Counter()
    while time.monotonic() < until:
        part, cut = _part(dice), dice.choice(_CUTS)
        kind, corner = dice.choice(_KINDS), dice.choice(_CORNERS)
        for order in _orders(part, cut, kind, corner):
            where = f"{part.name}, {order.posed[0].figure.title} {corner}, {cut}"
            if sound(order.posed[0])[0].refused:
                counts["cuts refused"] += 1
                continue
            try:
                proof = tasks.verify(order, "f1")
            except HolopticError as error:
                counts["without a plan"] += 1
                print(f"  {where}: {error}", flush=True)
                continue
            counts["proved" if proof.holds else "not proved"] += 1
            if not proof.holds:
                print(f"  {where}: {proof}", flush=True)
    print(", ".join(f"{count} {what}" for what, count in counts.items()))


if __name__ == "__main__":
    main()
