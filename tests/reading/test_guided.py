"""The guided way: outlines intersected, loops taken away by hand."""

import pytest

from holoptic.demo import drawing_paths
from holoptic.errors import BadInput
from holoptic.job import pose


def volume(worker, part):
    return worker.ask("present", pose(part)).facts.volume


def test_the_guided_way_leads_to_the_part_that_reading_finds(worker):
    views = worker.ask("open_sheet", str(drawing_paths()[0])).arrangement.drawn_views()
    guide = worker.ask("begin_guide", views, "shoe")
    bores = 3.14159265 * (8.5**2 * 22 + 4.25**2 * (13 - 7.5))
    (answer,) = worker.ask("read", tuple(views), "shoe").answers
    whole = volume(worker, guide.part)
    assert whole == pytest.approx(volume(worker, answer.part) + bores, rel=1e-6)
    for radius, low, high in ((8.5, 14.5, 36.5), (4.25, 0.0, 36.5)):
        radii = [loop.outline.circle[1] if loop.outline.circle else 0.0 for loop in guide.loops]
        number = radii.index(radius)
        assert low in guide.loops[number].levels
        guide = worker.ask("guide_on", guide, number, low, high)
    assert volume(worker, guide.part) == pytest.approx(volume(worker, answer.part))
    assert len({operation.name for operation in guide.part.operations}) == 5


def test_a_loop_needs_two_levels(worker):
    views = worker.ask("open_sheet", str(drawing_paths()[0])).arrangement.drawn_views()
    guide = worker.ask("begin_guide", views, "shoe")
    with pytest.raises(BadInput, match="lie apart"):
        worker.ask("guide_on", guide, 0, 5.0, 5.0)
    with pytest.raises(BadInput, match="two views"):
        worker.ask("begin_guide", views[:1], "shoe")
