"""The four-centre oval: its next step, its centres, which corners; radii and the moved arc."""

from __future__ import annotations

import math
import random
from dataclasses import replace

from holoptic.catalogue import tr
from holoptic.curves.paper import crossing, direction
from holoptic.curves.vectors import Vec2
from holoptic.part import Face
from holoptic.pictorial import view_of
from holoptic.practice.crates import NEAR, DrawnCrate, corner_words
from holoptic.practice.exercise import Amount, Choice, Exercise, Figure, Places
from holoptic.practice.eye import Eye
from holoptic.practice.sketching import LETTERS, letter
from holoptic.sheet.drawing import Ink

_WITHIN_MM = 0.5
_LARGE, _SMALL = math.sqrt(3) / 2, 1 / (2 * math.sqrt(3))
"""Radii of the arcs over the diameter (handbooks of technical drawing; see `curves/ovals.py`)."""


class _Rhombus:
    """The rhombus about a circle on a face of a crate, and what the four-centre way needs of it."""

    def __init__(self, dice: random.Random) -> None:
        self.across = dice.randint(26, 52)
        size = self.across
        self.view = view_of("isometric", dice.choice(NEAR[:2]))
        self.crate = DrawnCrate(self.view, (size, size, size))
        self.face: Face = dice.choice(self.crate.faces())
        u, v = self.face.axes
        corners = []
        for ends in ((0, 0), (1, 0), (1, 1), (0, 1)):
            place = [0.0, 0.0, 0.0]
            place[u], place[v] = ends[0] * size, ends[1] * size
            place[self.face.normal_axis] = float(size) if self.face.is_far else 0.0
            corners.append(self.crate.at((place[0], place[1], place[2])))
        if math.dist(corners[0], corners[2]) > math.dist(corners[1], corners[3]):
            corners = [*corners[1:], corners[0]]
        self.blunt: tuple[Vec2, Vec2] = (corners[0], corners[2])
        self.sharp: tuple[Vec2, Vec2] = (corners[1], corners[3])
        self.corners = corners
        self.middles = [_mid(corners[k], corners[(k + 1) % 4]) for k in range(4)]
        # from each blunt corner to the middles of the two sides that do not meet there
        one, other = self.blunt
        self.joins = [(one, self.middles[1]), (one, self.middles[2]),
                      (other, self.middles[3]), (other, self.middles[0])]  # fmt: skip
        self.small = [_cross(self.joins[0], self.joins[3]), _cross(self.joins[1], self.joins[2])]

    @property
    def middle(self) -> Vec2:
        return _mid(*self.blunt)

    def caption(self) -> str:
        return tr("{kind}, {corner}; the square about a circle on the {face} face",
                  kind=self.view.title, corner=corner_words(self.view),
                  face=self.face.title)  # fmt: skip

    def inks(self, stage: int) -> tuple[Ink, ...]:
        """Return what stands after some steps: rhombus, middles, joins, large arcs, small arcs."""
        outline = (*self.corners, self.corners[0])
        found = [Ink("construction", outline)] if stage > 0 else []
        if stage > 1:
            found += [Ink("construction", line) for line in
                      (tuple(self.middles[0::2]), tuple(self.middles[1::2]))]  # fmt: skip
        if stage > 2:
            found += [Ink("construction", join) for join in self.joins]
        if stage > 3:
            found += [Ink("visible", arc) for arc in self._arcs(large=True)]
        if stage > 4:
            found += [Ink("visible", arc) for arc in self._arcs(large=False)]
        return tuple(found)

    def _arcs(self, *, large: bool) -> list[tuple[Vec2, ...]]:
        if large:
            ends = [(self.blunt[0], self.middles[1], self.middles[2]),
                    (self.blunt[1], self.middles[3], self.middles[0])]  # fmt: skip
        else:
            ends = [(self.small[0], self.middles[0], self.middles[1]),
                    (self.small[1], self.middles[2], self.middles[3])]  # fmt: skip
        return [_arc(*one) for one in ends]


def _mid(a: Vec2, b: Vec2) -> Vec2:
    return (a[0] + b[0]) / 2, (a[1] + b[1]) / 2


def _cross(one: tuple[Vec2, Vec2], other: tuple[Vec2, Vec2]) -> Vec2:
    found = crossing(one[0], direction(*one), other[0], direction(*other))
    assert found is not None  # the joins of a rhombus cross on its long diagonal
    return found


