"""Our own hidden lines: against the kernel's, against rays, and whole in themselves."""

import math
import shutil
from collections import defaultdict
from itertools import pairwise

import numpy as np
import pytest
from bench.random_parts import random_part
from bench.second_opinion import difference
from bench.solids import comb, demo_parts, drilled_plate
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Ax2, gp_Dir, gp_Lin, gp_Pnt
from OCP.IntCurvesFace import IntCurvesFace_ShapeIntersector

from holoptic.curves.space import EllipticArc
from holoptic.pictorial import NearCorner, draw, view_of
from holoptic.solid.anatomy.flat import CONVEX, SEAM, SMOOTH, UNSURE, FlatSolid
from holoptic.solid.anatomy.kernel_shapes import tidy, together
from holoptic.solid.anatomy.nets import net_over
from holoptic.solid.anatomy.rows import FREE
from holoptic.solid.anatomy.skin import skin_of
from holoptic.solid.making.stages import build
from holoptic.solid.seeing import compiled, sight
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.tolerance import SAMPLE_CHORD_MM
from holoptic.views.orthographic import VIEWS_BY_NAME
from oracle import complaints
from own_solids import SOLIDS

needs_compiler = pytest.mark.skipif(
    compiled.library() is None, reason="the compiled part is missing on this machine"
)
# arcs of these meet at an end and cross once more close to it
MEETING = random_part(177), random_part(366)
PARTS = {part.name: part for part in (*demo_parts(), comb(5), drilled_plate(2, 2), *MEETING)}
BODIES = {body.name: body for body in SOLIDS}


def shape_of(name):
    return build(PARTS[name]) if name in PARTS else tidy(BODIES[name].kernel_shape())


# --- against the kernel -------------------------------------------------------------------------

SAMPLE = [
    ("gallery block", "isometric", "front-right"),
    ("bearing bracket", "cabinet", "rear-left"),
    ("latch plate", "dimetric", "front-left-below"),
    ("comb of 5 slots", "plan-oblique:35:0.8", "front-right"),
    ("drilled plate 2 × 2", "isometric", "rear-right-below"),
    ("skew-drilled ball", "cavalier", "front-left"),
    ("notched cone", "isometric", "front-left-below"),
    ("countersunk hole", "plan-oblique", "front-right"),
    ("ring on a plate", "dimetric", "front-right"),
    ("hook", "isometric", "front-right"),
    ("half ring", "cabinet", "front-right-below"),
    ("vent cowl", "isometric", "front-left"),
    ("chimney", "trimetric:18:31", "front-right"),
    ("random 177", "dimetric", "front-right-below"),
    ("random 366", "plan-oblique", "rear-right-below"),
]


@needs_compiler
@pytest.mark.parametrize(("name", "kind", "corner"), SAMPLE)
def test_the_kernel_says_the_same(name, kind, corner):
    shape, view = shape_of(name), view_of(kind, NearCorner(corner))
    ours, theirs = (
        draw(solid.look(view.toward_viewer), view)
        for solid in (SeenSolid(shape), SeenSolid(shape, way="kernel"))
    )
    assert difference(ours, theirs).most == 0
    assert any(stroke.role == "visible" for stroke in ours.strokes)


@needs_compiler
@pytest.mark.parametrize("name", ["gallery block", "bearing bracket", "drilled plate 2 × 2"])
@pytest.mark.parametrize("view", VIEWS_BY_NAME.values(), ids=lambda view: view.kind)
def test_the_kernel_says_the_same_of_views(name, view):
    shape = shape_of(name)
    ours, theirs = (
        draw(solid.look(view.toward_viewer), view)
        for solid in (SeenSolid(shape), SeenSolid(shape, way="kernel"))
    )
    assert difference(ours, theirs).most == 0


@needs_compiler
@pytest.mark.parametrize("left_out", [0, 8, -1])
@pytest.mark.parametrize("name", ["gallery block", "bearing bracket", "drilled plate 2 × 2"])
def test_the_kernel_says_the_same_of_open_shells(name, left_out):
    """One looks inside, at the backs of faces; where faces run into each other is no line."""
    faces = [known.face for known in skin_of(shape_of(name)).faces]
    shell = together([face for face in faces if face is not faces[left_out]])
    solids = SeenSolid(shell), SeenSolid(shell, way="kernel")
    assert solids[0].is_own
    for kind, corner in (("isometric", "front-left"), ("cabinet", "rear-right-below")):
        view = view_of(kind, NearCorner(corner))
        ours, theirs = (draw(solid.look(view.toward_viewer), view) for solid in solids)
        assert difference(ours, theirs).most == 0


