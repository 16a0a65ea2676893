"""How many operations and figures a part read from its views needs, against its maker's own.

Run: .venv/bin/python -m bench.feature_trees 12
"""

from __future__ import annotations

import sys
from dataclasses import dataclass, field
from pathlib import Path
from statistics import mean

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

from bench.exercise_parts import PLAIN_FAMILIES, SKEW_FAMILIES
from bench.reading import sound_parts
from holoptic.reading.wording import figures_needed
from holoptic.worker.client import Worker


@dataclass
class Row:
    """What was needed for the parts of a family."""

    made: list[tuple[int, int]] = field(default_factory=list)
    read: list[tuple[int, int]] = field(default_factory=list)

    def text(self, family: str) -> str:
        """Return a row of the table."""
        own, found = (
            [mean(pair[k] for pair in pairs) for k in (0, 1)] for pairs in (self.made, self.read)
        )
        return (f"| {family} | {len(self.made)} | {own[0]:.1f} | {found[0]:.1f} | {own[1]:.1f} | "
                f"{found[1]:.1f} | {found[1] / own[1]:.2f} |")  # fmt: skip


def measure(worker: Worker, family: str, count: int, show: bool) -> Row:
    """Read parts of a family and count."""
    row = Row()
    for _, part, _ in sound_parts(worker, family, count):
        views = worker.ask("derive_views", part)
        reading = worker.ask("read", tuple(views[:3]), "read")
        if reading.verdict != "unique":
            continue
        answer = reading.answers[0].part
        row.made.append((len(part.operations), figures_needed(part)))
        row.read.append((len(answer.operations), figures_needed(answer)))
        if show:
            for one in (part, answer):
                print("  ", [(o.name, o.type) for o in one.operations], figures_needed(one))
    return row


def main() -> None:
    """Print the table."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 12
    families = sys.argv[2:] or [*PLAIN_FAMILIES, *SKEW_FAMILIES]
    print("| family | parts | operations: own | read | figures: own | read | read / own |\n"
          "|---|---|---|---|---|---|---|")  # fmt: skip
    with Worker() as worker:
        for family in families:
            print(measure(worker, family, count, bool(sys.argv[2:])).text(family), flush=True)


if __name__ == "__main__":
    main()
