"""Workers that are killed or hang, two windows on one job, modules that lie in wait."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

from bench.trust.tally import Tally, run_command
from holoptic.cli import sources
from holoptic.demo import drawing_paths, job_path
from holoptic.errors import HolopticError
from holoptic.exchange.claims import Claim, Taken
from holoptic.worker.client import Worker

PATIENCE_S = 20.0
_SHORT_S = 1.5
_COMMANDS = (
    ("pictorial", "{job}", "--out", "{out}.svg"),
    ("plan", "{job}", "--verify"),
    ("plan", "{job}", "--critic"),
    ("plan", "{job}", "--compare"),
    ("sheet", "{job}", "--out", "{out}.pdf"),
    ("sheet", "{job}", "--check"),
    ("sheet", "{job}", "--all", "--out", "{out}.pdf"),
    ("views", "{job}", "--out", "{out}.svg"),
    ("solid", "{job}", "--out", "{out}.step"),
    ("read", "{dxf}", "--out", "{out}.holoptic"),
    ("compare", "{dxf}", "{job}"),
    ("spread", "{lamp}", "--check"),
    ("spread", "{lamp}", "--out", "{out}.svg"),
)


class PatientWorker(Worker):
    """A worker that is kept from one command to the next, and waited for so long at most."""

    patience = PATIENCE_S
    meddle: Any = None
    shared: PatientWorker | None = None

    def send(self, task: str, *arguments: Any) -> int:
        """Ask as ever; then somebody may do something to the process."""
        number = super().send(task, *arguments)
        if PatientWorker.meddle is not None:
            PatientWorker.meddle(self.pid)
        return number

    def ask(self, task: str, *arguments: Any, patience: float = PATIENCE_S) -> Any:
        """Wait no longer than it is worth here."""
        return super().ask(task, *arguments, patience=min(patience, PatientWorker.patience))

    def __exit__(self, *_: object) -> None:
        """Go on to the next command."""


def keep_one_worker() -> PatientWorker:
    """Let all commands of this process share one worker; return it."""
    shared = PatientWorker()
    sources.Worker = lambda *_, **__: shared  # type: ignore[assignment,misc]
    return shared


def meddle_with_workers(tally: Tally, folder: Path, worker: PatientWorker, most: int = 99) -> None:
    """Kill or stop the worker at each task of each command: told in a line, nothing half made."""
    named = {"job": job_path(), "dxf": drawing_paths()[0], "lamp": job_path("lamp-put-together"),
             "out": folder / "made"}  # fmt: skip
    for what, number in (("worker killed", signal.SIGKILL), ("worker hung", signal.SIGSTOP)):
        for command in _COMMANDS[:most]:
            arguments = [word.format(**named) for word in command]
            for at in range(9):  # at the first question, the second …
                if not _meddle_once(tally, folder, worker, what, arguments, (at, number)):
                    break


def _meddle_once(
    tally: Tally, folder: Path, worker: PatientWorker, what: str, arguments: list[str],
    when: tuple[int, int],
) -> bool:  # fmt: skip
    """Meddle with one question of a command; return whether it came to that question."""
    at, number = when
    asked = 0

    def meddle(pid: int) -> None:
        nonlocal asked
        asked += 1
        if asked == at + 1:
            PatientWorker.patience = _SHORT_S
            os.kill(pid, number)

    with contextlib.suppress(HolopticError):
        worker.ask("juggle")  # it is awake, as on a desk that is in use
    PatientWorker.meddle = staticmethod(meddle)
    end, said = run_command(*arguments, *(["--force"] if "--out" in arguments else []))
    PatientWorker.meddle, PatientWorker.patience = None, PATIENCE_S
    made = list(folder.glob("made*"))
    for file in made:
        file.unlink()
    if asked <= at:
        return False
    if made and end == "refused":
        end, said = "lost", f"{made[0].name} was made all the same"
    tally.note(what, end, f"{' '.join(arguments)} at {at}: {said}")
    return True


def open_in_two(tally: Tally, folder: Path, count: int) -> None:
    """Claim a job in two processes: one has it, and it is free once that one is killed."""
    job = folder / "both.holoptic"
    job.write_bytes(job_path().read_bytes())
    for _ in range(count):
        read, write = os.pipe()
        pid = os.fork()
        if pid == 0:
            claim = Claim(job)
            os.write(write, b"mine")
            time.sleep(60)
            claim.release()
            os._exit(0)
        os.read(read, 4)
        try:
            Claim(job).release()
            end = "lost"
        except Taken:
            end = "refused"
        tally.note("two windows on one job", end, "both had it")
        os.kill(pid, signal.SIGKILL)
        os.waitpid(pid, 0)
        for handle in (read, write):
            os.close(handle)
        try:
            Claim(job).release()
            tally.note("a job whose window was killed", "loaded")
        except HolopticError as error:
            tally.note("a job whose window was killed", "lost", str(error))


def plant_modules(tally: Tally, folder: Path) -> None:
    """Lay a module of every name into the working folder; none may be run."""
    mark = folder / "was-run"
    names = {name for name in [*sys.stdlib_module_names, *_packages()] if name.isidentifier()}
    for name in names:
        (folder / f"{name}.py").write_text(f"open({str(mark)!r}, 'a').write({name!r})\n")
    for command in (("demo", "--screenshot", "shot.png"),
                    ("pictorial", str(job_path()), "--out", "p.pdf"),
                    ("read", str(drawing_paths()[0]), "--out", "part.step")):  # fmt: skip
        done = subprocess.run([sys.executable, "-P", "-m", "holoptic", *command], cwd=folder,
                              capture_output=True, text=True, check=False)  # fmt: skip
        was_run = mark.exists() or done.returncode != 0
        tally.note(f"{len(names)} planted modules", "traceback" if was_run else "loaded",
                   f"{command}: {done.stderr}")  # fmt: skip


def _packages() -> list[str]:
    import importlib.metadata

    return list(importlib.metadata.packages_distributions())
