"""The Draw and Sheet pages as a person at a drawing board uses them, in a real window."""

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QWidget

from holoptic.desk.look.settings import read_settings
from holoptic.desk.pages.draw.drawing_paper import ring_factor
from holoptic.desk.pages.draw.setting_card import SettingCard
from holoptic.desk.session.stepping import PACES_S, Stepping
from holoptic.exchange.job_file import job_bytes
from holoptic.job import SheetWish
from holoptic.plan.hand import Hand
from holoptic.plan.showing import passes
from holoptic.sheet.frames import frame_of

Key = Qt.Key


@pytest.fixture
def board(desk, settle, press):
    """The wedge foot on the Draw page."""
    desk.session.document.choose_part(1)
    settle(desk)
    press(desk, Key.Key_F7)
    return desk


def wish(desk, settle, **changes):
    desk.pages["sheet"].column._change("test", **changes)
    settle(desk)


# --- walking ------------------------------------------------------------------------------------


def test_a_whole_plan_is_walked_by_the_keyboard(board, press):
    page = board.pages["draw"]
    plan = board.session.answers.planned.plan
    for number, move in enumerate(plan.moves):
        assert page.card.accessibleDescription() == move.text
        assert board.views.lift is move.lift
        light = [line for line in page.paper.lines if line.style == "light"]
        firm = [line for line in page.paper.lines if line.style == "visible"]
        done = plan.moves[:number]
        assert len(firm) == sum(m.verb == "firm in" for m in done)
        drawn = sum(m.verb in ("draw", "parallel", "square", "join") for m in done)
        assert len(light) == drawn
        press(board, Key.Key_Space)
        page.paper.grab()
    assert page.at == len(plan.moves)
    assert "Every stroke stands" in page.card.accessibleDescription()


def test_the_views_are_drawn_first_then_the_pictorial_on_the_same_sheet(board, press, settle):
    page, document, answers = board.pages["draw"], board.session.document, board.session.answers
    part = document.job.parts[1].id
    press(board, Key.Key_V)
    settle(board)
    views = document.figure
    assert not views.is_pictorial
    assert [figure.subject for figure in document.sheet.figures] == [part, part]
    assert document.sheet.figures[0] == views
    assert answers.planned.plan.is_of_views
    assert answers.planned.plan.setup.blank is not None
    assert board.measures.text().startswith("orthographic views.")
    page.go_to(10**6)
    styles = [line.style for line in page.paper.lines]
    assert {"visible", "hidden", "light"} <= set(styles)
    press(board, Key.Key_N)
    settle(board)
    assert document.figure.is_pictorial
    assert answers.planned.plan.setup.blank is None, "the border stands with the views"
    assert page.paper._earlier, "the views stand on the board"
    press(board, Key.Key_V)
    settle(board)
    assert document.figure == views
    assert page.at == len(answers.planned.plan.moves)
    document.undo()
    settle(board)
    assert all(figure.is_pictorial for figure in document.sheet.figures)


def test_views_are_put_behind_a_pictorial_that_is_begun(board, press, settle):
    board.pages["draw"].go_to(12)
    press(board, Key.Key_V)
    settle(board)
    document = board.session.document
    assert [figure.is_pictorial for figure in document.sheet.figures] == [True, False]
    assert board.session.answers.planned.plan.setup.blank is None


def test_the_place_and_the_time_of_each_move_are_kept(board, press, settle):
    page = board.pages["draw"]
    now = [100.0]
    page.walk._clock = lambda: now[0]
    page.walk.go_to(4)
    now[0] += 42.0
    press(board, Key.Key_Space)
    assert page.walk.seconds == {5: 42.0}
    now[0] += 5000.0  # somebody went away
    press(board, Key.Key_Space)
    assert page.walk.seconds == {5: 42.0}
    press(board, Key.Key_F3)
    board.session.document.choose_part(0)
    settle(board)
    press(board, Key.Key_F7)
    assert page.at == 0
    board.session.document.choose_part(1)
    settle(board)
    assert page.at == 6
    assert page.walk.seconds == {5: 42.0}
    page.go_to(4)
    assert "last time   0:42" in page.card._text.details


def test_the_plan_plays_at_a_chosen_pace(board, press, qtbot):
    page = board.pages["draw"]
    press(board, Key.Key_Plus, Key.Key_Plus)
    assert page.walk.pace == PACES_S[0]
    page.go_to(len(page.walk.plan.moves) - 2)
    press(board, Key.Key_P)
    assert "playing" in page.keys.state
    qtbot.wait_until(lambda: page.walk.move is None, timeout=5000)
    assert not page.walk.is_playing
    assert page.walk.seconds == {}  # played moves say nothing about the hand
    press(board, Key.Key_P)
    assert page.at == 0
    press(board, Key.Key_P, Key.Key_Minus)
    assert (page.walk.is_playing, page.walk.pace) == (False, PACES_S[1])


