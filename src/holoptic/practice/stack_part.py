"""A stack of cubes as an ordinary part, and its picture while it is being built."""

from __future__ import annotations

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.part import Corner, Crate, Face, Part, Prism
from holoptic.practice.exercise import Exercise, Figure, Heights
from holoptic.practice.sketching import cube_figure
from holoptic.practice.stacks import Plan, picture_lines, seen, turned
from holoptic.units import Length, Unit

ROWS = COLUMNS = 4
HIGHEST = 6
LEAST_SIDE_MM, MOST_SIDE_MM = 1.0, 500.0
_PITCH_MM = 8.0
_EMPTY: Plan = ((0,) * COLUMNS,) * ROWS
_Block = tuple[int, int, int, int, int]
"""A block of one height: from column to column, from row to row, and how high."""


def stack_part(plan: Plan, side_mm: float, name: str, unit: Unit) -> Part:
    """Return a stack as a part of blocks that stand on its floor, each as large as can be.

    `side_mm` is that of a cube; empty rows and columns about the stack are left out. Raises
    BadInput for a stack without cubes or in several pieces, or a side that cannot be used.
    """
    if not LEAST_SIDE_MM <= side_mm <= MOST_SIDE_MM:
        raise BadInput(tr("a cube of {side:g} mm cannot be used; choose {least:g} to {most:g}",
                          side=side_mm, least=LEAST_SIDE_MM, most=MOST_SIDE_MM))  # fmt: skip
    kept = trimmed(plan)
    if not kept:
        raise BadInput(tr("a stack needs a cube at least"))

    def of(count: int) -> Length:
        return Length.of(count * side_mm, unit)

    operations = tuple(
        Prism(tr("block {number}", number=number), "add", Face.BOTTOM,
              tuple(Corner(of(u), of(v)) for u, v in ((a, c), (b, c), (b, d), (a, d))),
              of(0), of(high))
        for number, (a, b, c, d, high) in enumerate(_blocks(kept), 1)
    )  # fmt: skip
    crate = Crate(of(len(kept[0])), of(len(kept)), of(max(map(max, kept))))
    return Part(name, crate, operations, "empty")


def trimmed(plan: Plan) -> Plan:
    """Return a stack without empty rows and columns about it."""
    rows = [r for r, row in enumerate(plan) if any(row)]
    columns = [c for c in range(len(plan[0])) if any(row[c] for row in plan)]
    if not rows:
        return ()
    return tuple(row[columns[0] : columns[-1] + 1] for row in plan[rows[0] : rows[-1] + 1])


def _blocks(plan: Plan) -> list[_Block]:
    """Return blocks of one height that cover a plan: each as wide, then as deep as can be.

    Each but the first stands beside one before it. Raises BadInput where that cannot be.
    """
    left = {(r, c) for r, row in enumerate(plan) for c, high in enumerate(row) if high}
    found = []
    while left:
        r, c = min(left)
        high = plan[r][c]

        alike = {(row, column) for row, column in left if plan[row][column] == high}
        b, d = c, r
        while (r, b) in alike:
            b += 1
        while all((d, column) in alike for column in range(c, b)):
            d += 1
        left -= {(row, column) for row in range(r, d) for column in range(c, b)}
        found.append((c, b, r, d, high))
    ordered = found[:1]
    while rest := [block for block in found if block not in ordered]:
        beside = next((one for one in rest if any(_touch(one, other) for other in ordered)), None)
        if beside is None:
            raise BadInput(tr("a part is in one piece: let all cubes stand side by side"))
        ordered.append(beside)
    return ordered


def _touch(one: _Block, other: _Block) -> bool:
    """Say whether two blocks share a piece of an upright face."""
    across = min(one[1], other[1]) - max(one[0], other[0])
    along = min(one[3], other[3]) - max(one[2], other[2])
    return min(across, along) == 0 and max(across, along) > 0


def building(plan: Plan = _EMPTY) -> Exercise:
    """Return what the board shows while a stack is built: nothing is asked."""
    return Exercise("stack", 0, 0, tr("Build a stack of cubes; it becomes a part of your job."),
                    stack_figures(plan), Heights(plan, HIGHEST), ("", "", ""), "")  # fmt: skip


def stack_figures(plan: Plan) -> tuple[Figure, ...]:
    """Return a stack as it is seen from the front right; an empty one as its floor."""
    stack = turned(plan, "front-right")
    shown = seen(stack)
    rows, columns = len(stack), len(stack[0])
    floor = frozenset({
        ((0, 0), (rows, rows)), ((-columns, columns), (0, 0)),
        ((rows - columns, rows + columns), (rows, rows)),
        ((-columns, columns), (rows - columns, rows + columns)),
    })  # fmt: skip
    return (cube_figure(shown, picture_lines(shown), _PITCH_MM, is_shaded=True, mat=floor,
                        caption=tr("from the front right")),)  # fmt: skip