def _arc(centre: Vec2, start: Vec2, end: Vec2) -> tuple[Vec2, ...]:
    """Return the shorter arc about a centre from start to end."""
    radius = math.dist(centre, start)
    first = math.atan2(start[1] - centre[1], start[0] - centre[0])
    turn = math.atan2(end[1] - centre[1], end[0] - centre[0]) - first
    turn = (turn + math.pi) % math.tau - math.pi
    steps = 24
    return tuple(
        (centre[0] + radius * math.cos(first + turn * k / steps),
         centre[1] + radius * math.sin(first + turn * k / steps)) for k in range(steps + 1)
    )  # fmt: skip


def make(level: int, seed: int, dice: random.Random, _eye: Eye) -> Exercise:
    """Return an exercise of a level."""
    return (_next_step, _large_centres, _small_centres, _radius, _moved_back)[level - 1](
        level, seed, dice, _Rhombus(dice)
    )


_STEPS = (
    tr("the rhombus: a side as long as the diameter, along both axes"),
    tr("the mid-points of its sides, joined across"),
    tr("lines from the blunt corners to the mid-points opposite"),
    tr("the two large arcs, needle on the blunt corners"),
    tr("the two small arcs, needle where those lines cross"),
    tr("firming in the oval"),
)


def _next_step(level: int, seed: int, dice: random.Random, one: _Rhombus) -> Exercise:
    stage = dice.randint(1, 4)
    # once the lines cross, the small arcs could be drawn before the large ones too
    later = [k for k in range(len(_STEPS)) if k != stage and (stage, k) != (3, 4)]
    numbers = [stage, *dice.sample(later, 3)]
    dice.shuffle(numbers)
    done = tr("This is done, or stands there before it is needed.")
    early = tr("Something it needs is not there yet.")
    why = tuple(tr("Right.") if k == stage else done if k < stage else early for k in numbers)
    figure = Figure((*one.crate.inks("construction"), *one.inks(stage)), caption=one.caption())
    return Exercise(
        "oval", level, seed,
        tr("A circle becomes a four-centre oval. So much is drawn: what comes next?"), (figure,),
        Choice(tuple(_STEPS[k] for k in numbers), numbers.index(stage), why),
        (
            tr("What is drawn already? Name the last thing that was done."),
            tr("Arcs need their centres, centres need the lines that cross there."),
            tr("Order: rhombus, mid-points, lines from the blunt corners, large arcs, small arcs."),
        ),
        tr("Rhombus, mid-points, lines from the blunt corners, large arcs, small arcs: each needs "
           "the one before."), data={"done": stage},
    )  # fmt: skip


def _lettered(
    one: _Rhombus, right: list[Vec2], wrong: list[tuple[Vec2, str]], stage: int, dice: random.Random
) -> tuple[Figure, Places]:
    places = [(place, tr("Right.")) for place in right] + wrong
    dice.shuffle(places)
    words = tuple(letter(place, LETTERS[k]) for k, (place, _) in enumerate(places))
    figure = Figure(one.inks(stage), words, caption=one.caption())
    numbers = frozenset(k for k, (place, _) in enumerate(places) if place in right)
    return figure, Places(tuple(p for p, _ in places), numbers, tuple(w for _, w in places))


def _large_centres(level: int, seed: int, dice: random.Random, one: _Rhombus) -> Exercise:
    sharp = tr("From the sharp corner the arc would not touch the sides at their middles.")
    wrong = [(place, sharp) for place in one.sharp]
    wrong += [(one.middle, tr("The middle of the rhombus is as far from all sides: a circle."))]
    figure, places = _lettered(one, list(one.blunt), wrong, 2, dice)
    return Exercise(
        "oval", level, seed,
        tr("Where does the needle stand for the two large arcs? Two places."), (figure,), places,
        (
            tr("A large arc touches two sides at their middles."),
            tr("Its centre lies square to both sides at these middles."),
            tr("Those lines square to the sides meet in a blunt corner."),
        ),
        tr("The large arcs have their centres in the blunt corners, where the sides make 120°."),
        data={"diameter": one.across, "face": one.face.value},
    )  # fmt: skip


