"""The job's file on disk: whose it is, and whether it still is as it was read or written."""

from __future__ import annotations

import contextlib
from pathlib import Path

from PyQt6.QtCore import QFileSystemWatcher, QObject, pyqtSignal

from holoptic.catalogue import tr
from holoptic.exchange.claims import UNKNOWN, ChangedOnDisk, Claim, Mark, Taken, mark_of
from holoptic.places import resolved
from holoptic.quoting import name_of


class FileHold(QObject):
    """Keeps the claim on the file of the job on the desk, and watches what others do with it.

    Signals:
        changed_outside: somebody else wrote the file.
        asked_for: another window was asked for the job that this one has open.
    """

    changed_outside = pyqtSignal()
    asked_for = pyqtSignal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.path: Path | None = None
        self.mark = UNKNOWN
        self._claim: Claim | None = None
        self._told = UNKNOWN
        self._watcher: QFileSystemWatcher | None = None

    @property
    def is_read_only(self) -> bool:
        """Whether another window has the file: this one may look, and save elsewhere."""
        return self.path is not None and self._claim is None

    def claim(self, path: Path) -> Claim:
        """Return the claim on a file: the present one where it is the same file.

        Raises Taken where another window has it, BadInput where it is no name of a file.
        """
        if self._claim is not None and self._claim.path == resolved(path):
            return self._claim
        return Claim(path)

    def take(self, path: Path | None, claim: Claim | None = None, mark: Mark | None = None) -> None:
        """Hold another file: as it was marked, or as it is now; without a claim to look at only."""
        if self._claim is not None and self._claim is not claim:
            self._claim.release()
        self.path, self._claim = path, claim
        self.mark = self._told = mark or (mark_of(path) if path is not None else UNKNOWN)
        self._watch()

    def release(self) -> None:
        """Hold nothing any more."""
        self.take(None)

    def require_mine(self) -> None:
        """Raise Taken or ChangedOnDisk where saving would take somebody else's work away."""
        if self.path is None:
            return
        if self.is_read_only:
            raise Taken(tr("{name} is open in another window", name=name_of(self.path)))
        now = mark_of(self.path)
        # a file that is gone can be written anew: nobody's work is lost by that
        if now.is_there and now != self.mark:
            raise ChangedOnDisk(
                tr("{name} was changed on disk since it was opened", name=name_of(self.path))
            )

    def look(self) -> None:
        """Look whether the file is another; tell each other one once."""
        if self.path is None:
            return
        now = mark_of(self.path)
        if now.is_there and now not in (self.mark, self._told):
            self._told = now
            self.changed_outside.emit()

    def _watch(self) -> None:
        if self._watcher is not None:
            self._watcher.deleteLater()
            self._watcher = None
        if self.path is None:
            return
        self._watcher = QFileSystemWatcher(self)
        # the folder too: whoever writes a file anew and renames it ends the watch on the old one
        self._watcher.addPaths([str(self.path), str(self.path.parent)])
        self._watcher.fileChanged.connect(self._look_at)
        self._watcher.directoryChanged.connect(self.look)
        if self._claim is not None:
            with contextlib.suppress(OSError):
                self._claim.knocks.touch(0o600)
            self._watcher.addPath(str(self._claim.knocks))

    def _look_at(self, changed: str) -> None:
        if self._claim is not None and changed == str(self._claim.knocks):
            self.asked_for.emit()
        else:
            self.look()
        if self._watcher is not None and changed not in self._watcher.files():
            self._watcher.addPath(changed)
