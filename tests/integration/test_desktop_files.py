"""What is laid for desktops is sound by the desktops' own validators, and goes again."""

import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

from holoptic.cli.parser import command_parser
from holoptic.demo import job_path
from holoptic.errors import BadInput
from holoptic.integration.homes import Homes, files_for, lay, take_away
from holoptic.integration.manual import manual_pages
from holoptic.integration.spoken_commands import spoken_commands


def _needs(program):
    """Skip where a Debian package that `bin/test` asks for could not be installed."""
    return pytest.mark.skipif(shutil.which(program) is None, reason=f"{program} is not there")


@pytest.fixture
def homes(tmp_path):
    home = tmp_path / "a home"  # a blank in the path is what Exec lines stumble over
    return Homes(home / "bin", home / "share", home / "lib" / "holoptic", Path(sys.executable))


def _run(*command, **more):
    return subprocess.run(command, check=True, capture_output=True, text=True, **more).stdout


@_needs("desktop-file-validate")
def test_the_entry_is_sound(homes):
    lay(homes)
    for name in ("it", "50% off", 'so "called"', "back\\slash", "a$b`c"):
        other = Homes(homes.programs / name, homes.share / name, homes.library, homes.python)
        entry = other.share / "applications" / "holoptic.desktop"
        entry.parent.mkdir(parents=True)
        entry.write_bytes(files_for(other)[entry])
        assert _run("desktop-file-validate", str(entry)) == ""


@_needs("appstreamcli")
def test_the_metadata_are_sound(homes):
    lay(homes)
    told = homes.share / "metainfo" / "holoptic.metainfo.xml"
    done = subprocess.run(
        ["appstreamcli", "validate", "--no-net", told], check=False, capture_output=True, text=True
    )
    assert done.returncode == 0, done.stdout


@_needs("xdg-mime")
@_needs("update-mime-database")
@_needs("gio")
def test_jobs_are_known_by_their_name_and_by_what_is_in_them(tmp_path):
    # xdg-mime itself stumbles over blanks in the path
    homes = Homes(tmp_path / "bin", tmp_path / "share", tmp_path / "lib", Path(sys.executable))
    assert lay(homes) == []
    # with a desktop's name xdg-mime asks the shared database, else only `file`
    desktop = {**os.environ, "XDG_DATA_HOME": str(homes.share), "XDG_CURRENT_DESKTOP": "GNOME",
               "XDG_CONFIG_HOME": str(tmp_path / "config")}  # fmt: skip
    nameless = tmp_path / "nameless"
    nameless.write_bytes(job_path("harbour-lamp").read_bytes())
    for file, kind in ((job_path("harbour-lamp"), "application/x-holoptic-job"),
                       (nameless, "application/x-holoptic-job"),
                       (job_path("round-parts").with_suffix(".step"), "model/step"),
                       (job_path("round-parts").with_name("stay-plate.dxf"), "image/vnd.dxf"),
                       ):  # fmt: skip
        assert _run("xdg-mime", "query", "filetype", str(file), env=desktop).strip() == kind
    by = _run("xdg-mime", "query", "default", "application/x-holoptic-job", env=desktop)
    assert by.strip() == "holoptic.desktop"


def test_the_launcher_runs_the_program(homes):
    lay(homes)
    assert _run(str(homes.launcher), "--version").startswith("holoptic ")


def test_what_was_laid_goes_again_and_nothing_else(homes):
    theirs = homes.share / "applications" / "other.desktop"
    theirs.parent.mkdir(parents=True)
    theirs.write_text("theirs")
    lay(homes)
    lay(homes)  # once more, as for a newer version
    take_away(homes)
    assert theirs.read_text() == "theirs"
    left = {p.name for p in homes.share.rglob("*") if p.is_file() and "mime" not in p.parts}
    assert left <= {"other.desktop", "mimeinfo.cache", "icon-theme.cache"}
    assert not homes.launcher.exists()
    assert not (homes.library / "installed.txt").exists()
    assert not list(homes.share.rglob("*holoptic*"))


def test_a_command_of_somebody_else_stays(homes):
    homes.programs.mkdir(parents=True)
    homes.launcher.write_text("theirs")
    with pytest.raises(BadInput, match="is not ours"):
        lay(homes)
    assert homes.launcher.read_text() == "theirs"
    assert not homes.share.exists()
    take_away(homes)
    assert homes.launcher.read_text() == "theirs"


def test_a_list_that_names_other_files_takes_none_away(homes, tmp_path):
    precious = tmp_path / "precious"
    precious.write_text("mine")
    homes.library.mkdir(parents=True)
    (homes.library / "installed.txt").write_text(f"{precious}\n../../escape\n")
    take_away(homes)
    assert precious.read_text() == "mine"


def test_each_command_has_a_page_that_tells_all_its_options():
    pages = manual_pages()
    commands = [command for command in spoken_commands() if command.name]
    assert set(pages) == {"holoptic.1", *(f"holoptic-{c.name}.1" for c in commands)}
    assert "thumbnail" in [command.name for command in commands]
    for command in commands:
        text = pages[f"holoptic-{command.name}.1"].replace("\\-", "-")
        for option in command.options:
            for flag in option.flags or (option.takes,):
                assert f"{flag}" in text, (command.name, flag)


@_needs("man")
def test_the_pages_are_sound_roff(tmp_path):
    for name, text in manual_pages().items():
        (tmp_path / name).write_text(text, "utf-8")
        done = subprocess.run(
            ["man", "--warnings", "-l", str(tmp_path / name)], check=False, capture_output=True,
            text=True, env={**os.environ, "MANWIDTH": "80", "LC_ALL": "C.UTF-8"},
        )  # fmt: skip
        assert done.returncode == 0
        assert done.stderr == ""
        assert "EXIT STATUS" in done.stdout


def _offered(homes, *words):
    script = homes.share / "bash-completion" / "completions" / "holoptic"
    quoted = " ".join(f'"{word}"' for word in words)
    code = (
        f'source "{script}"; COMP_WORDS=({quoted}); COMP_CWORD={len(words) - 1}; _holoptic;'
        ' printf "%s\\n" "${COMPREPLY[@]}"'
    )
    return _run("bash", "-c", code).split()


def test_bash_offers_commands_options_and_values(homes):
    lay(homes)
    parser = command_parser()
    names = next(a.choices for a in parser._actions if hasattr(a, "choices") and a.choices)
    assert set(_offered(homes, "holoptic", "")) == set(names)
    assert _offered(homes, "holoptic", "pic") == ["pictorial"]
    assert "--corner" in _offered(homes, "holoptic", "pictorial", "x", "--")
    assert "--slip" not in _offered(homes, "holoptic", "pictorial", "x", "--")
    assert _offered(homes, "holoptic", "pictorial", "--kind", "cab") == ["cabinet"]
    assert "A3" in _offered(homes, "holoptic", "sheet", "x", "--paper", "A")
    assert _offered(homes, "holoptic", "--page", "sp") == ["spread"]


@pytest.mark.parametrize("shell", ["zsh", "fish"])
def test_other_shells_take_their_completion(homes, shell):
    if shutil.which(shell) is None:
        pytest.skip(f"{shell} is not there")
    lay(homes)
    file = next(homes.share.rglob("_holoptic" if shell == "zsh" else "holoptic.fish"))
    _run(shell, "-n", str(file))
