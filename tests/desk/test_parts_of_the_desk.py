"""The desk's own pieces: panes, fields, notices, the card, the strip, the line to the worker."""

import math
import os
import signal
from dataclasses import replace
from functools import partial
from itertools import combinations
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QPushButton, QWidget

from cast import stepped_block
from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.space import EllipticArc
from holoptic.desk.canvas.canvas import Canvas, Line
from holoptic.desk.look.icons import _LINES, icon
from holoptic.desk.look.theme import AXIS_COLOURS, AXIS_DASHES, DARK, FONTS, LIGHT
from holoptic.desk.pages.sheet.sheet_view import PageView
from holoptic.desk.session.kernel_line import KernelLine
from holoptic.desk.session.revisions import Revisions
from holoptic.desk.widgets.fields import LengthField
from holoptic.desk.widgets.notice import Notice
from holoptic.exchange.safekeeping import Autosave, left_behind
from holoptic.job import job_of
from holoptic.part import ImportedSolid
from holoptic.pictorial import view_of
from holoptic.plan import Move, Plan, Setup
from holoptic.plan.card import card_text
from holoptic.plan.moves import Lift
from holoptic.sheet.drawing import Drawing, Hatch, Region, Words
from holoptic.units import Unit
from holoptic.units.spoken import on_rule

ISO = view_of("isometric").toward_viewer


# --- panes --------------------------------------------------------------------------------------


@pytest.fixture
def pane(qtbot):
    pane = Canvas(margin=20)
    qtbot.add_widget(pane)
    pane.resize(440, 340)
    pane.show()
    qtbot.wait_exposed(pane)
    pane.show_lines(
        [Line(((0, 0), (100, 0)), "visible", 1), Line(((50, -40), (50, 40)), "visible", 2)],
        (0, -40, 100, 40),
    )
    return pane


