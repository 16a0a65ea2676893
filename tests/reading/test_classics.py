"""What is on every exercise sheet, drawn and read back: two of each sort (`bench.classics`)."""

import math
import random

import numpy as np
import pytest
from bench.classics.__main__ import draw_views
from bench.classics.families import FAMILIES, LAMP_PARTS
from bench.classics.shapes import volume

from holoptic.part import ImportedSolid
from holoptic.part.walls import Drum, Flat, Globe, Panel, Taper, Tyre
from holoptic.reading.arcs import arc_of, with_arcs
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Free, Straight
from holoptic.reading.round_surfaces import ball_surface, cone_surface, drum_surface
from holoptic.reading.silhouette import silhouette_of
from holoptic.reading.surfaces import RingSurface
from holoptic.solid.anatomy.kernel_shapes import volume as volume_of
from holoptic.solid.making.from_walls import solid_between
from holoptic.solid.seeing import compiled
from holoptic.solid.shelf import seen

READ = [("lying prisms", 1), ("lying prisms", 6), ("any pyramids", 0), ("any pyramids", 2),
        ("any cones", 0), ("any cones", 2), ("shafts", 2), ("shafts", 10), ("tubes", 5),
        ("tubes", 7), ("balls", 0), ("balls", 7), ("rings and rounds", 2),
        ("rings and rounds", 8), ("on slopes", 0), ("on slopes", 1), ("ribs to cylinders", 0),
        ("ribs to cylinders", 2), ("skew planes", 1), ("skew planes", 3),
        ("oblique cones", 4), ("oblique cones", 13)]  # fmt: skip


@pytest.mark.skipif(
    compiled.library() is None, reason="the compiled part is missing on this machine"
)
@pytest.mark.parametrize(("family", "seed"), READ)
def test_a_classic_is_read_back(worker, tmp_path, family, seed):
    solid = FAMILIES[family](random.Random(f"{family} {seed}"))
    path, angle, scale = draw_views(worker, solid, seed, tmp_path, LAMP_PARTS[family])
    sheet = worker.ask("open_sheet", str(path), angle)
    reading = worker.ask("read", tuple(sheet.arrangement.drawn_views()), "classic")
    assert reading.verdict == "unique", reading.notes
    answer = reading.answers[0]
    assert answer.volume == pytest.approx(volume(solid) * scale**3, rel=1e-3)
    assert not answer.differences
    if isinstance(answer.part, ImportedSolid):
        assert answer.part.step
        assert not answer.part.path
        assert any("bounded by its faces" in note for note in reading.notes)
        assert seen(answer.part).facts.volume == pytest.approx(answer.volume)


SIZE = (60.0, 40.0, 50.0)
LOW, HIGH = (0.0, 0.0, 0.0), SIZE
BALL = Globe((40.0, 20.0, 20.0), 10.0)
CONE = Taper((20.0, 20.0, 60.0), (20.0, 20.0, 20.0), (0.0, 0.0, 1.0), 15.0)
LEANING = Taper((25.0, 20.0, 60.0), (20.0, 20.0, 20.0), (0.0, 0.0, 1.0), 15.0)
RING = Tyre((30.0, 20.0, 25.0), (0.0, 0.0, 1.0), 12.0, 3.0)
DRUM = Drum((20.0, 20.0, 0.0), (0.6, 0.0, 0.8), 8.0)
SURFACES = [ball_surface(BALL), cone_surface(CONE), cone_surface(LEANING), RingSurface(RING),
            drum_surface(DRUM)]  # fmt: skip


@pytest.mark.parametrize("surface", SURFACES, ids=lambda surface: type(surface.wall).__name__)
def test_a_solid_is_made_between_a_surface_and_the_crate(surface):
    panel = Panel(surface.wall, LOW, HIGH)
    within = solid_between(SIZE, [panel], surface.holds)
    without = solid_between(SIZE, [panel], lambda points: ~surface.holds(points))
    dice = np.random.default_rng(3)
    points = dice.uniform((0, 0, 0), SIZE, (200_000, 3))
    share = surface.holds(points).mean() * math.prod(SIZE)
    assert volume_of(within) == pytest.approx(share, rel=0.03)
    assert volume_of(within) + volume_of(without) == pytest.approx(math.prod(SIZE), rel=1e-5)