@needs_compiler
def test_an_edge_behind_a_missing_face_is_in_sight():
    """The kernel hides it; no face meets the line from it to the viewer."""
    faces = [known.face for known in skin_of(shape_of("latch plate")).faces]
    shell, view = together([*faces[:10], *faces[11:]]), view_of("isometric", NearCorner.FRONT_LEFT)
    seen = draw(SeenSolid(shell).look(view.toward_viewer), view)
    (edge,) = [
        stroke.curve for stroke in seen.visible
        if stroke.is_straight and math.dist(stroke.curve.start, (16.5, 21, 9)) < 1e-6
        and stroke.curve.end[2] < 5
    ]  # fmt: skip
    meets = IntCurvesFace_ShapeIntersector()
    meets.Load(shell, 1e-7)
    for share in (0.05, 0.5, 0.95):
        sight_line = gp_Lin(gp_Pnt(*edge.at(share * edge.length)), gp_Dir(*view.toward_viewer))
        meets.Perform(sight_line, 1e-3, 1e4)
        assert meets.NbPnt() == 0


def test_where_the_compiled_part_is_missing_the_kernel_serves(monkeypatch):
    shape, view = shape_of("gallery block"), view_of("isometric")
    monkeypatch.setattr(sight, "library", lambda: None)
    monkeypatch.setattr("holoptic.solid.seeing.hidden.library", lambda: None)
    solid = SeenSolid(shape)
    assert not solid.is_own
    picture = draw(solid.look(view.toward_viewer), view)
    kernels = draw(SeenSolid(shape, way="kernel").look(view.toward_viewer), view)
    assert [stroke.path for stroke in picture.strokes] == [s.path for s in kernels.strokes]


# --- against rays -------------------------------------------------------------------------------


@needs_compiler
@pytest.mark.parametrize("seed", [6, 11, 16, 22, 41, 223])
def test_what_the_kernel_leaves_improper_is_seen_rightly(seed):
    """Edges of three or four faces, of none, or inside one: booleans leave them now and then."""
    part = random_part(seed)
    solid = SeenSolid(build(part))
    assert solid.is_own
    for corner in ("front-right", "rear-left", "front-right-below"):
        view = view_of("cabinet", NearCorner(corner))
        assert complaints(part, solid.facts, draw(solid.look(view.toward_viewer), view)) == []


def box(low, high):
    return BRepPrimAPI_MakeBox(gp_Pnt(*low), gp_Pnt(*high)).Shape()


def rod(place, way, radius, long):
    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(*place), gp_Dir(*way)), radius, long).Shape()


SEVERAL = {
    "stacked": [box((0, 0, 0), (41, 31, 9.5)), box((10, 5.5, 9.5), (30, 20, 25))],
    "pushed in": [box((0, 0, 0), (41, 31, 9.5)), box((10.5, 5.5, 5), (30, 45, 25))],
    "pinned": [box((0, 0, 0), (41, 31, 9.5)), rod((20, 15.5, -5), (0, 0, 1), 6.5, 30)],
    "crossed": [rod((0, 0, 0), (0, 0, 1), 8.5, 41), rod((-20, 1, 20), (1, 0.1, 0.2), 6, 40)],
}


@needs_compiler
@pytest.mark.parametrize("name", SEVERAL)
def test_bodies_hide_each_other_where_they_touch_and_overlap(name):
    shape = together(SEVERAL[name])
    solid, rays = SeenSolid(shape), IntCurvesFace_ShapeIntersector()
    rays.Load(shape, 1e-7)
    for corner in NearCorner:
        toward = view_of("isometric", corner).toward_viewer
        seen = solid.look(toward)
        assert {piece.body for piece in seen.pieces} == {0, 1}
        for piece in seen.pieces:
            first, last = piece.curve.span
            for share in (0.13, 0.47, 0.91):
                at = piece.curve.at(first + share * (last - first))
                rays.PerformNearest(gp_Lin(gp_Pnt(*at), gp_Dir(*toward)), 0.02, 1e4)
                assert piece.visible == (rays.NbPnt() == 0), (corner, piece, at)


# --- whole in itself ----------------------------------------------------------------------------

BLOCK = SeenSolid(shape_of("gallery block"))


@needs_compiler
@settings(deadline=None)
@given(st.tuples(*[st.floats(-1, 1)] * 3).filter(lambda d: math.hypot(*d) > 0.1))
def test_every_edge_is_told_whole_from_any_direction(toward):
    told = dict.fromkeys(range(len(BLOCK.facts.edges)), 0.0)
    unit = np.array(toward) / math.hypot(*toward)
    for piece in BLOCK.sighting.look(toward).pieces:
        told[piece.edge] += piece.curve.length
    for edge in BLOCK.facts.edges:
        way = np.subtract(edge.curve.end, edge.curve.start) / edge.curve.length
        end_on = np.linalg.norm(np.cross(way, unit)) * edge.curve.length < 1e-5
        assert told[edge.index] == pytest.approx(edge.curve.length, abs=1e-4) or end_on


