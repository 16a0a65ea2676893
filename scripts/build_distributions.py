"""Make the wheel and the source archive, the same bytes each time and everywhere.

What makes builds differ is left out: times, owners, the permissions of a checkout, the order in
which a folder is read. `SOURCE_DATE_EPOCH` is kept where it is set.
"""

import argparse
import contextlib
import gzip
import io
import os
import shutil
import subprocess
import sys
import tarfile
import tempfile
import time
import zipfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
EPOCH = 1_767_225_600
"""2026-01-01: the time of every file, where the environment does not say one."""
LEFT_OUT = {"build", "dist", "PKG-INFO", "setup.cfg"}


def main() -> None:
    """Build."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path, help="where they go")
    parser.add_argument("--wheel", action="store_true", help="the wheel alone")
    options = parser.parse_args()
    folder = options.folder.resolve()
    folder.mkdir(parents=True, exist_ok=True)
    epoch = int(os.environ.get("SOURCE_DATE_EPOCH", EPOCH))
    os.environ["SOURCE_DATE_EPOCH"] = str(epoch)
    os.umask(0o022)
    with tempfile.TemporaryDirectory() as place:
        copy = Path(place) / "holoptic"
        copy_source(copy, epoch)
        makers = ["build_wheel"] if options.wheel else ["build_sdist", "build_wheel"]
        for maker in makers:
            made = _ask_setuptools(copy, maker, Path(place) / maker)
            again = zip_again if made.suffix == ".whl" else tar_again
            (folder / made.name).write_bytes(again(made, epoch))
            print(folder / made.name)


def copy_source(target: Path, epoch: int) -> None:
    """Copy what belongs to the project, with one time and one set of permissions."""
    for name in _names():
        source, copy = ROOT / name, target / name
        copy.parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(source, copy)
        copy.chmod(0o755 if os.access(source, os.X_OK) else 0o644)
        os.utime(copy, (epoch, epoch))


def _names() -> list[str]:
    """Return what is in the repository, or in the unpacked source archive."""
    with contextlib.suppress(OSError, subprocess.CalledProcessError):
        listed = subprocess.run(
            ["git", "-C", ROOT, "ls-files", "-z", "--cached", "--others", "--exclude-standard"],
            check=True, capture_output=True, text=True,
        )  # fmt: skip
        names = [name for name in listed.stdout.split("\0") if name and (ROOT / name).is_file()]
        if names:
            return sorted(names)
    files = [path.relative_to(ROOT) for path in ROOT.rglob("*") if path.is_file()]
    return sorted(
        str(path) for path in files
        if path.parts[0] not in LEFT_OUT and not path.name.endswith((".pyc", ".so"))
        and not any(p.startswith(".venv") or p.endswith(".egg-info") for p in path.parts)
    )  # fmt: skip


def _ask_setuptools(copy: Path, maker: str, folder: Path) -> Path:
    folder.mkdir()
    # a process of its own: setuptools works in the folder it stands in
    code = f"from setuptools import build_meta; print(build_meta.{maker}({str(folder)!r}))"
    done = subprocess.run(
        [sys.executable, "-c", code], cwd=copy, check=False, capture_output=True, text=True
    )
    if done.returncode:
        sys.exit(f"the build failed:\n{done.stdout}{done.stderr}")
    return next(folder.iterdir())


def zip_again(wheel: Path, epoch: int) -> bytes:
    """Return a wheel with its files in order, one time, plain permissions."""
    made = io.BytesIO()
    moment = time.gmtime(epoch)[:6]
    with zipfile.ZipFile(wheel) as old, zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as new:
        for name in sorted(old.namelist()):
            entry = zipfile.ZipInfo(name, moment)
            entry.compress_type = zipfile.ZIP_DEFLATED
            entry.external_attr = (0o100755 if name.endswith(".so") else 0o100644) << 16
            new.writestr(entry, old.read(name))
    return made.getvalue()


def tar_again(archive: Path, epoch: int) -> bytes:
    """Return a source archive with its files in order, one time, nobody's."""
    plain = io.BytesIO()
    with tarfile.open(archive) as old, tarfile.open(fileobj=plain, mode="w") as new:
        for entry in sorted(old.getmembers(), key=lambda member: member.name):
            entry.mtime, entry.uid, entry.gid, entry.uname, entry.gname = epoch, 0, 0, "", ""
            entry.mode = 0o755 if entry.isdir() or entry.mode & 0o100 else 0o644
            entry.pax_headers = {}
            new.addfile(entry, old.extractfile(entry) if entry.isfile() else None)
    return gzip.compress(plain.getvalue(), mtime=epoch)


if __name__ == "__main__":
    main()
