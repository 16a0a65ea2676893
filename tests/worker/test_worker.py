"""The worker process may crash, hang or be killed: the client says so and starts it again."""

import os
import signal
import time
from pathlib import Path

import pytest

from cast import VIEWS, look, stepped_block
from holoptic.errors import KernelTrouble
from holoptic.worker.client import Worker


@pytest.fixture
def own_worker():
    with Worker() as worker:
        yield worker


def test_a_killed_worker_is_told_of_and_replaced(own_worker):
    assert look(own_worker, stepped_block(), VIEWS[0]).facts.volume > 0
    os.kill(own_worker.pid, signal.SIGKILL)
    with pytest.raises(KernelTrouble, match="stopped unexpectedly"):
        look(own_worker, stepped_block(), VIEWS[0])
    assert look(own_worker, stepped_block(), VIEWS[0]).facts.volume > 0


def test_a_hanging_worker_is_stopped(own_worker):
    look(own_worker, stepped_block(), VIEWS[0])
    pid = own_worker.pid
    os.kill(pid, signal.SIGSTOP)
    with pytest.raises(KernelTrouble, match="no answer after"):
        own_worker.ask("look", stepped_block(), (VIEWS[0].toward_viewer,), patience=0.2)
    assert not Path(f"/proc/{pid}").exists()


def test_an_unknown_task_is_trouble_not_the_end(own_worker):
    with pytest.raises(KernelTrouble):
        own_worker.ask("juggle")
    assert look(own_worker, stepped_block(), VIEWS[0]).facts.volume > 0


def test_stopping_leaves_no_process_behind():
    worker = Worker()
    worker.start()
    pid = worker.pid
    worker.stop()
    deadline = time.monotonic() + 5
    while Path(f"/proc/{pid}").exists() and time.monotonic() < deadline:
        time.sleep(0.01)
    assert not Path(f"/proc/{pid}").exists()
    assert worker.receive() is None
