"""Registers that were damaged at random: each is told of in a line, or still takes what is new."""

from __future__ import annotations

import random
import traceback
from datetime import datetime
from pathlib import Path

from bench.trust.mutating import spoiled
from bench.trust.tally import Tally, run_command
from holoptic.errors import BadInput
from holoptic.register.book import Register, register_path
from holoptic.register.entries import Drawn, MoveTime, Subject

_DAY = datetime(2026, 11, 3, 9, 30).astimezone()
_WHAT = "damaged registers"


def damage_registers(tally: Tally, count: int) -> None:
    """Damage the file of a register, list it by the command, and note a drawing in it."""
    path = register_path()
    for number in range(40):
        Register().note_drawn(_drawn(f"f{number}"))
    good = path.read_bytes()
    for seed in range(count):
        _put(path, spoiled(good, random.Random(seed)))
        before = path.read_bytes()
        end, said = run_command("register", "--csv")
        if end == "loaded" and not _takes_another():
            end = "lost"
        if end == "refused" and path.read_bytes() != before:
            end = "lost"
        tally.note(_WHAT, end, f"seed {seed}: {said}")
    _put(path, good)


def _takes_another() -> bool:
    """Say whether a drawing can be noted and found again, or is refused in a line."""
    fresh = _drawn("fresh")
    try:
        Register().note_drawn(fresh)
        return fresh in Register().drawings()
    except BadInput:
        return True
    except Exception:
        traceback.print_exc()
        return False


def _drawn(figure: str) -> Drawn:
    subject = Subject("j1", "Skerry Lamp Works: harbour lamp", figure, "gallery block", "p1")
    times = tuple(MoveTime(move, "crate", 8.0) for move in range(1, 13))
    return Drawn(subject, "1 of 11", "B", "isometric", "crate and carve", "A4", "1:1", _DAY, _DAY,
                 12, 12, times)  # fmt: skip


def _put(path: Path, content: bytes) -> None:
    for beside in path.parent.glob(f"{path.name}*"):
        beside.unlink()
    path.write_bytes(content)