def test_moves_are_picked_out_by_kind(board, press):
    page = board.pages["draw"]
    press(board, Key.Key_L)
    assert page.walk.chosen == "settings"
    plan, stops = page.walk.plan, []
    while page.walk.move is not None:
        press(board, Key.Key_Space)
        stops.append(page.at)
    assert stops == [*(i for i, m in enumerate(plan.moves) if passes(m, "settings")),
                     len(plan.moves)]  # fmt: skip
    assert "settings only" in page.keys.state


def test_construction_is_hidden_and_shown(board, press):
    page = board.pages["draw"]
    page.go_to(60)
    assert {line.style for line in page.paper.lines} == {"light", "visible"}
    press(board, Key.Key_H)
    assert {line.style for line in page.paper.lines} == {"visible"}
    assert "firm lines only" in page.keys.state


def test_the_card_has_a_window_of_its_own(board, press, qtbot):
    page = board.pages["draw"]
    press(board, Key.Key_K)
    window = page.window_card
    assert window.windowFlags() & Qt.WindowType.WindowStaysOnTopHint
    qtbot.wait_exposed(window)
    window.activateWindow()
    qtbot.wait_until(window.isActiveWindow)
    QTest.keyClick(window, Key.Key_Space)
    QTest.keyClick(window, Key.Key_Space)
    assert page.at == 2
    assert window.card.accessibleDescription() == page.walk.move.text
    QTest.keyClick(window, Key.Key_Escape)
    assert page.window_card is None


# --- ways and errors ----------------------------------------------------------------------------


def test_the_ways_are_compared_and_one_key_takes_one(board, press, settle):
    page = board.pages["draw"]
    press(board, Key.Key_W)
    settle(board)
    ways = board.session.ways.compared.ways
    assert len(ways) == 6
    press(board, Key.Key_2)
    settle(board)
    way = board.session.answers.planned.plan.way
    assert (way.strategy, way.order, way.is_own) == ("crate-and-carve", "batched", True)
    assert "instead of" in page.column.why.text()
    table = page.column.table
    QTest.mouseClick(table, Qt.MouseButton.LeftButton,
                     pos=QPointF(60, table.place_of(2)).toPoint())  # fmt: skip
    settle(board)
    assert board.session.answers.planned.plan.way.strategy == "faces-first"
    board.session.document.undo()
    settle(board)
    assert board.session.answers.planned.plan.way.strategy == "crate-and-carve"


def test_the_hand_is_the_users_own(board, press, settle):
    page = board.pages["draw"]
    usual = board.session.answers.planned.plan.budget.typical
    press(board, Key.Key_W)
    settle(board)
    field = page.column.setting
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "0.6")
    QTest.keyClick(field, Key.Key_Return)
    settle(board)
    assert board.session.ways.hand == Hand(0.6, 0.25, 0.2)
    assert board.session.answers.planned.plan.budget.typical > 1.3 * usual
    page.column.left._buttons[True].click()
    assert page.paper.left_handed
    assert (read_settings()["hand"]["setting_mm"], read_settings()["left_handed"]) == (0.6, True)


def test_the_instruments_are_the_users_own_and_no_edit_of_the_job(board, press, settle):
    page, job = board.pages["draw"], board.session.document.job
    press(board, Key.Key_W)
    settle(board)
    field = page.column.outfit["square"][1]

    def type_in(text):
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, text)
        QTest.keyClick(field, Key.Key_Return)
        settle(board)

    def told():
        moves = board.session.answers.planned.plan.moves
        return any("longer than the set square" in move.text for move in moves)

    assert not told()
    type_in("55")
    assert told()
    assert read_settings()["outfit"]["square"] == 55
    assert board.session.document.job == job
    assert board.session.document.history.is_saved
    assert b"outfit" not in job_bytes(board.session.document.job)
    type_in("3")  # no square is as short
    assert board.session.ways.outfit.square >= 50
    type_in("260")
    assert not told()


def test_errors_are_rings_on_the_paper(board, press):
    page = board.pages["draw"]
    page.go_to(70)
    before = page.paper.grab().toImage()
    press(board, Key.Key_E)
    assert page.paper.grab().toImage() != before
    assert ring_factor(1.0, 3.0) == 10.0
    assert ring_factor(50.0, 10.0) == 1.0
    board.show_page("draw")
    assert "points off by" in board._furniture.facts.accessibleDescription()


