"""The window as a drafter uses it."""

import math
import os
import signal
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QLineEdit, QPushButton

from cast import stepped_block
from holoptic.curves.space import EllipticArc
from holoptic.curves.vectors import apply
from holoptic.demo import job_path
from holoptic.desk.application.window import DeskWindow
from holoptic.desk.look.settings import read_settings
from holoptic.desk.widgets.caret_slip import slip_in
from holoptic.exchange.job_file import parse_job, read_job
from holoptic.exchange.safekeeping import Autosave
from holoptic.job import job_of
from holoptic.part import Hole
from holoptic.part.outline_text import outline_text
from holoptic.worker.messages import Progress
from pointer import hover

Key = Qt.Key
CTRL = Qt.KeyboardModifier.ControlModifier
ALT = Qt.KeyboardModifier.AltModifier


def click(widget, place: QPointF) -> None:
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=place.toPoint())


def type_into(field: QLineEdit, text: str) -> None:
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)


def buttons_of(notice) -> dict[str, QPushButton]:
    return {button.text(): button for button in notice.findChildren(QPushButton)}


# --- the process --------------------------------------------------------------------------------


def test_the_window_process_never_imports_the_kernel(tmp_path):
    code = f"""
import sys
from holoptic.cli.main import main
code = main(["demo", "--page", "draw", "--screenshot", {str(tmp_path / "d.png")!r}])
kernel = [name for name in sys.modules if name.split(".")[0] == "OCP"]
assert "holoptic.desk.pages.draw.page" in sys.modules
sys.exit(code or len(kernel))
"""
    result = subprocess.run([sys.executable, "-c", code], capture_output=True, check=False)
    assert result.returncode == 0, result.stderr
    assert (tmp_path / "d.png").read_bytes().startswith(b"\x89PNG")


