"""Whoever has nothing but the figures on the sheet can make the part again."""

import re
from dataclasses import replace

import pytest
from hypothesis import HealthCheck, assume, given, settings

from cast import parts
from holoptic.dimensions import Level
from holoptic.errors import PartError
from holoptic.job import AS_FITS, Orthographic, SheetOrder, pose
from holoptic.part import Corner, Offset, Round
from holoptic.sheet.planning import best_layout
from holoptic.solid.shelf import seen, shape_of
from holoptic.units import Length
from holoptic.worker.figures import set_up_of
from holoptic.worker.sizing import placed_on

ANYTHING = 0.0137
FIGURE = re.compile(r"[0-9.]+")


def figures_on_sheet(part):
    """Return the sizes on a sheet of a part's views, with what is lettered beside each."""
    posed = pose(part)
    posed = replace(posed, figure=replace(posed.figure, view=Orthographic()))
    order = SheetOrder((posed,), replace(AS_FITS, dimensions="auto"))
    found = set_up_of(order)
    (placed,) = placed_on(found, best_layout(found.items, found.wish), order)
    return [(one.dimension, one.drawn.words.text) for one in placed]


def solved(figures):
    """Return the places of levels that follow from lettered lengths, and lettered radii."""
    lengths, radii = [], {}
    for size, text in figures:
        numbers = [float(number) for number in FIGURE.findall(text.split("×")[-1])]
        if size.sort == "length":
            lengths.append((*sorted(size.levels), numbers[0]))
        else:
            half = 1.0 if text.split("×")[-1].strip().startswith("R") else 2.0
            radii |= dict.fromkeys(size.circles, numbers[0] / half)
            if size.depth:
                lengths.append((*sorted(size.depth), numbers[1]))
    places = {Level.of(axis, 0.0): 0.0 for axis in range(3)}
    for _ in lengths:
        for low, high, value in lengths:
            if low in places:
                places.setdefault(high, places[low] + value)
            elif high in places:
                places.setdefault(low, places[high] - value)
    return places, radii


def is_plain(part):
    shape = shape_of(part)
    square = all(max(map(abs, wall.way)) > 0.999 for wall in shape.walls)
    return square and shape.low == pytest.approx((0, 0, 0), abs=1e-6)


@settings(max_examples=20, deadline=None, suppress_health_check=list(HealthCheck))
@given(parts())
def test_a_part_is_made_again_from_nothing_but_its_figures(part):
    try:
        assume(is_plain(part))
    except PartError:
        assume(False)
    places, radii = solved(figures_on_sheet(part))

    def again(axis, at):
        """Return a place as the sheet tells it; of what it does not tell, something else."""
        unchanged = at in (0.0, part.crate.sizes[axis])
        return places.get(Level.of(axis, at), at if unchanged else at + ANYTHING)

    made = []
    for operation in part.operations:
        face, thick = operation.face, part.crate.thickness(operation.face)
        ends = []
        for length in (operation.start, operation.end):
            at = None if length is None else thick - length.mm if face.is_far else length.mm
            at = None if at is None else again(face.normal_axis, at)
            ends.append(at if at is None else Length.of(thick - at if face.is_far else at))
        changes = {"start": ends[0], "end": ends[1]}
        if isinstance(operation, Round):
            u, v = operation.centre_mm(part.crate)
            sizes = [r for c, r in radii.items() if c.axis == face.normal_axis
                     and c.across == (round(u, 3), round(v, 3))]  # fmt: skip
            own = operation.diameter.mm
            size = min((2 * r for r in sizes), key=lambda d: abs(d - own), default=own + ANYTHING)
            changes["diameter"] = Length.of(size)
            for name, axis, at in (("u", face.axes[0], u), ("v", face.axes[1], v)):
                changes[name] = Offset(Length.of(again(axis, at)))
        else:
            changes["outline"] = tuple(
                Corner(*(
                    Length.of(again(axis, value))
                    for axis, value in zip(face.axes, corner.mm, strict=True)
                ))
                for corner in operation.outline
            )  # fmt: skip
        made.append(replace(operation, **changes))
    again_made = replace(part, operations=tuple(made))
    one, other = seen(part).facts, seen(again_made).facts
    assert other.volume == pytest.approx(one.volume, rel=1e-6)
    assert other.high == pytest.approx(one.high, abs=0.02)
    assert len(other.edges) == len(one.edges)
