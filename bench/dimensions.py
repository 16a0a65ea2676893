"""Dimensions: proposed complete, proved complete, placed without overlap; and how long it takes.

Run: .venv/bin/python -m bench.dimensions [parts]   (how many random parts; 60 without a number)
"""

from __future__ import annotations

import random
import sys
import time
from collections.abc import Iterator
from dataclasses import replace

from bench.exercise_parts import PLAIN_FAMILIES, SKEW_FAMILIES, exercise
from bench.overlap_judge import touched_words
from bench.random_parts import random_part
from holoptic.demo import job_names, job_path
from holoptic.errors import HolopticError
from holoptic.exchange.job_file import read_job
from holoptic.job import AS_FITS, Orthographic, SheetOrder, TitleBlock, pose
from holoptic.part import Corner, Crate, Face, Offset, Part, Prism, Round
from holoptic.sheet import compose
from holoptic.sheet.planning import best_layout
from holoptic.units import Length
from holoptic.worker import figures
from holoptic.worker.messages import SizesTold
from holoptic.worker.sizing import placed_on, told

_RANDOM, _SEEDS = 60, 4
_TITLE = TitleBlock("Skerry Lamp Works", "part")


def demo_parts() -> Iterator[tuple[str, Part]]:
    """Yield the parts of all demo jobs."""
    for name in job_names():
        for part in read_job(job_path(name)).parts:
            if isinstance(part.source, Part):
                yield f"demo {part.source.name}", part.source


def exercise_parts() -> Iterator[tuple[str, Part]]:
    """Yield parts of every exercise family."""
    for family in (*PLAIN_FAMILIES, *SKEW_FAMILIES):
        for seed in range(_SEEDS):
            yield f"{family} {seed}", exercise(family, seed)


def random_parts(count: int) -> Iterator[tuple[str, Part]]:
    """Yield random parts."""
    for seed in range(count):
        yield f"random {seed}", random_part(seed)


def crowded_plate() -> Part:
    """Return a plate with 22 holes, no two in one row: some sixty dimensions."""
    dice = random.Random(5)
    made = [hole_plate(310, 190, 14)]
    for k in range(22):
        u, v = 14 + k % 6 * 51 + dice.uniform(-4, 4), 20 + k // 6 * 48 + dice.uniform(-6, 6)
        sizes = (round(dice.uniform(4, 14), 1), round(u, 1), round(v, 1))
        diameter, at_u, at_v = map(Length.of, sizes)
        made.append(Round(f"hole {k}", "cut", Face.TOP, diameter, Offset(at_u), Offset(at_v),
                          Length.of(0), None))  # fmt: skip
    return Part("crowded plate", Crate(*map(Length.of, (310, 190, 14))), tuple(made), "empty")


def hole_plate(long: float, deep: float, high: float) -> Prism:
    """Return a plate to be drilled."""
    corners = ((0, 0), (long, 0), (long, deep), (0, deep))
    outline = tuple(Corner(Length.of(u), Length.of(v)) for u, v in corners)
    return Prism("plate", "add", Face.BOTTOM, outline, Length.of(0), Length.of(high))


def dimension(part: Part, *, in_views: bool) -> tuple[SizesTold, list[str], float]:
    """Return what the sizes of a part tell on a sheet of its views or of its isometric drawing, the
    words that another judge finds touched, and how many seconds it took to place them. Raises
    HolopticError.
    """
    posed = pose(part)
    if in_views:
        posed = replace(posed, figure=replace(posed.figure, view=Orthographic()))
    order = SheetOrder((posed,), replace(AS_FITS, dimensions="auto"))
    found = figures.set_up_of(order)
    layout = best_layout(found.items, found.wish)
    start = time.perf_counter()
    placed = placed_on(found, layout, order)
    took = time.perf_counter() - start
    page = compose(found.items, layout, _TITLE, found.wish, placed).drawing
    return told(found, placed), touched_words(page), took


def main() -> None:
    """Count over all parts, and tell what is not complete or overlaps."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else _RANDOM
    for what, parts in (
        ("demo", demo_parts()), ("exercise", exercise_parts()), ("random", random_parts(count)),
        ("crowded", iter([("plate of 22 holes", crowded_plate())])),
    ):  # fmt: skip
        made = complete = sizes = overlapping = judged = 0
        slowest = 0.0
        for name, part in parts:
            for in_views in (True, False):
                try:
                    found, touched, took = dimension(part, in_views=in_views)
                except HolopticError:
                    continue
                made += 1
                complete += found.is_complete
                sizes += found.count
                overlapping += found.overlapping
                judged += len(touched)
                slowest = max(slowest, took)
                if not found.is_complete or found.overlapping or touched:
                    where = "views" if in_views else "isometric"
                    lines = "; ".join(found.lines[:3])
                    print(
                        f"  {name}, {where}: {found.overlapping} overlap; {lines}; "
                        f"touched: {', '.join(touched) or 'none'}",
                        flush=True,
                    )
        print(
            f"{what}: {complete} of {made} sheets complete; {sizes} dimensions, "
            f"{100 * (1 - overlapping / max(sizes, 1)):.2f} % clear by the placer's count, "
            f"{100 * (1 - judged / max(sizes, 1)):.2f} % by another judge; slowest {slowest:.2f} s",
            flush=True,
        )


if __name__ == "__main__":
    main()
