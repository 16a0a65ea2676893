"""What a screen reader, a keyboard and weak eyes find: names, roles, states, order, contrast."""

import json
import os
import shutil
import subprocess
import sys
from itertools import pairwise
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLineEdit,
    QSlider,
)

from holoptic.demo import job_path
from holoptic.desk.application.window import PAGE_TITLES
from holoptic.desk.look.theme import AXIS_COLOURS, AXIS_DASHES, CONTRAST, DARK, LIGHT
from holoptic.desk.pages.picture.corner_picker import CornerPicker
from holoptic.exchange.job_file import read_job
from typist import CTRL, Typist
from virtual_display import HAS_DISPLAY, virtual_display

THEMES = (LIGHT, DARK, CONTRAST)

WALKER = Path(__file__).parent / "assistive" / "walk.py"
SYSTEM_PYTHON = "/usr/bin/python3"
LEAST_PIXELS = 24
NO_CONTROLS = {"filler", "unknown", "panel", "layered pane", "split pane"}
"""Roles that say nothing of what can be done with a thing."""


def _has_bindings():
    code = "import gi; gi.require_version('Atspi', '2.0')"
    try:
        done = subprocess.run([SYSTEM_PYTHON, "-c", code], check=False, capture_output=True)
    except OSError:
        return False
    return done.returncode == 0


needs_bus = pytest.mark.skipif(
    not (shutil.which("dbus-run-session") and HAS_DISPLAY and _has_bindings()),
    reason="the accessibility bus, its bindings or a display are not there",
)


@pytest.fixture(scope="module")
def tree(tmp_path_factory):
    """What a reader finds on each page of the demo, in a real window under a private bus."""
    home = tmp_path_factory.mktemp("home")
    source = Path(sys.modules["holoptic"].__file__).parents[1]
    walk = {
        **os.environ, "QT_QPA_PLATFORM": "xcb", "HOME": str(home),
        "QT_LINUX_ACCESSIBILITY_ALWAYS_ON": "1", "XDG_RUNTIME_DIR": str(home),
        "XDG_STATE_HOME": str(home / "state"), "XDG_CONFIG_HOME": str(home / "config"),
        "XDG_DATA_HOME": str(home / "data"), "PYTHONPATH": str(source),
    }  # fmt: skip
    walk.pop("DBUS_SESSION_BUS_ADDRESS", None)
    desk = [sys.executable, "-P", "-m", "holoptic", "demo", "--size", "1270x760"]
    pages = ",".join(PAGE_TITLES.values())
    with virtual_display() as display:
        done = subprocess.run(
            ["dbus-run-session", "--", SYSTEM_PYTHON, str(WALKER), pages, *desk],
            check=False, capture_output=True, text=True, env={**walk, "DISPLAY": display},
            timeout=240,
        )  # fmt: skip
    assert done.returncode == 0, done.stderr[-300:]
    return json.loads(done.stdout.splitlines()[-1])  # the registry says a line of its own


@needs_bus
def test_every_control_has_a_name_a_role_and_its_state(tree):
    wrong = []
    for page, nodes in tree.items():
        for node in nodes:
            if "focusable" not in node["states"] or "list item" in node["role"]:
                continue
            said = f"{page}: {node['role']} “{node['name']}” ({node['description'][:60]})"
            # of a list to choose from the name is what is chosen; its own is the description
            if not node["name"] or (
                node["role"] == "combo box" and not (node["description"] or node["labelled"])
            ):
                wrong.append(f"nameless: {said}")
            if node["role"] in NO_CONTROLS and not node["description"]:
                wrong.append(f"no role and no words: {said}")
            if (
                node["role"] in ("push button", "check box")
                and "enabled" in node["states"]
                and not node["actions"]
            ):
                wrong.append(f"nothing to press: {said}")
    assert not wrong, "\n".join(wrong)


@needs_bus
def test_pages_are_reached_by_the_action_of_their_button(tree):
    for page, nodes in tree.items():
        down = [n["name"] for n in nodes if n["role"] == "check box" and "checked" in n["states"]]
        assert page in down
        others = set(PAGE_TITLES.values()) - {page}
        assert not others & set(down[:1])


@needs_bus
def test_panes_say_what_is_in_them(tree):
    def words(page, name):
        return next(n["description"] for n in tree[page] if n["name"] == name)

    assert "isometric drawing of gallery block, front right" in words("Picture", "picture")
    assert "front view 84 × 37.5" in words("Carve", "orthographic views")
    assert "0 strokes and 0 points" in words("Draw", "drawing paper")
    assert words("Draw", "setting card").startswith("Lay the A4 sheet")
    assert words("Draw", "strip of moves").startswith("0 of ")


@needs_bus
def test_what_is_drawn_by_hand_has_the_role_of_what_it_does(tree):
    def role(page, name):
        return next(n["role"] for n in tree[page] if n["name"] == name)

    assert role("Picture", "near corner") == "slider"
    assert role("Picture", "picture") in ("image", "icon")
    assert role("Draw", "setting card") in ("image", "icon")
    assert role("Draw", "strip of moves") in ("image", "icon")


def test_a_reader_moves_what_is_one_of_some(desk, settle):
    desk.show_page("picture")
    settle(desk)
    picker = desk.findChild(CornerPicker)
    before = desk.session.document.figure.corner
    assert (picker.minimum(), picker.maximum()) == (0, 7)
    picker.setValue((picker.value() + 1) % 8)  # as the value of a slider is set from outside
    settle(desk)
    assert desk.session.document.figure.corner != before
    assert picker.accessibleDescription()
    taken = picker.value()
    desk.session.document.undo()
    settle(desk)
    assert picker.value() != taken