@pytest.mark.parametrize("surface", SURFACES, ids=lambda surface: type(surface.wall).__name__)
def test_a_line_meets_a_round_surface_where_it_goes_in_and_out(surface):
    dice = random.Random(7)
    met = 0
    for _ in range(300):
        point = [dice.uniform(0, size) for size in SIZE]
        depth = dice.randrange(3)
        for at, normal in surface.roots(depth, tuple(point)):
            met += 1
            assert math.hypot(*normal) == pytest.approx(1)
            beside = [[*point], [*point]]
            beside[0][depth], beside[1][depth] = at - 1e-4, at + 1e-4
            inside = surface.holds(np.array(beside))
            assert abs(normal[depth]) < 0.05 or inside[0] != inside[1]
    assert met > 30


def test_walls_that_cross_part_the_crate_whole():
    walls = [Flat((30.0, 0.0, 0.0), (1.0, 0.0, 0.0)), Flat((0.0, 0.0, 20.0), (0.0, 0.0, 1.0)),
             DRUM, BALL]  # fmt: skip
    panels = [Panel(wall, LOW, HIGH) for wall in walls]
    made = solid_between(SIZE, panels, lambda p: (p[:, 2] < 20) | (p[:, 0] < 30))
    assert volume_of(made) == pytest.approx(60 * 40 * 20 + 30 * 40 * 30)


def test_a_curve_on_a_circle_is_an_arc_and_one_with_straight_runs_is_parted():
    quarter = [(3 - 3 * math.cos(t), 3 * math.sin(t)) for t in np.linspace(0, math.pi / 2, 40)]
    assert arc_of(tuple(quarter)).radius == pytest.approx(3)
    oval = tuple((5 * math.cos(t), 3 * math.sin(t)) for t in np.linspace(0, 2, 60))
    assert arc_of(oval) is None
    along = [(3 + 0.2 * k, 3.0) for k in range(1, 41)]
    back = [(11 + 3 * math.sin(t), 3 * math.cos(t)) for t in np.linspace(0, math.pi / 2, 40)][1:]
    line = DrawnLine(Free((*quarter, *along, *back)))
    shapes = [one.shape for one in with_arcs(DrawnView("front", (line,))).lines]
    assert [type(shape) for shape in shapes] == [Bow, Straight, Bow]
    assert with_arcs(DrawnView("front", (DrawnLine(Free(oval)),))).lines[0].shape == Free(oval)


def test_a_curve_closes_an_outline():
    oval = tuple((20 + 10 * math.cos(t), 20 + 4 * math.sin(t)) for t in np.linspace(0, math.pi, 90))
    sides = [Straight((10.0, 20.0), (5.0, 0.0)), Straight((30.0, 20.0), (35.0, 0.0)),
             Straight((5.0, 0.0), (35.0, 0.0))]  # fmt: skip
    area = silhouette_of(DrawnView("front", tuple(map(DrawnLine, [*sides, Free(oval)]))))
    us, vs = np.array([20.0, 20.0, 12.0, 6.0]), np.array([23.9, 24.1, 10.0, 19.0])
    assert area.holds(us, vs).tolist() == [True, False, True, False]
    assert silhouette_of(DrawnView("front", tuple(map(DrawnLine, sides)))) is None


@pytest.mark.parametrize("off", [0.0, 0.003, -0.003])
def test_an_oval_that_closes_an_outline_in_part_is_part_of_it(off):
    # a cone cut slanting: its sides end on the oval, maybe beside the chords
    turns = np.linspace(2.0, 2.0 + math.tau, 61)
    oval = tuple((20 + 10 * math.cos(t), 20 + 4 * math.sin(t)) for t in turns)
    touch = math.acos(-0.4)
    ends = [
        (20 + side * (10 + off) * math.sin(touch), 20 + 4 * math.cos(touch)) for side in (-1, 1)
    ]
    feet = (5.0, 0.0), (35.0, 0.0)
    sides = [Straight(*pair) for pair in zip(feet, ends, strict=True)]
    lines = [*sides, Straight(*feet), Free((*oval[:-1], oval[0]))]
    area = silhouette_of(DrawnView("front", tuple(map(DrawnLine, lines))))
    us, vs = np.array([20.0, 20.0, 20.0, 12.0, 6.0]), np.array([23.9, 24.1, 2.0, 10.0, 19.0])
    assert area.holds(us, vs).tolist() == [True, False, True, True, False]
