"""Edited parts against the same parts made stage by stage, and their pictures, put together from
what stays, against pictures made afresh.

Of random and exercise parts one operation after another is made deeper, shallower, or left out.

Run: .venv/bin/python -m bench.relook [HOW MANY]
"""

from __future__ import annotations

import random
import sys
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

from bench.exercise_parts import PLAIN_FAMILIES, SKEW_FAMILIES, exercise
from bench.random_parts import random_part, scattered_part
from holoptic.part import Part
from holoptic.pictorial import draw, view_of
from holoptic.solid.making.runs import make_ready
from holoptic.solid.making.stages import build_in_stages, build_what_can_be
from holoptic.solid.seeing import relook
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.solid.seeing.removal import Lines
from holoptic.units import Length
from holoptic.views.orthographic import VIEWS_BY_NAME
from same_picture import differences

VIEWS = (
    view_of("isometric", "front-right"),
    view_of("cabinet", "front-left"),
    VIEWS_BY_NAME["front"],
    VIEWS_BY_NAME["top"],
)
_EDITS_EACH = 3
_SAME_SHARE = 1e-5
"""Where two round faces cross, the kernel finds a curve that is near, not exact."""
Before = dict[str, tuple[relook.Anatomy, Lines]]


def edits(part: Part, index: int, dice: random.Random) -> Iterator[Part]:
    """Yield the part with one operation changed in one way and another."""
    operation = part.operations[index]
    end = getattr(operation, "end", None)
    for number in range(_EDITS_EACH):
        if end is None or number == 1:
            changed = replace(operation, off=not operation.off)
            operation = changed
        else:
            deep = max(end.mm * dice.uniform(0.7, 1.2), operation.start.mm + 1.0)
            changed = replace(operation, end=Length.of(round(deep, 1)))
        yield replace(
            part, operations=(*part.operations[:index], changed, *part.operations[index + 1 :])
        )


def same_solid(part: Part) -> bool:
    """Say whether a part comes to the volume that its stages come to."""
    quick, staged = build_what_can_be(part), build_in_stages(part)
    if quick.shape is None or quick.troubles:
        return [str(t) for t in quick.troubles] == [str(t) for t in staged.troubles]
    volume = SeenSolid(quick.shape).facts.volume
    return not staged.troubles and abs(volume - staged.volumes[-1]) < _SAME_SHARE * volume


def compared(part: Part, before: Before) -> Iterator[list[str] | None]:
    """Yield what differs in each picture, None for one that is not put together.

    `before` holds what was found of the part before, and then what is found of this one.
    """
    shape = build_what_can_be(part).shape
    if shape is None:
        return
    solid = SeenSolid(shape)
    solid.forget_looks()
    for view in VIEWS:
        toward, lines = view.toward_viewer, None
        if view.kind in before:
            lines = relook.looked_again(solid.anatomy, *before[view.kind], toward)
        whole = solid.anatomy.look(toward, None, None)
        if lines is not None:
            yield list(differences(*(draw(solid.told(toward, x), view) for x in (lines, whole))))
        else:
            yield None
        before[view.kind] = solid.anatomy, lines or whole


def main() -> None:
    """Print how many pictures were compared, how many were put together, and what differs."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 60
    relook._MOST_OF_IT = 2.0  # in small parts too, where it is quicker to look at the whole
    parts = [scattered_part(seed) for seed in range(count)]
    parts += [random_part(seed) for seed in range(count // 2)]
    families = (*PLAIN_FAMILIES, *SKEW_FAMILIES)
    parts += [exercise(family, seed) for family in families for seed in range(count // 10)]
    pictures = together = wrong = solids = odd = 0
    for number, part in enumerate(parts):
        dice = random.Random(number)
        for index in range(len(part.operations)):
            before: Before = {}
            shape = make_ready(part, index)
            if shape is not None:
                ready = SeenSolid(shape).anatomy
                before = {v.kind: (ready, ready.look(v.toward_viewer, None, None)) for v in VIEWS}
            for edited in edits(part, index, dice):
                solids += 1
                if not same_solid(edited):
                    odd += 1
                    print(f"  {edited.name}, operation {index}: another solid than by stages")
                for found in compared(edited, before):
                    pictures += 1
                    together += found is not None
                    wrong += bool(found)
                    for words in (found or ())[:3]:
                        print(f"  {edited.name}, operation {index}: {words}")
    print(f"{solids} edited parts, {odd} differ from their stages")
    print(f"{pictures} pictures, {together} put together, {wrong} of them differ")


if __name__ == "__main__":
    main()
