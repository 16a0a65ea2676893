"""Where the files lie that make Holoptic known to a desktop, and what stands in them.

The folders are those of the XDG base directories and of the specifications for desktop entries,
icon themes, shared MIME information, thumbnails and AppStream.
"""

from __future__ import annotations

import contextlib
import shutil
import subprocess
from dataclasses import dataclass
from pathlib import Path

from holoptic.bounded import read_bounded
from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.integration.completion import bash_completion, fish_completion, zsh_completion
from holoptic.integration.manual import manual_pages
from holoptic.places import is_there

ASSETS = Path(__file__).parents[1] / "assets" / "integration"
_LIST = "installed.txt"
_LARGEST_LIST = 1_000_000
_RESERVED = '"`$\\'
"""What stands behind a backslash in a quoted argument of a desktop entry."""


@dataclass(frozen=True)
class Homes:
    """The folders of one installation.

    programs: where the launcher goes; share: where data for desktops go; library: what belongs to
    the program alone, its environment and the list of what was laid elsewhere; python: that of
    the environment.
    """

    programs: Path
    share: Path
    library: Path
    python: Path

    @property
    def launcher(self) -> Path:
        """The command."""
        return self.programs / "holoptic"


def files_for(homes: Homes) -> dict[Path, bytes]:
    """Return what is to be laid where, the launcher first."""
    share, program = homes.share, str(homes.launcher)
    found = {homes.launcher: f'#!/bin/sh\nexec {_for_shell(homes.python)} -P -m holoptic "$@"\n'}
    for name, folder in (("holoptic.desktop", "applications"),
                         ("holoptic.thumbnailer", "thumbnailers")):  # fmt: skip
        text = (ASSETS / f"{name}.in").read_text("utf-8")
        text = text.replace("@LAUNCHER@", _for_entry(program)).replace("@PROGRAM@", program)
        found[share / folder / name] = text
    for name, folder in (("holoptic-mime.xml", "mime/packages/holoptic.xml"),
                         ("holoptic.metainfo.xml", "metainfo/holoptic.metainfo.xml")):  # fmt: skip
        found[share / folder] = (ASSETS / name).read_text("utf-8")
    for name, text in manual_pages().items():
        found[share / "man" / "man1" / name] = text
    found[share / "bash-completion" / "completions" / "holoptic"] = bash_completion()
    found[share / "zsh" / "site-functions" / "_holoptic"] = zsh_completion()
    found[share / "fish" / "vendor_completions.d" / "holoptic.fish"] = fish_completion()
    return {path: text.encode("utf-8") for path, text in found.items()} | _icons(share)


def lay(homes: Homes) -> list[str]:
    """Lay the files, take away those of an older installation, and tell the desktop.

    Returns what the desktop could not be told, a line each. Raises BadInput where a file is there
    that is none of ours; then nothing was laid.
    """
    wanted, ours = files_for(homes), laid_before(homes)
    for path in wanted:
        if path not in ours and is_there(path):
            raise BadInput(tr("{path} is there and is not ours: take it away first", path=path))
    homes.library.mkdir(parents=True, exist_ok=True)
    # the list comes first: what it names and is not there does no harm, the other way round does
    _write(homes.library / _LIST, "\n".join(str(path) for path in {*wanted, *ours}).encode())
    for path, content in wanted.items():
        path.parent.mkdir(parents=True, exist_ok=True)
        _write(path, content)
        path.chmod(0o755 if path == homes.launcher else 0o644)
    for path in ours - wanted.keys():
        path.unlink(missing_ok=True)
    _write(homes.library / _LIST, "\n".join(str(path) for path in wanted).encode())
    return tell_desktop(homes.share)


def take_away(homes: Homes) -> list[str]:
    """Take away what was laid, and folders that are empty then; jobs, settings and register stay.

    Returns what the desktop could not be told, a line each.
    """
    laid = laid_before(homes)
    for path in laid:
        path.unlink(missing_ok=True)
    told = tell_desktop(homes.share)
    for path in laid:
        with contextlib.suppress(OSError):  # somebody else has something there
            for folder in path.parents:
                if folder in (homes.share, homes.programs):
                    break
                folder.rmdir()
    (homes.library / _LIST).unlink(missing_ok=True)
    return told


def laid_before(homes: Homes) -> set[Path]:
    """Return what an installation has laid; what its list names elsewhere is none of ours."""
    listed = homes.library / _LIST
    if not is_there(listed):
        return set()
    named = map(Path, read_bounded(listed, _LARGEST_LIST).decode("utf-8").splitlines())
    return {
        path for path in named
        if path == homes.launcher
        or (path.is_relative_to(homes.share) and ".." not in path.parts)
    }  # fmt: skip


def tell_desktop(share: Path) -> list[str]:
    """Let file types, entries and icons be looked at anew; return which could not, a line each."""
    told = []
    for program, folder, package in (
        ("update-mime-database", share / "mime", "shared-mime-info"),
        ("update-desktop-database", share / "applications", "desktop-file-utils"),
        ("gtk-update-icon-cache", share / "icons" / "hicolor", ""),
    ):
        if not folder.is_dir():
            continue
        found = shutil.which(program)
        if found is None:
            if package:
                told.append(
                    tr("{program} is missing: install {package}", program=program, package=package)
                )
            continue
        flags = ["-q", "-t", "-f"] if program.startswith("gtk") else []
        done = subprocess.run([found, *flags, str(folder)], check=False, capture_output=True)
        if done.returncode:
            told.append(tr("{program} failed for {folder}", program=program, folder=folder))
    return told


def _icons(share: Path) -> dict[Path, bytes]:
    theme, found = share / "icons" / "hicolor", {}
    for file in sorted((ASSETS / "icons").rglob("*.*")):
        size = file.parent.name if file.suffix == ".png" else ""
        folder = f"{size}x{size}" if size else "scalable"
        kind = "mimetypes" if file.stem.startswith("application-") else "apps"
        found[theme / folder / kind / file.name] = file.read_bytes()
    return found


def _write(path: Path, content: bytes) -> None:
    write_atomically(path, content, replace=True)


def _for_shell(path: Path) -> str:
    return "'" + str(path).replace("'", "'\\''") + "'"


def _for_entry(program: str) -> str:
    """Return a program as an Exec line has it: quoted, percent signs doubled."""
    for sign in _RESERVED[::-1]:
        program = program.replace(sign, "\\" + sign)
    # the entry's own escape comes on top of that of the argument
    return '"' + program.replace("\\", "\\\\").replace("%", "%%") + '"'
