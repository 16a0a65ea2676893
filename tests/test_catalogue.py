"""Every text that a user reads stands in one catalogue, and the desk works in another language."""

import ast
import json
import os
import pickle
import re
import runpy
import string
import subprocess
import sys

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cast import intended_of, picture, set_up
from holoptic import catalogue
from holoptic.catalogue import PSEUDO, Sentence, later, ntr, pseudo, tr
from holoptic.job import HandWays, SheetWish
from holoptic.plan import make_plan

_PLACE = re.compile(r"\{(\w*)")


@pytest.fixture(scope="module")
def maker(request):
    return runpy.run_path(str(request.config.rootpath / "scripts" / "make_catalogue.py"))


def test_the_catalogue_is_the_present_one(maker):
    assert maker["TARGET"].read_text("utf-8") == maker["catalogue"]()


def _is_data(node):
    """Words that are data until they are shown: their own module marks them."""
    return isinstance(node, ast.Name | ast.Attribute | ast.Call)


def test_every_text_has_the_places_that_it_is_given(maker):
    count = 0
    for path in maker["CORE"].rglob("*.py"):
        if path.name == "catalogue.py":
            continue
        for call, name in maker["calls"](path):
            where = f"{path.name}:{call.lineno}"
            texts = call.args[: 2 if name == "ntr" else 1]
            assert all(isinstance(t, ast.Constant) or _is_data(t) for t in texts), where
            if any(keyword.arg is None for keyword in call.keywords):
                continue
            given = {keyword.arg for keyword in call.keywords}
            for text in texts:
                if isinstance(text, ast.Constant) and given:
                    named = {n for _, n, _, _ in string.Formatter().parse(text.value) if n}
                    assert named - {"count"} == given - {"count"}, where
            count += 1
    assert count > 1000


_BEGINS, _ENDS = " ,;:)", (" ", ",", ";", "(")
_CLAUSES = {"rest", "note", "near", "also", "closes"}


def test_no_text_is_a_piece_that_another_is_glued_to(maker):
    """A translator gets whole phrases: none begins or ends in the middle of a sentence."""
    texts = set()
    for path in maker["CORE"].rglob("*.py"):
        for call, _ in maker["calls"](path):
            texts |= {t.value for t in call.args[:2] if isinstance(t, ast.Constant)}
    texts = {text for text in texts if isinstance(text, str) and text}
    assert len(texts) > 1000
    assert [t for t in texts if t[0] in _BEGINS or t.rstrip("\n").endswith(_ENDS)] == []
    assert [t for t in texts if _CLAUSES & set(_PLACE.findall(t)) and "“{" not in t] == []


_SHOWS = {
    "BadInput", "ExpressionError", "PartError", "KernelTrouble", "DraftingError",
    "setText", "setToolTip", "setPlaceholderText", "setAccessibleName", "setTitle", "setSuffix",
    "QLabel", "QPushButton", "QAction", "QCheckBox", "drawText", "addItem", "addAction",
    "say", "tell", "_tell", "print", "edit", "edit_sheet", "edit_part", "edit_figure",
}  # fmt: skip
"""What is called with a text that a user reads."""

_BARE = re.compile(r"[a-z]{2,}")


def _bare(node):
    """Return what stands in quotes, whole or with places, outside of the catalogue."""
    if isinstance(node, ast.Constant):
        return str(node.value) if isinstance(node.value, str) else ""
    if isinstance(node, ast.JoinedStr):
        return "".join(_bare(piece) for piece in node.values)
    if isinstance(node, ast.BinOp):
        return _bare(node.left) + _bare(node.right)
    return _bare(node.body) + _bare(node.orelse) if isinstance(node, ast.IfExp) else ""


def test_no_text_is_shown_that_is_not_in_the_catalogue(maker):
    product = re.compile("holoptic(: )?|Holoptic|Alt")
    bare = []
    for path in maker["CORE"].rglob("*.py"):
        for call in ast.walk(ast.parse(path.read_text("utf-8"))):
            if not isinstance(call, ast.Call):
                continue
            name = getattr(call.func, "attr", getattr(call.func, "id", ""))
            if name not in _SHOWS:
                continue
            keywords = [keyword.value for keyword in call.keywords if keyword.arg != "end"]
            bare += [f"{path.name}:{call.lineno}: {_bare(text)}" for text in [*call.args, *keywords]
                     if _BARE.search(product.sub("", _bare(text)))]  # fmt: skip
    assert bare == []


_WORDS = st.sampled_from(
    ["Set off ", "{size}", " upward: ", "{name:g}", "…", "(*.dxf)", "<b>A</b>"]
)


@given(st.lists(_WORDS).map("".join), st.sampled_from(["", "\tCtrl+N"]))
def test_the_pseudo_language_is_longer_and_keeps_what_no_translator_touches(words, keys):
    text = words + keys
    made = pseudo(text)
    assert made.count("*.dxf") == text.count("*.dxf")
    assert made.count("<b>") == text.count("<b>")
    assert len(made) >= len(text)
    assert _PLACE.findall(made) == _PLACE.findall(text)
    assert made.partition("\t")[1:] == text.partition("\t")[1:]


