"""What stays the same from wherever a solid is seen."""

from __future__ import annotations

from collections.abc import Callable

from OCP.collections import IndexedMap_TopoDS_Shape_TopTools_ShapeMapHasher as ShapeMap
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp
from OCP.TopoDS import TopoDS_Shape

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3
from holoptic.progress import tell
from holoptic.solid.anatomy.faces import SolidFace, volume_within
from holoptic.solid.anatomy.kernel_shapes import solids_of
from holoptic.solid.anatomy.rounds import round_features
from holoptic.solid.anatomy.skin import Border, skin_of
from holoptic.solid.pieces import Edge, SolidFacts

OperationsAt = Callable[[list[Vec3]], list[int | None]]
"""Tells for each of many places which operation made it."""


def no_operations(points: list[Vec3]) -> list[int | None]:
    """Tell that no operation is known, as for a solid from a file."""
    return [None] * len(points)


def facts(shape: TopoDS_Shape, operations_at: OperationsAt) -> tuple[SolidFacts, list[Border]]:
    """Return the facts of a solid, and its drawn borders in the order of their edges' indices."""
    tell(tr("working out its edges"))
    skin = skin_of(shape)
    drawn = [border for border in skin.borders if border.is_drawn]
    middles = [border.curve.middle for border in drawn]
    count, bodies = bodies_of(shape, skin.faces)
    owner = {id(face): body for face, body in zip(skin.faces, bodies, strict=True)}
    edges = tuple(
        Edge(index, border.curve, operation, owner.get(id(border.faces[0]), 0))
        for index, (border, operation) in enumerate(zip(drawn, operations_at(middles), strict=True))
    )
    boxes = skin.face_boxes()
    low, high = boxes[:, :3].min(axis=0).tolist(), boxes[:, 3:].max(axis=0).tolist()
    only_planes = all(face.normal is not None for face in skin.faces)
    rounds = round_features(skin.faces, [(border.curve, border.faces) for border in drawn])
    volume = volume_within(skin.faces)
    return SolidFacts(edges, tuple(low), tuple(high), volume, only_planes, rounds, count), drawn


def bodies_of(shape: TopoDS_Shape, faces: list[SolidFace]) -> tuple[int, list[int]]:
    """Return how many bodies a shape has, and for each of its faces the number of its body, in the
    kernel's order; a lone shell is one body.
    """
    found = solids_of(shape)
    if len(found) < 2:
        return 1, [0] * len(faces)
    owner: dict[int, int] = {}
    for number, solid in enumerate(found):
        own = ShapeMap()
        TopExp.MapShapes_s(solid, TopAbs_ShapeEnum.TopAbs_FACE, own)
        owner.update((hash(own.FindKey(i + 1)), number) for i in range(own.Extent()))
    return len(found), [owner.get(hash(face.face), 0) for face in faces]
