"""What the critic has to say: the rules by name, and the remarks."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

from holoptic.catalogue import tr

RULES: dict[str, str] = {
    "true": tr("no sentence is false"),
    "enough": tr("a sentence suffices by itself"),
    "lifted": tr("a distance is lifted where it stands"),
    "sequence": tr("one thing after the other"),
    "whole": tr("what the picture shows is drawn"),
    "round": tr("round work as taught"),
    "centres": tr("centres by diagonals"),
    "thrift": tr("no move without use, nothing measured twice"),
    "length": tr("no longer than a careful hand needs"),
}
"""The rules by the key that scripts know them by, in the order in which they are told."""


@dataclass(frozen=True)
class Remark:
    """One fault of a plan: the rule, the number of the move (0: the plan as a whole), and what is
    wrong in words.
    """

    rule: str
    move: int
    words: str

    def __str__(self) -> str:
        where = tr("move {n}", n=self.move) if self.move else tr("plan")
        return f"{self.rule} · {where} · {self.words}"


def counts(remarks: Iterable[Remark]) -> dict[str, int]:
    """Return how often each rule was broken, all rules in their order."""
    found = Counter(remark.rule for remark in remarks)
    return {rule: found[rule] for rule in RULES}
