"""What is known when something went wrong: a log, the kernel's last stack, and a report of both.

Everything stays on the machine. A report has versions, platform and log; drawing data only where
somebody asks for it.
"""

from __future__ import annotations

import contextlib
import faulthandler
import logging
import logging.handlers
import os
import platform
import time
from pathlib import Path
from uuid import uuid4

from holoptic import __version__
from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.locks import is_held, lock
from holoptic.places import config_folder, is_there, state_folder
from holoptic.quoting import name_of

LOG_NAME = "log.txt"
LEVELS = ("debug", "info", "warning", "error")
_LOG_BYTES, _OLDER_LOGS = 500_000, 2
_FAULTS = "faults-{process}.txt"
_REPORTED_LINES = 200
_PACKAGES = ("PyQt6", "PyQt6-Qt6", "cadquery-ocp-novtk", "numpy", "scipy", "shapely", "ezdxf",
             "pydantic", "reportlab")  # fmt: skip
_PRIVATE = 0o600
_open_faults: list[object] = []
"""The fault handler writes to a descriptor, which must stay open for as long as the process."""


def start_log(level: str = "warning", file: str | None = None) -> None:
    """Have what is logged written to a rotating file: one that is named, or our own.

    Raises BadInput where a named one cannot be written; without our own we go on.
    """
    log = logging.getLogger("holoptic")
    log.setLevel(level.upper())
    for handler in [*log.handlers]:
        if isinstance(handler, logging.handlers.RotatingFileHandler):
            log.removeHandler(handler)
            handler.close()
    try:
        handler = _PrivateFile(
            file or state_folder() / LOG_NAME, maxBytes=_LOG_BYTES, backupCount=_OLDER_LOGS,
            encoding="utf-8", errors="backslashreplace", delay=file is None,
        )  # fmt: skip
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or str(error)
        raise BadInput(
            tr("{name} cannot be written: {why}", name=name_of(file or LOG_NAME), why=why)
        ) from error
    handler.setFormatter(
        logging.Formatter("%(asctime)s %(process)d %(levelname)s %(name)s: %(message)s")
    )
    logging.raiseExceptions = False  # a full disk is no reason to disturb the work
    log.addHandler(handler)


class _PrivateFile(logging.handlers.RotatingFileHandler):
    """A log that nobody else may read, as it may name files."""

    def _open(self):  # type: ignore[no-untyped-def]
        stream = super()._open()
        with contextlib.suppress(OSError):
            os.fchmod(stream.fileno(), _PRIVATE)
        return stream


def catch_faults(process: str) -> None:
    """Have a process that the kernel brings down leave its stack behind (`faulthandler`)."""
    with contextlib.suppress(OSError, ValueError):
        handle = os.open(
            _faults(process), os.O_WRONLY | os.O_CREAT | os.O_APPEND | os.O_CLOEXEC, _PRIVATE
        )
        stream = os.fdopen(handle, "a")
        _open_faults.append(stream)
        faulthandler.enable(stream, all_threads=True)


def _faults(process: str) -> Path:
    return state_folder() / _FAULTS.format(process=process)


class Run:
    """One run of the desk: a marker that stays behind where it does not end well."""

    def __init__(self) -> None:
        self._place = state_folder() / f"run-{uuid4().hex[:16]}.lock"
        self._handle = lock(self._place)

    def end(self) -> None:
        """Say that the run ended well."""
        if self._handle is not None:
            with contextlib.suppress(OSError):
                self._place.unlink()
                os.close(self._handle)
            self._handle = None


def ended_badly() -> bool:
    """Say whether a run before this one did not end well; ask once, as the traces go."""
    found = False
    for place in state_folder().glob("run-*.lock"):
        if not is_held(place):
            found = True
            with contextlib.suppress(OSError):
                place.unlink()
    return found


def versions() -> list[tuple[str, str]]:
    """Return what we are made of, with the version of each."""
    import importlib.metadata  # noqa: PLC0415 - seldom needed, and it takes a while

    found = [("Holoptic", __version__), ("Python", platform.python_version())]
    for package in _PACKAGES:
        with contextlib.suppress(importlib.metadata.PackageNotFoundError):
            found.append((package, importlib.metadata.version(package)))
    return found


def folders() -> list[tuple[str, Path]]:
    """Return where our own files lie."""
    return [
        (tr("settings"), config_folder()),
        (tr("safety copies, recent files, places in plans"), state_folder()),
        (tr("log"), state_folder() / LOG_NAME),
    ]


def report(drawing: bytes | None = None) -> str:
    """Return a report of the last mishap as text; `drawing` is the job, where it is wanted."""
    lines = [tr("Holoptic report of {when}", when=time.strftime("%Y-%m-%d %H:%M")), ""]
    lines += [f"{name} {version}" for name, version in versions()]
    lines += [f"{platform.system()} {platform.release()} {platform.machine()}", _distribution()]
    for name in ("QT_QPA_PLATFORM", "XDG_SESSION_TYPE", "LANG"):
        lines.append(f"{name}={os.environ.get(name, '')}")
    for title, path in (
        (tr("the window's last stack"), _faults("window")),
        (tr("the worker's last stack"), _faults("worker")),
        (tr("the end of the log"), state_folder() / LOG_NAME),
    ):
        told = _end_of(path)
        if told:
            lines += ["", f"--- {title}", *told]
    if drawing is not None:
        lines += ["", f"--- {tr('the job')}", drawing.decode("utf-8", "replace")]
    return "\n".join(lines) + "\n"


def forget_faults() -> None:
    """Empty the files of last stacks, once they were reported or were not wanted."""
    for process in ("window", "worker"):
        with contextlib.suppress(OSError):
            os.truncate(_faults(process), 0)


def _distribution() -> str:
    with contextlib.suppress(OSError):
        return platform.freedesktop_os_release().get("PRETTY_NAME", "")
    return ""


def _end_of(path: Path) -> list[str]:
    if not is_there(path):
        return []
    with contextlib.suppress(OSError):
        return path.read_text("utf-8", "replace").splitlines()[-_REPORTED_LINES:]
    return []
