"""Each language is complete and sound, and what was asked for, set or spoken is what is shown."""

import json
import os
import re
import runpy
import string
import subprocess
import sys

import polib
import pytest

from holoptic.catalogue import FOLDER
from holoptic.regional import LANGUAGES

OTHERS = sorted(set(LANGUAGES) - {"en"})
_FILTER = re.compile(r"\*\.\w+|\*\{\w+\}")


def catalogue_of(language):
    return polib.pofile(str(FOLDER / language / "LC_MESSAGES" / "holoptic.po"))


def said_in(entry):
    """Yield each text with what it is in the language."""
    if not entry.msgid_plural:
        yield entry.msgid, entry.msgstr
    for said in entry.msgstr_plural.values():
        yield entry.msgid_plural, said


def places(text):
    return sorted((name, how) for _, name, how, _ in string.Formatter().parse(text) if name)


def test_languages_that_can_be_chosen_are_those_that_there_are():
    assert sorted(path.parent.name for path in FOLDER.glob("*/LC_MESSAGES")) == OTHERS


@pytest.mark.parametrize("language", OTHERS)
def test_no_text_is_missing_and_none_is_left_over(language):
    there = {(entry.msgid, entry.msgid_plural) for entry in catalogue_of(language)}
    wanted = {(one.msgid, one.msgid_plural) for one in polib.pofile(str(FOLDER / "holoptic.pot"))}
    assert there == wanted
    empty = [text for entry in catalogue_of(language) for text, said in said_in(entry) if not said]
    assert empty == []
    assert all(len(entry.msgstr_plural) in (0, 2) for entry in catalogue_of(language))


@pytest.mark.parametrize("language", OTHERS)
def test_places_keys_and_endings_of_files_stay(language):
    for entry in catalogue_of(language):
        for text, said in said_in(entry):
            assert places(said) == places(text), said
            assert said.partition("\t")[2] == text.partition("\t")[2], said
            assert said.count("\n") == text.count("\n"), said
            assert sorted(_FILTER.findall(said)) == sorted(_FILTER.findall(text)), said


@pytest.mark.parametrize("language", OTHERS)
def test_what_programs_read_is_the_present_one(language, tmp_path):
    catalogue_of(language).save_as_mofile(str(tmp_path / "made.mo"))
    kept = polib.mofile(str(FOLDER / language / "LC_MESSAGES" / "holoptic.mo"))
    made = polib.mofile(str(tmp_path / "made.mo"))
    assert [(e.msgid, e.msgstr, e.msgstr_plural) for e in kept] == [
        (e.msgid, e.msgstr, e.msgstr_plural) for e in made
    ]


def test_a_language_is_brought_up_to_the_catalogue(request, tmp_path):
    maker = runpy.run_path(str(request.config.rootpath / "scripts" / "make_catalogue.py"))
    folder = tmp_path / "xx" / "LC_MESSAGES"
    folder.mkdir(parents=True)
    before = polib.POFile()
    before.append(polib.POEntry(msgid="cut", msgstr="weg"))
    before.append(polib.POEntry(msgid="said no more", msgstr="vorbei"))
    before.save(str(folder / "holoptic.po"))
    made = maker["brought_up"](folder, 'msgid ""\nmsgstr ""\n\nmsgid "cut"\nmsgstr ""\n\n'
                                       'msgid "add"\nmsgstr ""\n')  # fmt: skip
    assert [(entry.msgid, entry.msgstr) for entry in made] == [("cut", "weg"), ("add", "")]


_TELL = (
    "from holoptic.catalogue import tr; from holoptic.regional import *; "
    "from holoptic.units import show; "
    "print(language(), tr('cut'), show(26.5), tr('{a:.2f}', a=0.125), sep='|')"
)