# --- the sheet ----------------------------------------------------------------------------------


def test_an_answer_is_taken_by_one_key(board, press, settle):
    press(board, Key.Key_F6)
    laid = board.session.answers.laid
    assert [layout.paper.name for layout in laid.layouts][:2] == ["A4", "A3"]
    press(board, Key.Key_2)
    settle(board)
    layout = board.session.answers.laid.layout
    assert (layout.paper, layout.scale) == (laid.layouts[1].paper, laid.layouts[1].scale)
    assert board.session.answers.planned.layout == layout
    press(board, Key.Key_A)
    settle(board)
    assert board.session.answers.laid.layout == laid.layout
    press(board, Key.Key_U, Key.Key_U)
    settle(board)
    assert board.session.answers.laid.layout.paper.is_upright


def test_what_will_not_fit_is_said_before_the_first_line(board, press, settle):
    press(board, Key.Key_F6)
    wish(board, settle, paper="A4", scale=5.0)
    assert board.session.answers.planned is None
    page = board.pages["sheet"]
    assert "will not fit on A4" in page.misfit.text
    assert page.answers[0].reasons == "another scale on this paper"
    press(board, Key.Key_F7)
    draw = board.pages["draw"]
    assert "no room" in draw.paper.empty_text
    press(board, Key.Key_1)
    settle(board)
    assert draw.misfit.isHidden()
    assert board.session.answers.laid.layout.paper.name == "A4"
    assert board.session.answers.planned is not None


def test_several_drawings_stand_on_one_sheet_and_are_drawn_one_by_one(board, press, settle):
    press(board, Key.Key_F6)
    page = board.pages["sheet"]
    part = board.session.document.job_part
    for name in ("views", "cabinet"):
        page.column.figures.add_figure(part.id, name)
        settle(board)
    laid = board.session.answers.laid
    assert [item.title for item in laid.items] == [
        "isometric drawing", "third-angle views", "cabinet oblique",
    ]  # fmt: skip
    before = laid.layout.placed
    press(board, Key.Key_N)
    settle(board)
    assert not board.session.document.figure.is_pictorial
    press(board, Key.Key_N)
    settle(board)
    assert board.session.document.figure.kind == "cabinet"
    assert board.session.answers.laid.layout.placed == before
    plan = board.session.answers.planned.plan
    assert plan.setup.blank is None  # the border stands already
    assert plan.phases[0][0] == "start"
    draw = board.pages["draw"]
    board.show_page("draw")
    draw.go_to(0)
    # what was drawn before this figure lies on the paper, and each line of it where it was drawn
    frame = frame_of(laid.layout.paper)
    ends = np.array([(*line.path[0], *line.path[-1]) for line in draw.paper.lines])
    for item in laid.items[:2]:
        at = laid.layout.of(item.figure)
        for picture, (x, y) in item.pictures:
            place = at.origin + at.scale * np.array((x, y)) - (frame.left, frame.low)
            for stroke in picture.visible:
                path = place + at.scale * np.array((stroke.path[0], stroke.path[-1]))
                assert np.abs(ends - path.ravel()).max(axis=1).min() < 1e-6
    board.session.document.choose_figure(laid.items[0].figure)
    settle(board)
    draw.go_to(0)
    assert {line.style for line in draw.paper.lines} <= {"visible thin"}  # the printed frame alone


def test_rooms_and_series_change_the_sheet(board, press, settle):
    press(board, Key.Key_F6)
    column = board.pages["sheet"].column
    field = column.rooms["caption_mm"]
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "9")
    QTest.keyClick(field, Key.Key_Return)
    settle(board)
    words = [words.text for words in board.session.answers.laid.pages[0].words]
    assert "isometric drawing" in words
    column.series._buttons["ANSI"].click()
    settle(board)
    assert board.session.answers.laid.layout.paper.name.startswith("ANSI")
    board.session.document.undo()
    board.session.document.undo()
    assert board.session.document.sheet.wish == SheetWish()


def test_a_walk_without_a_plan_stands_still(empty_desk):
    walk = Stepping(empty_desk.session)
    walk.follow()
    for step in (walk.step, walk.step_phase, walk.go_to):
        step(1)
    walk.toggle_play()
    assert (walk.at, walk.move, walk.is_playing) == (0, None, False)


# --- reading aloud ------------------------------------------------------------------------------


