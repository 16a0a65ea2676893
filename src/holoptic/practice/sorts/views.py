"""Draw the missing lines, or the missing view, of a part given by its other views.

All parts that the whole views can mean are read; those whose further view holds the lines that are
given must agree in it, so one answer is right.
"""

from __future__ import annotations

import random
from collections.abc import Iterator

from holoptic.catalogue import tr
from holoptic.practice.exercise import (
    Exercise,
    Figure,
    Grid,
    Lines,
    NotMade,
    Step,
    all_steps,
    steps_between,
)
from holoptic.practice.eye import Eye
from holoptic.practice.pictures import (
    VIEWS,
    SquareView,
    dot_of,
    sound_block,
    square_views,
    turned_figures,
    view_grid,
)
from holoptic.practice.shapes import STRAIGHT, block_of
from holoptic.practice.sketching import joined, step_inks
from holoptic.reading.lines import DrawnView, Straight
from holoptic.reading.result import Reading
from holoptic.sheet.drawing import Ink

_MOST = 12
_SECONDS = 20.0
_WHOLE_VIEW_FROM = 4
"""From this level on a whole view is missing, below it lines of one are."""


def make(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where more than one answer would be right."""
    block = block_of(max(1, level - 1) if level < _WHOLE_VIEW_FROM else level - 1, dice, STRAIGHT)
    part = sound_block(block, eye)
    views = square_views(block, eye)
    asked = dice.choice(VIEWS)
    wanted = views[asked]
    others = [name for name in VIEWS if name != asked]
    is_whole = level >= _WHOLE_VIEW_FROM
    missing = None if is_whole else _some_lines(wanted, level, dice)
    given_visible, given_hidden = (frozenset(), frozenset()) if missing is None else (
        wanted.visible - missing, wanted.hidden - missing)  # fmt: skip
    _prove_one(eye.read(eye.drawn(part, others), _MOST, _SECONDS), wanted, given_visible,
               given_hidden)  # fmt: skip
    grid = view_grid(views.values())
    inks = [ink for name in others for ink in _inks(views[name], grid)]
    inks += step_inks(wanted.placed(given_visible), grid)
    inks += step_inks(wanted.placed(given_hidden), grid, "hidden")
    given = frozenset().union(
        *(views[name].placed(views[name].visible | views[name].hidden) for name in others),
        wanted.placed(given_visible | given_hidden),
    )
    right, dashed = (wanted.placed(steps - given_steps) for steps, given_steps in
                     ((wanted.visible, given_visible), (wanted.hidden, given_hidden)))  # fmt: skip
    dots = tuple(map(grid.at, grid.dots()))
    name = tr(asked)
    return Exercise(
        "views", level, seed, _question(name, is_whole, bool(dashed)),
        (Figure(tuple(inks), dots=dots),), Lines(0, grid, given, right, dashed),
        _hints(asked, others, joined(right | dashed)), _reason(name),
        turned_figures(part, eye),
        {"view": asked, "visible": _listed(right, wanted), "hidden": _listed(dashed, wanted)},
    )  # fmt: skip


def _question(name: str, is_whole: bool, has_hidden: bool) -> str:
    if is_whole:
        return tr("Draw the {name} view, with its hidden lines.", name=name)
    if has_hidden:
        return tr("Lines are missing in the {name} view. Draw them; what is hidden is dashed.",
                  name=name)  # fmt: skip
    return tr("Lines are missing in the {name} view. Draw them.", name=name)


def _hints(asked: str, others: list[str], lines: list[Step]) -> tuple[str, str, str]:
    along = {
        "front": tr("widths come from the top view, heights from the right view"),
        "top": tr("widths come from the front view, depths from the right view"),
        "right": tr("heights come from the front view, depths from the top view"),
    }[asked]
    one, other = others
    upright = sum(a[0] == b[0] for a, b in lines)
    level = sum(a[1] == b[1] for a, b in lines)
    return (
        tr("In the {name} view {along}.", name=tr(asked), along=along),
        tr("Follow each plane that is a line in the {one} view: in the {other} view it is an "
           "area, and here it is a line or an area.", one=tr(one),
           other=tr(other)),
        tr("{upright} upright, {level} level and {sloping} sloping lines are asked for.",
           upright=upright, level=level, sloping=len(lines) - upright - level),
    )  # fmt: skip


def _reason(name: str) -> str:
    return tr("The other two views leave one part only, and this is its {name} view: each edge of "
              "the part is a line or a point in it.", name=name)  # fmt: skip


def _some_lines(view: SquareView, level: int, dice: random.Random) -> frozenset[Step]:
    """Return lines to be left out: not of the outline, more of them on a higher level."""
    inner = [line for line in joined(view.visible) if not _on_border(line, view)]
    dashed = joined(view.hidden)
    if level == 1:
        chosen = [dice.choice(inner)] if inner else []
    elif level == 2:
        lines = inner + dashed
        chosen = [dice.choice(lines)] if lines else []
    else:
        lines = inner + dashed
        chosen = dice.sample(lines, 2) if len(lines) >= 2 else []
    if not chosen:
        raise NotMade("no line could be missing")
    return frozenset(step for line in chosen for step in _parts(line, view))


def _parts(line: Step, view: SquareView) -> Iterator[Step]:
    for step in steps_between(*line):
        if step in view.visible or step in view.hidden:
            yield step


def _on_border(line: Step, view: SquareView) -> bool:
    (a, b), (c, d) = line
    wide, high = view.size
    return (a == c and a in (0, wide)) or (b == d and b in (0, high))


def _inks(view: SquareView, grid: Grid) -> Iterator[Ink]:
    yield from step_inks(view.placed(view.visible), grid)
    yield from step_inks(view.placed(view.hidden), grid, "hidden")


def _listed(steps: frozenset[Step], view: SquareView) -> list[list[list[int]]]:
    """Return lines in squares of the view itself."""
    x, y = view.at
    return [[[a - x, b - y], [c - x, d - y]] for (a, b), (c, d) in joined(steps)]


# --- the proof ------------------------------------------------------------------------------


def _prove_one(
    reading: Reading, wanted: SquareView, visible: frozenset[Step], hidden: frozenset[Step]
) -> None:
    """Raise NotMade unless all parts that were read agree in the view that is asked for."""
    if reading.verdict not in ("unique", "several") or len(reading.answers) >= _MOST:
        raise NotMade("the other views are not read with certainty")
    seen_right = False
    for answer in reading.answers:
        view = next(one for one in answer.views if one.name == wanted.name)
        own, behind = _read_steps(view)
        if not (visible <= own and hidden <= behind):
            continue
        if (own, behind - own) != (wanted.visible, wanted.hidden):
            raise NotMade("another part has these lines too")
        seen_right = True
    if not seen_right:
        raise NotMade("the part itself was not read")


def _read_steps(view: DrawnView) -> tuple[frozenset[Step], frozenset[Step]]:
    """Return the visible and hidden lines of a view that was read, from dot to dot."""
    left = min(x for line in view.drawn for x, _ in line.shape.path())
    low = min(y for line in view.drawn for _, y in line.shape.path())
    lines: dict[str, list[Step]] = {"visible": [], "hidden": []}
    for line in view.drawn:
        if not isinstance(line.shape, Straight):
            raise NotMade("a line is curved")
        (a, b), (c, d) = line.shape.start, line.shape.end
        lines[line.status].append((dot_of((a - left, b - low)), dot_of((c - left, d - low))))
    return all_steps(lines["visible"]), all_steps(lines["hidden"])
