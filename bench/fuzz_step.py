"""Damaged STEP files: each is read or refused in its time, and the worker is there afterwards.

Run: .venv/bin/python -m bench.fuzz_step [HOW MANY]
"""

from __future__ import annotations

import random
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

from holoptic.errors import BadInput, HolopticError, KernelTrouble
from holoptic.job import pose
from holoptic.solid.making.step import write_solid
from holoptic.worker.client import Worker
from own_solids import SOLIDS

PATIENCE_S = 30.0
_NAMES = ("gallery step", "skew hole", "roof cone and ball", "hook", "drilled chimney")
_DIGITS = b"0123456789.-+E"


def mutated(good: bytes, dice: random.Random) -> bytes:
    """Return a file with some bytes changed, figures spoiled, lines dropped, doubled or swapped."""
    content = bytearray(good)
    for _ in range(dice.randint(1, 12)):
        at = dice.randrange(len(content))
        way = dice.randrange(5)
        if way == 0:
            content[at] = dice.randrange(256)
        elif way == 1:
            del content[at : at + dice.randint(1, 80)]
        elif way == 2:
            while at < len(content) - 1 and content[at] not in _DIGITS:
                at += 1
            content[at : at + 1] = dice.choice([b"9", b"-", b"0", b"1e308", b"99999999", b"#"])
        elif way == 3:
            end = min(at + dice.randint(1, 400), len(content))
            content[at:at] = content[at:end]
        else:
            lines = bytes(content).split(b"\n")
            i, j = dice.randrange(len(lines)), dice.randrange(len(lines))
            lines[i], lines[j] = lines[j], lines[i]
            content = bytearray(b"\n".join(lines))
    return bytes(content)


def outcome(worker: Worker, path: Path) -> str:
    """Return what became of a file: read, refused, or trouble with the worker."""
    try:
        for solid in worker.ask("list_solids", str(path), patience=PATIENCE_S)[:2]:
            worker.ask("present", pose(solid), patience=PATIENCE_S)
    except BadInput as error:
        assert "\n" not in str(error)
        return "refused"
    except KernelTrouble as error:
        assert "\n" not in str(error)
        return f"trouble: {str(error).split('(')[0].split(';')[0].strip()}"
    except HolopticError:
        return "refused"
    return "read"


def main() -> None:
    """Print how many files came to which end, and the longest time one took."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 300
    ends: Counter[str] = Counter()
    longest = 0.0
    with tempfile.TemporaryDirectory() as folder, Worker() as worker:
        originals = []
        for body in SOLIDS:
            if body.name in _NAMES:
                path = Path(folder) / "good.step"
                write_solid(body.kernel_shape(), str(path), body.name)
                originals.append(path.read_bytes())
        path = Path(folder) / "mutant.step"
        for seed in range(count):
            path.write_bytes(mutated(originals[seed % len(originals)], random.Random(seed)))
            start = time.perf_counter()
            ends[outcome(worker, path)] += 1
            longest = max(longest, time.perf_counter() - start)
            if (seed + 1) % len(originals) == 0:  # an intact file is read as before
                path.write_bytes(originals[0])
                assert outcome(worker, path) == "read", seed
    for end, number in ends.most_common():
        print(f"{number:5} {end}")
    print(f"longest: {longest:.1f} s")


if __name__ == "__main__":
    main()
