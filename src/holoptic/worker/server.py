"""The worker process: answers one question after another until its line is closed."""

from __future__ import annotations

import contextlib
import os
import resource
import signal
import traceback
from multiprocessing.connection import Connection

from holoptic.catalogue import tr
from holoptic.diagnostics import catch_faults
from holoptic.errors import HolopticError, KernelTrouble
from holoptic.leftovers import Tidying
from holoptic.progress import Listener, listen
from holoptic.worker.messages import Answer, Progress, Request
from holoptic.worker.wire import put

_MEMORY_BYTES = 6 * 1024**3
"""Address space; the kernel maps far more than it uses."""
_PAUSE_S = 2.0
"""Whoever has not asked for so long has stopped to look, and does not wait for an answer."""


def serve(line: Connection) -> None:
    """Answer requests from `line`; the entry point of the spawned process."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl+C belongs to the parent
    catch_faults("worker")
    with contextlib.suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_AS, (_MEMORY_BYTES, _MEMORY_BYTES))
    _silence_kernel()
    # imported here: the spawned process must be killable before the long kernel import
    from holoptic.worker.tasks import perform  # noqa: PLC0415

    tidying = Tidying()

    while True:
        try:
            if not line.poll(_PAUSE_S):
                tidying.rest()
            request: Request = line.recv()
        except (EOFError, OSError):
            return
        listen(_teller(line, request.id))
        try:
            answer = Answer(request.id, perform(request.task, request.arguments))
        except HolopticError as error:
            answer = Answer(request.id, error=error)
        except MemoryError:
            answer = Answer(request.id, error=KernelTrouble(tr("this part needs too much memory")))
        except Exception:
            # whatever the kernel throws at us is data about this part, not the end of the process;
            # its words are about the inside of a program, so they go to the log
            trouble = KernelTrouble(tr("the solid could not be worked out; the log says where"))
            answer = Answer(request.id, error=trouble, trace=traceback.format_exc())
        with contextlib.suppress(BrokenPipeError):
            put(line, answer)
        del request, answer
        tidying.look()


def _teller(line: Connection, number: int) -> Listener:
    def tell(words: str, share: float | None) -> None:
        with contextlib.suppress(BrokenPipeError):
            put(line, Progress(number, words, share))

    return tell


def _silence_kernel() -> None:
    """Send the kernel's own chatter on standard output nowhere; errors travel as answers."""
    nowhere = os.open(os.devnull, os.O_WRONLY)
    os.dup2(nowhere, 1)
    os.dup2(nowhere, 2)
    os.close(nowhere)