@needs_compiler
@pytest.mark.parametrize("name", ["bearing bracket", "lens ring", "vent cowl"])
def test_pieces_of_a_line_do_not_overlap(name):
    solid = SeenSolid(shape_of(name))
    lines = solid.sighting.look((1.0, -1.0, 0.7))
    arcs = defaultdict(list)
    for piece in lines.pieces:
        if isinstance(piece.curve, EllipticArc):
            arcs[piece.edge].append(piece.curve.span)
    for spans in arcs.values():
        for (_, end), (start, _) in pairwise(sorted(spans)):
            assert start >= end - 1e-9
    assert len(lines.owners) == len(lines.outlines)


# --- arrays -------------------------------------------------------------------------------------


def flat_of(name):
    """A solid as arrays, after the first look has told which of its edges are convex."""
    solid = SeenSolid(shape_of(name))
    solid.look((1.0, -1.0, 0.7))
    return solid.sighting.flat


@needs_compiler
def test_edges_are_told_convex_hollow_smooth_and_seams():
    flat = flat_of("gallery block")
    hollow = [b.curve for b, f in zip(flat.borders, flat.flags, strict=True) if f == 0]
    assert hollow
    assert set(flat.flags.tolist()) == {0, CONVEX}
    # the foot of each step is hollow, its rim is not
    feet = {(curve.start[0], curve.start[2]) for curve in hollow if curve.start[1] in (0.0, 46.0)}
    assert feet
    plate = flat_of("drilled plate 2 × 2")
    assert (plate.flags & SEAM).sum() == 8
    rounded = flat_of("bearing bracket")
    assert (rounded.flags & SMOOTH).any()
    assert not (rounded.flags & UNSURE).any()
    assert not rounded.is_sheet.any()


def test_each_use_of_an_edge_is_noted_once():
    flat = FlatSolid(skin_of(shape_of("drilled plate 2 × 2")))
    uses = np.bincount(flat.use[:, 1], minlength=len(flat.borders))
    assert set(uses.tolist()) == {2}
    assert (flat.beside >= 0).all()
    two_ways = flat.reversed[:, 0] != flat.reversed[:, 1]
    assert two_ways.all()  # in a closed solid each edge is run both ways


@pytest.mark.parametrize("name", ["chimney", "vent cowl"])
def test_a_net_lies_close_to_its_face(name):
    skin = skin_of(shape_of(name))
    faces = [face for face in skin.faces if face.row.kind == FREE]
    assert faces
    for face in faces:
        net = face.row.net
        bounds = face.row.figures[-4:]
        finer = net_over(face.face, bounds)
        assert finer.shape == net.shape
        assert np.linalg.norm(net[:, :, 3:], axis=2) == pytest.approx(1.0)
        # between places the net is off by its chords alone
        middle = (net[1:, :, :3] + net[:-1, :, :3]) / 2
        step = np.linalg.norm(net[1:, :, :3] - net[:-1, :, :3], axis=2)
        turn = np.arccos(np.clip((net[1:, :, 3:] * net[:-1, :, 3:]).sum(axis=2), -1, 1))
        assert middle.shape[:2] == step.shape
        assert (step * turn / 8).max() < 2 * SAMPLE_CHORD_MM


# --- the compiled part --------------------------------------------------------------------------


def test_without_a_compiler_nothing_is_made(monkeypatch, tmp_path):
    copy = tmp_path / "hidden_lines.c"
    shutil.copy(compiled.SOURCE, copy)
    monkeypatch.setattr(compiled, "SOURCE", copy)
    monkeypatch.setattr(compiled.shutil, "which", lambda _: None)
    assert not compiled.build()
    assert list(tmp_path.iterdir()) == [copy]


@needs_compiler
def test_what_was_compiled_of_another_source_is_not_taken(monkeypatch, tmp_path):
    copy = tmp_path / "hidden_lines.c"
    shutil.copy(compiled.SOURCE, copy)
    monkeypatch.setattr(compiled, "SOURCE", copy)
    first = compiled.path()
    if not compiled.build():
        pytest.skip("no compiler")
    assert first.exists()
    copy.write_text(copy.read_text() + "\n/* another */\n")
    assert compiled.path() != first
    assert compiled.build()
    assert not first.exists()  # what is of no use any more goes
