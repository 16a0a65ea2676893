"""The two processes: what may cross between them, and what is left when one of them ends."""

import os
import pickle
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from cast import VIEWS, look, stepped_block
from holoptic.cli.main import main
from holoptic.demo import job_path
from holoptic.errors import KernelTrouble, PartError
from holoptic.worker.client import Worker
from holoptic.worker.messages import Answer
from holoptic.worker.wire import Foreign, read_message

JOB = str(job_path())


class Runs:
    """Something that would have a command run where it is unpacked."""

    def __init__(self, *call):
        self.call = call

    def __reduce__(self):
        return self.call


@pytest.mark.parametrize(
    "call",
    [
        (os.system, ("true",)),
        (eval, ("1 + 1",)),
        (subprocess.Popen, (["true"],)),
        (open, ("/tmp/planted", "w")),
        (getattr, ("", "join")),
        (Worker, ()),
        (read_message, (b"",)),
    ],
    ids=lambda call: call[0].__name__,
)
def test_an_answer_can_have_nothing_run(call):
    with pytest.raises(Foreign):
        read_message(pickle.dumps(Answer(1, Runs(*call))))


def test_the_kernels_modules_do_not_come_in_by_an_answer():
    forged = b"choloptic.solid.shelf\nlook\n."
    dotted = b"\x80\x04\x8c\x0fholoptic.errors\x8c\x07tr.join\x93."
    for data in (forged, dotted, b"", b"\x80\x04", os.urandom(200)):
        with pytest.raises(Foreign):
            read_message(data)


def test_answers_cross_as_they_are(worker):
    answer = Answer(3, look(worker, stepped_block(), VIEWS[0]), PartError("no such face", 2))
    came = read_message(pickle.dumps(answer))
    assert (came.id, came.value, came.error.operation) == (3, answer.value, 2)


def test_an_error_that_nobody_meant_says_where_it_was_in_the_log_alone(caplog):
    with Worker() as worker, pytest.raises(KernelTrouble) as caught:
        worker.ask("look", "no part", 5)
    assert "log says where" in str(caught.value)
    assert "Traceback" in caplog.text


def is_gone(pid, within_s=2.0):
    end = time.monotonic() + within_s
    while time.monotonic() < end:
        try:
            state = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0]
        except OSError:
            return True
        if state == "Z":
            return True
        time.sleep(0.02)
    return False


def children_of(pid):
    return [int(number) for task in Path(f"/proc/{pid}/task").iterdir()
            for number in (task / "children").read_text().split()]  # fmt: skip


def ended_at_work(command, number, after):
    """Start a command, end it so long after its worker began; return worker, code, and words."""
    with subprocess.Popen(command, stderr=subprocess.PIPE, text=True) as process:
        while not (found := children_of(process.pid)):
            time.sleep(0.01)
        time.sleep(after)
        process.send_signal(number)
        code = process.wait(5)
        return found[0], code, process.stderr.read()


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGINT, signal.SIGHUP, signal.SIGKILL])
def test_a_command_that_is_ended_takes_its_worker_with_it(tmp_path, number):
    for after in (0.7, 0.2, 0.0):  # at work, or still waking up
        (made := tmp_path / f"made {after}").mkdir()
        command = [sys.executable, "-P", "-m", "holoptic", "plan", JOB, "--out",
                   str(made / "plan.json")]  # fmt: skip
        worker, code, said = ended_at_work(command, number, after)
        if code:  # else it was done before the signal came, on a busy machine
            break
    assert is_gone(worker)
    assert list(made.iterdir()) == []
    assert code == {signal.SIGINT: 130, signal.SIGKILL: -9}.get(number, 128 + number)
    assert "Traceback" not in said


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGINT])
def test_a_signal_that_comes_where_errors_are_lost_is_heard_all_the_same(number):
    deaf = f"""
import os, time
from holoptic.cli.signals import ended_by_signals
class Gone:
    def __del__(self):
        os.kill(os.getpid(), {int(number)})
        time.sleep(0.05)
with ended_by_signals():
    gone = Gone()
    del gone
    for _ in range(400):
        time.sleep(0.05)
"""
    done = subprocess.run(
        [sys.executable, "-c", deaf], capture_output=True, timeout=15, check=False
    )
    assert done.returncode == (128 + number if number == signal.SIGTERM else -number)


def test_a_reader_that_goes_away_is_no_trouble():
    command = [sys.executable, "-P", "-m", "holoptic", "plan", JOB]
    with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE) as process:
        process.stdout.close()
        assert process.wait(60) == 0
        assert process.stderr.read() == b""


# --- where a command may write -------------------------------------------------------------------


def test_a_file_is_replaced_by_force_alone(capsys, tmp_path):
    out = tmp_path / "grid.svg"
    out.write_text("mine")
    assert main(["grid", "--out", str(out)]) == 2
    assert "grid.svg is there already; say --force" in capsys.readouterr().err
    assert out.read_text() == "mine"
    assert main(["grid", "--out", str(out), "--force"]) == 0
    assert out.read_text().startswith("<?xml")
    assert main(["demo", "--screenshot", str(out)]) == 2


def test_what_a_command_works_on_is_never_replaced(capsys, tmp_path):
    job, link = tmp_path / "lamp.json", tmp_path / "other.json"
    job.write_bytes(job_path().read_bytes())
    link.symlink_to(job)
    for out in (job, link):
        assert main(["pictorial", str(job), "--out", str(out), "--force"]) == 2
        assert "is what this is made from" in capsys.readouterr().err
    assert job.read_bytes() == job_path().read_bytes()


def test_a_kernel_that_ends_over_a_file_is_that_files_fault(capsys, tmp_path, monkeypatch):
    step = tmp_path / "pair.step"
    step.write_text("ISO-10303-21; END-ISO-10303-21;")

    def end(self, task, *arguments):
        raise KernelTrouble("the solid worker stopped unexpectedly")

    monkeypatch.setattr(Worker, "ask", end)
    assert main(["pictorial", str(step), "--out", str(tmp_path / "p.svg")]) == 2
    said = capsys.readouterr().err
    assert said == "holoptic: pair.step: the solid worker stopped unexpectedly\n"
