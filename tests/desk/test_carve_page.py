"""The Carve page in a real window: by keyboard alone, by the mouse, and by the caliper."""

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from holoptic.curves.vectors import apply
from holoptic.desk.widgets.caret_slip import slip_in
from holoptic.job import posed_figure
from holoptic.part import Hole, InLine, Prism
from holoptic.units import Unit
from typist import Typist

Key = Qt.Key
ALT = Qt.KeyboardModifier.AltModifier
CTRL = Qt.KeyboardModifier.ControlModifier
LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def carve(desk):
    return desk.pages["carve"]


def lines_of(picture):
    """The visible strokes, by where they run on paper."""
    return sorted(
        tuple(sorted((round(x, 3) + 0.0, round(y, 3) + 0.0) for x, y in (s.path[0], s.path[-1])))
        for s in picture.visible
    )


def press(window, *keys, modifier=Qt.KeyboardModifier.NoModifier):
    for key in keys:
        QTest.keyClick(QApplication.focusWidget() or window, key, modifier)


# --- by keyboard alone --------------------------------------------------------------------------


@pytest.mark.parametrize("name", ["gallery block", "wedge foot", "bearing bracket", "latch plate",
                                  "lamp pedestal", "vent cowl"])  # fmt: skip
def test_a_demo_part_is_built_from_an_empty_job_by_keyboard(
    empty_desk, settle, demo_job, worker, name
):
    shipped = demo_job.find(name)
    figure = demo_job.main_figure(shipped.id)
    empty_desk.activateWindow()
    typist = Typist(empty_desk)
    typist.build(shipped.source)
    settle(empty_desk)
    session = empty_desk.session
    session.document.picture_as(figure.kind, figure.corner)
    settle(empty_desk)
    assert session.answers.trouble is None
    assert session.answers.troubles == {}
    wanted = worker.ask("present", posed_figure(demo_job, figure))
    assert session.answers.facts.volume == pytest.approx(wanted.facts.volume, rel=1e-9)
    assert lines_of(session.answers.picture) == lines_of(wanted.picture)
    assert typist.presses < 400
    print(f"{name}: {typist.presses} keys")


# --- walking ------------------------------------------------------------------------------------


def test_an_outline_is_walked_and_mended_on_the_way(desk, carve, settle):
    desk.session.document.choose_operation(0)
    press(desk, Key.Key_W, modifier=ALT)
    bar = carve.editor.walk_bar
    QTest.keyClicks(bar.step, "at L-30, H")
    press(desk, Key.Key_Return)
    press(desk, Key.Key_Up)  # the wrong way first: an arrow mends it
    press(desk, Key.Key_Right)
    QTest.keyClicks(bar.step, "to L")
    assert carve.editor.board._ahead.places[-1] == (84, 37.5)
    press(desk, Key.Key_Return)
    QTest.keyClicks(bar.step, "d 7 o")
    press(desk, Key.Key_Return)
    assert "not expected" in bar.problem.text()
    bar.step.clear()
    QTest.keyClicks(bar.step, "d 5")
    press(desk, Key.Key_Return)
    press(desk, Key.Key_Backspace)
    QTest.keyClicks(bar.step, "d 9")
    press(desk, Key.Key_Return)
    QTest.keyClicks(bar.step, "l 30 arc bulge 4 left")
    press(desk, Key.Key_Return)
    QTest.keyClicks(bar.step, "close")
    press(desk, Key.Key_Return)
    assert bar.isHidden()
    settle(desk)
    outline = desk.session.document.part.operations[0].outline
    assert [point.u.text for point in outline] == ["L-30", "L", "L", "L-30"]
    assert outline[2].arc.bulge.mm == 4
    assert desk.session.answers.troubles == {}
    desk.session.document.undo()
    assert desk.session.document.part.operations[0].outline[0].u.text == "L-26.5"


def test_the_same_arrow_once_more_goes_on_to_what_is_there_on_the_face(desk, carve):
    desk.session.document.choose_operation(0)
    press(desk, Key.Key_W, modifier=ALT)
    step = carve.editor.walk_bar.step
    press(desk, Key.Key_Right, Key.Key_Right)
    first = step.text()
    press(desk, Key.Key_Right)
    assert first.startswith("r to ")
    assert float(step.text().removeprefix("r to ")) > float(first.removeprefix("r to ")) > 0
    for _ in range(12):  # the far edge of the crate is the last of them
        press(desk, Key.Key_Right)
    assert step.text() == "r to 84"
    press(desk, Key.Key_Escape)


