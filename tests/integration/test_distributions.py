"""Wheel and source archive: the same bytes from anywhere, and all that the program needs."""

import os
import subprocess
import sys
import tarfile
import zipfile
from pathlib import Path

import pytest


@pytest.fixture(scope="module")
def built(request, tmp_path_factory):
    """The wheel and the source archive."""
    folder = tmp_path_factory.mktemp("dist")
    _build(request.config.rootpath, folder)
    return next(folder.glob("*.whl")), next(folder.glob("*.tar.gz"))


def _build(root: Path, folder: Path, mask: int = 0o022, *options: str) -> None:
    script = root / "scripts" / "build_distributions.py"
    command = [sys.executable, "-P", str(script), str(folder), *options]
    subprocess.run(command, check=True, umask=mask, stdout=subprocess.DEVNULL)


def test_the_bytes_are_the_same_from_anywhere(built, tmp_path):
    wheel, archive = built
    with tarfile.open(archive) as packed:
        packed.extractall(tmp_path / "elsewhere", filter="data")
    (root,) = (tmp_path / "elsewhere").iterdir()
    # other times, other permissions, another folder, no repository
    for file in root.rglob("*"):
        os.utime(file)
    _build(root, tmp_path / "again", 0o077)
    assert (tmp_path / "again" / wheel.name).read_bytes() == wheel.read_bytes()
    assert (tmp_path / "again" / archive.name).read_bytes() == archive.read_bytes()


def test_the_archive_has_the_project_and_the_wheel_the_package(built, request):
    wheel, archive = built
    root = request.config.rootpath
    with tarfile.open(archive) as packed:
        names = {name.partition("/")[2] for name in packed.getnames()}
    for name in ("bin/install", "bin/test", ".ci/run", "requirements.lock", "docs/guide.md",
                 "tests/conftest.py", "bench/__init__.py", "LICENSE"):  # fmt: skip
        if (root / name).exists():
            assert name in names, name
    package = root / "src" / "holoptic"
    wanted = {
        f"holoptic/{path.relative_to(package)}" for path in package.rglob("*")
        if path.is_file() and path.suffix not in (".pyc", ".so") and not path.name.endswith("~")
    }  # fmt: skip
    wanted |= {"holoptic/assets/guide/guide.md", "holoptic/assets/guide/screenshots/carve.png"}
    with zipfile.ZipFile(wheel) as packed:
        assert wanted <= set(packed.namelist())


def test_the_wheel_works_where_nothing_else_of_ours_is(built, tmp_path):
    wheel, _ = built
    # the packages that it needs come from this environment, itself from the wheel alone
    target = tmp_path / "site"
    with zipfile.ZipFile(wheel) as packed:
        packed.extractall(target)
    code = (
        "import sys, holoptic; assert holoptic.__file__.startswith(sys.argv.pop(1));"
        " from holoptic.solid.seeing.compiled import library; assert library() is not None;"
        " from holoptic.cli.main import main; sys.exit(main(sys.argv[1:]))"
    )
    clean = {**os.environ, "PYTHONPATH": str(target), "QT_QPA_PLATFORM": "offscreen"}
    shot = tmp_path / "desk.png"
    subprocess.run(
        [sys.executable, "-P", "-c", code, str(target), "demo", "--screenshot", str(shot)],
        check=True, cwd=tmp_path, env=clean,
    )  # fmt: skip
    assert shot.stat().st_size > 20_000
