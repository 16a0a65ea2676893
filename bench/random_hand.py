"""A random hand at the desk: keys, texts, clicks, drags, files and dialogs, on every page.

Each hand is a process of its own with a real window. It tells what it is about to do before it
does it; an exception is noted with its cause and the last actions, and the hand goes on; one that
dies or sticks is told with the same and replaced by the next.

Run: .venv/bin/python -m bench.random_hand --actions 50000 --seed 1
One hand alone, to look into it: … -m bench.random_hand --hand 7 --actions 500
"""

from __future__ import annotations

import argparse
import faulthandler
import json
import os
import random
import shutil
import subprocess
import sys
import tempfile
import time
from collections import Counter, deque
from pathlib import Path

ACTIONS_OF_A_HAND = 500
STUCK_S = 60.0
"""A hand that tells of nothing for so long sticks."""
LAST = 14
_LINES_OF_A_DEATH = 40


# --- the hand, in a process of its own ----------------------------------------------------------


def hand(seed: int, count: int) -> None:
    """Do `count` random actions; what happens is told on the standard output, a line each."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    faulthandler.enable()  # what it was at when it died
    from bench.random_actions import Hand

    Hand(random.Random(seed), _tell).work(count)


def _tell(kind: str, **what: object) -> None:
    sys.stdout.write(json.dumps({"kind": kind, **what}) + "\n")
    sys.stdout.flush()


# --- the watch ----------------------------------------------------------------------------------


class Watch:
    """Counts the actions and distinct causes of many hands."""

    def __init__(self) -> None:
        self.causes: Counter[str] = Counter()
        self.examples: dict[str, tuple[int, list[str], str]] = {}
        self.done = 0

    def note(self, cause: str, seed: int, last: list[str], trace: str = "") -> None:
        """Note a mishap; the first of each cause is kept with its last actions."""
        self.causes[cause] += 1
        if cause not in self.examples:
            self.examples[cause] = seed, last, trace
            print(f"\n{cause} (hand {seed})\n  " + "\n  ".join(last) + f"\n{trace}", flush=True)

    def run(self, seed: int, count: int) -> None:
        """Let one hand work, to its end, its death, or until it sticks."""
        home = Path(tempfile.mkdtemp())
        # nobody's own settings and safety copies
        places = {f"XDG_{what}_HOME": str(home / what) for what in ("STATE", "CONFIG", "CACHE")}
        command = [sys.executable, "-m", "bench.random_hand", "--hand", str(seed)]
        with (home / "told").open("w") as told, (home / "errors").open("w") as errors:
            process = subprocess.Popen(
                [*command, "--actions", str(count)], stdout=told, stderr=errors,
                env={**os.environ, **places, "HOME": str(home), "TMPDIR": str(home)},
            )  # fmt: skip
            stuck = self._wait(process, home / "told")
        self._reckon(seed, home, process.returncode, stuck)
        shutil.rmtree(home, ignore_errors=True)

    def _wait(self, process: subprocess.Popen[bytes], told: Path) -> bool:
        size, since = -1, time.monotonic()
        while process.poll() is None:
            time.sleep(0.2)
            now = told.stat().st_size
            if now != size:
                size, since = now, time.monotonic()
            elif time.monotonic() - since > STUCK_S:
                process.kill()
                process.wait()
                return True
        return False

    def _reckon(self, seed: int, home: Path, code: int, stuck: bool) -> None:
        last: deque[str] = deque(maxlen=LAST)
        for line in (home / "told").read_text("utf-8").splitlines():
            try:
                told = json.loads(line)
            except ValueError:
                continue  # the line it died in
            if told["kind"] == "action":
                self.done += 1
                last.append(told["words"])
            else:
                self.note(told["cause"], seed, list(last), told["trace"])
        if stuck:
            self.note(f"stuck: {last[-1] if last else 'at the start'}", seed, list(last))
        elif code:
            errors = (home / "errors").read_text("utf-8", "replace").splitlines()
            said = [line for line in errors if "plugin does not support" not in line]
            self.note(f"died with {code}", seed, list(last), "\n".join(said[:_LINES_OF_A_DEATH]))


def main() -> int:
    """Let hands work one after the other until the actions are done."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--actions", type=int, default=2000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--hand", type=int, help="be this hand, without a watch")
    options = parser.parse_args()
    if options.hand is not None:
        hand(options.hand, options.actions)
        return 0
    watch, number, begin = Watch(), options.seed, time.monotonic()
    while watch.done < options.actions:
        watch.run(number, min(ACTIONS_OF_A_HAND, options.actions - watch.done))
        number += 1
        print(f"\r{watch.done} actions, {len(watch.causes)} causes", end="", flush=True)
    print(f"\n{watch.done} actions by {number - options.seed} hands from seed {options.seed} "
          f"in {time.monotonic() - begin:.0f} s: {sum(watch.causes.values())} mishaps")  # fmt: skip
    for cause, times in watch.causes.most_common():
        print(f"  {times} × {cause} (hand {watch.examples[cause][0]})")
    return 1 if watch.causes else 0


if __name__ == "__main__":
    sys.exit(main())
