"""What comes next: an estimate for each skill, and when a skill comes back.

Each skill has a rating in logits that moves with every exercise by how much better or worse it went
than expected, as in chess (Elo 1978; in teaching: R. Pelánek, “Applications of the Elo rating
system in adaptive educational systems”, Computers & Education 98, 2016); levels are a logit apart.
What went well comes back after a while that doubles each time, what went wrong comes back soon
(S. Leitner, “So lernt man lernen”, 1972). All of it follows from the record, nothing else is kept.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from holoptic.practice.exercise import LEVELS

_MIDDLE = (LEVELS + 1) / 2
_BEGINS = -2.4
"""Who begins is taken to solve most of level 1 and little more."""
_FIRST_STEP, _LEAST_STEP, _SLOWER = 2.4, 0.9, 0.1
_AIM = 0.7
"""The level is offered at which so much will be right, nearly."""
_WENT_WELL = 0.7
_FIRST_WHILE = timedelta(minutes=6)
_LONGEST_WHILE = timedelta(days=90)
_SOON = timedelta(minutes=1)


@dataclass(frozen=True)
class Attempt:
    """An exercise that was done: what came of it (0 to 1), and when."""

    skill: str
    level: int
    score: float
    when: datetime


@dataclass(frozen=True)
class Standing:
    """How well somebody has a skill: its rating (logits), how often it was tried, the while after
    which it comes back, and when that is.
    """

    rating: float = _BEGINS
    count: int = 0
    spell: timedelta = _FIRST_WHILE
    due: datetime | None = None

    def expected(self, level: int) -> float:
        """Return the share that will be right at a level, 0 to 1."""
        return 1.0 / (1.0 + math.exp(level - _MIDDLE - self.rating))

    @property
    def level(self) -> int:
        """The level to go on with."""
        return min(range(1, LEVELS + 1), key=lambda level: abs(self.expected(level) - _AIM))

    @property
    def mastery(self) -> float:
        """What is expected over all levels, 0 to 1."""
        return sum(self.expected(level) for level in range(1, LEVELS + 1)) / LEVELS

    def after(self, attempt: Attempt) -> Standing:
        """Return how one stands after an exercise."""
        step = max(_LEAST_STEP, _FIRST_STEP / (1 + _SLOWER * self.count))
        rating = self.rating + step * (attempt.score - self.expected(attempt.level))
        if attempt.score >= _WENT_WELL:
            spell = min(2 * self.spell, _LONGEST_WHILE)
            return Standing(rating, self.count + 1, spell, attempt.when + spell)
        return Standing(rating, self.count + 1, _FIRST_WHILE, attempt.when + _SOON)


def standings(attempts: Sequence[Attempt], skills: Sequence[str]) -> dict[str, Standing]:
    """Return how somebody stands in each skill; attempts in the order in which they were made.

    Those at skills that there are no more are left out.
    """
    found = {skill: Standing() for skill in skills}
    for attempt in attempts:
        if attempt.skill in found and 1 <= attempt.level <= LEVELS:
            found[attempt.skill] = found[attempt.skill].after(attempt)
    return found


def next_up(attempts: Sequence[Attempt], skills: Sequence[str], now: datetime) -> tuple[str, int]:
    """Return the skill and the level that come next.

    What is due comes first, longest overdue; then what was never tried, in the order of learning;
    then the weakest. The same skill does not come twice in a row while there is another.
    """
    found = standings(attempts, skills)
    last = attempts[-1].skill if attempts else ""
    others = [skill for skill in skills if skill != last] or list(skills)
    due = [skill for skill in others if (at := found[skill].due) is not None and at <= now]
    new = [skill for skill in others if found[skill].count == 0]
    if due:
        chosen = min(due, key=lambda skill: found[skill].due or now)
    elif new:
        chosen = new[0]
    else:
        chosen = min(others, key=lambda skill: found[skill].mastery)
    return chosen, found[chosen].level


def as_if(attempts: Sequence[Attempt], skill: str, level: int, score: float, when: datetime
          ) -> list[Attempt]:  # fmt: skip
    """Return attempts with one more: what would come next if it went so."""
    return [*attempts, Attempt(skill, level, score, when)]
