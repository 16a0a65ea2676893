"""Find the corner that lacks a line: by the trihedral corner rule.

The whole picture keeps the rule at each corner; with one line left out it is broken at the ends of
that line and nowhere else, as the rule itself tells.
"""

from __future__ import annotations

import math
import random

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.pictorial import Picture
from holoptic.pictorial.corners import check_corners
from holoptic.practice.exercise import Exercise, Figure, NotMade, Places
from holoptic.practice.eye import Eye
from holoptic.practice.pictures import SCALE, picture_figure, sound_block
from holoptic.practice.shapes import STRAIGHT, block_of
from holoptic.practice.sketching import LETTERS, letter
from holoptic.sheet.drawing import Ink

Line = tuple[Vec2, Vec2]
_SAME_MM = 0.05
_OFFERED = (5, 6, 8, 9, 10)
_LETTER_OFF_MM = 3.2


def make(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where the rule does not tell."""
    block = block_of(max(2, level), dice, STRAIGHT)
    part = sound_block(block, eye)
    corner = dice.choice(("front-right", "front-left"))
    picture = eye.picture(part, "isometric", corner)
    lines, hidden = _lines(picture, "visible"), _lines(picture, "hidden")
    sound = {one.place: one.verdict for one in check_corners(lines, hidden)}
    if set(sound.values()) - {"complete", "edge hidden"}:
        raise NotMade("the whole picture breaks the rule already")
    candidates = [line for line in lines if _leaves_two(line, lines)]
    if not candidates:
        raise NotMade("no line is missed so that the rule tells")
    left_out = dice.choice(candidates)
    rest = [line for line in lines if line != left_out]
    broken = [one.place for one in check_corners(rest, hidden)
              if one.verdict not in ("complete", "edge hidden")]  # fmt: skip
    if not broken or any(min(math.dist(place, end) for end in left_out) > _SAME_MM
                         for place in broken):  # fmt: skip
        raise NotMade("the rule is broken elsewhere")
    others = [place for place in sound if min(math.dist(place, b) for b in broken) > _SAME_MM
              and min(math.dist(place, end) for end in left_out) > _SAME_MM]  # fmt: skip
    count = min(len(others), _OFFERED[level - 1] - len(broken))
    places = [*broken, *dice.sample(sorted(others), count)]
    dice.shuffle(places)
    right = frozenset(k for k, place in enumerate(places) if place in broken)
    why = tuple(_why(k in right) for k in range(len(places)))
    shown = tuple((SCALE * x, SCALE * y) for x, y in places)
    words = tuple(letter(_beside(place, rest), LETTERS[k]) for k, place in enumerate(places))
    inks = tuple(Ink("visible", tuple((SCALE * x, SCALE * y) for x, y in line)) for line in rest)
    return Exercise(
        "corner", level, seed,
        tr("One line is missing. At which corner do you see it? One is enough."),
        (Figure(inks, words),), Places(shown, right, why, one_will_do=True),
        (
            tr("At a corner of planes in sight at least three edges meet."),
            tr("Go from corner to corner and count the lines that leave it; two are too few, "
               "unless the third edge is hidden."),
            tr("The missing line would have run {way}.", way=_way(left_out)),
        ),
        tr("Where planes meet at a corner in sight, three edges leave it at least."),
        (picture_figure(picture, caption=tr("the whole picture")),),
        {"missing": [list(left_out[0]), list(left_out[1])]},
    )  # fmt: skip


def _lines(picture: Picture, role: str) -> list[Line]:
    found = []
    for stroke in picture.strokes:
        if stroke.role == role:
            if not stroke.is_straight:
                raise NotMade("a line is curved")
            found.append((stroke.path[0], stroke.path[-1]))
    return found


def _leaves_two(line: Line, lines: list[Line]) -> bool:
    """Say whether at an end of a line two others are left that make a corner."""
    return any(
        sum(min(math.dist(end, one) for one in other) < _SAME_MM for other in lines) >= 3
        for end in line
    )  # fmt: skip


def _why(is_right: bool) -> str:
    if is_right:
        return tr("Right: here an edge is missing.")
    return tr("Nothing is missing here: three edges meet, or one of them is hidden.")


def _beside(place: Vec2, lines: list[Line]) -> Vec2:
    """Return where a letter stands beside a corner, on paper: where the fewest lines leave it."""
    ways = []
    for line in lines:
        for near, far in (line, line[::-1]):
            if math.dist(near, place) < _SAME_MM:
                ways.append(math.atan2(far[1] - near[1], far[0] - near[0]))

    def room(turn: float) -> float:
        return min((abs((turn - way + math.pi) % math.tau - math.pi) for way in ways), default=0.0)

    best = max((k * math.tau / 24 for k in range(24)), key=room)
    x, y = place[0] * SCALE, place[1] * SCALE
    return x + _LETTER_OFF_MM * math.cos(best), y + _LETTER_OFF_MM * math.sin(best)


def _way(line: Line) -> str:
    (a, b), (c, d) = line
    if abs(a - c) < _SAME_MM:
        return tr("upright")
    return tr("up to the right") if (c - a) * (d - b) > 0 else tr("down to the right")
