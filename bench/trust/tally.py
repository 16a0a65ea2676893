"""What became of what was tried, and how it is told from what must not happen."""

from __future__ import annotations

import contextlib
import io
import re
import traceback
from collections import Counter
from dataclasses import dataclass, field

from holoptic.cli.main import main

ENDS = ("refused", "loaded", "traceback", "hang", "killed", "lost")
BAD = ENDS[2:]
_INSIDE = re.compile(
    r"Traceback|internal error|to unpack|division by zero|cannot convert|in 0 places|"
    r"NoneType|object has no|index out of range|log says where"
)
"""Words about the inside of a program, which are no message to a drafter."""
_SLOW = "no answer after"
_DIED = "stopped unexpectedly"


@dataclass
class Tally:
    """How often each end came, by what was tried; and the first example of each bad one."""

    counts: dict[str, Counter[str]] = field(default_factory=dict)
    examples: list[str] = field(default_factory=list)

    def note(self, what: str, end: str, why: str = "") -> None:
        """Count one trial."""
        assert end in ENDS, end
        row = self.counts.setdefault(what, Counter())
        row[end] += 1
        if end in BAD and row[end] <= 3:
            self.examples.append(f"{what}: {end}: {why}")

    @property
    def bad(self) -> int:
        """How many ended as nothing may."""
        return sum(row[end] for row in self.counts.values() for end in BAD)

    def table(self) -> str:
        """Return the table as it stands in docs/benchmarks.md."""
        lines = ["| | tried | refused in a line | loaded | traceback | hang | killed | lost |",
                 "|---|---|---|---|---|---|---|---|"]  # fmt: skip
        for what, row in self.counts.items():
            figures = " | ".join(str(row[end]) for end in ENDS)
            lines.append(f"| {what} | {sum(row.values())} | {figures} |")
        return "\n".join(lines)


def run_command(*arguments: str) -> tuple[str, str]:
    """Run a command in this process; return its end and what it said.

    A worker that died or hung over a file and was told of in a line is a refusal: what counts as
    killed or hanging is the command itself.
    """
    out, err = io.StringIO(), io.StringIO()
    try:
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = main(list(arguments))
    except SystemExit as leave:
        code = int(leave.code or 0)
    except BaseException:
        return "traceback", traceback.format_exc()
    said = err.getvalue()
    if _INSIDE.search(said) or code == 1 or said.count("\n") > 1 + out.getvalue().count("\n"):
        return "traceback", said
    if code == 2 and said.count("\n") != 1:
        return "traceback", f"{code}: {said}"
    return ("refused" if code == 2 else "loaded"), said
