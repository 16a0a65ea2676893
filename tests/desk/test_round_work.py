"""Round work on the desk: construction cards, the deviation band, further shapes, ways by hand."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from holoptic.curves.space import EllipticArc, Segment
from holoptic.desk.canvas.band import magnification
from holoptic.job import HandWays
from holoptic.part import Ball, Polygon, Prism, Ring
from holoptic.part.starters import SHAPES

Key = Qt.Key
SHIFT = Qt.KeyboardModifier.ShiftModifier


def operation(desk, name):
    return [item.name for item in desk.session.document.part.operations].index(name)


def click_stroke(desk, stroke):
    pane = desk.pages["picture"].pane
    (x1, y1), (x2, y2) = stroke.path[len(stroke.path) // 3 :][:2]
    place = pane.to_screen(((x1 + x2) / 2, (y1 + y2) / 2))  # not at a corner, where others end too
    QTest.mouseClick(pane, Qt.MouseButton.LeftButton, pos=place.toPoint())


@pytest.fixture
def bracket(desk, settle):
    """The bearing bracket in isometric on the Picture page."""
    desk.session.document.choose_part(2)
    desk.session.document.picture_as("isometric", "front-right")
    desk.show_page("picture")
    settle(desk)
    return desk


@pytest.fixture
def eye(bracket, settle):
    """With the rim of its eye clicked."""
    rim = next(s for s in bracket.session.answers.picture.visible
               if isinstance(s.curve, EllipticArc) and s.origin.edge is not None
               and s.origin.operation == operation(bracket, "eye"))  # fmt: skip
    click_stroke(bracket, rim)
    settle(bracket)
    return bracket


def test_a_round_edge_opens_its_card(eye):
    page = eye.pages["picture"]
    assert page.below.currentWidget() is page.card
    assert page.card.title.text() == "“eye” · four-centre oval for ⌀ 19"
    rows = dict(page.card.figures.rows)
    assert rows["long axis"] == "23.27 → 21.94"
    assert rows["small radius"] == "5.48"
    assert "four-centre oval: 0.67" in page.card.ways.accessibleDescription()
    assert page.pane._band
    eye.grab()


def test_m_takes_the_next_way_for_the_feature_and_shift_m_for_all(eye, press, settle):
    session = eye.session
    press(eye, Key.Key_M)
    settle(eye)
    assert session.document.figure.by_hand == HandWays().with_own("eye", "closer")
    assert "closer oval for ⌀ 19" in eye.pages["picture"].card.title.text()
    assert any("closer oval" in m.text for m in session.answers.planned.plan.moves)
    assert any("four-centre" in m.text for m in session.answers.planned.plan.moves)
    press(eye, Key.Key_M, modifier=SHIFT)
    settle(eye)
    assert session.document.figure.by_hand == HandWays(method="free-arcs")
    assert not any("four-centre" in m.text for m in session.answers.planned.plan.moves)
    session.document.undo()
    session.document.undo()
    settle(eye)
    assert session.document.figure.by_hand == HandWays()


def test_a_way_is_chosen_by_its_row_if_it_can_be_used(eye, settle):
    ways = eye.pages["picture"].card.ways
    titles = [item.title for item in ways.items]
    for title, method in (("true circle", None), ("offset points", "offsets")):
        row = ways.row_rect(titles.index(title)).center().toPoint()
        QTest.mouseClick(ways, Qt.MouseButton.LeftButton, pos=row)
        settle(eye)
        assert eye.session.document.figure.by_hand.method_for("eye") == method


def test_the_band_is_switched_and_the_card_closed(eye, press, settle):
    page = eye.pages["picture"]
    press(eye, Key.Key_B)
    assert page.pane._band == ()
    press(eye, Key.Key_B)
    assert page.pane._band
    press(eye, Key.Key_Escape)
    settle(eye)
    assert page.below.currentIndex() == 0
    assert page.pane._band == ()
    assert not page.small[0].isHidden()


def test_a_sloped_edge_opens_a_card_and_a_straight_one_none(desk, settle):
    desk.session.document.choose_part(1)
    desk.show_page("picture")
    settle(desk)
    page = desk.pages["picture"]
    strokes = [s for s in desk.session.answers.picture.visible if isinstance(s.curve, Segment)]

    def moves(stroke):
        return sum(a != b for a, b in zip(stroke.curve.start, stroke.curve.end, strict=True))

    click_stroke(desk, next(s for s in strokes if moves(s) == 2))
    settle(desk)
    assert "by two offsets" in page.card.title.text()
    assert "No protractor" in page.card.remark.text()
    assert page.card.ways.isHidden()
    desk.grab()
    click_stroke(desk, next(s for s in strokes if moves(s) == 1))
    settle(desk)
    assert page.below.currentIndex() == 0


def test_a_balls_outline_is_picked_and_has_a_card(desk, press, settle):
    desk.session.document.choose_part(6)
    desk.show_page("picture")
    settle(desk)
    page, session = desk.pages["picture"], desk.session
    ball = next(s for s in session.answers.picture.visible
                if s.origin.edge is None and isinstance(s.curve, EllipticArc))  # fmt: skip
    click_stroke(desk, ball)
    settle(desk)
    assert session.selection.edge < 0
    assert "1.2247 × the ball's radius" in page.card.remark.text()
    assert desk.measures.text().startswith("Outline of “finial”: true")
    desk.grab()
    session.document.picture_as("cabinet", "front-right")  # its outlines are others
    settle(desk)
    assert session.selection.edge is None
    assert page.below.currentIndex() == 0


def test_the_gap_is_magnified_by_a_round_factor():
    assert magnification(0.5, 4.0, 100) == 10  # 30 pixels for half a millimetre at most
    assert magnification(0.05, 4.0, 100) == 100
    assert magnification(50, 4.0, 100) == 1
    assert magnification(0.5, 4.0, 10) == 5  # a small curve: the band stays narrower


def test_ways_by_hand_are_chosen_in_the_column(bracket, settle):
    column = bracket.pages["picture"].column
    column.circles.setCurrentIndex(column.circles.findData("offsets"))
    column.circles.activated.emit(column.circles.currentIndex())
    column.ordinates.setValue(20)
    column.raising.step()
    column.depth_copy.step()
    QTest.keyClicks(column.limit, "0.25")
    settle(bracket)
    ways = bracket.session.document.figure.by_hand
    assert ways == HandWays("offsets", 0.25, 20, depth_copy="again", raising="corners")
    column.limit.selectAll()
    QTest.keyClick(column.limit, Key.Key_Delete)
    assert bracket.session.document.figure.by_hand.limit_mm is None
    QTest.keyClicks(column.limit, "0")
    assert "more than zero" in column.limit.trouble


@pytest.mark.parametrize("shape", SHAPES)
def test_every_further_shape_can_be_begun_and_is_drawn(desk, settle, shape):
    page = desk.pages["carve"]
    before = len(desk.session.document.part.operations)
    page.add_shape(shape)
    settle(desk)
    assert len(desk.session.document.part.operations) == before + 1
    assert desk.session.answers.trouble is None
    desk.grab()


def test_a_polygon_is_edited_by_its_fields(desk, settle):
    desk.session.document.choose_part(4)
    settle(desk)
    form = desk.pages["carve"].editor.sizes
    form.fields["sides"].setValue(8)
    form.fields["turn"].selectAll()
    QTest.keyClicks(form.fields["turn"], "22.5")
    QTest.keyClicks(form.fields["end_size"], "40")
    form.fields["measure"].setCurrentIndex(2)
    form.fields["measure"].activated.emit(2)
    settle(desk)
    foot = desk.session.document.part.operations[0]
    assert isinstance(foot, Polygon)
    assert (foot.sides, foot.turn, foot.measure, foot.end_size.mm) == (
        8,
        22.5,
        "across corners",
        40,
    )
    form.fields["end_size"].selectAll()
    QTest.keyClick(form.fields["end_size"], Key.Key_Delete)
    assert desk.session.document.part.operations[0].end_size is None
    QTest.keyClicks(form.fields["turn"], "x")
    assert "figure in degrees" in form.fields["turn"].trouble


def test_the_editor_fits_itself_to_the_shape(desk, settle):
    editor = desk.pages["carve"].editor
    for part, kind in ((5, Ring), (6, Ball), (3, Prism)):
        desk.session.document.choose_part(part)
        settle(desk)
        items = desk.session.document.part.operations
        desk.session.document.choose_operation(
            next(k for k, o in enumerate(items) if isinstance(o, kind))
        )
        assert editor.through.isHidden() == (kind in (Ring, Ball))
        assert editor.outline.isHidden() == (kind is not Prism)
        desk.grab()


def test_an_outline_with_arcs_is_typed(desk, settle):
    desk.session.document.choose_part(3)
    settle(desk)
    carve = desk.pages["carve"]
    desk.session.document.choose_operation(operation(desk, "long slot"))
    before = desk.session.document.part.operations[2].outline
    carve.editor.corners.setFocus()
    carve.editor.corners.selectAll()
    QTest.keyClicks(carve.editor.corners, "17, 12; 40, 12 arc 4.5 left; 40, 21; 17, 21")
    settle(desk)
    outline = desk.session.document.part.operations[2].outline
    assert outline != before
    assert outline[1].arc.radius.mm == 4.5
    assert desk.session.answers.trouble is None
    carve.editor.corners.selectAll()
    QTest.keyClicks(carve.editor.corners, "17, 12; 40, 12 arc 3 left; 40, 21; 17, 21")
    settle(desk)
    assert "misses its end points from corner 2 to corner 3" in desk.session.answers.troubles[2]