def test_a_text_is_two_fifths_longer_and_has_no_plain_letter():
    text = "Set off {size} upward: start point {name}."
    made = pseudo(text)
    assert made.startswith("Šéţ ôƒƒ {size} ûƥŵàŕđ")
    assert made.endswith(".")
    bare = re.sub(r"\{\w+\}", "", text)
    assert len(re.sub(r"\{\w+\}", "", made)) == pytest.approx(1.4 * len(bare), abs=1)
    assert not re.search("[A-Za-z]", re.sub(r"\{\w+\}", "", made))


def test_without_a_language_texts_are_as_they_were_written():
    assert tr("a {thing} in braces", thing="word") == "a word in braces"
    assert tr("no {place} is filled") == "no {place} is filled"
    assert [ntr("{count} solid", "{count} solids", n) for n in (0, 1, 2)] == [
        "0 solids", "1 solid", "2 solids",
    ]  # fmt: skip


def in_pseudo(root, tmp_path, *command):
    own = {"HOLOPTIC_LANGUAGE": PSEUDO, "QT_QPA_PLATFORM": "offscreen", "PYTHONUTF8": "1",
           "XDG_STATE_HOME": str(tmp_path / "s"), "XDG_CONFIG_HOME": str(tmp_path / "c"),
           "XDG_DATA_HOME": str(tmp_path / "d"),
           "PYTHONPATH": os.pathsep.join([str(root / "src"), str(root / "tests")])}  # fmt: skip
    done = subprocess.run([sys.executable, *command], env={**os.environ, **own}, timeout=300,
                          capture_output=True, text=True, check=False)  # fmt: skip
    assert done.returncode == 0, done.stderr[-2000:]
    return done


NAMES = {"ISO", "ANSI", "Arch", "Holoptic", "untitled", "dxf", "svg"}
"""Words that are the same in every language: papers, the program, what files are called."""


def test_the_desk_and_a_plan_have_no_word_outside_the_catalogue(request, tmp_path, demo_job):
    done = in_pseudo(request.config.rootpath, tmp_path, "tests/pseudo_desk.py")
    told = json.loads(done.stdout.splitlines()[-1])
    assert told["widgets"] > 500
    data = {demo_job.name, "SLW", "lantern shoe", "stay plate", "broken"}
    for part in demo_job.parts:
        data |= {part.source.name, *(item.name for item in part.source.operations)}
    allowed = NAMES | {word for text in data for word in re.findall("[A-Za-z]{3,}", text)}
    allowed |= {word.upper() for word in allowed}
    assert sorted(set(told["words"]) - allowed) == []


def test_a_command_answers_in_the_language_and_writes_files_as_ever(request, tmp_path):
    root, out = request.config.rootpath, tmp_path / "job.holoptic"
    drawing = str(root / "src" / "holoptic" / "demo" / "lantern-shoe.dxf")
    done = in_pseudo(root, tmp_path, "-m", "holoptic", "read", drawing, "--out", str(out))
    assert "ţĥé ṽîéŵš ṁéàñ ôñé ƥàŕţ" in done.stdout
    assert json.loads(out.read_text("utf-8"))["format"] == "holoptic-job"


@pytest.fixture
def switch_language(monkeypatch):
    return lambda: monkeypatch.setattr(catalogue, "_language", catalogue._Pseudo())


def test_a_sentence_is_put_together_when_it_is_read(switch_language):
    said = later("Mark {name}{where}.", name="B", where=later(" on the border"))
    assert said == later("Mark {name}{where}.", name="B", where=later(" on the border"))
    assert pickle.loads(pickle.dumps(said)) == said
    assert f"{said}" == "Mark B on the border."
    switch_language()
    assert f"{said}".startswith("Ṁàŕķ B")
    assert "ôñ ţĥé ƀôŕđéŕ" in f"{said}"


_ENGLISH = re.compile(r"\b(the|from|with|and|to|off|up|down|draw|mark|join|through|it|as)\b", re.I)


@pytest.mark.parametrize("order", ["by-feature", "batched"])
def test_a_plan_can_be_read_in_a_language_chosen_after_it_was_made(
    worker, demo_job, switch_language, order
):
    moves = []
    for part in demo_job.parts[::3]:
        seen, drawn = picture(worker, part.source)
        setup, _ = set_up(part.source, seen.facts, drawn, SheetWish(frame="draw"))
        intended = intended_of(part.source, seen.facts, drawn, setup.scale, HandWays(order=order))
        moves += make_plan(intended, setup).moves
    assert all(isinstance(move.template, Sentence) for move in moves)
    before = [move.text for move in moves]
    assert all(_ENGLISH.search(text) for text in before)
    switch_language()
    left = [move.text for move in moves if _ENGLISH.search(move.text)]
    assert left == []
    assert all(len(move.text) > len(text) for move, text in zip(moves, before, strict=True))
