"""Will it fit, where does it start: room for a pictorial on a sheet, and its first point."""

from __future__ import annotations

import math
import random

from holoptic.catalogue import tr
from holoptic.pictorial import view_of
from holoptic.practice.crates import NEAR, DrawnCrate, corner_words
from holoptic.practice.exercise import Amount, Choice, Exercise, Figure, NotMade
from holoptic.practice.eye import Eye
from holoptic.practice.sketching import both_ways, letter, moved
from holoptic.sheet.drawing import rectangle

_WITHIN_MM = 1.0
_SCALES = ((2, 1), (1, 1), (1, 2), (1, 5), (1, 10))
_LEAST_ROOM_MM = 4.0
"""A picture that fits, or does not, by less than this would be a matter of taste."""
_SHOWN = 0.4


def make(level: int, seed: int, dice: random.Random, _eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where it is too close to tell."""
    return (_width, _height, _largest, _start, _start)[level - 1](level, seed, dice)


def _crate(dice: random.Random, level: int, most: int = 90) -> DrawnCrate:
    kind = "isometric" if level in (1, 2, 4) or dice.random() < 0.5 else "cabinet"
    sizes = dice.randint(30, most), dice.randint(24, most), dice.randint(20, most)
    return DrawnCrate(view_of(kind, dice.choice(NEAR[:2])), sizes)


def _extent(crate: DrawnCrate) -> tuple[float, float, float, float]:
    """Return (xmin, ymin, xmax, ymax) of a crate on paper at its scale."""
    places = [p for ink in crate.inks() for p in ink.path]
    xs, ys = [x for x, _ in places], [y for _, y in places]
    return min(xs), min(ys), max(xs), max(ys)


def _sized(crate: DrawnCrate) -> Figure:
    figure = crate.figure(tr("{kind}, {corner}", kind=crate.view.title,
                             corner=corner_words(crate.view)))  # fmt: skip
    return Figure(figure.inks, crate.size_words(), caption=figure.caption)


def _width(level: int, seed: int, dice: random.Random) -> Exercise:
    crate = _crate(dice, level)
    left, low, right, _ = _extent(crate)
    figure = _sized(crate)
    line = both_ways((left, low - 9), (right, low - 9))
    value = right - left
    return Exercise(
        "fit", level, seed, tr("How wide is the picture of this crate, 1:1?"),
        (Figure((*figure.inks, *line), figure.words, caption=figure.caption),),
        Amount(value, _WITHIN_MM, "mm"),
        (
            tr("Go along the floor from the left end to the right one: one length, one depth."),
            tr("An axis at 30° goes cos 30° = 0.866 of its length to the side."),
            tr("(length + depth) × 0.866"),
        ),
        tr("({length} + {depth}) × 0.866 = {value:.1f} mm.", length=crate.sizes[0],
           depth=crate.sizes[1], value=value),
        data={"kind": crate.view.kind, "sizes": list(crate.sizes)},
    )  # fmt: skip


def _height(level: int, seed: int, dice: random.Random) -> Exercise:
    crate = _crate(dice, level)
    left, low, _, high = _extent(crate)
    figure = _sized(crate)
    line = both_ways((left - 12, low), (left - 12, high))
    value = high - low
    return Exercise(
        "fit", level, seed, tr("How high is the picture of this crate, 1:1?"),
        (Figure((*figure.inks, *line), figure.words, caption=figure.caption),),
        Amount(value, _WITHIN_MM, "mm"),
        (
            tr("Go from the lowest corner to the highest: along which axes?"),
            tr("An axis at 30° rises by half of its length."),
            tr("height + (length + depth) ÷ 2"),
        ),
        tr("{height} + ({length} + {depth}) ÷ 2 = {value:.1f} mm.", height=crate.sizes[2],
           length=crate.sizes[0], depth=crate.sizes[1], value=value),
        data={"kind": crate.view.kind, "sizes": list(crate.sizes)},
    )  # fmt: skip


def _room(dice: random.Random) -> tuple[str, int, int]:
    """Return a paper's name and what is free on it within its border, mm."""
    return dice.choice((("A4", 180, 247), ("A4", 257, 170), ("A3", 390, 257)))


def _largest(level: int, seed: int, dice: random.Random) -> Exercise:
    crate = _crate(dice, level, 190)
    paper, wide, high = _room(dice)
    left, low, right, top = _extent(crate)
    fits = []
    for on_paper, on_part in _SCALES:
        share = on_paper / on_part
        room = min(wide - share * (right - left), high - share * (top - low))
        if abs(room) < _LEAST_ROOM_MM:
            raise NotMade("it is too close to tell")
        fits.append(room > 0)
    if True not in fits or fits[0]:
        raise NotMade("there is nothing to choose")
    number = fits.index(True)
    words = tuple(f"{a}:{b}" for a, b in _SCALES)
    why = tuple(
        tr("Right: the largest that fits.") if k == number
        else tr("It does not fit.") if k < number else tr("It fits, but a larger one does too.")
        for k in range(len(words))
    )  # fmt: skip
    return Exercise(
        "fit", level, seed,
        tr("On this {paper} {wide} × {high} mm are free. What is the largest scale at which the "
           "picture of this crate fits?", paper=paper, wide=wide, high=high),
        (_sized(crate),), Choice(words, number, why),
        (
            tr("How wide and how high is the picture at 1:1?"),
            tr("At 1:1 it is {wide:.0f} mm wide and {high:.0f} mm high.", wide=right - left,
               high=top - low),
            tr("Divide the free width by the picture's, and the free height too; the lesser "
               "counts."),
        ),
        tr("At 1:1 it takes up {wide:.0f} × {high:.0f} mm.", wide=right - left, high=top - low),
        data={"kind": crate.view.kind, "sizes": list(crate.sizes), "free": [wide, high]},
    )  # fmt: skip


def _start(level: int, seed: int, dice: random.Random) -> Exercise:
    crate = _crate(dice, level)
    paper, wide, high = _room(dice)
    left, low, right, top = _extent(crate)
    if right - left > wide - 20 or top - low > high - 20:
        raise NotMade("it does not fit")
    near = crate.at(crate.corner(crate.near_corner))
    is_across = level == 4 or dice.random() < 0.5
    value = ((wide - (right - left)) / 2 + near[0] - left if is_across
             else (high - (top - low)) / 2 + near[1] - low)  # fmt: skip
    if value < _LEAST_ROOM_MM or math.isclose(value, wide / 2, abs_tol=_LEAST_ROOM_MM):
        raise NotMade("there is nothing to reckon")
    sheet = rectangle(0, 0, wide * _SHOWN, high * _SHOWN, "border")
    small = DrawnCrate(crate.view, crate.sizes, _SHOWN)
    at = ((wide - (right - left)) / 2 - left, (high - (top - low)) / 2 - low)
    figure = moved(small.figure(), (at[0] * _SHOWN, at[1] * _SHOWN))
    spot = ((near[0] + at[0]) * _SHOWN, (near[1] + at[1]) * _SHOWN)
    edge = (0.0, spot[1]) if is_across else (spot[0], 0.0)
    inks = (sheet, *figure.inks, *both_ways(edge, spot))
    ask = (
        tr("The picture stands in the middle of the free {wide} × {high} mm of an {paper}, 1:1; "
           "the crate measures {length} × {depth} × {tall}, {kind}. How far from the left does "
           "its near corner S lie?", wide=wide, high=high, paper=paper, length=crate.sizes[0],
           depth=crate.sizes[1], tall=crate.sizes[2], kind=crate.view.title)
        if is_across else
        tr("The picture stands in the middle of the free {wide} × {high} mm of an {paper}, 1:1; "
           "the crate measures {length} × {depth} × {tall}, {kind}. How far from below does its "
           "near corner S lie?", wide=wide, high=high, paper=paper, length=crate.sizes[0],
           depth=crate.sizes[1], tall=crate.sizes[2], kind=crate.view.title)
    )  # fmt: skip
    return Exercise(
        "fit", level, seed, ask,
        (Figure(inks, (letter((spot[0], spot[1] - 4), "S"),), caption=corner_words(crate.view)),),
        Amount(value, _WITHIN_MM, "mm"),
        (
            tr("Half of what is left over comes first."),
            tr("The picture is {wide:.0f} mm wide and {high:.0f} mm high.", wide=right - left,
               high=top - low),
            tr("To it comes how far the near corner lies from the picture's own edge."),
        ),
        tr("{value:.1f} mm.", value=value),
        data={"kind": crate.view.kind, "sizes": list(crate.sizes), "free": [wide, high],
              "axis": "across" if is_across else "up"},
    )  # fmt: skip
