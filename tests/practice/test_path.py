"""What comes next: what is due, then what is new, then the weakest; a level that one can do."""

from datetime import datetime, timedelta
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from holoptic.practice.exercise import LEVELS
from holoptic.practice.path import Attempt, Standing, next_up, standings

NOW = datetime(2026, 11, 20, 9).astimezone()
SKILLS = ["pictorial", "cubes", "oval"]


def attempts(*done, step=timedelta(minutes=1)):
    return [Attempt(skill, level, score, NOW + k * step)
            for k, (skill, level, score) in enumerate(done)]  # fmt: skip


def test_new_skills_come_in_the_order_of_learning():
    assert next_up([], SKILLS, NOW) == ("pictorial", 1)
    done = attempts(("pictorial", 1, 1.0))
    assert next_up(done, SKILLS, NOW + timedelta(minutes=1))[0] == "cubes"


def test_what_went_wrong_comes_back_soon_and_what_went_well_later():
    done = attempts(("pictorial", 1, 0.0), ("cubes", 1, 1.0))
    later = NOW + timedelta(minutes=3)
    assert next_up(done, SKILLS, later)[0] == "pictorial"
    found = standings(done, SKILLS)
    assert found["pictorial"].due < found["cubes"].due


def test_the_while_doubles_each_time():
    standing, spells = Standing(), []
    for _ in range(4):
        standing = standing.after(Attempt("oval", 1, 1.0, NOW))
        spells.append(standing.spell)
    assert [b / a for a, b in pairwise(spells)] == [2.0, 2.0, 2.0]


def test_levels_rise_with_success_and_fall_with_failure():
    standing = Standing()
    levels = []
    for _ in range(12):
        standing = standing.after(Attempt("oval", standing.level, 1.0, NOW))
        levels.append(standing.level)
    assert levels == sorted(levels) and levels[-1] == LEVELS
    for _ in range(15):
        standing = standing.after(Attempt("oval", standing.level, 0.0, NOW))
    assert standing.level == 1


@given(st.lists(st.tuples(st.sampled_from(SKILLS), st.integers(1, LEVELS), st.floats(0, 1)),
                max_size=30))  # fmt: skip
def test_there_is_always_a_next_one_and_never_the_same_twice_in_a_row(done):
    skill, level = next_up(attempts(*done), SKILLS, NOW + timedelta(hours=1))
    assert skill in SKILLS and 1 <= level <= LEVELS
    assert not done or skill != done[-1][0]


def test_a_skill_that_there_is_no_more_is_left_out():
    assert set(standings(attempts(("gone", 1, 1.0), ("oval", 9, 1.0)), SKILLS)) == set(SKILLS)
