"""Exercises come again from their seed, have one right answer, and are marked line by line."""

import pytest

from holoptic.checking.report import Cause, CheckReport, Extra, StrokeFound
from holoptic.errors import BadInput
from holoptic.exchange.pdf import pdf_pages
from holoptic.practice.answers import answer_figures, answer_words, points_of
from holoptic.practice.exercise import Amount, Choice, Count, Heights, Lines, OnPaper, Places
from holoptic.practice.marking import MOST_POINTS, Drawn, figure_of, mark, points
from holoptic.practice.skills import SKILLS, make
from holoptic.practice.worksheet import worksheet
from holoptic.sheet.papers import paper_named
from holoptic.worker.practice_tasks import KernelEye


@pytest.fixture(scope="module")
def eye():
    return KernelEye()


def sheet(*states, extra=(), causes=()):
    """A report on a drawn sheet whose strokes are in some states."""
    strokes = [StrokeFound(f"s{k}", state, 2.4 if state in ("shifted", "short") else 0.0, 1.0, k,
                           ((0.0, k), (9.0, k))) for k, state in enumerate(states)]  # fmt: skip
    return CheckReport("f1", tuple(strokes), extra, causes)


def right_answer(exercise):
    asked = exercise.asked
    if isinstance(asked, Count):
        return asked.least, asked.most
    if isinstance(asked, Amount):
        return asked.value
    if isinstance(asked, Choice):
        return asked.right
    if isinstance(asked, Places):
        return asked.right
    if isinstance(asked, Heights):
        return asked.heights
    if isinstance(asked, OnPaper):
        return sheet(*["there"] * asked.count)
    return Drawn(asked.right, asked.dashed)


def wrong_answer(exercise):
    asked = exercise.asked
    if isinstance(asked, Count):
        return asked.least - 1, asked.most - 1
    if isinstance(asked, Amount):
        return asked.value + 2 * asked.within
    if isinstance(asked, Choice):
        return (asked.right + 1) % len(asked.words)
    if isinstance(asked, Places):
        return frozenset({next(k for k in range(len(asked.places)) if k not in asked.right)})
    if isinstance(asked, Heights):
        first, *rest = asked.heights
        return ((first[0] + 1) % (asked.most + 1), *first[1:]), *rest
    if isinstance(asked, OnPaper):
        return sheet("missing", *["there"] * (asked.count - 1))
    return Drawn(asked.right - {min(asked.right | asked.dashed)}, frozenset())


@pytest.mark.parametrize("level", [1, 3, 5])
@pytest.mark.parametrize("skill", SKILLS)
def test_an_exercise_comes_again_and_its_answer_is_right(eye, skill, level):
    exercise = make(skill, level, 11, eye)
    assert make(skill, level, 11, eye) == exercise
    assert mark(exercise, right_answer(exercise)).is_right
    wrong = mark(exercise, wrong_answer(exercise))
    assert not wrong.is_right and wrong.marks
    assert exercise.question and exercise.reason and all(exercise.hints)
    assert answer_words(exercise) and points_of(exercise) >= 1
    assert all(figure.inks for figure in answer_figures(exercise))


@pytest.mark.parametrize("skill", SKILLS)
def test_no_two_are_the_same(eye, skill):
    made = {repr((one.question, one.figures, one.asked))
            for one in (make(skill, 2, seed, eye) for seed in range(5))}  # fmt: skip
    assert len(made) == 5


@pytest.mark.parametrize("skill", ["pictorial", "near"])
def test_what_is_offered_can_be_told_apart(eye, skill):
    for seed in range(4):
        asked = make(skill, 4, seed, eye).asked
        inks = [tuple(ink.path for ink in figure.inks) for figure in asked.figures]
        assert len(set(inks)) == len(asked.words) == len(asked.why)


def test_lines_are_marked_one_by_one(eye):
    exercise = next(one for one in (make("draw", 3, seed, eye) for seed in range(20))
                    if one.asked.behind)  # fmt: skip
    asked = exercise.asked
    left_out, behind = min(asked.right), min(asked.behind)
    extra = next(((c, r), (c + 1, r + 1)) for c in range(20) for r in range(20)
                 if ((c, r), (c + 1, r + 1)) not in asked.right | asked.behind)  # fmt: skip
    told = mark(exercise, Drawn(asked.right - {left_out} | {behind, extra}))
    by_state = {one.state: one.steps for one in told.marks}
    assert by_state["missing"] == {left_out}
    assert by_state["hidden"] == {behind}
    assert by_state["too many"] == {extra}
    assert by_state["right"] == asked.right - {left_out}
    assert 0 < told.share < 1


