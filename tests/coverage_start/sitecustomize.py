"""Begins to count what is run, in every process of a test run that asks for it.

A worker is killed when it is no longer needed; here it is asked to end first, as a process that
is killed tells nothing of what it ran.
"""

import contextlib
import subprocess

import coverage

_PATIENCE_S = 3.0
_kill = subprocess.Popen.kill


def _end(process: subprocess.Popen) -> None:
    process.terminate()
    with contextlib.suppress(subprocess.TimeoutExpired):
        process.wait(_PATIENCE_S)
    _kill(process)


subprocess.Popen.kill = _end
coverage.process_startup()