def spoken(tmp_path, settings=None, **environment):
    """Return what another process says: its language, a word, a length, a figure in a text."""
    kept = tmp_path / "holoptic"
    kept.mkdir(exist_ok=True)
    if settings is not None:
        (kept / "settings.json").write_text(
            settings if isinstance(settings, str) else json.dumps(settings)
        )
    plain = {"LC_ALL": "", "LC_MESSAGES": "", "LANG": "", "LANGUAGE": "", "PYTHONUTF8": "1"}
    own = {**os.environ, **plain, "HOLOPTIC_LANGUAGE": "", "HOLOPTIC_DECIMAL": "",
           "XDG_CONFIG_HOME": str(tmp_path), "PYTHONPATH": "src", **environment}  # fmt: skip
    done = subprocess.run([sys.executable, "-c", _TELL], env=own, timeout=60, check=True,
                          capture_output=True, text=True, cwd=FOLDER.parents[2])  # fmt: skip
    return done.stdout.strip().split("|")


GERMAN = ["de", "abnehmen", "26,5", "0,12"]
ENGLISH = ["en", "cut", "26.5", "0.12"]


@pytest.mark.parametrize(
    ("settings", "environment", "told"),
    [
        (None, {}, ENGLISH),
        (None, {"LANG": "de_AT.UTF-8"}, GERMAN),
        (None, {"LANG": "C.UTF-8", "LANGUAGE": "de"}, ENGLISH),
        (None, {"LANG": "fr_FR.UTF-8", "LANGUAGE": "fr:de"}, GERMAN),
        (None, {"LANG": "de_DE.UTF-8", "LC_ALL": "en_GB.UTF-8"}, ENGLISH),
        ({"language": "de"}, {"LANG": "en_GB.UTF-8"}, GERMAN),
        ({"language": "en"}, {"LANG": "de_DE.UTF-8"}, ENGLISH),
        ({"language": "system", "decimal": "comma"}, {}, ["en", "cut", "26,5", "0,12"]),
        ({"language": "de", "decimal": "point"}, {}, ["de", "abnehmen", "26.5", "0.12"]),
        ({"language": "de"}, {"HOLOPTIC_LANGUAGE": "en"}, ENGLISH),
        ({"language": ["de"], "decimal": 7}, {}, ENGLISH),
        ("{no json", {"LANG": "de_DE"}, GERMAN),
    ],
)
def test_what_is_asked_for_goes_before_what_is_set_and_what_is_spoken(
    tmp_path, settings, environment, told
):
    assert spoken(tmp_path, settings, **environment) == told


def test_the_desk_a_plan_and_its_critic_work_in_german(request, tmp_path):
    root = request.config.rootpath
    own = {**os.environ, "PYTHONUTF8": "1", "PYTHONPATH": str(root / "src"),
           **{f"XDG_{one}_HOME": str(tmp_path) for one in ("STATE", "CONFIG", "DATA")}}  # fmt: skip
    block = (str(root / "src" / "holoptic" / "demo" / "harbour-lamp.holoptic"),
             "--part", "gallery block")  # fmt: skip
    file = tmp_path / "plan.txt"

    def plan(language, mark, *words):
        speaks = {"HOLOPTIC_LANGUAGE": language, "HOLOPTIC_DECIMAL": mark}
        return subprocess.run([sys.executable, "-m", "holoptic", "plan", *block, *words],
                              env={**own, **speaks}, timeout=300,
                              capture_output=True, text=True, check=False)  # fmt: skip

    told = plan("de", "comma", "--verify", "--out", str(file))
    assert told.returncode == 0, told.stderr
    # what scripts read is the same in every language
    assert re.match(r"max deviation 0\.000\d mm over \d+ strokes\n", told.stdout)
    assert "Reißschiene" in file.read_text("utf-8")
    assert "26,5" in file.read_text("utf-8")
    assert not re.search(r"\b(the|from|with|through|draw)\b", file.read_text("utf-8"))
    english, german = plan("en", "point", "--critic"), plan("de", "comma", "--critic")
    assert german.returncode == english.returncode
    assert len(german.stdout.splitlines()) == len(english.stdout.splitlines())
