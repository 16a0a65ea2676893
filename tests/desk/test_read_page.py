"""The Read page in a real window: drawings opened, looked over, read, taken into the job."""

import random
from dataclasses import replace

import ezdxf
import pytest
from bench.classics.__main__ import draw_views
from bench.classics.families import FAMILIES
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton

from holoptic.demo import drawing_paths
from holoptic.desk.pages.read.reading_sheet import ReadingSheet
from holoptic.desk.widgets.caret_slip import slip_in
from holoptic.exchange.job_file import read_job, write_job
from holoptic.reading.arrangement import side_by_side
from holoptic.reading.dxf_views import views_dxf
from holoptic.reading.lines import Straight
from holoptic.reading.result import Reading

Key, LEFT = Qt.Key, Qt.MouseButton.LeftButton


@pytest.fixture
def page(desk, press):
    press(desk, Key.Key_F2)
    return desk.pages["read"]


def opened(desk, page, settle, number):
    if not page.is_empty:
        QTest.keyClick(page, Key.Key_X)
    QTest.mouseClick(page.invitation.demos[number].press, LEFT)
    settle(desk)
    page.setFocus()
    return page


def remarks(page):
    return [page.remarks.item(k).text() for k in range(page.remarks.count())]


def test_a_drawing_is_opened_read_and_taken_into_the_job_by_keys(desk, page, settle, press):
    assert not page.read_button.isEnabled()
    opened(desk, page, settle, 0)
    assert page.title.text() == "lantern-shoe"
    assert remarks(page) == ["Nothing odd was noticed."]
    press(desk, Key.Key_R)
    settle(desk)
    assert "all lines are accounted for" in page.outcome.text()
    assert page.answers[0].isVisible()
    assert not page.answers[1].isVisible()
    under = len(page.sheet.lines)
    press(desk, Key.Key_L)
    assert len(page.sheet.lines) > under
    press(desk, Key.Key_Return)
    settle(desk)
    assert desk.page == "carve"
    assert desk.session.document.job_part.source.name == "lantern-shoe"
    assert {item.type for item in desk.session.document.part.operations} >= {"hole", "prism"}
    press(desk, Key.Key_Z, modifier=Qt.KeyboardModifier.ControlModifier)
    assert "lantern-shoe" not in [part.source.name for part in desk.session.document.job.parts]


def test_a_solid_by_its_faces_is_taken_into_the_job_and_kept_there(
    desk, page, settle, press, worker, tmp_path
):
    solid = FAMILIES["skew planes"](random.Random("skew planes 2"))
    path, _, _ = draw_views(worker, solid, 2, tmp_path)
    page.readings.open(path)
    settle(desk)
    press(desk, Key.Key_R)
    settle(desk)
    assert "bounded by its faces" in page.outcome.text()
    press(desk, Key.Key_Return)
    settle(desk)
    source = desk.session.document.job_part.source
    assert source.step
    desk.show_page("picture")
    settle(desk)
    assert desk.session.answers.picture.strokes
    write_job(desk.session.document.job, tmp_path / "kept.holoptic")
    path.unlink()
    assert read_job(tmp_path / "kept.holoptic").parts[-1].source == source


def test_reading_goes_on_for_longer_where_its_time_ran_out(desk, page, settle, press):
    opened(desk, page, settle, 0)
    views = tuple(page.readings.arrangement.drawn_views())
    page.readings.take("drawing read", Reading("unfinished", views, ()))
    assert page.read_button.text() == "Read on, for two minutes (R)"
    press(desk, Key.Key_R)
    settle(desk)
    assert page.read_button.text() == "Read it (R)"
    assert "all lines are accounted for" in page.outcome.text()


def test_what_contradicts_is_lit_up_in_its_place(desk, page, settle, press):
    opened(desk, page, settle, 1)
    assert any("64 stands on a distance of 68" in words for words in remarks(page))
    press(desk, Key.Key_R)
    settle(desk)
    assert "cannot be true with the rest" in page.outcome.text()
    assert "The nearest part" in page.outcome.text()
    press(desk, Key.Key_Down, modifier=Qt.KeyboardModifier.AltModifier)
    lit = page.sheet.lit
    assert lit is not None
    assert lit.words.startswith("front: an edge should show here")
    front = next(v for v in page.readings.arrangement.views if v.name == "front")
    xmin, ymin, xmax, ymax = front.box
    x, y = lit.path[0]
    assert xmin < x < xmax
    assert ymin < y < ymax