def turn_wheel(pane, place, notches):
    event = QWheelEvent(
        place, pane.mapToGlobal(place), QPoint(), QPoint(0, 120 * notches),
        Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(pane, event)


def test_content_is_fitted_and_upright(pane):
    assert pane.pixels_per_mm == pytest.approx(min(400 / 100, 300 / 80))
    low, high = pane.to_screen((0, -40)), pane.to_screen((0, 40))
    assert low.y() > high.y()
    assert pane.to_paper(pane.to_screen((12.5, -7))) == pytest.approx((12.5, -7))


@pytest.mark.parametrize("style", ["visible", "visible thick", "hidden", "light", "selected"])
def test_lines_and_arcs_are_painted_where_they_run(pane, style):
    ring = PaperArc((50, 0), (30, 0), (0, 30), 0.0, math.tau)
    pane.show_lines(
        [Line(ring, style, 1), Line(((10, -35), (90, -35)), style, 2)], (0, -40, 100, 40)
    )
    picture, paper = pane.grab().toImage(), pane.grab().toImage().pixelColor(2, 2)

    def is_drawn(place):
        """Whether ink lies within a pixel or two of a place; dashes leave gaps."""
        at = pane.to_screen(place).toPoint()
        return any(
            picture.pixelColor(at + QPoint(dx, dy)) != paper
            for dx in range(-5, 6)
            for dy in (-1, 0, 1)
        )

    turns = [k * math.tau / 16 for k in range(16)]
    on_ring = [(50 + 30 * math.cos(turn), 30 * math.sin(turn)) for turn in turns]
    assert all(is_drawn(place) for place in [*on_ring, (10, -35), (50, -35), (89, -35)])
    assert not any(is_drawn(place) for place in ((50, 0), (50, 20), (97, 0), (50, -33)))
    assert pane.line_at(pane.to_screen(on_ring[3])) == 1


def test_a_line_of_one_point_is_a_dot_and_one_of_none_is_no_harm(pane):
    pane.show_lines([Line((), "visible"), Line(((50, 0),), "visible")], (0, -40, 100, 40))
    picture = pane.grab().toImage()
    at = pane.to_screen((50, 0)).toPoint()
    assert picture.pixelColor(at) != picture.pixelColor(2, 2)
    pane.show_lines([Line((), "visible")], (0, -40, 100, 40))
    assert pane.grab().toImage().pixelColor(at) == picture.pixelColor(2, 2)


def test_the_wheel_zooms_about_the_pointer_and_a_double_click_fits(pane):
    before = pane.pixels_per_mm
    place = pane.to_screen((75, 10))
    turn_wheel(pane, place, 2)
    assert pane.pixels_per_mm == pytest.approx(before * 1.44)
    assert pane.to_paper(place) == pytest.approx((75, 10))
    QTest.mouseDClick(pane, Qt.MouseButton.LeftButton, pos=place.toPoint())
    assert pane.pixels_per_mm == pytest.approx(before)


def test_the_right_button_drags_the_paper(pane):
    spot = pane.to_paper(QPointF(100, 100))
    QTest.mousePress(pane, Qt.MouseButton.RightButton, pos=QPoint(100, 100))
    QTest.mouseMove(pane, QPoint(160, 130))
    QTest.mouseRelease(pane, Qt.MouseButton.RightButton, pos=QPoint(160, 130))
    assert pane.to_paper(QPointF(160, 130)) == pytest.approx(spot)


def test_the_nearest_line_is_touched(pane, qtbot):
    near = pane.to_screen((20, 0)) + QPointF(0, 5)
    with qtbot.wait_signal(pane.hovered) as hovered:
        QTest.mouseMove(pane, near.toPoint())
    assert hovered.args == [1]
    with qtbot.wait_signal(pane.picked) as picked:
        QTest.mouseClick(pane, Qt.MouseButton.LeftButton, pos=pane.to_screen((50, 20)).toPoint())
    assert picked.args == [2]
    assert pane.line_at(pane.to_screen((20, 30))) is None


def test_new_content_keeps_the_zoom_until_its_extent_changes(pane):
    turn_wheel(pane, QPointF(200, 200), 3)
    zoomed = pane.pixels_per_mm
    pane.show_lines([], (0, -40, 100, 40))
    assert pane.pixels_per_mm == zoomed
    pane.show_lines([], (0, 0, 10, 10))
    assert pane.pixels_per_mm != zoomed


# --- fields and notices -------------------------------------------------------------------------


def test_a_length_field_reads_in_its_unit_with_names(qtbot):
    field = LengthField("depth")
    qtbot.add_widget(field)
    field.unit, field.names = Unit.INCH_FRACTION, {"L": 254.0}
    with qtbot.wait_signal(field.read) as read:
        QTest.keyClicks(field, "L")
    assert read.args[0].mm == 254
    QTest.keyClicks(field, "-")
    assert field.trouble == "the sum stops too early"
    QTest.keyClicks(field, "Q")
    assert field.trouble.startswith("no length is called “Q”")
    assert field.property("bad")
    field.clear()
    QTest.keyClicks(field, "3 1/8")
    assert not field.property("bad")
    assert field.toolTip() == "= 3 1/8 in"


def test_a_notice_offers_the_ways_out(qtbot):
    home = QWidget()
    qtbot.add_widget(home)
    notice = Notice(parent=home)
    done = []
    notice.say("Something is wrong.", {"Mend": lambda: done.append(1), "Leave": notice.quiet})
    assert not notice.isHidden()
    labels = [button.text() for button in notice._buttons]
    assert labels == ["Mend", "Leave"]
    QTest.mouseClick(notice._buttons[0], Qt.MouseButton.LeftButton)
    QTest.mouseClick(notice._buttons[1], Qt.MouseButton.LeftButton)
    assert done == [1]
    assert notice.isHidden()
    notice.tell("Again.")
    assert [button.text() for button in notice._buttons] == ["Close"]


# --- the card -----------------------------------------------------------------------------------


def plan_with(*moves, scale=1.0):
    return Plan(Setup((0, 0), scale), tuple(moves), {})


SET_OFF = Move(
    1, "crate", "set off", "dividers", ("A", "l"), ("B",), "Lift and set off.", 44.5, 150.0,
    Lift("front", (0, 0, 0), (44.5, 0, 0), 44.5, "18+26.5"),
)  # fmt: skip


def test_the_card_of_a_set_off():
    card = card_text(plan_with(SET_OFF), 0, Unit.MM)
    assert (card.figure, card.unit, card.instrument) == ("44.5", "mm", "dividers")
    assert card.details[0] == "lift   front view, a to b: 18+26.5 = 44.5"
    assert card.details[1] == "lay off   from A to the new point B"


def test_the_card_says_that_the_sheet_is_reduced_and_speaks_inches():
    half = replace(SET_OFF, setting_mm=22.25)
    details = card_text(plan_with(half, scale=0.5), 0, Unit.MM).details
    assert details[2] == "on the rule   22.3, true 44.5 at × 0.5"
    inch = card_text(plan_with(replace(SET_OFF, setting_mm=79.375)), 0, Unit.INCH_FRACTION)
    assert (inch.figure, inch.unit) == ("3 1/8", "in")


@pytest.mark.parametrize(
    ("angle", "figure", "slant"),
    [(30.0, "30°", "rises to the right"), (150.0, "30°", "rises to the left"),
     (-30.0, "30°", "rises to the left"), (90.0, "90°", "upright"), (0.0, "0°", "level"),
     (135.0, "45°", "rises to the left")],
)  # fmt: skip
def test_the_card_of_a_line(angle, figure, slant):
    line = Move(1, "crate", "draw", "set square", ("A",), ("l",), "Draw.", None, angle)
    card = card_text(plan_with(line), 0, Unit.MM)
    assert (card.figure, card.details) == (figure, (f"the line   {slant}",))


def test_the_card_after_the_last_move_says_what_the_ovals_cost():
    last = Move(1, "firm in", "firm in", "soft pencil", ("A", "B", "l"), ("s1",), "Firm in.")
    plan = replace(plan_with(last), true_gap_mm=0.53, true_gap_at="eye")
    card = card_text(plan, 1, Unit.MM)
    assert card.figure == "✓"
    assert card.details == ("off the true ellipse by up to 0.53 mm, at “eye”",)


def test_the_card_of_an_offset_table_lists_its_points():
    names = tuple(f"P{number}" for number in range(1, 31))
    rows = tuple((number + 0.5, -2.25 * number) for number in range(30))
    table = Move(1, "carve", "plot", "dividers", ("A", "x", "y"), names, "Set off.", table=rows)
    card = card_text(plan_with(table), 0, Unit.MM)
    assert card.figure == "offsets"
    assert card.details[0].startswith("P1: 0.5, 0     P2: 1.5, -2.25")
    assert len(card.details) == 3
    assert card.details[-1].endswith("…")


# --- the line to the worker ---------------------------------------------------------------------


@pytest.fixture
def line(qtbot):
    line = KernelLine(Revisions())
    line.ask("warm up", "look", stepped_block(), (ISO,))
    qtbot.wait_until(lambda: not line.is_busy, timeout=20_000)
    yield line
    line.close()


def test_overtaken_answers_are_dropped(line, qtbot):
    answers, busy = [], []
    line.answered.connect(lambda purpose, value: answers.append((purpose, value.looks)))
    line.busy_changed.connect(busy.append)
    directions = [(float(n), -1.0, 1.0) for n in range(1, 6)]
    for direction in directions:
        line.ask("picture", "look", stepped_block(), (direction,))
    line.ask("other", "look", stepped_block(), (ISO,))
    qtbot.wait_until(lambda: not line.is_busy, timeout=20_000)
    pictures = [looks[0].toward_viewer for purpose, looks in answers if purpose == "picture"]
    assert pictures == [directions[-1]]
    assert [purpose for purpose, _ in answers].count("other") == 1
    assert busy == [True, False]


def test_an_error_is_told_with_its_purpose(line, qtbot):
    with qtbot.wait_signal(line.failed, timeout=20_000) as failed:
        line.ask("open", "list_solids", "/nowhere/a.step")
    assert failed.args[0] == "open"
    assert "a.step cannot be read" in str(failed.args[1])


def test_a_death_at_work_is_told_and_the_next_question_answered(line, qtbot):
    os.kill(line.worker.pid, signal.SIGSTOP)
    line.ask("picture", "look", stepped_block(), (ISO,))
    with qtbot.wait_signal(line.failed, timeout=20_000) as failed:
        os.kill(line.worker.pid, signal.SIGKILL)
    assert "stopped unexpectedly" in str(failed.args[1])
    with qtbot.wait_signal(line.answered, timeout=20_000):
        line.ask("picture", "look", stepped_block(), (ISO,))


def test_the_screen_shows_regions_and_turned_words(qtbot):
    square = ((10.0, 10.0), (60.0, 10.0), (60.0, 60.0), (10.0, 60.0))
    filled = Region("visible", (square,), 1.0)
    hatched = Region("visible", (tuple((x + 60, y) for x, y in square),), None, Hatch(45.0, 6.0))
    leaning = Words((20.0, 90.0), "HHHH", 12.0, layer="title", along_deg=30.0, lean_deg=-30.0)

    def shown(**changes):
        view = PageView()
        qtbot.add_widget(view)
        view.resize(500, 500)
        view.show_page(Drawing(130.0, 130.0, (), **changes), None)
        image = view.grab().toImage()

        def dark(x, y):
            place = view.to_screen((x, y)).toPoint()
            return image.pixelColor(place).lightness() < 128

        return dark

    dark = shown(words=(leaning,), regions=(filled, hatched))
    assert dark(35, 35)
    places = [(70.5 + 0.5 * step, 30.0) for step in range(98)]
    share = sum(dark(*place) for place in places) / len(places)
    assert 0.02 < share < 0.6
    # the words climb to the right: their end stands well above their beginning
    assert any(dark(20 + 0.5 * k, 90 + 0.29 * k + 4) for k in range(60))
    assert not any(dark(45 + 0.5 * k, 92) for k in range(40))


# --- look ---------------------------------------------------------------------------------------


def test_axes_differ_by_more_than_colour():
    assert len(set(AXIS_COLOURS)) == len(set(AXIS_DASHES)) == 3


@pytest.mark.parametrize("theme", [LIGHT, DARK], ids=["light", "dark"])
def test_words_stand_out_from_their_ground(theme):
    for ink, ground in (
        (theme.text, theme.panel), (theme.text, theme.raised), (theme.quiet, theme.panel),
        (theme.accent_text, theme.accent), (theme.trouble, theme.trouble_back),
        (theme.ink, theme.paper), (theme.hidden_ink, theme.paper), (theme.ghost, theme.paper),
        *((colour, theme.paper) for colour in AXIS_COLOURS),
    ):  # fmt: skip
        assert contrast(ink, ground) > 4.4, (ink, ground)


def contrast(one: str, two: str) -> float:
    """WCAG 2.1 contrast ratio of two colours."""
    lights = sorted(luminance(colour) for colour in (one, two))
    return (lights[1] + 0.05) / (lights[0] + 0.05)


def luminance(colour: str) -> float:
    parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [p / 12.92 if p <= 0.03928 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def test_every_icon_is_drawn(qapp):
    for name in _LINES:
        image = icon(name).pixmap(24, 24).toImage()
        assert any(
            image.pixelColor(x, y).alpha() > 0
            for x in range(image.width()) for y in range(image.height())
        ), name  # fmt: skip


def test_fonts_ship_with_their_licences():
    assert {path.name for path in FONTS.iterdir()} == {
        "Inter-LICENCE.txt", "Inter-Letters.ttf", "Inter-Regular.otf", "Inter-SemiBold.otf",
        "RoutedGothic-LICENCE.txt", "RoutedGothic.ttf",
    }  # fmt: skip


# --- the session --------------------------------------------------------------------------------


def test_an_imported_part_cannot_be_carved_but_says_so(desk, settle):
    solid = ImportedSolid("gone", "/nowhere/gone.step", 0)
    desk.session.document.edit(desk.session.document.job.with_source("p1", solid), "swap")
    settle(desk)
    assert desk.session.document.part is None
    assert "gone.step cannot be read" in desk.trouble.text
    for name in ("cut", "add"):
        desk.pages["carve"].add_prism(name)
        desk.pages["carve"].add_round(name)
    desk.pages["carve"].remove()
    desk.pages["carve"].shift(1)
    assert desk.session.document.job_part.source == solid
    desk.session.document.undo()
    settle(desk)
    assert desk.trouble.isHidden()


def test_units_are_changed_without_a_change_of_size(desk, settle):
    desk.session.document.use_unit(Unit.INCH_FRACTION)
    settle(desk)
    assert desk.session.document.part.crate.sizes == (84, 46, 37.5)
    assert desk.pages["carve"].sizes[0].text() == "84 mm"
    assert desk.measures.text().startswith("isometric drawing")
    desk.session.document.undo()
    assert desk.pages["carve"].sizes[0].text() == "84"


def test_the_menus_offer_what_they_say(desk):
    new = [action.text() for action in desk._new_menu().actions() if action.text()]
    assert "Lengths in inch fractions" in new
    assert any(entry.startswith("New job") for entry in new)
    assert new[-1] == "Keep this job as a template"
    export = [action.text() for action in desk.filing.export_menu().actions()]
    assert "Export the plan …" in export
    assert desk.filing.open_menu().actions()[0].text() == "Choose a file …"


def test_parts_come_and_go(desk, settle):
    desk.session.document.begin_part()
    settle(desk)
    assert desk.page == "carve"
    assert desk.parts.count() == 10
    desk.session.document.number_part("SLW-200")
    desk.session.document.rename_job("lamp two")
    assert desk.session.document.title.number == "SLW-200"
    assert desk.windowTitle().startswith("lamp two •")
    desk.session.document.remove_part()
    settle(desk)
    assert desk.parts.count() == 9


def test_a_hole_is_measured_from_the_other_edge_without_moving(desk, settle):
    desk.session.document.choose_part(2)
    settle(desk)
    desk.session.document.choose_operation(3)
    editor = desk.pages["carve"].editor
    before = desk.session.document.part.operations[3].centre_mm(desk.session.document.part.crate)
    editor._refer_centre("v", True)
    eye = desk.session.document.part.operations[3]
    assert (eye.v.far, eye.v.distance.text) == (True, "18.5")
    assert eye.centre_mm(desk.session.document.part.crate) == before
    QTest.keyClick(editor.board, Qt.Key.Key_Right)  # no corner in hand: nothing moves
    assert desk.session.document.part.operations[3] == eye
    QTest.mouseClick(
        editor.board, Qt.MouseButton.LeftButton, pos=editor.board.corner_on_screen(0).toPoint()
    )
    QTest.keyClick(editor.board, Qt.Key.Key_Right)
    moved = desk.session.document.part.operations[3].centre_mm(desk.session.document.part.crate)
    assert moved == pytest.approx((before[0] + 0.5, before[1]))


def test_depths_through_and_back(desk, settle):
    editor = desk.pages["carve"].editor
    button: QPushButton = editor.through
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    operation = desk.session.document.part.operations[0]
    assert (operation.end.text, operation.end.mm) == ("D/2", 23)
    editor.end_field.setFocus()
    editor.end_field.selectAll()
    QTest.keyClicks(editor.end_field, "D-9")
    settle(desk)
    assert desk.session.document.part.operations[0].end.mm == 37
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    assert desk.session.document.part.operations[0].end is None


def test_cut_becomes_add_and_the_face_changes(desk, settle):
    editor = desk.pages["carve"].editor
    QTest.mouseClick(editor.modes["add"], Qt.MouseButton.LeftButton)
    assert desk.session.document.part.operations[0].mode == "add"
    editor.face.setCurrentIndex(1)
    editor.face.activated.emit(1)
    assert desk.session.document.part.operations[0].face.value == "rear"
    settle(desk)
    desk.pages["carve"].begin.activated.emit(1)
    settle(desk)
    assert desk.session.document.part.begin == "empty"


def test_screenshots_are_few_and_linked(request):
    root: Path = request.config.rootpath
    shots = sorted(path.name for path in (root / "docs" / "screenshots").glob("*.png"))
    assert 0 < len(shots) < 20
    readme = (root / "README.md").read_text("utf-8")
    assert all(f"docs/screenshots/{name}" in readme for name in shots)


def test_small_pictures_are_chosen_by_click_and_by_enter(desk, settle):
    desk.show_page("picture")
    settle(desk)
    page = desk.pages["picture"]
    for number, choose in (
        (1, lambda small: QTest.mouseClick(small.press, Qt.MouseButton.LeftButton)),
        (2, lambda small: QTest.keyClick(small.press, Qt.Key.Key_Return)),
    ):
        wanted = desk.session.proposals.best[number]
        choose(page.small[number])
        settle(desk)
        choice = desk.session.document.figure
        assert (choice.kind, choice.corner) == (wanted.kind, wanted.corner)
        assert page.small[number].is_chosen
        assert page.small[number].press.accessibleName().endswith(f"key {number + 1}")


def test_hidden_lines_show_by_school(desk, settle):
    desk.show_page("picture")
    pane = desk.pages["picture"].pane
    counts = {}
    for school in ("omit", "thin", "dashed"):
        desk.pages["picture"].column.hidden._buttons[school].click()
        settle(desk)
        counts[school] = [line.style for line in pane.lines].count(
            {"omit": "hidden", "thin": "hidden thin", "dashed": "hidden"}[school]
        )
    assert counts["omit"] == 0
    assert counts["thin"] == counts["dashed"] > 5


def test_round_strokes_stand_on_the_finished_sheet(desk, settle):
    desk.session.document.choose_part(2)
    settle(desk)
    desk.show_page("draw")
    page, plan = desk.pages["draw"], desk.session.answers.planned.plan
    page.go_to(len(plan.moves))
    lines = page.paper.lines
    drawn = [line for line in lines if line.style == "visible"]
    frame = 6  # the sides of border and title block
    assert len(drawn) == len(desk.session.answers.picture.visible) + frame
    arcs = [s for s in desk.session.answers.picture.visible if isinstance(s.curve, EllipticArc)]
    assert sum(len(line.path) > 10 for line in drawn) == len(arcs) == 7
    assert "Every stroke stands" in page.card.accessibleDescription()


def test_the_paper_shows_the_whole_sheet_first_and_the_work_then(desk):
    desk.show_page("draw")
    page = desk.pages["draw"]
    page.go_to(0)
    whole = page.paper.pixels_per_mm
    page.go_to(30)
    assert page.paper.pixels_per_mm > 1.3 * whole


def test_the_draw_page_follows_a_changed_part(desk, settle):
    desk.show_page("draw")
    page = desk.pages["draw"]
    page.go_to(60)
    desk.session.document.choose_part(1)
    settle(desk)
    assert page.at <= len(desk.session.answers.planned.plan.moves)
    count = len(desk.session.answers.planned.plan.moves)
    page.go_to(10**6)
    assert page.at == count
    page.go_to(-5)
    assert page.at == 0


def test_recovered_work_can_be_discarded(empty_desk):
    autosave = Autosave()
    autosave.keep(job_of("left behind", [stepped_block()]), None)
    os.close(autosave._lock)  # as when its process is killed
    empty_desk.open_first(None)
    QTest.mouseClick(empty_desk.question.buttons["Discard it"], Qt.MouseButton.LeftButton)
    assert left_behind() == []
    assert empty_desk.session.document.job.parts == ()


def test_closing_asks_in_place_before_edits_are_lost(desk):
    desk.session.document.rename_job("changed")
    assert not desk.close()
    assert list(desk.question.buttons) == ["Save and go on", "Go on without", "Stay"]
    QTest.mouseClick(desk.question.buttons["Stay"], Qt.MouseButton.LeftButton)
    assert desk.question.isHidden()
    assert desk.isVisible()
    assert not desk.close()
    QTest.mouseClick(desk.question.buttons["Go on without"], Qt.MouseButton.LeftButton)
    assert not desk.isVisible()


def test_a_target_that_cannot_be_written_keeps_the_job(desk, tmp_path):
    desk.session.document.rename_job("changed")
    desk.filing.save_to(tmp_path / "no" / "such" / "folder.holoptic")
    assert desk.hint.text.startswith("Not saved: folder.holoptic cannot be written")
    assert not desk.session.document.history.is_saved
    desk.filing.export("picture", tmp_path / "no" / "a.svg")
    assert desk.hint.text.startswith("Not exported: a.svg cannot be written")
    assert list(tmp_path.glob("**/*.svg")) == []


def test_a_spoilt_part_is_not_exported(desk, settle, tmp_path):
    editor = desk.pages["carve"].editor
    editor.corners.setFocus()
    editor.corners.selectAll()
    QTest.keyClicks(editor.corners, "0, 0; L, 0; L, H; 0, H")
    settle(desk)
    desk.filing.export("picture", tmp_path / "a.svg")
    assert "leaves nothing of the part; mend it" in desk.hint.text
    assert not (tmp_path / "a.svg").exists()


@pytest.mark.parametrize(("width", "rows"), [(360, 4), (520, 3), (1200, 1)])
def test_ways_out_that_have_no_room_beside_each_other_go_in_the_next_row(qtbot, width, rows):
    home = QWidget()
    qtbot.add_widget(home)
    notice = Notice(parent=home, stacked=True)
    words = [f"{number}  another way out, {'and on ' * number}" for number in (1, 2, 3, 4)]
    taken = []
    notice.say("It will not fit.", {word: partial(taken.append, word) for word in words})
    notice.resize(width, notice.heightForWidth(width))
    home.show()
    buttons = list(notice.buttons.values())
    assert all(button.width() >= button.sizeHint().width() for button in buttons)
    assert all(notice.rect().contains(button.geometry()) for button in buttons)
    places = [button.geometry() for button in buttons]
    assert not any(a.intersects(b) for a, b in combinations(places, 2))
    assert len({place.top() for place in places}) == rows
    buttons[-1].click()
    assert taken == [words[-1]]


def test_the_card_of_a_distance_that_no_view_shows_says_so_and_its_figure_once():
    lift = Lift("front", (0, 0, 0), (2.48, 0, 0), 2.48, on_rule(2.48), is_worked_out=True)
    card = card_text(plan_with(replace(SET_OFF, setting_mm=2.48, lift=lift)), 0, Unit.MM)
    assert card.details[0] == "worked out   2.48, which no view shows"
