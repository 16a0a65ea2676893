"""True and drawn: lengths, angles and axes of ellipses, from the part to paper and back."""

from __future__ import annotations

import math
import random
from dataclasses import replace

from holoptic.catalogue import tr
from holoptic.curves.ovals import Ellipse
from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.vectors import Vec3, apply
from holoptic.part import Face
from holoptic.part.crate import AXIS_NAMES
from holoptic.pictorial import View, view_of
from holoptic.practice.crates import NEAR, DrawnCrate, corner_words, random_sizes
from holoptic.practice.exercise import Amount, Exercise, Figure, NotMade
from holoptic.practice.eye import Eye
from holoptic.practice.sketching import both_ways
from holoptic.sheet.drawing import Ink

_LENGTH_WITHIN = 0.02
_LEAST_WITHIN_MM = 0.5
_ANGLE_WITHIN = 1.0
_SELDOM = 0.75
_SCALES = ((1, 1), (1, 2), (2, 1), (1, 5))


def make(level: int, seed: int, dice: random.Random, _eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where there would be nothing to reckon."""
    return (_along_axis, _back_again, _ellipse, _slope, _angle)[level - 1](level, seed, dice)


def _within(value: float) -> float:
    return max(_LEAST_WITHIN_MM, _LENGTH_WITHIN * value)


def _crate(dice: random.Random, kinds: tuple[str, ...]) -> DrawnCrate:
    return DrawnCrate(view_of(dice.choice(kinds), dice.choice(NEAR[:2])), random_sizes(dice))


def _caption(view: View) -> str:
    return tr("{kind}, {corner}", kind=view.title, corner=corner_words(view))


def _with_line(crate: DrawnCrate, start: Vec3, end: Vec3) -> Figure:
    """Return a crate with a line on it that is asked about, and a line beside it with heads."""
    ends = crate.at(start), crate.at(end)
    line = Ink("visible", ends, 0.9)
    figure = crate.figure(_caption(crate.view), "construction")
    return replace(figure, inks=(*figure.inks, line, *both_ways(*ends)))


def _edge(crate: DrawnCrate, axis: int) -> tuple[Vec3, Vec3]:
    """Return the edge along an axis that leaves the near corner."""
    near = crate.near_corner
    start, end = list(near), list(near)
    start[axis], end[axis] = 0, 1
    return crate.corner((start[0], start[1], start[2])), crate.corner((end[0], end[1], end[2]))


def _along_axis(level: int, seed: int, dice: random.Random) -> Exercise:
    crate = _crate(dice, ("isometric", "cabinet", "cavalier", "isometric-projection", "dimetric"))
    axis = dice.randrange(3)
    view, true = crate.view, crate.sizes[axis]
    if _is_one(view.axis_scale(axis)) and dice.random() < _SELDOM:
        raise NotMade("it is drawn as long as it is")
    drawn = true * view.axis_scale(axis)
    return Exercise(
        "drawn", level, seed,
        tr("The edge along the {axis} is {true} mm long. How long is it drawn in {kind}, 1:1?",
           axis=AXIS_NAMES[axis], true=true, kind=view.title),
        (_with_line(crate, *_edge(crate, axis)),), Amount(drawn, _within(drawn), "mm"),
        (
            tr("Each axis has a scale of its own: which one has the {axis} here?",
               axis=AXIS_NAMES[axis]),
            _scales_hint(view),
            tr("Drawn length = true length × the scale of its axis."),
        ),
        tr("{true} × {scale:.4g} = {drawn:.1f} mm.", true=true, scale=view.axis_scale(axis),
           drawn=drawn),
        data={"kind": view.kind, "axis": AXIS_NAMES[axis], "true": true},
    )  # fmt: skip


def _is_one(scale: float) -> bool:
    """Say whether a scale changes nothing."""
    return math.isclose(scale, 1.0, abs_tol=0.01)


def _scales_hint(view: View) -> str:
    length, depth, height = (view.axis_scale(axis) for axis in range(3))
    return tr("Scales: length {length:.4g}, depth {depth:.4g}, height {height:.4g}.",
              length=length, depth=depth, height=height)  # fmt: skip


def _back_again(level: int, seed: int, dice: random.Random) -> Exercise:
    crate = _crate(dice, ("isometric", "cabinet", "cavalier", "isometric-projection", "dimetric"))
    axis = dice.randrange(3)
    on_paper, on_part = dice.choice(_SCALES)
    view, true = crate.view, crate.sizes[axis]
    if _is_one(view.axis_scale(axis) * on_paper / on_part):
        raise NotMade("it is drawn as long as it is")
    drawn = round(true * view.axis_scale(axis) * on_paper / on_part, 1)
    value = drawn * on_part / on_paper / view.axis_scale(axis)
    scale = f"{on_paper}:{on_part}"
    return Exercise(
        "drawn", level, seed,
        tr("On a sheet at {scale} in {kind}, a line along the {axis} measures {drawn} mm. How long "
           "is it in truth?", scale=scale, kind=view.title, axis=AXIS_NAMES[axis], drawn=drawn),
        (_with_line(crate, *_edge(crate, axis)),), Amount(value, _within(value), "mm"),
        (
            tr("Two scales work here: that of the sheet, and that of the axis."),
            _scales_hint(view),
            tr("True length = measured ÷ scale of the axis, × {on_part} ÷ {on_paper} for the "
               "sheet.", on_part=on_part, on_paper=on_paper),
        ),
        tr("{drawn} ÷ {axis_scale:.4g} × {on_part} ÷ {on_paper} = {value:.1f} mm.", drawn=drawn,
           axis_scale=view.axis_scale(axis), on_part=on_part, on_paper=on_paper, value=value),
        data={"kind": view.kind, "axis": AXIS_NAMES[axis], "drawn": drawn, "scale": scale},
    )  # fmt: skip


def _ellipse(level: int, seed: int, dice: random.Random) -> Exercise:
    kind = dice.choice(("isometric", "isometric-projection"))
    crate = _crate(dice, (kind,))
    face = dice.choice(crate.faces())
    across = dice.randint(18, min(crate.sizes[axis] for axis in face.axes) - 4)
    u, v = (tuple(crate.view.matrix[row][axis] * across / 2 for row in (0, 1))
            for axis in face.axes)  # fmt: skip
    middle = [size / 2 for size in crate.sizes]
    middle[face.normal_axis] = crate.sizes[face.normal_axis] if face.is_far else 0.0
    arc = PaperArc(crate.at((middle[0], middle[1], middle[2])), (u[0], u[1]), (v[0], v[1]), 0.0,
                   math.tau)  # fmt: skip
    ellipse = Ellipse.of(arc)
    is_long = dice.random() < 0.5
    value = 2 * ellipse.half_axes[0 if is_long else 1]
    figure = crate.figure(_caption(crate.view), "construction")
    inks = (*figure.inks, Ink("visible", tuple(arc.path())))
    ask = (
        tr("A circle of {across} mm across on the {face} face becomes an ellipse in {kind}. How "
           "long is its long axis?", across=across, face=face.title, kind=crate.view.title)
        if is_long else
        tr("A circle of {across} mm across on the {face} face becomes an ellipse in {kind}. How "
           "long is its short axis?", across=across, face=face.title, kind=crate.view.title)
    )  # fmt: skip
    return Exercise(
        "drawn", level, seed, ask, (replace(figure, inks=inks),),
        Amount(value, _within(value), "mm"),
        (
            tr("The long axis lies square to the axis that the face does not have."),
            tr("In isometric projection the long axis is the true diameter; an isometric drawing "
               "is 1.2247 times as large."),
            tr("The short axis is 0.577 of the long one."),
        ),
        tr("{across} mm across: {value:.1f} mm.", across=across, value=value),
        data={"kind": kind, "face": face.value, "diameter": across,
              "axis": "major" if is_long else "minor"},
    )  # fmt: skip


def _sloping(dice: random.Random, kinds: tuple[str, ...]) -> tuple[DrawnCrate, Face, Vec3, Vec3]:
    """Return a crate, a face in sight, and a line on it that runs along no axis."""
    crate = _crate(dice, kinds)
    face = dice.choice(crate.faces())
    u, v = face.axes
    start, end = [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]
    start[face.normal_axis] = end[face.normal_axis] = (
        crate.sizes[face.normal_axis] if face.is_far else 0.0
    )
    run, rise = dice.randint(12, crate.sizes[u] - 2), dice.randint(12, crate.sizes[v] - 2)
    end[u], end[v] = run, rise
    return crate, face, (start[0], start[1], start[2]), (end[0], end[1], end[2])


def _slope(level: int, seed: int, dice: random.Random) -> Exercise:
    crate, face, start, end = _sloping(dice, ("isometric", "cabinet", "cavalier"))
    drawn = math.dist(crate.at(start), crate.at(end))
    run, rise = (round(end[axis]) for axis in face.axes)
    true = math.hypot(run, rise)
    if abs(drawn - true) < 2:
        raise NotMade("it is drawn as long as it is")
    one, other = (AXIS_NAMES[axis] for axis in face.axes)
    angle = _between_axes(crate.view, face)
    return Exercise(
        "drawn", level, seed,
        tr("A line on the {face} face runs {run} mm along the {one} and {rise} mm along the "
           "{other}. How long is it drawn in {kind}, 1:1?", face=face.title, run=run, one=one,
           rise=rise, other=other, kind=crate.view.title),
        (_with_line(crate, start, end),), Amount(drawn, _within(drawn), "mm"),
        (
            tr("It lies along no axis, so its true length, {true:.1f} mm, may not be set off.",
               true=true),
            tr("Set off its two ends along the axes and measure between them; or reckon with the "
               "angle of {angle:.0f}° between the axes.", angle=angle),
            tr("Law of cosines: a² + b² + 2 a b cos {angle:.0f}°, with a and b as they are drawn.",
               angle=angle),
        ),
        tr("It is {true:.1f} mm long and drawn {drawn:.1f} mm long.", true=true, drawn=drawn),
        data={"kind": crate.view.kind, "face": face.value, "run": run, "rise": rise},
    )  # fmt: skip


def _between_axes(view: View, face: Face) -> float:
    one, other = (view.axis_angle(axis) for axis in face.axes)
    return abs((one - other + 180) % 360 - 180)


def _angle(level: int, seed: int, dice: random.Random) -> Exercise:
    crate, face, start, end = _sloping(dice, ("isometric", "cabinet", "cavalier"))
    u, v = face.axes
    true = math.degrees(math.atan2(end[v], end[u]))
    way = apply(crate.view.matrix, tuple(b - a for a, b in zip(start, end, strict=True)))  # type: ignore[arg-type]
    along = apply(crate.view.matrix, tuple(float(k == u) for k in range(3)))  # type: ignore[arg-type]
    turn = math.degrees(math.atan2(way[1], way[0]) - math.atan2(along[1], along[0]))
    drawn = abs((turn + 180) % 360 - 180)
    if abs(drawn - true) < 4:
        raise NotMade("it is drawn at the angle that it has")
    run, rise = round(end[u]), round(end[v])
    return Exercise(
        "drawn", level, seed,
        tr("A line on the {face} face runs {run} mm along the {one} and {rise} mm along the "
           "{other}: {true:.1f}° in truth. Which angle do line and {one} make on paper, in {kind}?",
           face=face.title, run=run, one=AXIS_NAMES[u], rise=rise, other=AXIS_NAMES[v], true=true,
           kind=crate.view.title),
        (_with_line(crate, start, end),), Amount(drawn, _ANGLE_WITHIN, "°"),
        (
            tr("A protractor shows nothing true here: find both ends along the axes."),
            tr("The axes of this face make {angle:.0f}° on paper.",
               angle=_between_axes(crate.view, face)),
            tr("Draw it: {run} along one axis, {rise} along the other, each times its scale, and "
               "measure the angle.", run=run, rise=rise),
        ),
        tr("{true:.1f}° in truth, {drawn:.1f}° on paper.", true=true, drawn=drawn),
        data={"kind": crate.view.kind, "face": face.value, "run": run, "rise": rise},
    )  # fmt: skip
