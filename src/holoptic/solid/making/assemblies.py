"""Assemblies in STEP files: which solid stands where, under which name."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from OCP.collections import Sequence_TDF_Label
from OCP.Quantity import Quantity_Color, Quantity_TypeOfColor
from OCP.TCollection import TCollection_ExtendedString
from OCP.TDataStd import TDataStd_Name
from OCP.TDF import TDF_Label
from OCP.TDocStd import TDocStd_Document
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS_Shape
from OCP.XCAFDoc import XCAFDoc_ColorType, XCAFDoc_DocumentTool

from holoptic.solid.anatomy.kernel_shapes import solids_of

_DEEPEST = 40
"""Levels of nested products that are gone down; a file that nests on and on is not sound."""


@dataclass(frozen=True)
class Instance:
    """A solid where it stands in its file: turned and set off (mm) from its product's own place.

    `key` tells products apart; `path` are the names of the products that it is nested in, `colour`
    is `#rrggbb` or empty.
    """

    key: int
    name: str
    path: tuple[str, ...]
    location: TopLoc_Location
    colour: str


def new_document() -> TDocStd_Document:
    """Return an empty document of the kernel for products."""
    return TDocStd_Document(TCollection_ExtendedString("XmlOcaf"))


def instances_of(document: TDocStd_Document) -> list[Instance]:
    """Return the solids of a document that was read, in the kernel's order."""
    return _Products(document).all()


class _Products:
    def __init__(self, document: TDocStd_Document) -> None:
        self._shapes = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
        self._colours = XCAFDoc_DocumentTool.ColorTool_s(document.Main())
        self._met = Counter[tuple[str, ...]]()

    def all(self) -> list[Instance]:
        labels = Sequence_TDF_Label()
        self._shapes.GetFreeShapes(labels)
        return [found for label in _each(labels) for found in self._in(label, TopLoc_Location())]

    def _in(
        self, label: TDF_Label, at: TopLoc_Location, path: tuple[str, ...] = (), colour: str = ""
    ) -> Iterator[Instance]:
        own = self._colour(label) or colour
        product = label
        if self._shapes.IsReference_s(label):
            at = at.Multiplied(self._shapes.GetLocation_s(label))
            product = TDF_Label()
            self._shapes.GetReferredShape_s(label, product)
            own = own or self._colour(product)
        if self._shapes.IsAssembly_s(product) and len(path) < _DEEPEST:
            parts = Sequence_TDF_Label()
            self._shapes.GetComponents_s(product, parts)
            inner = self._own_path((*path, _name(product)))
            for part in _each(parts):
                yield from self._in(part, at, inner, own)
            return
        solids = solids_of(self._shapes.GetShape_s(product))
        name = _name(product)
        for number, solid in enumerate(solids, 1):
            placed = at.Multiplied(solid.Location())
            key = hash(solid.Located(TopLoc_Location()))
            called = name if len(solids) == 1 else f"{name} {number}"
            yield Instance(key, called, path, placed, own or self._colour_of(solid))

    def _own_path(self, path: tuple[str, ...]) -> tuple[str, ...]:
        """Return the path of a product, told apart from those of the same name beside it."""
        self._met[path] += 1
        count = self._met[path]
        return path if count == 1 else (*path[:-1], f"{path[-1]} {count}")

    def _colour(self, label: TDF_Label) -> str:
        found = Quantity_Color()
        for kind in (XCAFDoc_ColorType.XCAFDoc_ColorSurf, XCAFDoc_ColorType.XCAFDoc_ColorGen):
            if self._colours.GetColor_s(label, kind, found):
                return _hex(found)
        return ""

    def _colour_of(self, shape: TopoDS_Shape) -> str:
        found = Quantity_Color()
        for kind in (XCAFDoc_ColorType.XCAFDoc_ColorSurf, XCAFDoc_ColorType.XCAFDoc_ColorGen):
            if self._colours.GetColor(shape, kind, found):
                return _hex(found)
        return ""


def _each(labels: Sequence_TDF_Label) -> Iterator[TDF_Label]:
    for number in range(1, labels.Length() + 1):
        yield labels.Value(number)


def _name(label: TDF_Label) -> str:
    name = TDataStd_Name()
    if not label.FindAttribute(TDataStd_Name.GetID_s(), name):
        return ""
    return " ".join(str(name.Get().ToExtString()).split())


def _hex(colour: Quantity_Color) -> str:
    figures = (colour.Red(), colour.Green(), colour.Blue())
    return "#" + "".join(f"{round(255 * _as_shown(figure)):02x}" for figure in figures)


def _as_shown(linear: float) -> float:
    """Return a share of light as screens count it (sRGB); the kernel counts evenly."""
    return 12.92 * linear if linear <= 0.0031308 else 1.055 * linear ** (1 / 2.4) - 0.055


def kernel_colour(colour: str) -> Quantity_Color:
    """Return a colour, `#rrggbb`, as the kernel has it."""
    figures = (_as_light(int(colour[k : k + 2], 16) / 255) for k in (1, 3, 5))
    return Quantity_Color(*figures, Quantity_TypeOfColor.Quantity_TOC_RGB)


def _as_light(shown: float) -> float:
    """Return the share of light of what screens count: the inverse of `_as_shown`."""
    return shown / 12.92 if shown <= 0.04045 else ((shown + 0.055) / 1.055) ** 2.4


def placement(location: TopLoc_Location) -> np.ndarray:
    """Return a location of the kernel as a matrix (4 × 4, mm)."""
    way, made = location.Transformation(), np.eye(4)
    for row in range(3):
        made[row] = [float(way.Value(row + 1, column + 1)) for column in range(4)]
    return made