def test_without_a_display_it_says_so_in_one_line(tmp_path):
    gone = {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}
    environment = {key: value for key, value in os.environ.items() if key not in gone}
    shot = tmp_path / "d.png"
    result = subprocess.run(
        [sys.executable, "-m", "holoptic", "demo", "--screenshot", str(shot), "--size", "1000x700"],
        env=environment, capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert (result.returncode, result.stdout) == (0, "")
    assert result.stderr == "holoptic: no display found, going on off screen\n"
    assert shot.exists()


def test_an_unfurnished_window_takes_keys_and_can_be_closed(qtbot):
    window = DeskWindow()
    qtbot.add_widget(window)
    window.show()
    qtbot.wait_exposed(window)
    for key in (Key.Key_F3, Key.Key_F6, Key.Key_Space):
        QTest.keyClick(window, key)
    assert window.measures.text().startswith("Getting the bench ready")
    assert window.close()
    window.close_down()


# --- pages --------------------------------------------------------------------------------------


def test_the_demo_shows_views_beside_the_picture(desk):
    assert desk.page == "carve"
    assert [view.name for view in desk.session.answers.placed] == ["front", "top", "right"]
    assert len(desk.session.answers.picture.visible) == 36
    assert desk.trouble.isHidden()
    assert desk.windowTitle() == "Skerry Lamp Works: harbour lamp – Holoptic"


def test_pages_and_parts_by_key(desk, press, settle):
    press(desk, Key.Key_F4)
    assert desk.page == "picture"
    press(desk, Key.Key_F6)
    assert desk.page == "sheet"
    press(desk, Key.Key_F7)
    assert desk.page == "draw"
    press(desk, Key.Key_PageDown, modifier=CTRL)
    settle(desk)
    assert desk.parts.currentText() == "wedge foot"
    assert desk.session.answers.picture.visible


def test_choosing_a_picture_by_one_key(desk, press, settle):
    press(desk, Key.Key_F4)
    settle(desk)
    wanted = desk.session.proposals.best[2]
    assert wanted.kind != "isometric"
    press(desk, Key.Key_3)
    settle(desk)
    choice = desk.session.document.figure
    assert (choice.kind, choice.corner) == (wanted.kind, wanted.corner)
    assert (
        desk.session.answers.view
        == desk.session.proposals.pictures[wanted.kind, wanted.corner].view
    )
    press(desk, Key.Key_Z, modifier=CTRL)
    settle(desk)
    assert desk.session.document.figure.kind == "isometric"


def test_lines_and_views_by_one_key(desk, press, settle):
    press(desk, Key.Key_F4)
    press(desk, Key.Key_H, Key.Key_H, Key.Key_T, Key.Key_C, Key.Key_V)
    settle(desk)
    choice = desk.session.document.figure.lines
    assert (choice.hidden, choice.outline) == ("dashed", "thick-and-thin")
    assert not choice.centre_lines
    assert desk.session.document.job.angle == desk.session.answers.angle == "first"
    right, front = desk.views.placed[2], desk.views.placed[0]
    assert right.extent[2] < front.extent[0]
    styles = {line.style for line in desk.pages["picture"].pane.lines}
    assert styles == {"hidden", "visible thick", "visible thin"}


def test_the_near_corner_by_arrow_and_click(desk, press, settle):
    press(desk, Key.Key_F4)
    page = desk.pages["picture"]
    seen = [desk.session.document.figure.corner]
    for key in (Key.Key_Right, Key.Key_Right, Key.Key_Right, Key.Key_Down, Key.Key_Right):
        QTest.keyClick(page, key)
        settle(desk)
        seen.append(desk.session.document.figure.corner)
    assert seen == ["front-right", "rear-right", "rear-left", "front-left", "front-left-below",
                    "front-right-below"]  # fmt: skip
    picker = page.column.corner
    place = picker._places(desk.session.answers.view)[1, 1, 1]
    QTest.mouseClick(picker, Qt.MouseButton.LeftButton, pos=place.toPoint())
    settle(desk)
    assert desk.session.answers.view.corner.value == "rear-right"


def test_every_kind_can_be_chosen_with_its_figures(desk, settle, press):
    press(desk, Key.Key_F4)
    column = desk.pages["picture"].column
    for index in range(column.kinds.count()):
        column.kinds.activated.emit(index)
        settle(desk)
        assert desk.session.answers.view.title.startswith(column.kinds.currentText())
    figures = [slider for slider in column.sliders if slider.isVisible()]
    assert len(figures) == 2
    steps = desk.session.document.history.undo_text
    figures[0].slider.setValue(33)
    figures[0].slider.setValue(34)
    settle(desk)
    assert desk.session.document.figure.kind == "plan-oblique:34:1"
    desk.session.document.undo()  # a slider's moves are one step
    assert desk.session.document.figure.kind == "plan-oblique"
    assert desk.session.document.history.undo_text == steps


def test_lines_that_fall_together_are_warned_of(desk, settle, press):
    desk.session.document.choose_part(
        3
    )  # the latch plate: its mitred corner is one line from this side
    desk.session.document.picture_as("isometric", "front-right")
    press(desk, Key.Key_F4)
    settle(desk)
    page = desk.pages["picture"]
    assert "“plate” fall on one line" in page.warning.text
    assert "keeps them apart" in page.warning.text
    page.warning._buttons[0].click()
    settle(desk)
    assert not desk.session.proposals.of(desk.session.answers.view).collides
    assert page.warning.isHidden()


def test_every_candidate_is_a_live_picture(desk, press, settle):
    press(desk, Key.Key_F4)
    settle(desk)
    page = desk.pages["picture"]
    assert [small.is_chosen for small in page.small] == [True, False, False, False, False]
    assert page.small[0].titles == ("isometric", "front right")
    assert page.small[0].reasons == "shows every feature; 36 of 48 edges seen"
    assert all(small.lines for small in page.small)


def test_clicking_an_edge_lights_it_up_everywhere(desk):
    pane = desk.pages["carve"].pane
    edge = next(
        edge for edge in desk.session.answers.facts.edges
        if {edge.curve.start, edge.curve.end} == {(0, 0, 0), (84, 0, 0)}
    )  # fmt: skip
    click(pane, pane.to_screen(apply(desk.session.answers.view.matrix, (60, 0, 0))))
    assert desk.session.selection.edge == edge.index
    assert desk.measures.text().startswith(
        "Edge of the block: true 84 mm (3.3071 in)   ·   drawn 84 mm (3.3071 in) at -30.0°"
    )
    click(pane, QPointF(8, 8))
    assert desk.session.selection.edge is None
    front = desk.views.placed[0]
    click(desk.views, desk.views.to_screen((front.origin[0] + 10, front.origin[1])))
    assert desk.session.selection.edge == edge.index


def test_touching_an_edge_and_picking_points_measures_them(desk, press, settle):
    desk.session.document.choose_part(2)  # the bearing bracket, in cabinet oblique
    desk.show_page("picture")
    settle(desk)
    pane, session = desk.pages["picture"].pane, desk.session
    eye = [operation.name for operation in session.document.part.operations].index("eye")
    rim = next(s for s in session.answers.picture.visible
               if isinstance(s.curve, EllipticArc) and s.origin.operation == eye)  # fmt: skip
    hover(pane, QPoint(5, 5))
    hover(pane, pane.to_screen(rim.path[len(rim.path) // 3]).toPoint())
    assert "radius 9.5   ·   drawn as a circle 19" in desk.measures.text()
    assert session.selection.edge is None
    hover(pane, QPoint(5, 5))
    for point in ((0, 0, 14.5), (66, 44.5, 14.5)):
        place = pane.to_screen(apply(session.answers.view.matrix, point))
        QTest.mouseClick(pane, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier,
                         place.toPoint())  # fmt: skip
    assert session.selection.points == ((0, 0, 14.5), (66, 44.5, 14.5))
    true = math.hypot(66, 44.5)
    assert desk.measures.text().startswith(f"Between the points: true {true:.4g} mm")
    assert desk.measures.text().endswith("L 66  D 44.5")
    desk.grab()  # the points are painted
    press(desk, Key.Key_E)
    assert (session.selection.edge is not None, session.selection.points) == (True, ())
    first = session.selection.edge
    press(desk, Key.Key_E)
    press(desk, Key.Key_E, modifier=Qt.KeyboardModifier.ShiftModifier)
    assert session.selection.edge == first


def test_long_work_says_how_far_it_is_and_can_be_stopped(desk, settle, qtbot):
    job = desk.session.document.job
    desk.session.kernel.worker.start()
    os.kill(desk.session.kernel.worker.pid, signal.SIGSTOP)  # work that takes for ever
    desk.session.document.choose_part(1)
    panes = desk.views.size()
    qtbot.wait_until(lambda: desk.work.text().startswith("Working out the solid"), timeout=5000)
    desk.session.kernel.told.emit(Progress(1, "looking at it from each side", 0.25))
    assert desk.work.text() == "Working out the solid … looking at it from each side, 25 %"
    QTest.qWait(50)
    assert desk.views.size() == panes  # nothing is pushed about under the hand
    QTest.mouseClick(desk.stop, Qt.MouseButton.LeftButton)
    settle(desk)
    assert "the work was stopped" in desk.trouble.text
    assert desk.session.document.job == job
    desk.trouble._buttons[0].click()  # try again
    settle(desk)
    assert desk.trouble.isHidden()
    assert desk.session.answers.is_current("picture")


def test_the_solid_is_exported_by_the_worker(desk, settle, tmp_path):
    desk.filing.export("solid", tmp_path / "block.step")
    settle(desk)
    assert desk.hint.text == "Exported block.step"
    desk.session.open_file(tmp_path / "block.step")
    settle(desk)
    assert desk.session.answers.facts.volume == pytest.approx(84 * 46 * 37.5, rel=0.5)
    desk.filing.export("solid", tmp_path / "block.obj")
    assert ".step, .stp" in desk.hint.text


# --- carving ------------------------------------------------------------------------------------


def test_a_size_takes_a_sum_and_the_picture_follows(desk, settle):
    carve = desk.pages["carve"]
    type_into(carve.sizes[0], "80+12.5")
    settle(desk)
    assert desk.session.document.part.crate.length.text == "80+12.5"
    assert desk.session.answers.facts.high[0] == 92.5
    # the step hangs on the right end: L-26.5
    assert desk.session.document.part.operations[0].outline[0].u.mm == 66
    desk.session.document.undo()
    settle(desk)
    assert desk.session.document.part.crate.length.text == "84"  # all the typing was one edit


def test_a_sum_that_cannot_be_read_is_marked_and_explained(desk):
    field = desk.pages["carve"].sizes[0]
    before = desk.session.document.job
    type_into(field, "80+*")
    assert field.property("bad")
    slip = slip_in(desk)
    assert slip.isVisible()
    assert "not expected here" in slip.text()
    assert desk.hint.isHidden()
    assert desk.session.document.job.parts[0].source.crate.length.mm in (80, 84)
    type_into(field, "84")
    assert not field.property("bad")
    assert slip.isHidden()
    assert desk.session.document.job == before


def test_a_part_from_an_empty_job_by_keys(empty_desk, press, settle):
    desk = empty_desk
    press(desk, Key.Key_N, modifier=CTRL)
    carve = desk.pages["carve"]
    for field, size in zip(carve.sizes, ("72.5", "38", "41"), strict=True):
        type_into(field, size)
    press(desk, Key.Key_C, modifier=ALT)
    assert QApplication.focusWidget() is carve.editor.name
    QTest.keyClicks(carve.editor.name, "slope")
    type_into(carve.editor.corners, "23, H; L, H; L, 13.5")
    press(desk, Key.Key_H, modifier=ALT)
    type_into(carve.editor.sizes.fields["diameter"], "9")
    type_into(carve.editor.distance["u"], "12")
    settle(desk)
    part = desk.session.document.part
    assert [operation.name for operation in part.operations] == ["slope", "hole 1"]
    assert isinstance(part.operations[1], Hole)
    volume = 72.5 * 38 * 41 - 49.5 * 27.5 / 2 * 38 - 3.14159265 * 4.5**2 * 38
    assert desk.session.answers.facts.volume == pytest.approx(volume, rel=1e-6)


def test_operations_are_reordered_removed_and_brought_back(desk, press, settle):
    carve = desk.pages["carve"]
    carve.list.setFocus()
    press(desk, Key.Key_Down)
    assert desk.session.document.operation_index == 1
    press(desk, Key.Key_Up, modifier=ALT)
    assert desk.session.document.part.operations[0].name == "lower step"
    press(desk, Key.Key_Delete, modifier=ALT)
    settle(desk)
    assert len(desk.session.document.part.operations) == 3
    press(desk, Key.Key_Z, Key.Key_Z, modifier=CTRL)
    settle(desk)
    assert desk.session.document.part == read_job(job_path()).parts[0].source
    press(desk, Key.Key_Z, modifier=CTRL | Qt.KeyboardModifier.ShiftModifier)
    assert desk.session.document.part.operations[0].name == "lower step"


def test_a_corner_is_dragged_and_snaps(desk, settle):
    board = desk.pages["carve"].editor.board
    start, end = board.corner_on_screen(0), board.to_screen((46.2, 37.3))
    QTest.mousePress(board, Qt.MouseButton.LeftButton, pos=start.toPoint())
    for t in (0.3, 0.7, 1.0):
        QTest.mouseMove(board, (start + (end - start) * t).toPoint())
    QTest.mouseRelease(board, Qt.MouseButton.LeftButton, pos=end.toPoint())
    settle(desk)
    corner = desk.session.document.part.operations[0].outline[0]
    assert corner.v.mm == 37.5  # the crate's own edge
    assert corner.u.mm == pytest.approx(46, abs=1)
    assert corner.u.mm * 2 == round(corner.u.mm * 2)
    desk.session.document.undo()
    assert desk.session.document.part.operations[0].outline[0].u.text == "L-26.5"


def test_a_corner_is_put_in_by_a_click_and_taken_out_by_delete(desk):
    board = desk.pages["carve"].editor.board
    click(board, board.to_screen((70, 25.5)))
    assert len(desk.session.document.part.operations[0].outline) == 5
    QTest.keyClick(board, Key.Key_Delete)
    assert outline_text(desk.session.document.part.operations[0].outline) == (
        "L-26.5, H; L, H; L, H-12; L-26.5, H-12"
    )


def test_a_cut_that_leaves_nothing_is_said_in_place(desk, settle):
    before = desk.session.answers.picture
    type_into(desk.pages["carve"].editor.corners, "0, 0; L, 0; L, H; 0, H")
    settle(desk)
    assert not desk.trouble.isHidden()
    assert "“upper step” leaves nothing of the part" in desk.trouble.text
    assert "left out of the picture" in desk.trouble.text
    assert len(desk.session.answers.picture.visible) < len(before.visible)
    assert desk.pages["carve"].list.item(0).text().startswith("⚠")
    QTest.mouseClick(buttons_of(desk.trouble)["Undo"], Qt.MouseButton.LeftButton)
    settle(desk)
    assert desk.trouble.isHidden()


def test_the_worker_may_die_and_the_job_stays(desk, settle):
    job = desk.session.document.job
    os.kill(desk.session.kernel.worker.pid, signal.SIGKILL)
    desk.session.document.picture_as("isometric", "front-left")
    settle(desk)
    desk.session.document.undo()
    settle(desk)
    assert desk.session.document.job == job
    assert desk.trouble.isHidden()
    assert desk.session.answers.is_current("picture")


def test_a_worker_killed_at_work_is_told_of(desk, settle):
    os.kill(desk.session.kernel.worker.pid, signal.SIGSTOP)
    desk.session.document.picture_as("isometric", "front-left")
    desk.session.kernel.stop()
    settle(desk)
    assert "the work was stopped" in desk.trouble.text
    assert desk.session.answers.view.corner.value == "front-right"  # the last good picture
    QTest.mouseClick(buttons_of(desk.trouble)["Try again"], Qt.MouseButton.LeftButton)
    settle(desk)
    assert desk.trouble.isHidden()
    assert desk.session.answers.view.corner.value == "front-left"


# --- drawing ------------------------------------------------------------------------------------


def test_space_draws_and_back_takes_up(desk, press):
    press(desk, Key.Key_F7)
    page = desk.pages["draw"]
    plan = desk.session.answers.planned.plan
    press(desk, Key.Key_Space, Key.Key_Space, Key.Key_Space)
    assert page.at == 3
    press(desk, Key.Key_Backspace)
    assert page.at == 2
    for _ in plan.moves:
        press(desk, Key.Key_Space)
    assert page.at == len(plan.moves)
    assert page.card.accessibleDescription() == "The drawing is done. Every stroke stands."
    press(desk, Key.Key_Home)
    assert page.at == 0
    press(desk, Key.Key_PageDown, Key.Key_PageDown)
    assert plan.moves[page.at].phase == "crate"


def test_the_card_and_the_views_explain_a_set_off(desk, press):
    press(desk, Key.Key_F7)
    page, plan = desk.pages["draw"], desk.session.answers.planned.plan
    index = next(
        i for i, move in enumerate(plan.moves) if move.lift and move.lift.words == "18+22.5"
    )
    page.go_to(index)
    assert desk.views.lift is plan.moves[index].lift
    assert page.card.accessibleDescription() == plan.moves[index].text
    assert "40.5 (18+22.5)" in plan.moves[index].text
    desk.show_page("carve")
    assert desk.views.lift is None


def test_a_click_on_the_strip_jumps(desk, press):
    press(desk, Key.Key_F7)
    page = desk.pages["draw"]
    QTest.mouseClick(
        page.strip, Qt.MouseButton.LeftButton, pos=QPoint(round(page.strip.place_of(40)), 40)
    )
    assert page.at == 40


def test_every_step_of_demo_plans_can_be_shown(desk, press, settle):
    for index in range(0, len(desk.session.document.job.parts), 2):
        desk.session.document.choose_part(index)
        settle(desk)
        desk.show_page("draw")
        page = desk.pages["draw"]
        count = len(desk.session.answers.planned.plan.moves)
        for at in [*range(0, count, 1 if index == 0 else 7), count]:
            page.go_to(at)
            page.paper.grab()
        assert page.at == len(desk.session.answers.planned.plan.moves)


# --- files --------------------------------------------------------------------------------------


def test_export_writes_what_is_shown(desk, tmp_path):
    for what, name in (("picture", "p.pdf"), ("views", "v.svg"), ("plan", "m.txt")):
        desk.filing.export(what, tmp_path / name)
        assert desk.hint.text == f"Exported {name}"
        assert (tmp_path / name).stat().st_size > 1000
    desk.filing.export("picture", tmp_path / "p.gif")
    assert "must end in" in desk.hint.text


def test_save_open_and_the_recent_files(desk, tmp_path, settle, press):
    path = tmp_path / "mine.holoptic"
    desk.session.document.picture_as("cabinet", "front-left")
    assert desk.windowTitle().startswith("Skerry Lamp Works: harbour lamp •")
    desk.filing.save_to(path)
    assert desk.session.document.history.is_saved
    desk.filing.new_job()
    assert desk.session.document.job.parts == ()
    desk.filing.open(path)
    settle(desk)
    assert desk.session.document.figure.kind == "cabinet"
    (tmp_path / "broken.holoptic").write_text('{"format": "holoptic-job", "version": 99}')
    desk.filing.open(tmp_path / "broken.holoptic")
    assert "newer Holoptic" in desk.hint.text
    assert desk.session.document.path == path


def test_unsaved_edits_are_not_lost_by_leaving(desk):
    desk.session.document.picture_as("cabinet", "front-left")
    desk.filing.new_job()
    assert len(desk.session.document.job.parts) == 9
    assert "edits that are not saved" in desk.question.text
    QTest.mouseClick(desk.question.buttons["Go on without"], Qt.MouseButton.LeftButton)
    assert desk.session.document.job.parts == ()


def test_recovered_work_is_offered(empty_desk, settle):
    autosave = Autosave()
    autosave.keep(job_of("left behind", [stepped_block()]), None)
    os.close(autosave._lock)  # as when its process is killed
    empty_desk.open_first(None)
    assert "“left behind” was not saved" in empty_desk.question.text
    QTest.mouseClick(empty_desk.question.buttons["Bring it back"], Qt.MouseButton.LeftButton)
    settle(empty_desk)
    assert empty_desk.session.document.job.name == "left behind"
    assert not empty_desk.session.document.history.is_saved


def test_edits_are_autosaved_while_one_keeps_editing(desk, qtbot, monkeypatch):
    folder = Path(os.environ["XDG_STATE_HOME"]) / "holoptic"
    document = desk.session.document
    for number in range(14):  # an edit each quarter of a second
        document.edit(replace(document.job, name=f"lamp {number}"), "name")
        qtbot.wait(250)
    (kept,) = folder.glob("autosave-*.holoptic")
    assert kept.stat().st_mode & 0o777 == 0o600
    number = int(parse_job(kept.read_bytes()).name.removeprefix("lamp "))
    assert number >= 5  # none is on disk later than 5 s after it was made
    document.history.mark_saved()
    desk.session.close()
    assert list(folder.glob("autosave-*")) == []


def test_a_step_file_is_opened_part_by_part(empty_desk, settle, tmp_path, worker):
    from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox
    from OCP.STEPControl import STEPControl_StepModelType, STEPControl_Writer

    writer = STEPControl_Writer()
    writer.Transfer(
        BRepPrimAPI_MakeBox(31.5, 22, 14).Shape(), STEPControl_StepModelType.STEPControl_AsIs
    )
    writer.Write(str(tmp_path / "stop.step"))
    empty_desk.filing.open(tmp_path / "stop.step")
    settle(empty_desk)
    assert empty_desk.parts.currentText() == "stop"
    assert len(empty_desk.session.answers.picture.visible) == 9
    assert sum(name[0] == "s" for name in empty_desk.session.answers.planned.drafted.strokes) == 9
    (tmp_path / "bad.step").write_text("a letter")
    empty_desk.filing.open(tmp_path / "bad.step")
    settle(empty_desk)
    assert "bad.step is not a STEP file" in empty_desk.hint.text
    assert empty_desk.parts.currentText() == "stop"


def test_an_empty_desk_says_how_to_start(empty_desk, settle):
    for page in ("picture", "draw", "carve"):
        empty_desk.show_page(page)
        assert empty_desk.invitation.isVisible()
    QTest.mouseClick(empty_desk.invitation.demo.press, Qt.MouseButton.LeftButton)
    settle(empty_desk)
    assert len(empty_desk.session.document.job.parts) == 9
    assert empty_desk.session.document.path is None


def test_an_empty_desk_offers_recent_jobs(desk, tmp_path, settle):
    desk.filing.save_to(tmp_path / "mine.holoptic")
    desk.session.document.clear()
    settle(desk)
    path, card = desk.invitation.recent[0]
    assert (path.name, card.title) == ("mine.holoptic", "mine")
    assert card.lines  # a small picture of its first part
    QTest.mouseClick(card.press, Qt.MouseButton.LeftButton)
    settle(desk)
    assert desk.session.document.path == tmp_path / "mine.holoptic"


def test_part_names_can_be_changed(desk):
    desk.part_menu.rename_part()
    QTest.keyClicks(desk.part_menu.line, "lamp block")
    QTest.keyClick(desk.part_menu.line, Key.Key_Return)
    QTest.qWait(10)
    assert desk.session.document.job_part.source.name == "lamp block"
    assert desk.parts.currentText() == "lamp block"
    assert desk.session.document.history.undo_text == "rename gallery block"


def test_light_and_dark(desk):
    light = desk.grab().toImage().pixelColor(700, 20).lightness()
    desk.swap_theme()
    dark = desk.grab().toImage().pixelColor(700, 20).lightness()
    assert read_settings() == {"theme": "dark"}
    desk.swap_theme()
    assert read_settings() == {"theme": "light"}
    assert light > 200
    assert dark < 80
