"""Parts that were read, in the features and words of an engineer; the solid stays the same."""

from dataclasses import replace

import pytest

from cast import crate, hole, length
from holoptic.demo import drawing_paths
from holoptic.job import pose
from holoptic.part import AboutCentre, Corner, Face, Mirrored, Part, Prism
from holoptic.part.outline_text import outline_text, read_outline
from holoptic.reading.blocks import engineered
from holoptic.reading.wording import figures_needed, told, worded
from holoptic.units import Unit

BOX = crate(66, 44.5, 54.5)


def outlined(text):
    return read_outline(text, Unit.MM, BOX.names)


def pad(face, text, start="0", end=None, name="pad"):
    return Prism(name, "add", face, outlined(text), length(start), end and length(end))


def volume(worker, part):
    shown = worker.ask("present", pose(part))
    assert shown.troubles == ()
    return shown.facts.volume


# overlapping pads over the whole height, as a covering of full cells gives them
PADS = (
    pad(Face.FRONT, "0, 0; 66, 0; 66, 14.5; 0, 14.5", name="pad 1"),
    pad(Face.REAR, "0, 0; 66, 0; 66, 14.5; 51.5, 14.5; 51.5, 36 arc 18.5 left; 14.5, 36; "
        "14.5, 14.5; 0, 14.5", end="13", name="pad 2"),
    pad(Face.LEFT, "0, 0; 44.5, 0; 44.5, 45.5; 31.5, 45.5; 31.5, 31.5; 6.5, 14.5; 0, 14.5", "29",
        "37", name="pad 3"),
)  # fmt: skip


def test_pads_become_base_upright_and_rib_that_stand_on_one_another(worker):
    part = Part("bracket", BOX, PADS, begin="empty")
    made = worded(engineered(part))
    assert [item.name for item in made.operations] == ["base", "upright", "rib"]
    base, upright, rib = made.operations
    assert outline_text(base.outline) == "0, 0; L, 0; L, D; 0, D"
    assert outline_text(upright.outline) == (
        "L/2-18.5, base.top; L/2+18.5, base.top; L/2+18.5, H-18.5 arc 18.5 left; L/2-18.5, H-18.5"
    )
    assert set(outline_text(rib.outline).split("; ")) == {
        "upright.front, base.top", "upright.front, 31.5", "6.5, base.top",
    }  # fmt: skip
    assert (rib.start.text, rib.end.text) == ("L/2-4", "L/2+4")
    assert volume(worker, made) == pytest.approx(volume(worker, part), rel=1e-9)
    assert figures_needed(made) < 0.6 * figures_needed(part)


def test_the_words_hold_when_a_size_changes(worker):
    made = worded(engineered(Part("bracket", BOX, PADS, begin="empty")))
    thicker = replace(made.operations[0], end=length(20))
    changed = replace(made, operations=(thicker, *made.operations[1:])).reread(Unit.MM)
    low = min(point.v.mm for point in changed.operations[1].outline)
    assert low == 20
    assert volume(worker, changed) > volume(worker, made)


def test_an_outline_of_base_and_wall_is_parted(worker):
    angle = pad(Face.LEFT, "0, 0; 44.5, 0; 44.5, 12; 9.5, 12; 9.5, 54.5; 0, 54.5", name="pad 1")
    part = Part("angle", BOX, (angle,), begin="empty")
    made = worded(engineered(part))
    assert [item.name for item in made.operations] == ["base", "wall"]
    assert made.operations[1].face is Face.FRONT
    assert volume(worker, made) == pytest.approx(volume(worker, part))


def test_what_is_no_base_stays_as_it_is():
    tall = pad(Face.FRONT, "0, 0; 66, 0; 66, 50; 0, 50", name="pad 1")
    lug = pad(Face.TOP, "10, 10; 20, 10; 20, 20; 10, 20", name="pad 2")
    part = Part("p", BOX, (tall, lug), begin="empty")
    assert engineered(part) == part


