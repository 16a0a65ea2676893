"""Nothing that lies in the working folder is run, whatever it is called."""

import importlib.metadata
import re
import subprocess
import sys
from pathlib import Path

import pytest

from holoptic.demo import job_path
from holoptic.worker import client

ROOT = Path(__file__).parents[2]
WINDOW = ("demo", "--page", "draw", "--screenshot", "shot.png")
FILES = ("pictorial", str(job_path()), "--out", "picture.pdf")


@pytest.fixture
def planted(tmp_path):
    """A folder with a module for each name that could be imported; all tell that they were run."""
    names = set(sys.stdlib_module_names) | set(importlib.metadata.packages_distributions())
    names |= {"holoptic", "sitecustomize", "usercustomize"}
    mark = tmp_path / "was-run"
    for name in names:
        if name.isidentifier():
            (tmp_path / f"{name}.py").write_text(f"open({str(mark)!r}, 'a').write({name!r})\n")
    assert all((tmp_path / f"{name}.py").exists() for name in ("pydantic", "resource", "argparse"))
    return tmp_path


@pytest.mark.parametrize("command", [WINDOW, FILES], ids=["window", "files"])
def test_no_module_of_the_working_folder_is_run(planted, command):
    """As `bin/holoptic` starts it; window and worker both, as the picture needs the worker."""
    done = subprocess.run([sys.executable, "-P", "-m", "holoptic", *command], cwd=planted,
                          capture_output=True, text=True, check=False)  # fmt: skip
    assert (done.returncode, done.stderr) == (0, "")
    assert not (planted / "was-run").exists()
    assert (planted / command[-1]).exists()


def test_nor_by_the_module_name_without_that_option(planted):
    """What Python itself needs to find a module named by `-m` is not in our hands."""
    for file in planted.glob("*.py"):
        if file.stem not in ("pydantic", "resource", "argparse", "shapely", "PyQt6", "numpy"):
            file.unlink()
    done = subprocess.run([sys.executable, "-m", "holoptic", *FILES], cwd=planted,
                          capture_output=True, text=True, check=False)  # fmt: skip
    assert (done.returncode, done.stderr) == (0, "")
    assert not (planted / "was-run").exists()


def test_every_start_of_python_says_so():
    assert client._command(3)[1] == "-P"
    for script in ("holoptic", "test", "prepare.sh"):
        for line in (ROOT / "bin" / script).read_text().splitlines():
            if re.search(r'python"? -[cm]|candidate"? -[cm]', line):
                raise AssertionError(line)