def test_a_walk_by_mouse_snaps_and_escape_leaves_the_outline(desk, carve):
    desk.session.document.choose_operation(0)
    before = desk.session.document.part
    press(desk, Key.Key_W, modifier=ALT)
    board, bar = carve.editor.board, carve.editor.walk_bar
    for place in ((28.2, 31.1), (49.1, 31.1), (49.1, 6.2)):
        QTest.mouseClick(board, LEFT, pos=board.to_screen(place).toPoint())
    assert bar.walk.places[0] == pytest.approx((28, 31), abs=0.6)
    assert len(bar.walk.points) == 3
    QTest.mouseMove(board, board.to_screen((25, 12)).toPoint())
    assert not board.grab().isNull()
    bar.step.setFocus()
    press(desk, Key.Key_Escape)
    assert bar.isHidden()
    assert desk.session.document.part == before


# --- operations ---------------------------------------------------------------------------------


def test_doubled_left_out_and_put_back(desk, carve, settle):
    desk.session.document.choose_operation(3)
    volume = desk.session.answers.facts.volume
    press(desk, Key.Key_D, modifier=ALT)
    settle(desk)
    assert [o.name for o in desk.session.document.part.operations][-2:] == [
        "key slot",
        "key slot 1",
    ]
    assert any("changes nothing" in item.words for item in desk.session.answers.advice)
    assert "changes nothing" in carve.remarks.accessibleDescription()
    press(desk, Key.Key_O, modifier=ALT)
    settle(desk)
    assert "(left out)" in carve.list.item(4).text()
    desk.session.document.choose_operation(3)
    press(desk, Key.Key_O, modifier=ALT)
    settle(desk)
    assert desk.session.answers.facts.volume > volume
    press(desk, Key.Key_O, modifier=ALT)
    settle(desk)
    assert desk.session.answers.facts.volume == pytest.approx(volume)


def test_an_operation_is_copied_to_another_part(desk, carve, settle):
    desk.session.document.choose_part(2)
    settle(desk)
    desk.session.document.choose_operation(4)
    press(desk, Key.Key_L, modifier=ALT)
    press(desk, Key.Key_C, modifier=CTRL)
    desk.session.document.choose_part(0)
    settle(desk)
    press(desk, Key.Key_L, modifier=ALT)
    press(desk, Key.Key_V, modifier=CTRL)
    settle(desk)
    names = [operation.name for operation in desk.session.document.part.operations]
    assert names[desk.session.document.operation_index] == "bolt hole 1"
    QApplication.clipboard().setText("a letter")
    press(desk, Key.Key_V, modifier=CTRL)
    assert "holds no operation" in desk.hint.text


def test_an_early_edit_marks_what_breaks_and_loses_nothing(desk, carve, settle):
    field = carve.sizes[2]
    desk.session.document.choose_operation(2)
    deep = carve.editor.end_field
    deep.setFocus()
    deep.selectAll()
    QTest.keyClicks(deep, "90")
    settle(desk)
    assert "goes 90 mm deep" in desk.session.answers.troubles[2]
    assert carve.list.item(2).text().startswith("⚠")
    assert "left out of the picture" in desk.trouble.text
    assert desk.session.answers.picture.visible
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "100")
    settle(desk)
    assert desk.session.answers.troubles == {}
    assert desk.trouble.isHidden()


def test_a_hole_gets_a_seat_and_copies(desk, carve, settle):
    press(desk, Key.Key_H, modifier=ALT)
    editor = carve.editor
    for name, text in (("diameter", "5"), ("seat_diameter", "9"), ("seat_depth", "3")):
        field = editor.sizes.fields[name]
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, text)
    editor.sizes.fields["seat"].setCurrentIndex(1)
    editor.sizes.fields["seat"].activated.emit(1)
    editor.copies.sort.activated.emit(1)
    editor.copies.step.setFocus()
    editor.copies.step.selectAll()
    QTest.keyClicks(editor.copies.step, "12+1")
    settle(desk)
    made = desk.session.document.part.operations[desk.session.document.operation_index]
    assert isinstance(made, Hole)
    assert (made.seat, made.copies) == ("counterbored", InLine("u", made.copies.step, 2))
    assert made.copies.step.text == "12+1"


@pytest.mark.parametrize("shape", ["slot", "bevel", "corner", "rib", "round end"])
def test_further_shapes_are_at_hand(desk, carve, settle, shape):
    carve.add_shape(shape)
    settle(desk)
    assert carve.list.count() == 5
    editor = carve.editor
    assert editor.isEnabled()
    assert editor.up_to.isVisible() == (shape != "corner")
    editor.board.grab()