def test_a_drawn_sheet_is_marked_line_by_line(eye):
    exercise = make("paper", 2, 3, eye)
    cause = Cause(12, "length", 32.0, 30.0, 0.9, "move 12: 32 was set, it should be 30")
    extra = Extra((3.0, 3.0), (9.0, 3.0))
    states = "there", "missing", "shifted", "shifted", "light", "there"
    told = mark(exercise, sheet(*states, extra=(extra,), causes=(cause,)))
    assert [(one.state, one.words) for one in told.marks] == [
        ("right", "2 lines are right"), ("missing", "one line is missing"),
        ("wrong", "2 lines lie elsewhere, by up to 2.4 mm"), ("wrong", "one line is not firmed in"),
        ("too many", "one line is too many: no edge lies there"), ("wrong", cause.story),
    ]  # fmt: skip
    assert told.share == pytest.approx(1.5 / 6)
    # what is missing is not shown on the figure of the sheet: that would be the answer
    assert len(figure_of(sheet("there", "missing", "light")).inks) == 2


def test_the_question_of_a_sheet_says_all_that_is_needed_to_begin(eye):
    exercise = make("paper", 3, 8, eye)
    across, up = exercise.data["start"]
    wide, high = exercise.data["border"]
    for words in (f"Start {across:g} to the right", f"and {up:g} above", f"{wide:g} × {high:g} mm",
                  exercise.data["paper"], "a square is 10 mm"):  # fmt: skip
        assert words in exercise.question + exercise.figures[0].caption


def test_a_hidden_line_is_to_be_dashed(eye):
    exercise = next(one for one in (make("views", 4, seed, eye) for seed in range(30))
                    if one.asked.dashed)  # fmt: skip
    asked = exercise.asked
    told = mark(exercise, Drawn(asked.right | asked.dashed))
    assert {one.state for one in told.marks} == {"right", "dashed"}
    assert not told.is_right


def test_hints_and_second_tries_cost_points(eye):
    exercise = make("cubes", 1, 3, eye)
    right = mark(exercise, right_answer(exercise))
    assert points(right, 0, again=False) == MOST_POINTS
    assert points(right, 1, again=False) == MOST_POINTS * 3 // 4
    assert points(right, 3, again=False) == MOST_POINTS // 4
    assert points(right, 0, again=True) == MOST_POINTS // 2


def test_an_answer_of_another_sort_is_none(eye):
    with pytest.raises(TypeError):
        mark(make("cubes", 1, 3, eye), frozenset({1}))


@pytest.mark.parametrize("skill, level", [("cub", 1), ("cubes", 0), ("cubes", 6)])
def test_an_unknown_skill_or_level_is_one_line(eye, skill, level):
    with pytest.raises(BadInput) as caught:
        make(skill, level, 1, eye)
    assert "\n" not in str(caught.value)


def test_the_same_seed_makes_the_same_sheets(eye):
    def sheets():
        exercises = [make("corner", 2, seed, eye) for seed in (7, 8, 9)]
        return worksheet(exercises, paper_named("A4").turned(upright=True))

    pages = sheets()
    assert pdf_pages(pages) == pdf_pages(sheets())
    words = [w.text for page in pages for w in page.words]
    assert "Name" in words and any(w.startswith("Answers: ") for w in words)
    for page in pages:
        for x, y in (p for ink in page.inks for p in ink.path):
            assert 0 <= x <= page.width and 0 <= y <= page.height


def test_lines_of_a_view_lie_on_its_dots(eye):
    for seed in range(4):
        asked = make("views", 5, seed, eye).asked
        assert isinstance(asked, Lines)
        dots = set(asked.grid.dots())
        assert all(a in dots and b in dots for a, b in asked.right | asked.dashed | asked.given)
        assert not asked.given & (asked.right | asked.dashed)