@needs_bus
def test_what_is_pressed_is_large_enough(tree):
    small = [
        f"{page}: {node['name']} {node['size']}"
        for page, nodes in tree.items() for node in nodes
        if node["role"] in ("push button", "check box", "combo box", "text", "spin button")
        and "focusable" in node["states"] and node["name"] != "your name"
        and min(node["size"]) < LEAST_PIXELS
    ]  # fmt: skip
    assert not small, "\n".join(small)


def _contrast(first, second):
    """Return the contrast of two colours (WCAG 2.2, 1.4.3)."""

    def light(colour):
        parts = [int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5)]
        red, green, blue = (c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4
                            for c in parts)  # fmt: skip
        return 0.2126 * red + 0.7152 * green + 0.0722 * blue

    high, low = sorted((light(first), light(second)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("look", THEMES, ids=lambda look: look.name)
def test_words_stand_out_from_their_ground(look):
    grounds = {
        "text": ("desk", "panel", "raised"), "quiet": ("desk", "panel", "raised"),
        "accent": ("panel", "raised"), "accent_text": ("accent",),
        "trouble": ("trouble_back", "panel", "raised"), "ink": ("paper",),
        "hidden_ink": ("paper",), "lift": ("paper",), "ghost": ("paper",),
    }  # fmt: skip
    weak = [
        f"{words} on {ground}: {ratio:.2f}"
        for words, on in grounds.items() for ground in on
        if (ratio := _contrast(getattr(look, words), getattr(look, ground))) < 4.5
    ]  # fmt: skip
    assert not weak
    assert all(_contrast(colour, look.paper) >= 4.5 for colour in AXIS_COLOURS)


def test_the_colours_of_the_axes_never_stand_alone():
    assert len(set(AXIS_DASHES)) == len(AXIS_COLOURS)


def _reached(window, press):
    """Return the controls that Tab comes to, in order, until it is round."""
    found, start = [], QApplication.focusWidget()
    for _ in range(300):
        press(window, Qt.Key.Key_Tab)
        widget = QApplication.focusWidget()
        if widget is None or widget in found or (widget is start and found):
            break
        found.append(widget)
    return found


@pytest.mark.parametrize("page", ["carve", "picture", "sheet", "practice"])
def test_tab_comes_to_every_control_in_the_order_of_the_page(desk, settle, press, page):
    desk.show_page(page)
    settle(desk)
    reached = _reached(desk, press)
    controls = [
        widget for kind in (QAbstractButton, QLineEdit, QComboBox, QSlider, QAbstractSpinBox)
        for widget in desk.pages[page].findChildren(kind)
        if widget.isVisible() and widget.isEnabled() and widget.visibleRegion().boundingRect()
        and widget.focusPolicy() != Qt.FocusPolicy.NoFocus
        and not isinstance(widget.parent(), QComboBox | QAbstractSpinBox)
        # of buttons of which one is down Tab comes to that one, arrows to the others
        and not (isinstance(widget, QAbstractButton) and widget.group() and not widget.isChecked())
    ]  # fmt: skip
    assert len(controls) > 0
    missed = [widget for widget in controls if widget not in reached]
    assert not missed, [w.accessibleName() or w.text() for w in missed]
    inside = [widget for widget in reached if widget in controls]
    places = [widget.mapTo(desk, widget.rect().center()) for widget in inside]
    column = desk.pages[page].column
    rows = [(place.y(), widget.accessibleName() or str(widget.property("text")))
            for widget, place in zip(inside, places, strict=True)
            if column.isAncestorOf(widget)]  # fmt: skip
    # a row may be read from its left or its right, but none comes before one above it
    back = [(above, below) for above, below in pairwise(rows) if below[0] < above[0] - 26]
    assert not back


def test_news_are_told_to_who_does_not_see_them(desk, settle, press):
    desk.show_page("picture")
    settle(desk)
    focus = QApplication.focusWidget()
    before = focus.accessibleDescription()
    desk.hint.tell("Exported block.svg")
    assert focus.accessibleDescription() == "Exported block.svg"
    press(desk, Qt.Key.Key_E)
    first = focus.accessibleDescription()
    assert "true" in first
    press(desk, Qt.Key.Key_E)
    assert focus.accessibleDescription() != first
    desk.show_page("draw")
    settle(desk)
    assert focus.accessibleDescription() == before
    press(desk, Qt.Key.Key_Space)
    plan = desk.session.answers.planned.plan
    assert QApplication.focusWidget().accessibleDescription() == plan.moves[1].text


def test_the_gallery_block_is_carved_pictured_and_drawn_by_keys_alone(empty_desk, settle):
    block = read_job(job_path()).parts[0].source
    typist = Typist(empty_desk)
    typist.press(Qt.Key.Key_N, CTRL)
    typist.build(block)
    settle(empty_desk)
    part = empty_desk.session.document.part
    assert [operation.mode for operation in part.operations] == ["cut"] * 4
    assert [o.outline for o in part.operations] == [o.outline for o in block.operations]
    typist.press(Qt.Key.Key_F4)
    settle(empty_desk)
    typist.press(Qt.Key.Key_2)
    settle(empty_desk)
    assert empty_desk.session.document.figure.kind == "cabinet"
    typist.press(Qt.Key.Key_F7)
    settle(empty_desk)
    walk = empty_desk.session.walk
    count = len(walk.plan.moves)
    for _ in range(count):
        typist.press(Qt.Key.Key_Space)
    assert walk.at == count
    assert {stroke.id for stroke in empty_desk.session.answers.picture.visible} <= set(
        empty_desk.session.answers.planned.drafted.strokes
    )
    assert QApplication.focusWidget().accessibleDescription() == "The drawing is done."
