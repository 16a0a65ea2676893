"""Equal solids: the same shape somewhere else, turned so that axes stay parallel.

Faces are compared by area and middle: two solids are taken for equal where one of the 24 turns
brings each face of one upon a face of the other. Mirror images are no turns, and so not equal.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import permutations, product

import numpy as np
from OCP.BRepGProp import BRepGProp
from OCP.GProp import GProp_GProps
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS_Shape

from holoptic.catalogue import tr
from holoptic.progress import tell
from holoptic.solid.making.assemblies import Instance, placement
from holoptic.solid.pieces import FoundSolid
from holoptic.tolerance import APART_MM, SAME_SHAPE


class Likeness:
    """What a solid is compared by: its volume, and areas and middles of its faces."""

    def __init__(self, solid: TopoDS_Shape) -> None:
        properties = GProp_GProps()
        BRepGProp.VolumeProperties_s(solid, properties)
        self.volume, middle = float(properties.Mass()), properties.CentreOfMass()
        self.middle = np.array([middle.X(), middle.Y(), middle.Z()])
        rows = []
        explorer = TopExp_Explorer(solid, TopAbs_ShapeEnum.TopAbs_FACE)
        while explorer.More():
            face = GProp_GProps()
            BRepGProp.SurfaceProperties_s(explorer.Current(), face)
            place = face.CentreOfMass()
            rows.append((float(face.Mass()), place.X(), place.Y(), place.Z()))
            explorer.Next()
        self.faces = np.array(rows).reshape(-1, 4)

    def way_to(self, other: Likeness) -> np.ndarray | None:
        """Return what brings it upon another one (4 × 4, mm), None where they are not equal."""
        if len(self.faces) != len(other.faces) or not np.isclose(
            self.volume, other.volume, rtol=SAME_SHAPE
        ):
            return None
        own, theirs = self.faces.copy(), other.faces.copy()
        own[:, 1:] -= self.middle
        theirs[:, 1:] -= other.middle
        for turning in _TURNS:
            turned = np.column_stack([own[:, 0], own[:, 1:] @ turning.T])
            if _are_alike(turned, theirs):
                way = np.eye(4)
                way[:3, :3], way[:3, 3] = turning, other.middle - turning @ self.middle
                return way
        return None


def stands(solids: Sequence[TopoDS_Shape], instances: Sequence[Instance]) -> tuple[FoundSolid, ...]:
    """Return where the solids of a file stand; `instances` is what the file says of each, if it
    does.
    """
    comparing = _Comparing()
    found = []
    for number, solid in enumerate(solids):
        tell(tr("comparing its solids"), number / len(solids))
        said = instances[number] if instances else None
        like, way = comparing.found(number, solid, said)
        a, b, c = ((row[0], row[1], row[2]) for row in way[:3].tolist())
        x, y, z = way[:3, 3].tolist()
        said = said or Instance(number, "", (), TopLoc_Location(), "")
        found.append(
            FoundSolid(number, like, said.name, said.path, (a, b, c), (x, y, z), said.colour)
        )
    return tuple(found)


class _Comparing:
    """Finds for each solid the first one that it is equal to, and the way from that to it."""

    def __init__(self) -> None:
        self._firsts: list[tuple[int, Likeness]] = []
        self._by_product: dict[int, tuple[int, np.ndarray, np.ndarray]] = {}

    def found(
        self, number: int, solid: TopoDS_Shape, said: Instance | None
    ) -> tuple[int, np.ndarray]:
        """Return the first equal solid's number (its own where there is none), and the way."""
        place = None if said is None else placement(said.location)
        if said is not None and said.key in self._by_product and place is not None:
            like, way, first = self._by_product[said.key]
            return like, place @ np.linalg.inv(first) @ way
        like, way = self._by_shape(number, Likeness(solid))
        if said is not None and place is not None:
            self._by_product[said.key] = like, way, place
        return like, way

    def _by_shape(self, number: int, likeness: Likeness) -> tuple[int, np.ndarray]:
        for first, other in self._firsts:
            way = other.way_to(likeness)
            if way is not None:
                return first, way
        self._firsts.append((number, likeness))
        return number, np.eye(4)


def _are_alike(some: np.ndarray, others: np.ndarray) -> bool:
    """Say whether faces are the same, in whatever order they come."""
    gaps = np.linalg.norm(some[:, None, 1:] - others[None, :, 1:], axis=2)
    areas = np.abs(some[:, None, 0] - others[None, :, 0])
    fits = (gaps < APART_MM) & (areas <= SAME_SHAPE * np.maximum(others[None, :, 0], 1.0))
    return bool(fits.any(axis=0).all() and fits.any(axis=1).all())


def _turns() -> list[np.ndarray]:
    found = []
    for order, signs in product(permutations(range(3)), product((1.0, -1.0), repeat=3)):
        matrix = np.zeros((3, 3))
        for row, (column, sign) in enumerate(zip(order, signs, strict=True)):
            matrix[row, column] = sign
        if np.linalg.det(matrix) > 0:
            found.append(matrix)
    return sorted(found, key=lambda m: -float(np.trace(m)))  # no turn at all comes first


_TURNS = _turns()
