"""What a command works on: a part of a job file, or a solid of a STEP file."""

from __future__ import annotations

import sys
from pathlib import Path

from holoptic.errors import BadInput
from holoptic.exchange.job_file import JOB_SUFFIXES, STEP_SUFFIXES, read_job
from holoptic.job import Job, JobPart
from holoptic.worker.client import Worker


def patient_worker() -> Worker:
    """Return a worker that shows on a terminal that long work goes on."""

    if not sys.stderr.isatty():
        return Worker()

    def say(words: str) -> None:
        print(f"\r{words:<70.70}", end="", file=sys.stderr, flush=True)

    return Worker(
        lambda seconds: say(f"working out the solid … {seconds:.0f} s"),
        lambda progress: say(f"working out the solid … {progress}"),
    )


def load_job(path: Path, worker: Worker) -> Job:
    """Return the job in a file; the solids of a STEP file become its parts. Raises BadInput."""
    if path.suffix.lower() in STEP_SUFFIXES:
        solids = worker.ask("list_solids", str(path.resolve()))
        return Job(path.stem, tuple(JobPart(solid) for solid in solids))
    if path.suffix.lower() in JOB_SUFFIXES:
        return read_job(path)
    raise BadInput(f"{path.name}: a source ends in .holoptic, .step or .stp")


def load_part(source: str, name: str | None, worker: Worker) -> tuple[Job, JobPart]:
    """Return a job and the part that a command is about. Raises BadInput."""
    job = load_job(Path(source), worker)
    if not job.parts:
        raise BadInput(f"{Path(source).name} holds no part yet")
    if name is None:
        return job, job.parts[0]
    try:
        return job, job.parts[job.find(name)]
    except KeyError as error:
        known = ", ".join(part.source.name for part in job.parts)
        raise BadInput(f"no part is called “{name}” (known: {known})") from error
