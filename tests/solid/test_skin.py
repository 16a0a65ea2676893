"""The skin of a solid: what it shuts in, and whether faces or edges are left to be joined."""

import pytest
from bench.solids import comb, demo_parts, drilled_plate
from OCP.BRepAlgoAPI import BRepAlgoAPI_Fuse
from OCP.BRepGProp import BRepGProp_Domain, BRepGProp_Face, BRepGProp_Vinert
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox, BRepPrimAPI_MakeCylinder
from OCP.gp import gp_Pnt

from holoptic.keeping import Cache
from holoptic.solid.anatomy.faces import volume_within
from holoptic.solid.anatomy.kernel_shapes import tidy, together, volume
from holoptic.solid.anatomy.remembered import Remembered
from holoptic.solid.anatomy.rows import CONE, CYLINDER, face_row
from holoptic.solid.anatomy.skin import Skin
from holoptic.solid.making.runs import make_ready
from holoptic.solid.making.stages import build


def box(*corner, size=(10, 7, 4)):
    return BRepPrimAPI_MakeBox(gp_Pnt(*corner), *size).Shape()


@pytest.mark.parametrize("shape", [
    box(3, -8, 2), BRepPrimAPI_MakeCylinder(4.5, 11.5).Shape(), build(drilled_plate(2, 2)),
])  # fmt: skip
def test_the_faces_shut_in_what_the_kernel_measures(shape):
    skin = Skin(shape)
    assert skin.is_sound()
    assert volume_within(skin.faces) == pytest.approx(volume(shape), rel=1e-12)


@pytest.mark.parametrize("part", [*demo_parts(), comb(3)], ids=lambda part: part.name)
def test_each_face_has_the_volume_and_the_box_that_the_kernel_finds(part):
    skin = Skin(build(part))
    for known, found in zip(skin.faces, skin.face_boxes(), strict=True):
        measured = BRepGProp_Vinert(
            BRepGProp_Face(known.face), BRepGProp_Domain(known.face), gp_Pnt(0, 0, 0)
        )
        assert known.volume == pytest.approx(measured.Mass(), rel=1e-6, abs=1e-6)
        low, high = known.tight_box
        assert found == pytest.approx((*low, *high), abs=1e-5)


@pytest.mark.parametrize("part", demo_parts(), ids=lambda part: part.name)
def test_a_round_face_between_rims_and_generators_fills_its_bounds(part):
    for known in Skin(build(part)).faces:
        if known.row.kind in (CYLINDER, CONE):
            traced = face_row(known.face, known.plain_surface, fills_bounds=False)
            assert known.row.is_whole == traced.is_whole


def test_a_skin_with_a_face_missing_is_not_sound():
    faces = [face.face for face in Skin(box(0, 0, 0)).faces]
    assert not Skin(together(faces[1:])).is_sound()


def test_many_straight_sides_are_checked_too():
    skin = Skin(build(comb(12)))
    assert max(len([b for b in skin.borders if face in b.faces]) for face in skin.faces) > 24
    assert skin.is_sound()


def test_flush_bodies_have_joints_until_they_are_tidied():
    joined = BRepAlgoAPI_Fuse(box(0, 0, 0), box(10, 0, 0)).Shape()
    assert Skin(joined).has_joints()
    assert not Skin(tidy(joined)).has_joints()


@pytest.mark.parametrize("part", [comb(4), drilled_plate(2, 2)], ids=lambda part: part.name)
def test_what_an_edit_is_worked_into_leaves_no_joints(part):
    """The quick way skips the tidying only where it would change nothing."""
    make_ready(part, 1)
    skin, tidied = Skin(build(part)), Skin(tidy(build(part)))
    assert (len(skin.faces), len(skin.borders)) == (len(tidied.faces), len(tidied.borders))


def test_what_is_known_of_a_face_is_not_taken_for_that_of_its_back():
    known, face = (
        Remembered(Cache("test", 10, "to see it bounded")),
        Skin(box(0, 0, 0)).faces[0].face,
    )
    assert known.of(lambda _: "front", face) == "front"
    assert known.of(lambda _: "back", face.Reversed()) == "back"
    assert known.of(lambda _: "again", face) == "front"
