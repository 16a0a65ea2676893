"""Spread: an arrangement put together, taken apart and drawn, by keys and mouse."""

import math
from dataclasses import replace
from itertools import combinations

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QWidget

from frozen import freeze_at
from holoptic.cli.main import main
from holoptic.curves.space import Segment
from holoptic.demo import job_path
from holoptic.desk.pages.spread.order_strip import Chip, OrderStrip
from holoptic.exchange.job_file import read_job
from holoptic.job import job_of
from holoptic.units import Length
from pointer import hover

Key = Qt.Key
LEFT = Qt.MouseButton.LeftButton
CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def opened(empty_desk, settle, press):
    """Open a job on the Spread page; nothing is drawn ahead, as nobody looks long."""

    def open_job(path):
        empty_desk.session.spreads.way._rest.setInterval(3_600_000)
        empty_desk.filing.open(path)
        settle(empty_desk)
        press(empty_desk, Key.Key_F5)
        settle(empty_desk)
        return empty_desk

    return open_job


@pytest.fixture
def foot(opened, foot_job):
    return opened(foot_job)


@pytest.fixture
def page(foot):
    return foot.pages["spread"]


def type_into(field, words):
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, words)


def place_of(pane, body):
    """Return a place of a pane, in pixels, on a line of a body that no other comes near."""
    for line in pane.lines:
        if pane.body_at(line.key) == body and line.style.startswith("visible"):
            spot = pane.to_screen(line.path[len(line.path) // 2])
            if pane.body_at(pane.line_at(QPointF(spot))) == body:
                return QPoint(round(spot.x()), round(spot.y()))
    raise AssertionError(body)


def is_rim(desk, key, body, height):
    """Whether a line is a straight edge of a body's part that lies level at a height."""
    facts, whole = desk.session.answers.facts, desk.session.answers.made.source
    if key is None or not 0 <= key < len(facts.edges) or facts.edges[key].body != body:
        return False
    curve = whole.bodies[body].curve_of(facts.edges[key].curve)
    ends = {round(point[2], 3) for point in (curve.start, curve.end)}
    return isinstance(curve, Segment) and ends == {height}


def test_the_lamp_stands_there_together_and_apart(opened):
    lamp = opened(job_path("lamp-put-together"))
    page = lamp.pages["spread"]
    spreads = lamp.session.spreads
    assert lamp.session.document.figure.apart
    assert "one axis suffices" in page.column.why.text()
    assert page.column.wrong.isHidden()
    assert [row.name for row in spreads.listed][:2] == ["wedge foot", "latch plate"]
    assert page.column.parts.item(0).text() == "1  wedge foot  × 2"
    assert len(page.strip.chips) == 10
    low, high = spreads.together.extent[1], spreads.together.extent[3]
    apart = spreads.way.picture.extent
    assert apart[3] - apart[1] > 1.8 * (high - low)
    # the views are those of the whole put together
    front = next(view for view in lamp.session.answers.placed if view.name == "front")
    assert front.picture.extent[3] - front.picture.extent[1] == pytest.approx(174)


def test_a_gap_left_open_follows_the_sheet_that_was_asked_for(opened, press, settle):
    lamp = opened(job_path("lamp-put-together"))
    column, spreads = lamp.pages["spread"].column, lamp.session.spreads
    assert (spreads.arranged.gap, column.gap.placeholderText()) == (31.0, "as needed: 31")
    wide = spreads.way.picture.extent
    wish = replace(lamp.session.document.sheet.wish, paper="A3", upright=False, scale=0.5)
    lamp.session.document.edit_wish(wish, "A3 lengthwise, 1:2")
    settle(lamp)
    assert spreads.arranged.gap < 31.0
    assert spreads.way.picture.extent[3] < wide[3]
    assert f"room for a gap of {spreads.arranged.gap:g} mm only" in column.why.text()
    assert column.gap.placeholderText() == f"as the sheet has room: {spreads.arranged.gap:g}"
    fitting = [item for item in spreads.proposals if "does not fit" not in item.reasons]
    assert fitting[0].gap == spreads.arranged.gap
    press(lamp, Key.Key_F6)
    settle(lamp)
    assert lamp.session.answers.laid.misfit is None
    assert lamp.session.answers.picture.extent == spreads.way.picture.extent


def test_a_part_that_is_touched_lights_up_everywhere(foot, page, press):
    spreads = foot.session.spreads
    hover(page.together, place_of(page.together, 4))
    assert spreads.touched == 4
    assert page.strip.lit == {4}
    QTest.mouseClick(page.apart, LEFT, pos=place_of(page.apart, 3))
    assert spreads.chosen == "b4"
    assert page.column.parts.currentItem().text() == "3  counterbored flange"
    assert page.column.hand.name.text() == "counterbored flange"
    assert page.strip.at == 3
    press(foot, Key.Key_N)
    assert spreads.chosen == "b5"
    press(foot, Key.Key_Escape)
    assert (spreads.chosen, page.column.hand.isVisible()) == (None, False)


def test_the_slider_goes_from_together_to_apart(foot, page, press, settle):
    spreads = foot.session.spreads
    apart = spreads.way.picture.extent
    press(foot, Key.Key_Space)
    settle(foot)
    assert spreads.way.share == 0.0
    assert page.slider.value() == 0
    assert spreads.way.picture.extent == pytest.approx(spreads.together.extent)
    page.slider.setFocus()
    for _ in range(3):
        QTest.keyClick(page.slider, Key.Key_PageUp)
    settle(foot)
    assert 0 < spreads.way.share < 1
    half = spreads.way.picture.extent
    assert spreads.together.extent[3] < half[3] < apart[3]


def test_places_of_the_slider_are_drawn_ahead_of_the_hand(foot, page, qtbot):
    way, kernel = foot.session.spreads.way, foot.session.kernel
    way._rest.setInterval(50)
    way.wake()
    qtbot.wait_until(lambda: way.kept >= 4, timeout=20_000)
    assert not foot.is_busy  # nobody waits for them
    ahead, asked = next(step for step in (64, 32, 96) if step in way._kept), []
    kernel.busy_changed.connect(asked.append)
    page.slider.setValue(ahead)
    low, high = (p.extent for p in (foot.session.spreads.together, way._kept[100]))
    assert low[3] < way.picture.extent[3] < high[3]
    assert asked == []
    missing = next(step for step in range(101) if step not in way._kept)
    page.slider.setValue(missing)
    qtbot.wait_until(lambda: missing in way._kept and way.picture is way._kept[missing])
    # with another gap they are other pictures
    foot.session.spreads.change("gap", gap=Length.read("31"))
    assert (way.kept, way.share) == (0, 1.0)


def test_the_order_is_shown_before_the_gap_is_found(foot, page, settle):
    found = []
    spreads = foot.session.spreads
    spreads.changed.connect(lambda: found.append((spreads.arranged.gap, page.strip.heading)))
    spreads.change("axis", axis="length")
    settle(foot)
    gaps = [gap for gap, _ in found if gap is None or gap == spreads.arranged.gap]
    assert None in gaps
    assert "finding the gap" in next(words for gap, words in found if gap is None)
    assert "features seen" in found[-1][1]


def test_axis_gap_proposal_and_undo(foot, page, press, settle):
    document = foot.session.document
    press(foot, Key.Key_A)
    settle(foot)
    assert document.arrangement.spread.axis == "length"
    assert "as was asked for" in page.column.why.text()
    press(foot, Key.Key_G)
    QTest.keyClicks(page.column.gap, "12+2.5")
    settle(foot)
    assert (document.arrangement.spread.gap.text, foot.session.spreads.arranged.gap) == (
        "12+2.5", 14.5,
    )  # fmt: skip
    QTest.keyClicks(page.column.gap, "+")
    assert page.column.gap.trouble
    page.setFocus()
    press(foot, Key.Key_Z, modifier=CTRL)
    press(foot, Key.Key_Z, modifier=CTRL)
    settle(foot)
    assert document.arrangement.spread.axis is None
    assert document.arrangement.spread.gap is None
    best = foot.session.spreads.proposals[0]
    assert best.reasons.startswith("all 20 features seen")
    press(foot, Key.Key_1)
    settle(foot)
    assert document.arrangement.spread.axis == best.axis == "height"
    assert document.arrangement.spread.gap.mm == best.gap
    assert page.small[0].is_chosen


def test_in_a_low_window_proposals_are_told_in_words(foot, page, settle, press):
    assert (page.board.isVisible(), page.column.proposals.isVisible()) == (True, False)
    foot.resize(1024, 600)
    settle(foot)
    assert (page.board.isVisible(), page.column.proposals.isVisible()) == (False, True)
    second = page.column.proposals.text().splitlines()[1]
    assert second.startswith("2  height, gap 5 mm: ")
    press(foot, Key.Key_N)  # what is typed of a part in hand comes before them
    assert (page.column.hand.isVisible(), page.column.proposals.isVisible()) == (True, False)
    press(foot, Key.Key_Escape)
    assert page.column.proposals.isVisible()
    press(foot, Key.Key_2)
    assert foot.session.spreads.arrangement.spread.gap.mm == 5.0


def test_order_and_groups_by_key_and_by_dragging(foot, page, press, settle):
    document, strip = foot.session.document, page.strip
    strip.setFocus()
    QTest.mouseClick(strip, LEFT, pos=strip.boxes()[0].center().toPoint())
    QTest.keyClick(strip, Key.Key_Right, CTRL)
    settle(foot)
    assert document.arrangement.spread.order[:2] == ("b2", "b1")
    assert [chip.placed for chip in strip.chips[:2]] == [("b2",), ("b1",)]
    # a flange cannot come before the plate that it stands on: it is told, and nothing moves
    start = strip.boxes()[3].center().toPoint()
    QTest.mousePress(strip, LEFT, pos=start)
    QTest.mouseMove(strip, start - QPoint(60, 0))
    QTest.mouseMove(strip, QPoint(4, start.y()))
    QTest.mouseRelease(strip, LEFT, pos=QPoint(4, start.y()))
    settle(foot)
    assert document.arrangement.spread.order[0] == "b4"
    assert "lies in the way" in page.column.wrong.text()
    assert strip.chips[3].placed == ("b4",)
    foot.session.spreads.choose("b4")
    press(foot, Key.Key_Plus)
    settle(foot)
    assert ("b4", "b5") in [chip.placed for chip in strip.chips]
    press(foot, Key.Key_Minus)
    settle(foot)
    assert document.arrangement.spread.groups == ()


def test_a_long_strip_is_moved_along_and_shows_the_part_in_hand(qtbot):
    home = QWidget()
    qtbot.add_widget(home)
    strip = OrderStrip()
    strip.setParent(home)
    strip.resize(440, strip.height())
    chips = tuple(Chip((f"b{k}",), str(k), f"plate {k}") for k in range(1, 41))
    strip.show_chips(chips, 0, "")
    home.resize(440, 100)
    home.show()
    seen = strip.rect().adjusted(10, 0, -10, 0)

    def in_sight():
        return [k for k, box in enumerate(strip.boxes()) if seen.contains(box.toRect())]

    assert in_sight()[0] == 0
    assert 5 <= len(in_sight()) < 12
    strip.show_chips(chips, 27, "")
    assert 27 in in_sight()
    taken = []
    strip.chosen.connect(taken.append)
    first = in_sight()[0]
    QTest.mouseClick(strip, LEFT, pos=strip.boxes()[first].center().toPoint())
    QTest.mouseClick(strip, LEFT, pos=QPoint(strip.width() - 6, 40))  # the arrow: on to the right
    assert taken == [first]
    assert in_sight()[0] > first
    for _ in range(9):
        QTest.mouseClick(strip, LEFT, pos=QPoint(strip.width() - 6, 40))
    assert in_sight()[-1] == 39
    # a chip that is held at the end brings what lies beyond, to the last
    strip.show_chips(chips, 0, "")
    orders = []
    strip.reordered.connect(orders.append)
    end = QPoint(strip.width() - 4, 40)
    QTest.mousePress(strip, LEFT, pos=strip.boxes()[0].center().toPoint())
    QTest.mouseMove(strip, end)
    qtbot.wait_until(lambda: in_sight()[-1] == 39, timeout=20_000)
    QTest.mouseRelease(strip, LEFT, pos=end)
    assert orders[0].index(0) >= 38
    strip.show_chips(chips[:4], 0, "")
    assert in_sight() == [0, 1, 2, 3]


def test_numbers_stand_on_no_other_number(foot, page):
    radius = 70.0  # as if there was little room
    places = [place for _, place in page.apart.numbers(radius)]
    gaps = [math.dist((a.x(), a.y()), (b.x(), b.y())) for a, b in combinations(places, 2)]
    assert 0 < len(places) < 5
    assert all(gap >= 2 * radius for gap in gaps)
    foot.session.spreads.choose("b4")
    assert page.apart.numbers(radius)[0][0] == foot.session.spreads.row_of("b4")
    assert len(page.apart.numbers(6.0)) == 5


def test_parts_are_put_together_by_meaning(empty_desk, settle, press, tmp_path):
    lamp = read_job(job_path("lamp-put-together"))
    sources = [part.source for part in lamp.parts[1:3]]
    document = empty_desk.session.document
    document.replace_job(job_of("pair", sources), None)
    settle(empty_desk)
    press(empty_desk, Key.Key_F5)
    page, spreads = empty_desk.pages["spread"], empty_desk.session.spreads
    assert page.begin.isVisible()
    press(empty_desk, Key.Key_P)
    settle(empty_desk)
    assert "Touching nothing" in page.column.wrong.text()
    press(empty_desk, Key.Key_N, Key.Key_T)  # the lower one comes first
    line = page.column.hand.ties.line
    for half in ("bore on latch", " plate.wire", "_hole"):
        QTest.keyClicks(line, half)
        assert not line.trouble  # what is half written is no mistake
    QTest.keyClick(line, Key.Key_Return)
    settle(empty_desk)
    assert page.column.hand.ties.free.text() == (
        "May still move along height; may still turn about the height."
    )
    QTest.keyClick(line, Key.Key_Return)  # nothing is written, so nothing is wrong
    assert not line.trouble
    QTest.keyClicks(line, "bottom on latch plate.roof")
    QTest.keyClick(line, Key.Key_Return)
    assert "no “roof”" in line.trouble
    line.clear()
    # what is picked while a tie is written is written into it
    QTest.keyClicks(line, "bottom on ")
    page._pick(next(n.key for n in page.together.lines if is_rim(empty_desk, n.key, 0, 13.5)))
    assert line.text() == "bottom on latch plate.plate.top"
    QTest.keyClick(line, Key.Key_Return)
    settle(empty_desk)
    assert page.column.wrong.isHidden()
    assert spreads.freedom == "may still turn about the height"
    assert spreads.arranged.whole.bodies[1].at == pytest.approx((16.5, 1.0, 13.5))
    empty_desk.filing.save_to(tmp_path / "pair.holoptic")
    assert read_job(tmp_path / "pair.holoptic") == document.job
    page.setFocus()
    press(empty_desk, Key.Key_Delete)
    settle(empty_desk)
    assert [item.id for item in document.arrangement.placed] == ["b1"]


def test_a_turn_that_cannot_be_gives_way_and_a_part_that_is_gone_is_named(foot, page, settle):
    document, spreads = foot.session.document, foot.session.spreads
    spreads.choose("b3")
    place = page.column.hand.place
    place.front.setCurrentIndex(place.front.findText("its top"))
    place.front.activated.emit(place.front.currentIndex())
    settle(foot)
    turn = spreads.placed.turn
    assert turn.front.value == "top"
    assert turn.front.normal_axis != turn.top.normal_axis
    assert page.column.wrong.isHidden()  # what is tied to it has turned with it
    document.undo()
    document.edit(document.job.without_part("p4"), "a part less")
    settle(foot)
    assert "not in the job any more" in page.column.wrong.text()
    assert len(spreads.names) == 4
    assert len(document.arrangement.placed) == 5
    document.undo()
    settle(foot)
    assert page.column.wrong.isHidden()


def test_other_pages_show_the_arrangement_as_they_show_a_part(foot, press, settle):
    document = foot.session.document
    press(foot, Key.Key_F6)
    settle(foot)
    laid = foot.session.answers.laid
    written = [words.text for words in laid.pages[0].words]
    assert written.count("4") >= 2  # in its circle, and in the list
    assert "lamp pedestal" in written
    press(foot, Key.Key_F7)
    settle(foot)
    phases = {move.phase for move in foot.session.answers.planned.plan.moves}
    assert {"part: lamp pedestal", "axis lines"} <= phases
    press(foot, Key.Key_F3)
    settle(foot)
    assert document.job_part.source.name == "wedge foot"
    press(foot, Key.Key_F5)
    settle(foot)
    assert document.arrangement.name == "harbour lamp"


def test_an_assembly_of_a_step_file_comes_with_its_arrangement(
    foot_job, empty_desk, settle, press, tmp_path, capsys
):
    step = tmp_path / "lamp.step"
    assert main(["spread", str(foot_job), "--together", "--out", str(step)]) == 0
    empty_desk.filing.open(step)
    settle(empty_desk)
    job = empty_desk.session.document.job
    (arrangement,) = job.arrangements
    assert len(arrangement.placed) == 5
    assert len({placed.part for placed in arrangement.placed}) == 4  # the feet are equal
    press(empty_desk, Key.Key_F5)
    settle(empty_desk)
    assert len(empty_desk.pages["spread"].strip.chips) == 5


@pytest.mark.parametrize(("task", "why", "wrong"), [
    ("order_parts", "Not taken apart: the solid was not worked out: the work was stopped", ""),
    ("propose_spreads", "All 5 parts", "Nothing is proposed"),
])  # fmt: skip
def test_what_was_stopped_is_told_for_itself_and_asked_again(
    empty_desk, foot_job, settle, press, qtbot, monkeypatch, task, why, wrong
):
    session = empty_desk.session
    stopped = freeze_at(session, monkeypatch, task)
    empty_desk.filing.open(foot_job)
    press(empty_desk, Key.Key_F5)
    qtbot.wait_until(stopped, timeout=20_000)
    session.kernel.stop()
    settle(empty_desk)
    column = empty_desk.pages["spread"].column
    assert column.why.text().startswith(why)
    assert column.wrong.text().startswith(wrong)
    QTest.mouseClick(column.again, LEFT)
    settle(empty_desk)
    assert session.spreads.proposals
    assert column.why.text().startswith("All 5 parts")
    assert not column.again.isVisible()
    assert not column.wrong.text()


def test_the_part_in_hand_stays_lit_after_an_edit_and_a_tie_that_was_begun_goes(
    foot, page, press, settle
):
    spreads = foot.session.spreads
    spreads.choose("b4")
    press(foot, Key.Key_T)
    QTest.keyClicks(page.column.hand.ties.line, "front fl")
    lit = []
    spreads.touched_changed.connect(lambda: lit.append(spreads.number_of(spreads.chosen)))
    spreads.change("gap", gap=Length.read("9"))
    settle(foot)
    assert lit  # panes are told once it is known anew which lines are the part's
    assert lit[-1] == spreads.number_of("b4")
    assert page.column.hand.ties.line.text() == "front fl"
    spreads.choose("b5")
    assert page.column.hand.ties.line.text() == ""
