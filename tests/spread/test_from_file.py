"""An assembly of a file as an arrangement: names, quantities, colours, what stays together."""

import pytest

from holoptic.job import job_of
from holoptic.part import ImportedSolid
from holoptic.part.whole import UPRIGHT
from holoptic.solid.pieces import FoundSolid
from holoptic.spread.from_file import with_assembly


def solid(index, like, name, nested=("lamp",), at=(0.0, 0.0, 0.0), colour=""):
    return FoundSolid(index, like, name, nested, UPRIGHT, at, colour)


def arranged(*stands):
    parts = [
        ImportedSolid(f"lamp {k + 1}", "/lamp.step", k, "", "step") for k in range(len(stands))
    ]
    return with_assembly(job_of("lamp", parts), stands)


def test_equal_solids_are_one_part_that_stands_several_times():
    job = arranged(solid(0, 0, "wick tube"), solid(1, 0, "wick tube", at=(12.5, 0.0, 3.25)),
                   solid(2, 2, "burner cap", colour="#b08020"))  # fmt: skip
    (made,) = job.arrangements
    assert [item.part for item in made.placed] == ["p1", "p1", "p3"]
    assert made.placed[1].place == pytest.approx((12.5, 0.0, 3.25))
    assert [item.colour for item in made.placed] == ["", "", "#b08020"]
    assert (job.parts[0].quantity, job.parts[2].source.name) == (2, "burner cap")


@pytest.mark.parametrize(
    ("names", "shared"),
    [
        (("wick tube 1", "wick tube 2"), "wick tube"),
        (("tube_01", "tube_02"), "tube"),
        (("tube 1", "pipe 2"), "tube 1"),
        (("SLW-210", "SLW-210"), "SLW-210"),  # a part's own number stays
        (("1", "2"), "1"),
    ],
)
def test_equal_solids_share_the_name_before_the_number(names, shared):
    job = arranged(*(solid(k, 0, name) for k, name in enumerate(names)))
    assert job.parts[0].source.name == shared


def test_what_is_nested_together_stays_together():
    inner = ("lamp", "burner")
    job = arranged(solid(0, 0, "foot"), solid(1, 1, "cap", inner), solid(2, 2, "gauze", inner))
    assert job.arrangements[0].spread.groups == (("b2", "b3"),)


def test_one_solid_is_no_arrangement():
    assert arranged(solid(0, 0, "foot")).arrangements == ()
