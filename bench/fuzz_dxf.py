"""Mutated DXF files: each must be read or refused with one clear line, without crash or hang.

Run: .venv/bin/python -m bench.fuzz_dxf 500
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

from holoptic.demo import drawing_paths
from holoptic.errors import BadInput, KernelTrouble
from holoptic.worker.client import Worker

_LIMIT_S = 6.0
_PATIENCE_S = 30.0


def mutated(source: bytes, dice: random.Random) -> bytes:
    """Return a file with bytes changed, figures spoiled, lines dropped, doubled or swapped."""
    lines = source.split(b"\n")
    for _ in range(dice.randint(1, 12)):
        at = dice.randrange(len(lines))
        kind = dice.random()
        if kind < 0.3:
            lines[at] = dice.choice((b"1e308", b"nan", b"-0.5", b"", b"999999999", b"LINE", b"0"))
        elif kind < 0.5:
            line = bytearray(lines[at] or b"0")
            line[dice.randrange(len(line))] = dice.randrange(256)
            lines[at] = bytes(line)
        elif kind < 0.7:
            del lines[at : at + dice.randint(1, 30)]
        elif kind < 0.85:
            lines[at:at] = lines[at : at + dice.randint(1, 40)]
        else:
            other = dice.randrange(len(lines))
            lines[at], lines[other] = lines[other], lines[at]
        lines = lines or [b"0"]
    return b"\n".join(lines)


def main() -> None:
    """Print what became of the files."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 500
    sources = [path.read_bytes() for path in drawing_paths()]
    outcomes: Counter[str] = Counter()
    slowest = 0.0
    with tempfile.TemporaryDirectory() as folder, Worker() as worker:
        path = Path(folder) / "mutated.dxf"
        for seed in range(count):
            path.write_bytes(mutated(sources[seed % len(sources)], random.Random(seed)))
            begin = time.monotonic()
            outcome = _outcome(worker, path)
            slowest = max(slowest, time.monotonic() - begin)
            outcomes[outcome] += 1
    for outcome, number in outcomes.most_common():
        print(f"| {outcome} | {number} |")
    print(f"slowest: {slowest:.1f} s")


def _outcome(worker: Worker, path: Path) -> str:
    try:
        sheet = worker.ask("open_sheet", str(path), patience=_PATIENCE_S)
        views = tuple(sheet.arrangement.drawn_views())
        reading = worker.ask("read", views, "x", 2, _LIMIT_S, patience=_PATIENCE_S)
    except BadInput as error:
        assert "\n" not in str(error)
        return "refused with one clear line"
    except KernelTrouble as error:
        return f"trouble: {str(error)[:70]}"
    return f"read: {reading.verdict}"


if __name__ == "__main__":
    main()