def test_a_view_left_out_is_drawn_for_each_answer(desk, page, settle, press, qtbot):
    opened(desk, page, settle, 0)
    QTest.mouseClick(page.used.buttons["top"], LEFT)
    page.setFocus()
    press(desk, Key.Key_R)
    qtbot.wait_until(lambda: page.readings.reading is not None, timeout=60_000)
    settle(desk)
    reading = page.readings.reading
    assert reading.verdict == "several"
    assert "which top view is meant?" in page.outcome.text()
    first = page.readings.drawn_view()
    press(desk, Key.Key_4)
    assert page.readings.chosen == 3
    assert page.readings.drawn_view() != first
    assert page.answers[3].is_chosen
    assert page.answers[3].lit
    QTest.mouseClick(page.used.buttons["front"], LEFT)  # one view would be too few
    assert len(page.readings.arrangement.views) == 2


def test_a_label_dragged_onto_another_view_changes_the_names(desk, page, settle):
    opened(desk, page, settle, 0)
    sheet: ReadingSheet = page.sheet
    views = page.readings.arrangement.views
    names = [view.name for view in views]
    start = sheet._label(views[0]).center()
    xmin, ymin, xmax, ymax = views[1].box
    end = sheet.to_screen(((xmin + xmax) / 2, (ymin + ymax) / 2))
    QTest.mousePress(sheet, LEFT, pos=start.toPoint())
    QTest.mouseMove(sheet, end.toPoint())
    QTest.mouseRelease(sheet, LEFT, pos=end.toPoint())
    renamed = [view.name for view in page.readings.arrangement.views]
    assert renamed == [names[1], names[0], *names[2:]]


def test_the_views_of_a_part_are_drawn_to_practise(desk, page, settle, press):
    QTest.mouseClick(page.invitation.practise_card.press, LEFT)
    settle(desk)
    assert page.title.text() == "gallery block"
    page.setFocus()
    press(desk, Key.Key_R)
    settle(desk)
    assert page.readings.reading.verdict == "unique"


def test_slips_are_mended_and_shown_as_they_were(desk, page, settle, press):
    opened(desk, page, settle, 1)
    before = page.readings.arrangement
    press(desk, Key.Key_M)
    settle(desk)
    assert page.readings.before == before
    assert page.mend_button.text().startswith("Show it as it was")
    press(desk, Key.Key_M)
    assert page.readings.arrangement == before


@pytest.mark.parametrize("ask", ["mend", "read", "begin_guide"])
def test_an_answer_about_views_that_changed_meanwhile_is_dropped(desk, page, settle, ask):
    page.choose(0)
    settle(desk)
    readings = page.readings
    getattr(readings, ask)()
    readings.use_view("front", False)
    left = readings.arrangement
    settle(desk)
    assert readings.arrangement is left
    assert readings.reading is None
    assert readings.guide is None


def test_a_drawing_that_is_read_late_does_not_come_over_views_drawn_here(desk, page, settle):
    page.choose(0)
    page.draw_views()
    settle(desk)
    assert page.readings.is_drafting
    assert page.readings.name == "drawn here"


def test_the_angle_is_a_choice_and_a_bad_file_leaves_the_desk(desk, page, settle, press, tmp_path):
    opened(desk, page, settle, 0)
    press(desk, Key.Key_V)
    settle(desk)
    assert page.readings.arrangement.angle == "first"
    assert {view.name for view in page.readings.arrangement.views} == {"front", "bottom", "left"}
    odd = tmp_path / "odd.dxf"
    odd.write_text("nothing")
    page.readings.open(odd)
    settle(desk)
    assert "odd.dxf" in desk.hint.text
    assert page.title.text() == "lantern-shoe"
    assert len(drawing_paths()) + 2 == len(page.invitation.demos) == 4


def test_the_guided_way_is_gone_by_keys(desk, page, settle, press):
    opened(desk, page, settle, 0)
    press(desk, Key.Key_G)
    settle(desk)
    guide = page.readings.guide
    assert page.guide.isVisible()
    count = len(guide.part.operations)
    number = next(k for k, loop in enumerate(guide.loops) if loop.outline.circle)
    page.guide.loops.setCurrentRow(number)
    assert "circle" in page.sheet.lit.words
    top = next(v for v in page.readings.arrangement.views if v.name == "top").box
    assert all(top[0] <= x <= top[2] and top[1] <= y <= top[3] for x, y in page.sheet.lit.path)
    page.guide.low.setCurrentIndex(3)
    page.setFocus()
    press(desk, Key.Key_T)
    settle(desk)
    assert len(page.readings.guide.part.operations) == count + 1
    press(desk, Key.Key_Backspace)
    settle(desk)
    assert page.readings.guide == guide
    press(desk, Key.Key_Return)
    settle(desk)
    assert len(desk.session.document.part.operations) == count


