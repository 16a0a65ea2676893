"""One line drawn otherwise: what is offered reads, and is the part that was meant.

Many more parts and sorts of slip in `bench.one_line`.
"""

from dataclasses import replace

import pytest

from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.reading.compare import compare
from holoptic.reading.lines import DrawnLine, Straight

HIDDEN_LEVEL = DrawnLine(Straight((0.0, 22.0), (17.0, 22.0)), "hidden")
TOO_LONG = replace(HIDDEN_LEVEL, shape=Straight((0.0, 22.0), (46.0, 22.0)))
STEP = DrawnLine(Straight((57.5, 0.0), (57.5, 46.0)))
SIDE = DrawnLine(Straight((84.0, 0.0), (84.0, 46.0)))


@pytest.fixture(scope="module")
def views(worker):
    part = next(p.source for p in read_job(job_path()).parts if p.source.name == "gallery block")
    return worker.ask("derive_views", part)[:3]


def is_line(one, other):
    return one.status == other.status and {one.shape.start, one.shape.end} == {
        other.shape.start, other.shape.end}  # fmt: skip


def spoiled(views, name, line, instead):
    """Return views with a line of one of them drawn otherwise, or left out for None."""
    found = []
    for view in views:
        kept = [x for x in view.lines if view.name != name or not is_line(x, line)]
        assert len(kept) == len(view.lines) - (view.name == name)
        extra = [instead] if instead is not None and view.name == name else []
        found.append(replace(view, lines=(*kept, *extra)))
    return tuple(found)


@pytest.mark.parametrize(
    ("name", "line", "instead", "words"),
    [
        pytest.param("right", HIDDEN_LEVEL, TOO_LONG,
                     "to (17, 22)", id="too long"),
        pytest.param("right", HIDDEN_LEVEL, replace(HIDDEN_LEVEL, status="visible"),
                     "taken for hidden", id="firm for broken"),
        pytest.param("top", SIDE, None, "not drawn", id="left out of the outline"),
    ],
)  # fmt: skip
def test_the_line_that_was_spoiled_is_offered_as_it_was(worker, views, name, line, instead, words):
    bad = spoiled(views, name, line, instead)
    assert worker.ask("read", bad, "bad").verdict == "contradictory"
    first, *_ = worker.ask("correct", bad, "bad")
    assert first.view == name
    assert words in first.words.replace("⟦", "").replace(".0⟧", "").replace("⟧", "")
    assert compare(views, first.views) == []
    assert compare(first.views, views) == []
    assert first.reading.verdict == "unique"
    assert first.reading.answers[0].differences == ()


def test_nothing_is_offered_where_more_than_one_line_is_wrong(worker, views):
    bad = spoiled(views, "right", HIDDEN_LEVEL, None)
    bad = spoiled(bad, "top", STEP, replace(STEP, shape=Straight((57.5, 0), (57.5, 30))))
    assert worker.ask("read", bad, "bad").verdict == "contradictory"
    assert worker.ask("correct", bad, "bad") == ()
