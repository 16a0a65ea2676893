"""Jobs that a user keeps to begin others from: whole job files in a folder of the user's data."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from pathlib import Path

from holoptic.exchange.job_file import SUFFIX, read_job, write_job
from holoptic.job import Job
from holoptic.places import data_folder, is_there

_FOLDER = "templates"
_MOST = 40
"""More would be no list to choose from."""


def own_templates() -> list[Path]:
    """Return the templates there are, by name."""
    files = (data_folder() / _FOLDER).glob(f"*{SUFFIX}")
    return sorted(path for path in files if is_there(path))[:_MOST]


def keep_template(job: Job, name: str, preview: str = "") -> Path:
    """Keep a job to begin others from, and return its file; one of that name is replaced.

    Raises BadInput where it cannot be written.
    """
    path = data_folder() / _FOLDER / f"{name}{SUFFIX}"
    path.parent.mkdir(exist_ok=True)
    write_job(job, path, preview=preview)
    return path


def begun_from(path: Path) -> Job:
    """Return a new job that begins with what a template has, dated today. Raises BadInput."""
    job = read_job(path)
    title = replace(job.title, date=date.today().isoformat())
    return replace(job, id="", title=title)