def test_a_known_size_scales_the_drawing(desk, page, settle):
    opened(desk, page, settle, 0)
    assert page.length_field.text() == "77"
    QTest.mouseClick(page.length_field, LEFT)
    page.length_field.selectAll()
    QTest.keyClicks(page.length_field, "2*77")
    QTest.keyClick(page.length_field, Key.Key_Return)
    settle(desk)
    assert page.readings.length == pytest.approx(154)
    heights = [v.box[3] - v.box[1] for v in page.readings.arrangement.views if v.name == "front"]
    assert heights == pytest.approx([73])
    QTest.mouseClick(page.length_field, LEFT)
    QTest.keyClicks(page.length_field, "oops")
    QTest.keyClick(page.length_field, Key.Key_Return)
    assert "oops" in slip_in(desk).text()


def test_scaling_moves_the_distances_under_the_figures(desk, page, settle, press):
    opened(desk, page, settle, 1)
    assert "sheet: the figure 64 stands on a distance of 68" in remarks(page)
    page.length_field.setFocus()
    page.length_field.selectAll()
    QTest.keyClicks(page.length_field, "64")
    QTest.keyClick(page.length_field, Key.Key_Return)
    settle(desk)
    words = remarks(page)
    assert "sheet: the figure 64 stands on a distance of 68" not in words
    assert any(w.startswith("sheet: the figure 19 stands on a distance of 17.8") for w in words)


def test_the_line_below_the_page_tells_of_its_views(desk, page, settle, press):
    assert "can be read" in desk.measures.text()
    opened(desk, page, settle, 0)
    assert desk.measures.text() == (
        "Third angle, mm: front 77 × 36.5  ·  top 77 × 43  ·  right 43 × 36.5"
    )
    press(desk, Key.Key_F4)
    assert "Touch an edge" in desk.measures.text()


def test_lines_of_an_unknown_colour_are_asked_about(desk, page, settle, tmp_path):
    document = ezdxf.new("R2010", units=4)
    space = document.modelspace()
    for x, y, width, height in ((0, 0, 40, 30), (0, 50, 40, 22)):
        corners = [(x, y), (x + width, y), (x + width, y + height), (x, y + height)]
        for k in range(4):
            space.add_line(corners[k - 1], corners[k])
    space.add_line((0, 12.5), (40, 12.5), dxfattribs={"color": 3})
    path = tmp_path / "coloured.dxf"
    document.saveas(path)
    page.readings.open(path)
    settle(desk)
    (button,) = [b for b in page.groups.findChildren(QPushButton) if b.isVisible()]
    assert "colour 3: hidden" in button.text()
    QTest.mouseClick(button, LEFT)
    settle(desk)
    (group,) = [group for group in page.readings.sketch.groups if group.colour == 3]
    assert group.status == "centre"


def test_the_lines_of_a_contradiction_are_lit_up_with_the_rest(desk, page, settle, press):
    opened(desk, page, settle, 1)
    press(desk, Key.Key_R)
    settle(desk)
    named = [k for k, words in enumerate(remarks(page)) if "what is left blank" in words]
    assert named
    page.remarks.setCurrentRow(named[0])
    assert len(page.sheet.lit.path) >= 2


def test_the_line_with_which_it_reads_is_lit_up_and_drawn_so(
    desk, page, settle, press, worker, tmp_path
):
    part = desk.session.document.job.parts[0].source
    views = list(worker.ask("derive_views", part)[:3])
    right = views[2]
    longest = max((x for x in right.lines if x.status == "hidden"), key=lambda x: x.shape.end[1])
    (x, y), _ = longest.shape.start, longest.shape.end
    long = replace(longest, shape=Straight((x, 0.0), (x, y)))
    views[2] = replace(right, lines=tuple(long if one is longest else one for one in right.lines))
    path = tmp_path / "spoiled.dxf"
    path.write_bytes(views_dxf(side_by_side(views)))
    page.readings.open(path)
    settle(desk)
    drawn = page.readings.arrangement
    press(desk, Key.Key_R)
    settle(desk)
    assert "cannot be true" in page.outcome.text()
    assert page.correct_button.isVisible()
    assert remarks(page)[0].endswith("then it reads (E)")
    assert page.sheet.lit.words == remarks(page)[0]
    press(desk, Key.Key_E)
    settle(desk)
    assert "all lines are accounted for" in page.outcome.text()
    assert not page.correct_button.isVisible()
    press(desk, Key.Key_M)
    settle(desk)
    assert page.readings.arrangement == drawn
    assert page.outcome.text() == ""
