"""What reading found: the parts that views can mean, or what in them cannot be true together."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from holoptic.curves.vectors import Vec2
from holoptic.part.whole import PartSource
from holoptic.reading.lines import DrawnView, Status

USUAL_LIMIT_S = 30.0
LONG_LIMIT_S = 120.0
"""For reading on where the usual time ran out."""
USUAL_MOST = 6
"""So many answers are told."""
Verdict = Literal["unique", "several", "contradictory", "unfinished"]


@dataclass(frozen=True)
class Check:
    """A remark about views: which view, where (in the view's own mm), what.

    `can_be_mended` says that mending takes care of it.
    """

    sort: str
    view: str
    path: tuple[Vec2, ...]
    words: str
    can_be_mended: bool = False


@dataclass(frozen=True)
class Difference:
    """A stretch of line that one drawing of a view has and the other lacks.

    `kind` is "missing" (the given views lack it) or "extra" (the part does not show it), or
    "status": both have it, one visible and the other hidden. `path` is in the view's own mm.
    """

    view: str
    kind: str
    status: Status
    path: tuple[tuple[float, float], ...]

    @property
    def length(self) -> float:
        """Length in mm."""
        return sum(math.dist(a, b) for a, b in pairwise(self.path))


@dataclass(frozen=True)
class Suspect:
    """A stretch of a view that cannot be true together with the rest.

    `path` is in the view's own mm (one point where nothing is drawn); `words` say what is odd.
    """

    view: str
    path: tuple[Vec2, ...]
    words: str


@dataclass(frozen=True)
class Answer:
    """A part that the views can mean, its views and its volume in mm³, and where these views
    differ from the given ones. Where no features make it, its solid stands in a text of its own.
    """

    part: PartSource
    views: tuple[DrawnView, ...]
    volume: float
    differences: tuple[Difference, ...] = ()
    described: PartSource | None = None
    """The same solid in the features and words of an engineer."""

    @property
    def taken(self) -> PartSource:
        """The part to go on with."""
        return self.described or self.part


@dataclass(frozen=True)
class Reading:
    """The outcome of reading: `answers` are the parts found (the nearest one of a contradiction).

    `question` is what would decide between several, `notes` what a reader should know. `conflict`
    are the fewest lines found that cannot be true together, given that nothing else is drawn.
    """

    verdict: Verdict
    views: tuple[DrawnView, ...]
    answers: tuple[Answer, ...]
    suspects: tuple[Suspect, ...] = ()
    question: str = ""
    notes: tuple[str, ...] = ()
    conflict: tuple[Suspect, ...] = ()


@dataclass(frozen=True)
class Correction:
    """One line of a contradictory drawing drawn otherwise, with which it has one meaning.

    `path` is the line in the view's own mm, `words` say what changes, `views` are all views with
    it, `reading` what they mean.
    """

    view: str
    path: tuple[Vec2, ...]
    words: str
    views: tuple[DrawnView, ...]
    reading: Reading