def test_the_centre_line_is_a_place_to_measure_from(desk, carve, settle):
    press(desk, Key.Key_H, modifier=ALT)
    place = desk.session.document.part.operations[-1].centre_mm(desk.session.document.part.crate)
    edge = carve.editor.from_edge["u"]
    edge.setCurrentIndex(2)
    edge.activated.emit(2)
    made = desk.session.document.part.operations[-1]
    assert made.u.centred
    assert made.centre_mm(desk.session.document.part.crate) == pytest.approx(place)


def test_depth_up_to_a_face_of_an_earlier_feature(desk, carve, settle):
    desk.session.document.choose_operation(3)
    carve.editor.offer_faces()
    menu = QApplication.activePopupWidget()
    titles = [action.text() for action in menu.actions()]
    assert "left of “upper step”" in titles
    press_in = menu.actions()[titles.index("left of “upper step”")]
    press_in.trigger()
    menu.close()
    end = desk.session.document.part.operations[3].end
    assert end.text == "L-upper_step.left"
    assert end.mm == 26.5


# --- lengths with names, overall sizes ----------------------------------------------------------


def test_named_lengths_are_typed_and_the_part_follows(desk, carve, settle):
    press(desk, Key.Key_E, modifier=ALT)
    QTest.keyClicks(carve.names, "wide = 26.5")
    press(desk, Key.Key_Return)
    corners = carve.editor.corners
    corners.setFocus()
    corners.selectAll()
    QTest.keyClicks(corners, "L-wide, H; L, H; L, H-12; L-wide, H-12")
    settle(desk)
    volume = desk.session.answers.facts.volume
    carve.names.setFocus()
    carve.names.selectAll()
    QTest.keyClicks(carve.names, "wide = 30")
    press(desk, Key.Key_Return)
    settle(desk)
    assert desk.session.answers.facts.volume < volume
    carve.names.selectAll()
    QTest.keyClicks(carve.names, "wide = ")
    assert carve.names.property("bad")
    press(desk, Key.Key_Return)
    assert carve.names.text() == "wide = "  # what was typed stays, to be mended
    assert "missing" in slip_in(desk).text()
    carve.names.selectAll()
    QTest.keyClicks(carve.names, "L = 3")
    carve.sizes[0].setFocus()
    assert carve.names.text() == "L = 3"
    assert "choose another name" in carve.names.toolTip()


def test_an_emptied_size_follows_from_the_features(desk, carve, settle):
    desk.session.document.choose_part(2)
    settle(desk)
    carve.sizes[2].setFocus()
    carve.sizes[2].selectAll()
    press(desk, Key.Key_Delete)
    settle(desk)
    assert desk.session.document.part.crate.height.mm > 0
    assert desk.session.document.part.crate.height.text


# --- mouse --------------------------------------------------------------------------------------


def drag(pane, start: QPointF, end: QPointF, steps=6):
    QTest.mousePress(pane, LEFT, pos=start.toPoint())
    for k in range(1, steps + 1):
        QTest.mouseMove(pane, (start + (end - start) * (k / steps)).toPoint())
    pane.grab()
    QTest.mouseRelease(pane, LEFT, pos=end.toPoint())


def middle_of(pane, session, edge, origin=(0.0, 0.0), view=None):
    curve = session.answers.facts.edges[edge].curve
    middle = tuple((a + b) / 2 for a, b in zip(curve.start, curve.end, strict=True))
    x, y = apply((view or session.answers.view).matrix, middle)
    return pane.to_screen((x + origin[0], y + origin[1]))


def step_edge(session):
    """The upper rear-going edge of the upper step, at x = 57.5."""
    return next(
        e.index for e in session.answers.facts.edges
        if e.curve.start[0] == e.curve.end[0] == 57.5 and e.curve.start[2] == e.curve.end[2] == 37.5
    )  # fmt: skip


def test_an_edge_is_dragged_in_the_picture_along_its_axis(desk, carve, settle):
    session = desk.session
    desk.session.document.choose_operation(2)
    start = middle_of(carve.pane, session, step_edge(session))
    image = apply(session.answers.view.matrix, (1.0, 0.0, 0.0))
    way = QPointF(image[0], -image[1]) * (-8 * carve.pane.pixels_per_mm)
    drag(carve.pane, start, start + way)
    settle(desk)
    assert session.document.operation_index == 0
    assert carve.list.currentRow() == 0
    us = [corner[0] for corner in session.document.part.operations[0].outline_mm()]
    assert us[0] == us[3] == pytest.approx(49.5, abs=0.5)
    assert us[0] * 2 == round(us[0] * 2)  # it snapped to its step
    session.document.undo()
    assert session.document.part.operations[0].outline_mm()[0][0] == 57.5