def _small_centres(level: int, seed: int, dice: random.Random, one: _Rhombus) -> Exercise:
    off = tr("Here no lines from the blunt corners cross.")
    wrong = [(_mid(one.small[k], one.sharp[k]), off) for k in (0, 1)]
    wrong += [(one.middle, off), (one.middles[0], off)]
    figure, places = _lettered(one, one.small, wrong, 2, dice)
    return Exercise(
        "oval", level, seed,
        tr("Where does the needle stand for the two small arcs? Two places."), (figure,), places,
        (
            tr("Draw from each blunt corner to the middles of the two sides opposite."),
            tr("These lines cross twice."),
            tr("Both crossings lie on the long diagonal."),
        ),
        tr("Lines from the blunt corners to the mid-points opposite cross on the long diagonal, a "
           "sixth of it from the middle."),
        (Figure(one.inks(5), caption=one.caption()),),
        {"diameter": one.across, "face": one.face.value},
    )  # fmt: skip


def _radius(level: int, seed: int, dice: random.Random, one: _Rhombus) -> Exercise:
    is_large = dice.random() < 0.5
    value = one.across * (_LARGE if is_large else _SMALL)
    figure = Figure((*one.inks(4 if not is_large else 3),), caption=one.caption())
    share = 0.866 if is_large else 0.2887
    ask = (
        tr("The circle is {across} mm across. How wide are the compasses set for a large arc of "
           "its four-centre oval?", across=one.across)
        if is_large else
        tr("The circle is {across} mm across. How wide are the compasses set for a small arc of "
           "its four-centre oval?", across=one.across)
    )  # fmt: skip
    return Exercise(
        "oval", level, seed, ask, (figure,), Amount(value, _WITHIN_MM, "mm"),
        (
            tr("Measure it on the rhombus: from the centre to where the arc begins."),
            tr("The arcs begin at the mid-points of the sides."),
            tr("{share} times the diameter.", share=share),
        ),
        tr("{share} × {across} = {value:.1f} mm.", share=share, across=one.across, value=value),
        (Figure(one.inks(5), caption=one.caption()),),
        {"diameter": one.across, "arc": "large" if is_large else "small"},
    )  # fmt: skip


def _moved_back(level: int, seed: int, dice: random.Random, one: _Rhombus) -> Exercise:
    """The rim behind: centres move along the axis of the hole by its depth."""
    deep = dice.randint(7, 14)
    centre = one.blunt[dice.randrange(2)]
    axis = one.face.normal_axis
    way = [0.0, 0.0, 0.0]
    way[axis] = -1.0 if one.face.is_far else 1.0
    back, other, third = (one.crate.at(_along(axis_k, way[axis], deep))
                          for axis_k in (axis, (axis + 1) % 3, (axis + 2) % 3))  # fmt: skip
    right = (centre[0] + back[0], centre[1] + back[1])
    false = tr("This goes along another axis than the hole's.")
    wrong = [((centre[0] + x, centre[1] + y), false) for x, y in (other, third)]
    wrong += [((centre[0] - back[0], centre[1] - back[1]), tr("This comes out of the face."))]
    figure, places = _lettered(one, [right], wrong, 5, dice)
    x, y = centre
    cross = [Ink("dimension", ((x - 1, y), (x + 1, y)), 0.7),
             Ink("dimension", ((x, y - 1), (x, y + 1)), 0.7)]  # fmt: skip
    figure = replace(figure, inks=(*one.crate.inks("construction"), *figure.inks, *cross))
    return Exercise(
        "oval", level, seed,
        tr("The hole goes {deep} mm into the {face} face. The centre with a cross served a large "
           "arc of the front rim: where does it go for the rim behind?", deep=deep,
           face=one.face.title),
        (figure,), places,
        (
            tr("The rim behind is the same oval, moved."),
            tr("It is moved along the axis of the hole."),
            tr("The axis of the hole is the one that the {face} face does not have.",
               face=one.face.title),
        ),
        tr("Centres move {deep} mm along the axis of the hole, inward; radii stay.", deep=deep),
        data={"diameter": one.across, "face": one.face.value, "deep": deep},
    )  # fmt: skip


def _along(axis: int, way: float, deep: int) -> tuple[float, float, float]:
    found = [0.0, 0.0, 0.0]
    found[axis] = way * deep
    return found[0], found[1], found[2]
