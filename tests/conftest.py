"""Fixtures that every room's tests share."""

from __future__ import annotations

import os
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

import english  # noqa: F401 - before anything of Holoptic is read
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job, write_job
from holoptic.job import Job
from holoptic.worker.client import Worker
from kept_worker import KeptWorker

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

# examples go through the worker process: their time says nothing about the code under test
settings.register_profile(
    "holoptic",
    deadline=None,
    derandomize=True,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.function_scoped_fixture],
)
# bin/test --fresh: examples that no run has tried before, and more of them
settings.register_profile(
    "fresh", settings.get_profile("holoptic"), derandomize=False, max_examples=400, database=None,
    print_blob=True,
)  # fmt: skip
settings.load_profile("fresh" if os.environ.get("HOLOPTIC_EXAMPLES") == "fresh" else "holoptic")


@pytest.fixture(scope="session")
def worker() -> Iterator[Worker]:
    """One worker process for all tests that only ask it questions."""
    with Worker() as shared:
        yield shared


@pytest.fixture(scope="session")
def demo_job() -> Job:
    return read_job(job_path())


@pytest.fixture(scope="session")
def foot_job(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The lamp up to its pedestal: five placed parts, which is enough for most and quicker."""
    job = read_job(job_path("lamp-put-together"))
    (whole,) = job.arrangements
    kept = tuple(placed for placed in whole.placed if placed.id in ("b1", "b2", "b3", "b4", "b5"))
    used = {placed.part for placed in kept}
    path = tmp_path_factory.mktemp("foot") / "foot.holoptic"
    parts = tuple(part for part in job.parts if part.id in used)
    standing = (replace(whole, placed=kept),)
    write_job(replace(job, arrangements=standing, parts=parts), path)
    return path


@pytest.fixture(autouse=True)
def own_folders(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """No test sees or touches the settings and autosaves of another."""
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))


@pytest.fixture(autouse=True)
def kept_worker(monkeypatch: pytest.MonkeyPatch) -> None:
    """Let each command take over the worker of the one before."""
    monkeypatch.setattr("holoptic.cli.sources.Worker", KeptWorker)


@pytest.fixture(scope="session", autouse=True)
def last_worker() -> Iterator[None]:
    """End the worker that nobody takes over any more."""
    yield
    KeptWorker.end()
