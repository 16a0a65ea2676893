"""Files are written whole or not at all, and only where an ordinary file is meant.

While it is written a file has a name that nobody can foresee and that no other program means
(`.holoptic-….part`). Its writer holds a lock on it; so what a killed program left behind can be
told from what is being written, and is removed.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
import re
import secrets
import shutil
import stat
import time
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.quoting import name_of

_PART = re.compile(r"\.holoptic-[0-9a-f]{16}\.part")
_EARLIER = re.compile(r"keep|[a-z0-9_]{8}")
"""What earlier versions put behind `.NAME.` while they wrote."""
_LONGEST_NAME_BYTES = 255
_STALE_S = 60.0
_PRIVATE = 0o600


def write_atomically(
    path: Path, data: bytes, *, keep_previous: bool = False, private: bool = False,
    replace: bool = True,
) -> None:  # fmt: skip
    """Write `data` to `path` so that a crash at any moment leaves the old file or the new one.

    A link is followed: the file that it points to is written. Owner, mode, extended attributes and
    access lists of that file are kept where the system allows. With `keep_previous` the file that
    was there stays beside it with a `~` behind its name; a `private` file is for its owner's eyes
    alone; without `replace` a file that is there is refused.
    Raises BadInput with one line where the place cannot be written.
    """
    try:
        _write(real_place(path), data, keep_previous, private, replace)
    except FileExistsError as error:
        raise BadInput(tr("{name} is there already", name=name_of(path))) from error
    except OSError as error:
        raise BadInput(
            tr(
                "{name} cannot be written: {strerror}",
                name=name_of(path),
                strerror=error.strerror or error,
            )
        ) from error


def real_place(path: Path) -> Path:
    """Return the file that is written where `path` is named, its links followed.

    Raises BadInput where that is a folder, a device or anything else that is no ordinary file.
    """
    try:
        target = Path(os.path.realpath(path))
        mode = target.stat().st_mode
    except FileNotFoundError:
        return target
    except ValueError as error:
        raise BadInput(tr("{name} is no name of a file", name=name_of(path))) from error
    except OSError as error:
        why = error.strerror or str(error)
        raise BadInput(
            tr("{name} cannot be written: {why}", name=name_of(path), why=why)
        ) from error
    if stat.S_ISDIR(mode):
        raise BadInput(tr("{name} cannot be written: it is a folder", name=name_of(path)))
    if not stat.S_ISREG(mode):
        raise BadInput(tr("{name} cannot be written: it is no ordinary file", name=name_of(path)))
    return target


def sweep(folder: Path, name: str = "") -> int:
    """Remove what killed writers left behind in a folder; return how many files that were.

    With the `name` of a file also what earlier versions left beside it.
    """
    removed = 0
    with contextlib.suppress(OSError), os.scandir(folder) as entries:
        for entry in entries:
            if (_PART.fullmatch(entry.name) and not _is_held(entry.path)) or (
                name and _is_earlier(entry, name)
            ):
                removed += _removed(entry.path)
    return removed


def _write(target: Path, data: bytes, keep_previous: bool, private: bool, replace: bool) -> None:
    folder = target.parent
    sweep(folder, target.name)
    temporary = _free_name(folder)
    # nobody else may read it while it is written, whatever the file's mode will be
    handle = os.open(
        temporary, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC, _PRIVATE
    )
    try:
        with os.fdopen(handle, "wb") as file:
            with contextlib.suppress(OSError):  # a file system without locks
                fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            file.write(data)
            file.flush()
            _dress(handle, target, private)
            os.fsync(handle)
            if not replace:
                _put_where_nothing_is(temporary, target)
            else:
                if keep_previous and target.exists():
                    _keep(target)
                temporary.replace(target)
    except BaseException:
        with contextlib.suppress(OSError):
            temporary.unlink()
        raise
    _sync_folder(folder)


def _put_where_nothing_is(temporary: Path, target: Path) -> None:
    """Give a file its name unless something has it; raises FileExistsError."""
    try:
        os.link(temporary, target)
    except FileExistsError:
        raise
    except OSError:  # a file system without hard links
        if target.exists():
            raise FileExistsError from None
        temporary.replace(target)
        return
    temporary.unlink()


def _keep(path: Path) -> None:
    """Give the present file a second name, then let that name replace the older copy at once."""
    older = path.with_name(_older_name(path.name))
    if older.is_dir():
        return  # somebody has a folder there; that is no reason not to save
    if older.exists() and older.samefile(path):
        # a save was killed just here; to rename one name of a file to another would do nothing
        return
    step = _free_name(path.parent)
    try:
        os.link(path, step)
    except OSError:  # a file system without hard links, or another owner's file
        shutil.copy2(path, step)
    step.replace(older)


def _older_name(name: str) -> str:
    """Return the name of the copy of what was there before, which must not be too long either."""
    end = Path(name).suffix
    for cut in range(len(name)):
        kept = name if cut == 0 else f"{name[: len(name) - len(end) - cut]}{end}"
        if len(os.fsencode(kept)) < _LONGEST_NAME_BYTES:
            return f"{kept}~"
    return f"{name}~"


def _dress(handle: int, target: Path, private: bool) -> None:
    """Give a new file the mode, owner, attributes and access lists of the one it replaces."""
    if private:
        os.fchmod(handle, _PRIVATE)
        return
    try:
        old = target.stat()
    except OSError:
        os.fchmod(handle, 0o666 & ~_umask())
        return
    for owner, group in ((old.st_uid, old.st_gid), (-1, old.st_gid)):
        with contextlib.suppress(OSError):
            os.fchown(handle, owner, group)
            break
    os.fchmod(handle, stat.S_IMODE(old.st_mode))
    with contextlib.suppress(OSError):
        for name in os.listxattr(target):  # access lists are among them
            with contextlib.suppress(OSError):
                os.setxattr(handle, name, os.getxattr(target, name))


def _umask() -> int:
    """Return the mask of new files, without setting it, as other threads make files too."""
    with contextlib.suppress(OSError), Path("/proc/self/status").open() as status:
        for line in status:
            if line.startswith("Umask:"):
                return int(line.split()[1], 8)
    return 0o022


def _free_name(folder: Path) -> Path:
    return folder / f".holoptic-{secrets.token_hex(8)}.part"


def _is_held(path: str) -> bool:
    """Say whether somebody writes a file just now."""
    try:
        handle = os.open(path, os.O_RDONLY | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC)
    except OSError:
        return True
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        # a writer has its lock a moment after the file is there
        return time.time() - os.fstat(handle).st_mtime < 1.0 and os.fstat(handle).st_size == 0
    except OSError:
        return True
    finally:
        os.close(handle)


def _is_earlier(entry: os.DirEntry[str], name: str) -> bool:
    if not (entry.name.startswith(f".{name}.") and _EARLIER.fullmatch(entry.name[len(name) + 2 :])):
        return False
    found = entry.stat(follow_symlinks=False)
    mine = stat.S_ISREG(found.st_mode) and found.st_uid == os.getuid()
    return mine and time.time() - found.st_mtime > _STALE_S


def _removed(path: str) -> bool:
    try:
        Path(path).unlink()
    except OSError:
        return False
    return True


def _sync_folder(folder: Path) -> None:
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY | os.O_CLOEXEC)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)