def test_a_boss_counts_from_what_it_stands_on(worker):
    base = pad(Face.BOTTOM, "0, 0; 66, 0; 66, 44.5; 0, 44.5", end="14.5", name="pad 1")
    boss = hole("boss 1", Face.BOTTOM, 20, 33, 22.25, 30, mode="add")
    part = Part("p", BOX, (base, boss), begin="empty")
    made = worded(engineered(part))
    stands = made.operations[1]
    assert (stands.base.text, stands.start.text, stands.end.text) == ("base.top", "0", "15.5")
    assert (stands.u.distance.text, stands.v.distance.text) == ("L/2", "D/2")
    assert volume(worker, made) == pytest.approx(volume(worker, part))


def test_twins_and_rings_become_one_operation(worker):
    pair = [hole(f"hole {k}", Face.TOP, 6, u, 9, None) for k, u in enumerate((10, 56))]
    part = Part("p", BOX, tuple(pair))
    made = worded(part)
    assert [item.copies for item in made.operations] == [Mirrored("u")]
    ring = [hole(f"hole {k}", Face.TOP, 5, u, v) for k, (u, v) in enumerate(
        ((33 + 15, 22.25), (33 - 7.5, 22.25 + 12.99), (33 - 7.5, 22.25 - 12.99)))]  # fmt: skip
    round_ = Part("p", BOX, tuple(ring))
    about = worded(round_).operations
    assert len(about) == 1
    assert isinstance(about[0].copies, AboutCentre)
    assert volume(worker, worded(round_)) == pytest.approx(volume(worker, round_), rel=1e-5)
    assert told(worded(round_)) < told(round_)


def test_corners_are_set_off_from_the_end_that_they_lie_at():
    step = Prism("step", "cut", Face.FRONT, outlined("39.5, 54.5; 66, 54.5; 66, 30; 39.5, 30"),
                 length(0), None)  # fmt: skip
    made = worded(Part("p", BOX, (step,))).operations[0]
    assert outline_text(made.outline) == "L-26.5, H; L, H; L, H-24.5; L-26.5, H-24.5"
    assert all(isinstance(point, Corner) for point in made.outline)


@pytest.mark.parametrize("name", ["bearing bracket", "counterbored flange", "latch plate"])
def test_a_demo_part_read_from_its_views_is_said_as_shortly_as_its_maker_says_it(
    worker, demo_job, name
):
    part = demo_job.find(name).source
    views = worker.ask("derive_views", part)[:3]
    reading = worker.ask("read", tuple(views), "read")
    assert reading.verdict == "unique"
    made = reading.answers[0].taken
    assert volume(worker, made) == pytest.approx(volume(worker, part), rel=1e-6)
    assert figures_needed(made) <= figures_needed(part)
    if name == "bearing bracket":
        names = [item.name for item in made.operations]
        assert names[:4] == ["base", "upright", "rib", "bore"]


def test_a_plate_of_any_outline_is_the_base_of_what_stands_on_it(worker):
    plate = pad(Face.BOTTOM, "0, 0; 66, 0; 66, 30.5; 52, 44.5; 0, 44.5", end="9", name="pad 1")
    keeper = pad(Face.TOP, "20, 10; 33, 10; 33, 34.5; 20, 34.5", name="pad 2")
    part = Part("plate", BOX, (plate, keeper), begin="empty")
    made = worded(engineered(part))
    assert [item.name for item in made.operations] == ["base", "wall"]
    assert made.operations[1].base.text == "base.top"
    assert volume(worker, made) == pytest.approx(volume(worker, part))


def test_steps_and_a_groove_are_told_rather_than_profiles_that_hold_both(worker):
    shoe, _ = drawing_paths()
    reading = worker.ask(
        "read", worker.ask("open_sheet", str(shoe)).arrangement.drawn_views(), "shoe"
    )
    names = [item.name for item in reading.answers[0].taken.operations]
    assert sorted(names) == ["groove 1", "hole 1", "hole 2", "slope 1", "step 1"]
