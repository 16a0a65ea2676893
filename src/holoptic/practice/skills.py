"""What can be practised: every skill in one table, and how an exercise comes from a seed.

To add a skill, write its module in `sorts` and add its line here.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass

from holoptic.catalogue import tr
from holoptic.errors import BadInput, KernelTrouble, PartError
from holoptic.practice.exercise import LEVELS, Exercise, NotMade
from holoptic.practice.eye import Eye
from holoptic.practice.sorts import (
    building,
    corners,
    cubes,
    drawn,
    fits,
    near,
    ovals,
    pictorials,
    sections,
    setoffs,
    sheets,
    slips,
    views,
    whole,
)

Maker = Callable[[int, int, random.Random, Eye], Exercise]
_TRIES = 400
"""So many times chance is thrown for an exercise; of all sorts most come within a few."""


@dataclass(frozen=True)
class Skill:
    """A skill: its name in commands and in the record, its title, how its exercises are made.

    What needs paper, and time at the board, is practised only where it is chosen.
    """

    name: str
    title: str
    make: Maker
    needs_paper: bool = False


_TABLE = (
    Skill("pictorial", tr("which pictorial is it"), pictorials.make),
    Skill("near", tr("near corner and kind"), near.make),
    Skill("cubes", tr("how many cubes"), cubes.make),
    Skill("stack", tr("build the stack"), building.make),
    Skill("setoffs", tr("set-offs"), setoffs.make),
    Skill("drawn", tr("true and drawn"), drawn.make),
    Skill("corner", tr("the corner that lacks a line"), corners.make),
    Skill("views", tr("what is missing in the views"), views.make),
    Skill("sections", tr("sections: what is hatched"), sections.make),
    Skill("slips", tr("slips in a drawing"), slips.make),
    Skill("oval", tr("the four-centre oval"), ovals.make),
    Skill("fit", tr("will it fit, where does it start"), fits.make),
    Skill("draw", tr("draw the pictorial"), whole.make),
    Skill("paper", tr("draw it on paper"), sheets.make, needs_paper=True),
)
SKILLS = {skill.name: skill for skill in _TABLE}
"""By name, in the order in which they are learned."""
AT_THE_DESK = tuple(skill.name for skill in _TABLE if not skill.needs_paper)
"""The names of those that the screen is enough for."""


def skill_of(name: str) -> Skill:
    """Return a skill by its name. Raises BadInput."""
    if name not in SKILLS:
        raise BadInput(tr("no skill is called {name}; there are {names}", name=name,
                          names=", ".join(SKILLS)))  # fmt: skip
    return SKILLS[name]


def skills_of(names: str) -> list[str]:
    """Return the skills of a list such as `views,cubes`, or of `all`. Raises BadInput."""
    if names.strip() == "all":
        return list(SKILLS)
    return [skill_of(name.strip()).name for name in names.split(",")]


def checked_level(level: int) -> int:
    """Return a level that there is. Raises BadInput."""
    if not 1 <= level <= LEVELS:
        raise BadInput(tr("there is no level {level}; choose 1 to {levels}", level=level,
                          levels=LEVELS))  # fmt: skip
    return level


def make(name: str, level: int, seed: int, eye: Eye) -> Exercise:
    """Return the exercise of a skill, a level and a seed, everywhere the same.

    Raises BadInput for a skill or level that there is not, NotMade where chance does not do.
    """
    skill = skill_of(name)
    checked_level(level)
    for turn in range(_TRIES):
        dice = random.Random(f"{name} {level} {seed} {turn}")
        try:
            return skill.make(level, seed, dice, eye)
        except (NotMade, PartError, KernelTrouble):
            continue
    raise NotMade(tr("no exercise came of seed {seed}; take another one", seed=seed))
