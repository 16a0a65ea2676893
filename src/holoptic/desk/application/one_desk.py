"""One desk for each user and display: a later start hands its job to the one that runs.

They meet at a local socket in a folder that only the user can enter; who is at the other end is
asked of the system besides. The running desk opens a window of its own for the job.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
import os
import socket
import stat
import struct
from collections.abc import Callable
from dataclasses import asdict, dataclass
from pathlib import Path

from PyQt6 import sip
from PyQt6.QtCore import QObject, QSocketNotifier

from holoptic.places import state_folder

_ANSWER_S = 2.0
_LONGEST = 65_536
_TAKEN = b"taken\n"
_LONGEST_PATH = 100
"""Bytes: a socket's name is kept in a small field of the system's."""


@dataclass(frozen=True)
class Asked:
    """What a start of the program asks for: a file, the page, and whether it is a demo job."""

    path: str | None = None
    page: str | None = None
    demo: bool = False
    token: str | None = None
    """By which a Wayland display lets a window come forward."""


def is_wanted() -> bool:
    """Say whether starts share a desk: where there is a display that a user looks at."""
    seen = os.environ.get("WAYLAND_DISPLAY") or os.environ.get("DISPLAY")
    return bool(seen) and os.environ.get("QT_QPA_PLATFORM", "") not in ("offscreen", "minimal")


def hand_over(asked: Asked) -> bool:
    """Let a desk that runs on this display do it; say whether one took it."""
    try:
        with socket.socket(socket.AF_UNIX, socket.SOCK_STREAM) as line:
            line.settimeout(_ANSWER_S)
            line.connect(str(_door()))
            if not _is_ours(line):
                return False
            line.sendall(json.dumps(asdict(asked)).encode() + b"\n")
            return line.recv(len(_TAKEN)) == _TAKEN
    except (OSError, ValueError):
        return False


class Door(QObject):
    """Listens for later starts while the desk runs; where it cannot, each has a desk of its own."""

    def __init__(self, take: Callable[[Asked], None]) -> None:
        super().__init__()
        self._take = take
        self._path: Path | None = None
        self._number = 0
        self._server: socket.socket | None = None
        self._notifier: QSocketNotifier | None = None
        with contextlib.suppress(OSError, ValueError):
            self._listen(_door())

    def _listen(self, path: Path) -> None:
        server = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        # nobody answered there a moment ago, so what lies there was left behind
        path.unlink(missing_ok=True)
        before = os.umask(0o177)
        try:
            server.bind(str(path))
        finally:
            os.umask(before)
        server.listen(4)
        server.setblocking(False)
        self._server, self._path, self._number = server, path, path.stat().st_ino
        self._notifier = QSocketNotifier(
            sip.voidptr(server.fileno()), QSocketNotifier.Type.Read, self
        )
        self._notifier.activated.connect(self._come_in)

    def _come_in(self) -> None:
        """Take what one caller asks for; a caller says it at once or not at all."""
        assert self._server is not None
        try:
            line, _ = self._server.accept()
        except OSError:
            return
        with line:
            line.settimeout(0.2)
            asked = _heard(line) if _is_ours(line) else None
            if asked is None:
                return
            with contextlib.suppress(OSError):
                line.sendall(_TAKEN)
        self._take(asked)

    def close(self) -> None:
        """Listen no more."""
        if self._notifier is not None:
            self._notifier.setEnabled(False)
        if self._server is not None:
            self._server.close()
            self._server = None
        if self._path is not None:
            with contextlib.suppress(OSError):
                if self._path.stat().st_ino == self._number:  # else it is another desk's by now
                    self._path.unlink()


def _heard(line: socket.socket) -> Asked | None:
    said = b""
    with contextlib.suppress(OSError):
        while not said.endswith(b"\n") and len(said) <= _LONGEST:
            more = line.recv(4096)
            if not more:
                break
            said += more
    if not said.endswith(b"\n"):
        return None
    try:
        told = json.loads(said.decode("utf-8"))
        asked = Asked(**told)
    except (ValueError, TypeError, RecursionError):
        return None
    words = (asked.path, asked.page, asked.token)
    sound = all(word is None or isinstance(word, str) for word in words)
    return asked if sound and isinstance(asked.demo, bool) else None


def _is_ours(line: socket.socket) -> bool:
    """Say whether the same user is at the other end."""
    size = struct.calcsize("3i")
    _, user, _ = struct.unpack("3i", line.getsockopt(socket.SOL_SOCKET, socket.SO_PEERCRED, size))
    return bool(user == os.getuid())


def _door() -> Path:
    """Return where the socket of this display is. Raises OSError, ValueError where none can be."""
    display = os.environ.get("WAYLAND_DISPLAY") or os.environ.get("DISPLAY") or ""
    name = f"holoptic-{hashlib.sha256(display.encode()).hexdigest()[:8]}.socket"
    for folder in (os.environ.get("XDG_RUNTIME_DIR", ""), str(state_folder())):
        path = Path(folder, name)
        if folder.startswith("/") and len(os.fsencode(path)) < _LONGEST_PATH \
                and _is_private(Path(folder)):  # fmt: skip
            return path
    raise ValueError


def _is_private(folder: Path) -> bool:
    """Say whether a folder is ours and nobody else can write into it."""
    with contextlib.suppress(OSError):
        found = folder.stat()
        return found.st_uid == os.getuid() and not stat.S_IMODE(found.st_mode) & 0o022
    return False
