"""How much each operation of a part changes, without making all that came before it.

What an operation changes is decided where it lies: only those before it that come near count.
"""

from __future__ import annotations

from holoptic.part import Crate, Part
from holoptic.part.check import check
from holoptic.solid.anatomy.faces import faces_of, volume_within
from holoptic.solid.caches import CHANGES
from holoptic.solid.making.runs import Step, lie_apart, runs_of, steps_of, worked_in
from holoptic.solid.making.stages import build_in_stages
from holoptic.solid.making.tools import block


def volumes_after(part: Part) -> tuple[float, ...]:
    """Return the volume after each operation, mm³. Raises PartError for one that cannot be made."""
    made = check(part)
    steps = {index: steps_of(part, {index: basics}) for index, basics in made.items()}
    length, depth, height = part.crate.sizes
    volume = length * depth * height if part.begin == "block" else 0.0
    volumes = []
    for index in range(len(part.operations)):
        change = _change(part, steps, index) if index in steps else 0.0
        if change is None:
            return build_in_stages(part).volumes
        volume += change
        volumes.append(volume)
    return tuple(volumes)


def _change(part: Part, steps: dict[int, list[Step]], index: int) -> float | None:
    """Return by how much an operation changes the volume; None where the kernel fails."""
    own, crate = steps[index], part.crate
    near = [
        step
        for earlier in range(index)
        for step in steps.get(earlier, ())
        if not all(lie_apart(step, tool, crate) for tool in own)
    ]
    numbers = (tuple(step.number for step in some) for some in (near, own))
    key = part.begin, crate.sizes, *numbers
    known = CHANGES.get(key)
    if known is None:
        before, after = (_volume(part, some) for some in (near, [*near, *own]))
        if before is None or after is None:
            return None
        known = CHANGES.keep(key, after - before)
    return known


def _volume(part: Part, steps: list[Step]) -> float | None:
    """Return the volume of the crate, full or empty, with steps worked in; None where one fails."""
    shape = block(part.crate) if part.begin == "block" else None
    for run in _sound_runs(part, steps, part.crate):
        shape = worked_in(shape, run, part.crate)
        if shape is None:
            return None
    return 0.0 if shape is None else volume_within(faces_of(shape))


def _sound_runs(part: Part, steps: list[Step], crate: Crate) -> list[list[Step]]:
    """Return steps as runs; cuts into an empty crate are left out, as they change nothing."""
    runs = runs_of(steps, crate)
    while part.begin == "empty" and runs and runs[0][0].mode == "cut":
        runs.pop(0)
    return runs
