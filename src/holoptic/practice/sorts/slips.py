"""Slips in a drawing: a size that does not add up, a view from the wrong side, a missing size."""

from __future__ import annotations

import random
from dataclasses import dataclass, replace
from itertools import accumulate, pairwise

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec2
from holoptic.pictorial import Picture
from holoptic.practice.exercise import Choice, Exercise, Figure, NotMade, Places
from holoptic.practice.eye import Eye
from holoptic.practice.pictures import VIEWS, lines_of, sound_block
from holoptic.practice.shapes import LEVEL_AND_UPRIGHT, block_of
from holoptic.practice.sketching import LETTERS, both_ways, letter
from holoptic.practice.sorts.pictorials import views_figure
from holoptic.reading.lines import DrawnView
from holoptic.sheet.drawing import Ink, Words
from holoptic.views.orthographic import VIEW_NAMES

_ROW_MM = 8.0
_SHOWN = 0.9
_OPPOSITE = {"front": "rear", "top": "bottom", "right": "left"}


def make(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    """Return an exercise of a level. Raises NotMade where more than one answer would do."""
    if level in (1, 3):
        return _does_not_add_up(level, seed, dice)
    if level in (2, 5):
        return _wrong_side(level, seed, dice, eye)
    return _missing(level, seed, dice)


@dataclass(frozen=True)
class _Size:
    """A size between two levels of a stepped strip, and the row that it stands in."""

    low: int
    high: int
    row: int


def _strip(dice: random.Random, steps: int) -> tuple[list[int], list[int]]:
    """Return the levels along a strip with steps, and the heights between them, mm."""
    wide = [dice.randint(9, 31) for _ in range(steps)]
    high = [dice.randint(8, 34) for _ in range(steps)]
    for k, (a, b) in enumerate(pairwise(high)):
        if abs(a - b) < 4:
            high[k + 1] = a + 7
    return [0, *accumulate(wide)], high


def _outline(levels: list[int], high: list[int]) -> Ink:
    places: list[Vec2] = [(0.0, 0.0)]
    for (a, b), h in zip(pairwise(levels), high, strict=True):
        places += [(a * _SHOWN, h * _SHOWN), (b * _SHOWN, h * _SHOWN)]
    places += [(levels[-1] * _SHOWN, 0.0), (0.0, 0.0)]
    return Ink("visible", tuple(places))


def _drawn(size: _Size, levels: list[int], text: str) -> tuple[tuple[Ink, ...], Words, Vec2]:
    """Return a size as it is drawn below the strip, and where it is pointed at."""
    y = -_ROW_MM * (size.row + 1)
    a, b = levels[size.low] * _SHOWN, levels[size.high] * _SHOWN
    lines = tuple(Ink("dimension", ((x, -1.0), (x, y - 1.5)), 0.13) for x in (a, b))
    middle = ((a + b) / 2, y)
    words = Words((middle[0], y + 1.0), text, 2.8, "middle", "dimension")
    return (*lines, *both_ways((a, y), (b, y), head=1.8)), words, middle


def _does_not_add_up(level: int, seed: int, dice: random.Random) -> Exercise:
    """Chain, running sizes and the whole: each size is told twice, so one slip is certain."""
    steps = 3 if level == 1 else 4
    levels, high = _strip(dice, steps)
    sizes = [_Size(k, k + 1, 0) for k in range(steps)]
    sizes += [_Size(0, k, k - 1) for k in range(2, steps + 1)]
    sizes.append(_Size(0, steps, steps))
    wrong = dice.randrange(len(sizes))
    true = [levels[one.high] - levels[one.low] for one in sizes]
    said = list(true)
    said[wrong] += dice.choice((-9, -3, -2, -1, 1, 2, 3, 9))
    if said[wrong] < 4 or not _is_certain(sizes, said, wrong):
        raise NotMade("another size could be the wrong one")
    inks, words, places = [_outline(levels, high)], [], []
    for number, (one, value) in enumerate(zip(sizes, said, strict=True)):
        lines, text, middle = _drawn(one, levels, f"{value}")
        inks += lines
        words.append(text)
        place = (middle[0], middle[1] - 2.6)
        words.append(letter(place, LETTERS[number], 2.0))
        places.append(place)
    right = tr("Right: {said} should be {true}.", said=said[wrong], true=true[wrong])
    why = tuple(right if k == wrong else tr("This one agrees with at least one sum of others.")
                for k in range(len(sizes)))  # fmt: skip
    return Exercise(
        "slips", level, seed, tr("One of these sizes is wrong. Which?"),
        (Figure(tuple(inks), tuple(words)),), Places(tuple(places), frozenset({wrong}), why),
        (
            tr("Add the chain up piece by piece, and compare each sum with the size from the "
               "left."),
            tr("Two sums that fail one after the other have a size in common."),
            tr("The wrong one is off by {off} mm.", off=abs(said[wrong] - true[wrong])),
        ),
        right, data={"said": said, "wrong": wrong},
    )  # fmt: skip


def _is_certain(sizes: list[_Size], said: list[int], wrong: int) -> bool:
    """Say whether all sizes but one agree with each other, whichever is left out being the one."""
    return [k for k in range(len(sizes)) if _agree(sizes, said, k)] == [wrong]


def _agree(sizes: list[_Size], said: list[int], without: int) -> bool:
    """Say whether sizes but one can be true together: a place is found for each level in turn."""
    known = {0: 0}
    waiting = [(one, value) for k, (one, value) in enumerate(zip(sizes, said, strict=True))
               if k != without]  # fmt: skip
    is_on = True
    while is_on:
        is_on = False
        for one, value in waiting:
            if one.low in known and one.high not in known:
                known[one.high] = known[one.low] + value
                is_on = True
            elif one.high in known and one.low not in known:
                known[one.low] = known[one.high] - value
                is_on = True
    return all(known[one.high] - known[one.low] == value for one, value in waiting)


def _missing(level: int, seed: int, dice: random.Random) -> Exercise:
    """Sizes are a graph of levels: what joins its two halves is missing, the rest follows."""
    steps = 5
    levels, high = _strip(dice, steps)
    order = list(range(steps + 1))
    dice.shuffle(order)
    cut = dice.randint(2, 4)
    halves = (sorted(order[:cut]), sorted(order[cut:]))
    given = [pair for half in halves for pair in pairwise(half)]
    spans = [(a, b) for a in range(steps + 1) for b in range(a + 1, steps + 1)
             if (a, b) not in given]  # fmt: skip
    joining = [one for one in spans if (one[0] in halves[0]) != (one[1] in halves[0])]
    within = [one for one in spans if one not in joining]
    if len(within) < 3:
        raise NotMade("too little follows from the others")
    offered = [dice.choice(joining), *dice.sample(within, 3)]
    dice.shuffle(offered)
    right = next(k for k, one in enumerate(offered) if one in joining)
    inks, words, places = [_outline(levels, high)], [], []
    for row, (a, b) in enumerate(given):
        lines, text, _ = _drawn(_Size(a, b, row), levels, f"{levels[b] - levels[a]}")
        inks += lines
        words.append(text)
    for number, (a, b) in enumerate(offered):
        lines, text, middle = _drawn(_Size(a, b, len(given) + number), levels, LETTERS[number])
        inks += lines
        words.append(text)
        places.append((middle[0], middle[1] + 2.0))
    why = tuple(
        tr("Right: without it nothing ties one group of edges to the other.") if k == right
        else tr("This one follows from those that are given.") for k in range(len(offered))
    )  # fmt: skip
    return Exercise(
        "slips", level, seed,
        tr("One size is missing before all edges along the length are known. Which of the lettered "
           "ones?"),
        (Figure(tuple(inks), tuple(words)),), Places(tuple(places), frozenset({right}), why),
        (
            tr("Two edges with a size between them are tied; what is tied to the same edge is tied "
               "too."),
            tr("Mark all edges that are tied to the left end. Which are not?"),
            tr("The missing size goes from a marked edge to one that is not."),
        ),
        why[right], data={"levels": levels, "given": [list(one) for one in given]},
    )  # fmt: skip


def _wrong_side(level: int, seed: int, dice: random.Random, eye: Eye) -> Exercise:
    """One view is seen from the opposite side; taken so, all agree, and for no other one."""
    block = block_of(level, dice, LEVEL_AND_UPRIGHT)
    part = sound_block(block, eye)
    pictures = eye.views(part, VIEW_NAMES)
    drawn = {one.name: one for one in eye.drawn(part, VIEW_NAMES)}
    wrong = dice.choice(("front", "right"))
    other = _OPPOSITE[wrong]
    given = {name: pictures[name] for name in VIEWS}
    if _same_shape(pictures[wrong], pictures[other]):
        raise NotMade("it looks the same from both sides")
    given[wrong] = pictures[other]
    shown = {name: drawn[name] for name in VIEWS}
    shown[wrong] = _named(drawn[other], wrong)
    for doubted in VIEWS:
        if doubted == wrong:
            continue
        turned = [_named(one, _OPPOSITE[name]) if name == doubted else one
                  for name, one in shown.items()]  # fmt: skip
        if eye.go_together(turned):
            raise NotMade("another view could be the wrong one")
    if eye.go_together(list(shown.values())):
        raise NotMade("the views agree as they are")
    number = VIEWS.index(wrong)
    why = tuple(
        tr("Right: taken for the {other} view it agrees with the others.", other=tr(other))
        if k == number else tr("Turned about, it would contradict the others.")
        for k in range(len(VIEWS))
    )  # fmt: skip
    figure = views_figure(given)
    return Exercise(
        "slips", level, seed,
        tr("One of the three views is drawn from the wrong side. Which?"), (figure,),
        Choice(tuple(tr("the {name} view", name=tr(name)) for name in VIEWS), number, why),
        (
            tr("Hold a feature fast: where does it lie in each view?"),
            tr("Widths of front and top view stand over each other, heights of front and right "
               "view level with each other."),
            tr("Depth in the top view counts upward, in the right view to the right."),
        ),
        why[number], data={"wrong": wrong},
    )  # fmt: skip


def _named(view: DrawnView, name: str) -> DrawnView:
    return replace(view, name=name)


def _same_shape(one: Picture, other: Picture) -> bool:
    """Say whether two views, each from its own left end, have the same lines."""

    def shifted(picture: Picture, role: str) -> set[tuple[Vec2, ...]]:
        left, low, _, _ = picture.extent
        return {tuple((round(x - left, 1), round(y - low, 1)) for x, y in line)
                for line in lines_of(picture, role)}  # fmt: skip

    return all(shifted(one, role) == shifted(other, role) for role in ("visible", "hidden"))
