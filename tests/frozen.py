"""A worker that stands still when a question reaches it, as one does that takes long."""

import os
import signal


def freeze_at(session, monkeypatch, task):
    """Let the worker stand still as soon as it is asked something; return whether it does."""
    worker, stopped = session.kernel.worker, []
    send = worker.send

    def stop_and_send(asked, *arguments):
        if asked == task and not stopped:
            stopped.append(asked)
            os.kill(worker.pid, signal.SIGSTOP)
        return send(asked, *arguments)

    monkeypatch.setattr(worker, "send", stop_and_send)
    return lambda: bool(stopped)
