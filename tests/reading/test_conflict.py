"""Sets of demands that cannot hold together: none of them may be left out."""

from hypothesis import given
from hypothesis import strategies as st
from pysat.solvers import Cadical195

from holoptic.reading.answers import ALWAYS, ASIDE, conflict
from holoptic.reading.clauses import Clause

CELLS = 4
literals = st.integers(1, CELLS).flatmap(lambda cell: st.sampled_from([cell, -cell]))
demands = st.lists(st.lists(literals, min_size=1, max_size=2), min_size=1, max_size=14)


def holds(clauses):
    with Cadical195(bootstrap_with=[list(c) for c in clauses]) as solver:
        solver.add_clause(list(range(1, CELLS + 1)))  # something is there
        return solver.solve()


@given(demands)
def test_a_conflict_does_not_hold_and_holds_without_any_of_its_members(drawn):
    clauses = [Clause(tuple(literals), source) for source, literals in enumerate(drawn)]
    found = conflict(clauses, {k: k for k in range(len(drawn))}, CELLS)
    if holds(drawn):
        assert found == frozenset()
        return
    assert not holds([drawn[k] for k in found])
    assert all(holds([drawn[k] for k in found if k != left]) for left in found)


def test_what_holds_always_is_never_named_and_what_is_aside_never_counts():
    clauses = [Clause((1,), 0), Clause((-1,), 1), Clause((-1,), 2)]
    assert conflict(clauses, {0: ALWAYS, 1: 7, 2: ASIDE}, 1) == {7}
    assert conflict(clauses, {0: ALWAYS, 1: ASIDE, 2: ASIDE}, 1) == frozenset()
