"""Promises about the repository itself."""

import io
import re
import runpy
import subprocess
import tokenize
import tomllib
from pathlib import Path

import pytest


@pytest.fixture(scope="module")
def root(request) -> Path:
    return request.config.rootpath


@pytest.mark.parametrize("name", ["requirements.lock", "requirements-dev.lock"])
def test_every_package_is_pinned_with_hashes_and_no_address(root, name):
    text = (root / name).read_text("utf-8")
    assert "://" not in text
    entries = re.split(r"\n(?=[a-z])", text.strip())
    assert len(entries) > 8
    for entry in entries:
        assert "==" in entry
        assert "--hash=sha256:" in entry


def test_the_dev_lock_pins_what_runs(root):
    def pins(name):
        lines = (root / name).read_text("utf-8").splitlines()
        return {line.rstrip(" \\") for line in lines if re.match(r"[a-z].*==", line)}

    assert pins("requirements.lock") <= pins("requirements-dev.lock")


def test_a_plain_install_asks_for_what_is_pinned(root):
    project = tomllib.loads((root / "pyproject.toml").read_text("utf-8"))["project"]
    wanted = (root / "requirements.in").read_text("utf-8").splitlines()
    assert project["dependencies"] == [line for line in wanted if line and line[0] != "#"]


@pytest.mark.parametrize(
    "script", ["bin/holoptic", "bin/test", "bin/build", "bin/install", "bin/prepare.sh", ".ci/run"]
)
def test_scripts_are_sound_shell(root, script):
    subprocess.run(["bash", "-n", str(root / script)], check=True)
    if script != "bin/prepare.sh":
        assert (root / script).stat().st_mode & 0o111


def test_links_in_the_docs_lead_somewhere(root):
    pages = [root / "README.md", root / "CONTRIBUTING.md", *sorted((root / "docs").glob("*.md"))]
    for page in pages:
        for target in re.findall(r"\]\(([^)#]+)\)", page.read_text("utf-8")):
            assert (page.parent / target).exists(), (page.name, target)


def test_the_guide_has_the_keys_of_the_desk(root):
    made = runpy.run_path(str(root / "scripts" / "make_guide_keys.py"))
    guide = (root / "docs" / "guide.md").read_text("utf-8")
    between = guide.partition(made["BEGIN"])[2].partition(made["END"])[0]
    assert between.strip() == made["tables"]().strip()


def test_the_demo_is_what_its_script_writes(root, tmp_path):
    # the shipped job is data; it must be possible to make it again
    code = (
        "import runpy, pathlib, sys\n"
        f"module = runpy.run_path({str(root / 'scripts' / 'make_demo.py')!r})\n"
        f"module['main'].__globals__['TARGET'] = pathlib.Path({str(tmp_path / 'd.holoptic')!r})\n"
        "module['main']()\n"
    )
    import sys

    subprocess.run([sys.executable, "-c", code], check=True)
    shipped = root / "src" / "holoptic" / "demo" / "harbour-lamp.holoptic"
    assert (tmp_path / "d.holoptic").read_bytes() == shipped.read_bytes()


def test_modules_say_what_they_are(root):
    for path in (root / "src").rglob("*.py"):
        assert path.read_text("utf-8").startswith('"""'), path


def test_tolerances_stand_in_one_place(root):
    core = root / "src" / "holoptic"
    for path in core.rglob("*.py"):
        if path == core / "tolerance.py":
            continue
        tokens = tokenize.generate_tokens(io.StringIO(path.read_text("utf-8")).readline)
        small = [token.string for token in tokens
                 if token.type == tokenize.NUMBER and "e-" in token.string.lower()]  # fmt: skip
        assert not small, f"{path.relative_to(core)}: {small} belong to tolerance.py"


def test_each_tolerance_has_one_value_a_reason_and_a_user(root):
    core = root / "src" / "holoptic"
    text = (core / "tolerance.py").read_text("utf-8")
    names = re.findall(r"^([A-Z_0-9]+) = ", text, re.MULTILINE)
    assert len(names) == len(set(names))
    told = re.findall(r'^[A-Z_0-9]+ = .*\n"""', text, re.MULTILINE)
    assert len(told) == len(names)
    others = "\n".join(
        path.read_text("utf-8") for path in core.rglob("*.py") if path.name != "tolerance.py"
    )
    for name in names:
        assert re.search(rf"\b{name}\b", others), f"nobody uses {name}"