def test_an_edge_is_dragged_in_a_view_too(desk, carve, settle):
    session = desk.session
    top = next(view for view in desk.views.placed if view.name == "top")
    pane = desk.views
    start = middle_of(pane, session, step_edge(session), top.origin, top.picture.view)
    drag(pane, start, start + QPointF(-6 * pane.pixels_per_mm, 0))
    settle(desk)
    assert session.document.part.operations[0].outline_mm()[0][0] == pytest.approx(51.5, abs=0.6)


def test_a_feature_is_picked_by_its_edge_and_by_its_inside(desk, carve):
    session = desk.session
    edge = next(e.index for e in session.answers.facts.edges if e.operation == 2)
    session.selection.select(edge)
    assert carve.list.currentRow() == 2
    slot = session.document.part.operations[3]
    assert isinstance(slot, Prism)
    session.selection.select(None)
    inside = carve.pane.to_screen(apply(session.answers.view.matrix, (84.0, 23.0, 3.0)))
    assert carve.pane.feature_at(inside) == 3


def test_the_step_of_dragging_is_chosen(desk, carve):
    assert desk.session.step_mm == 0.5
    press(desk, Key.Key_Period, modifier=ALT)
    assert desk.session.step_mm == 1.0
    assert "step 1 mm" in carve.keys.state
    press(desk, Key.Key_Comma, Key.Key_Comma, Key.Key_Comma, modifier=ALT)
    assert desk.session.step_mm == 0.1


# --- parts --------------------------------------------------------------------------------------


def test_the_shelf_shows_every_part_and_its_entry_in_the_list(desk, carve, settle, qtbot):
    press(desk, Key.Key_S, modifier=ALT)
    settle(desk)
    shelf = carve.shelf
    qtbot.wait_until(
        lambda: all(desk.session.shelf.picture_of(item) for item in desk.session.document.job.parts)
    )
    assert len(shelf._cards) == 9
    QTest.mouseClick(shelf._cards[3].press, LEFT)
    settle(desk)
    assert desk.session.document.part_index == 3
    shelf.quantity.setValue(4)
    shelf.quantity.editingFinished.emit()
    shelf.material.setFocus()
    QTest.keyClicks(shelf.material, "brass")
    press(desk, Key.Key_Return)
    shelf.colour.setCurrentIndex(1)
    shelf.colour.activated.emit(1)
    item = desk.session.document.job_part
    assert (item.quantity, item.material, item.colour) == (4, "brass", "brass")
    assert shelf._cards[3].press.accessibleName() == "latch plate, 4 of it"
    shelf.grab()


def test_a_template_begins_a_part(empty_desk, settle):
    empty_desk.session.document.begin_part("Bracket")
    settle(empty_desk)
    assert empty_desk.session.answers.troubles == {}
    assert "base = 12" in empty_desk.pages["carve"].names.text()
    empty_desk.session.document.use_unit(Unit.INCH_FRACTION)
    settle(empty_desk)
    assert empty_desk.session.answers.troubles == {}


# --- the caliper --------------------------------------------------------------------------------


def test_a_measured_length_fills_the_field_in_hand(desk, carve, settle, qtbot):
    desk.session.document.choose_part(3)
    settle(desk)
    press(desk, Key.Key_G, modifier=ALT)
    assert carve.caliper.is_open
    field = carve.sizes[0]
    field.setFocus()
    press(desk, Key.Key_R, modifier=ALT)  # the stand-in is set to zero first
    press(desk, Key.Key_R, modifier=ALT)
    qtbot.wait_until(lambda: field.text() == "92.04")
    assert desk.session.document.part.crate.sizes[0] == 92.04
    carve.sizes[2].setFocus()
    press(desk, Key.Key_R, modifier=ALT)  # 53.96 where 16.5 stands: asked about first
    qtbot.wait_until(lambda: "far from what stands there" in desk.hint.text)
    assert desk.session.document.part.crate.sizes[2] == 16.5
    carve.list.setFocus()
    press(desk, Key.Key_R, modifier=ALT)
    qtbot.wait_until(lambda: "put the cursor into a length" in desk.hint.text)
    press(desk, Key.Key_G, modifier=ALT)
    assert not carve.caliper.is_open


def test_a_field_in_use_never_keeps_the_words_of_another_operation(desk, carve):
    desk.session.document.choose_operation(2)
    carve.editor.corners.setFocus()
    desk.session.document.choose_operation(0)
    assert carve.editor.corners.text().startswith("L-26.5, H")
    carve.editor.name.setFocus()
    desk.session.document.choose_operation(3)
    assert carve.editor.name.text() == "key slot"