def test_it_is_read_aloud_and_page_keys_go_move_by_move(board, press, monkeypatch):
    page, heard = board.pages["draw"], []
    monkeypatch.setattr(page.voice, "say", heard.append)
    press(board, Key.Key_R)
    moves = board.session.answers.planned.plan.moves
    assert heard[-1].endswith(moves[0].text)
    for _ in range(2):
        press(board, Key.Key_PageDown)
    assert page.at == 2
    assert heard[-1].endswith(moves[2].text)
    press(board, Key.Key_PageUp)
    assert page.at == 1
    assert len(heard) == 4
    assert "page keys draw" in page.keys.state
    press(board, Key.Key_R)
    press(board, Key.Key_PageDown)
    assert page.at == len([move for move in moves if move.phase == "sheet"])
    assert len(heard) == 4


def test_without_a_voice_nothing_is_said_and_nothing_fails(board, press, monkeypatch):
    voice = board.pages["draw"].voice
    monkeypatch.setattr(type(voice), "is_there", False)
    press(board, Key.Key_R)
    press(board, Key.Key_PageDown)
    assert board.pages["draw"].at == 1
    assert "no voice is installed" in board.pages["draw"].keys.state


# --- joining in the middle ----------------------------------------------------------------------


def click_stroke(page, name):
    line = next(line for line in page.paper.lines if line.key == page.paper.asked.index(name))
    (x, y), (u, v) = line.path[:2]
    place = page.paper.to_screen(((2 * x + u) / 3, (2 * y + v) / 3))
    QTest.mouseClick(page.paper, Qt.MouseButton.LeftButton, pos=place.toPoint())


def test_what_is_drawn_already_is_clicked_and_skipped(board, press):
    page = board.pages["draw"]
    plan = board.session.answers.planned.plan
    press(board, Key.Key_J)
    assert "click what you have drawn" in page.keys.state
    assert {line.style for line in page.paper.lines} == {"hidden"}
    strokes = [move.makes[0] for move in plan.moves
               if move.verb == "firm in" and move.phase != "sheet"]  # fmt: skip
    for name in strokes[:6]:
        click_stroke(page, name)
    assert page.walk.standing_strokes == set(strokes[:6])
    click_stroke(page, strokes[5])
    assert page.walk.standing_strokes == set(strokes[:5])
    for name in (*strokes[:5], *strokes[:5]):  # all of them taken back, and said again
        click_stroke(page, name)
        assert bool(page.walk.stands) == bool(page.walk.standing_strokes)
    press(board, Key.Key_J)
    assert not page.paper.is_asking
    assert page.at not in page.walk.skipped
    firm = {name for name in page.paper._before.strokes if name in strokes}
    assert firm == set(strokes[:5])
    seen = set()
    while page.at < len(plan.moves):
        seen.add(page.at)
        press(board, Key.Key_Space)
    assert not seen & page.walk.skipped
    press(board, Key.Key_J, Key.Key_J)  # what is drawn stays drawn
    assert page.at == len(plan.moves)
    assert set(page.paper._before.strokes) >= set(strokes)


def test_a_move_done_otherwise_stands_and_is_kept(board, press):
    page = board.pages["draw"]
    for _ in range(24):
        press(board, Key.Key_Space)
    made = page.walk.move.makes
    press(board, Key.Key_O)
    assert page.walk.stands >= set(made)
    assert 24 in page.walk.skipped
    assert page.at > 24
    page.walk.flush()
    again = Stepping(board.session)
    again.follow()
    assert again.stands == page.walk.stands


def test_what_is_to_be_rubbed_out_is_dotted_and_told(desk, settle, press):
    desk.session.document.choose_part(6)
    settle(desk)
    press(desk, Key.Key_F7)
    page, plan = desk.pages["draw"], desk.session.answers.planned.plan
    counts = []
    for _, first, _ in plan.phases:
        page.go_to(first)
        dotted = [line for line in page.paper.lines if line.style == "crate"]
        assert len(dotted) == len(page.paper.rubbed)
        assert bool(dotted) == any("rub out" in line for line in page.card._text.details)
        counts.append(len(dotted))
        page.paper.grab()
    assert any(counts)


@pytest.mark.parametrize("wide, says_count", [(1000, True), (420, False)])
def test_the_reading_has_room_on_a_narrow_card(qtbot, wide, says_count):
    card, row = SettingCard(), QWidget()
    qtbot.addWidget(card)
    QHBoxLayout(row).addWidget(QLabel("It reads so much that it takes some room"))
    card.put_in(row)
    card.resize(wide, card.height())
    card.show_text(None, "175 of 176 moves done")
    row.show()
    assert row.width() >= min(row.sizeHint().width(), wide - row.x() - 16)
    assert (card._count_shown == "175 of 176 moves done") is says_count
    row.hide()
    assert card._count_shown
