"""Run the whole trial and print its table.

Run: .venv/bin/python -m bench.trust [SHARE]     (1 is the whole: about an hour)
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

from bench.trust.desks import kill_desks, start_on_damaged_state
from bench.trust.mutating import damage_own_files, damage_sources
from bench.trust.names import try_names
from bench.trust.processes import keep_one_worker, meddle_with_workers, open_in_two, plant_modules
from bench.trust.registers import damage_registers
from bench.trust.saving import fill_disks, kill_autosaves, kill_saves
from bench.trust.tally import Tally

_KILLS, _FILES, _REGISTERS, _WINDOWS, _DESKS = 500, 3000, 200, 50, 20


def main() -> int:
    """Print the table, and each bad end with its first examples; 1 where there is any."""
    share = float(sys.argv[1]) if len(sys.argv) > 1 else 1.0
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    tally, begin = Tally(), time.monotonic()
    with tempfile.TemporaryDirectory() as place:
        for name in ("state", "config", "work", "modules"):
            (Path(place) / name).mkdir()
        os.environ["XDG_STATE_HOME"] = f"{place}/state"
        os.environ["XDG_CONFIG_HOME"] = f"{place}/config"
        os.environ["XDG_DATA_HOME"] = f"{place}/data"
        work = Path(place) / "work"
        kill_saves(tally, work, round(_KILLS * share))
        kill_autosaves(tally, round(_KILLS * share))
        fill_disks(tally, work)
        lost_s = kill_desks(tally, max(1, round(_DESKS * share)))
        start_on_damaged_state(tally, work)
        open_in_two(tally, work, max(1, round(_WINDOWS * share)))
        worker = keep_one_worker()
        try_names(tally, work)
        meddle_with_workers(tally, work, worker)
        damage_own_files(tally, round(_FILES * share))
        damage_registers(tally, round(_REGISTERS * share))
        damage_sources(tally, work, round(_FILES * share))
        plant_modules(tally, Path(place) / "modules")
        worker.stop()
    print(tally.table())
    print(f"\nat most {lost_s:.1f} s of work lost by kill -9; {time.monotonic() - begin:.0f} s")
    for example in tally.examples:
        print(example)
    return 1 if tally.bad else 0


if __name__ == "__main__":
    sys.exit(main())
