"""First shapes of new parts and operations, to be changed at once."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from holoptic.catalogue import tr
from holoptic.part.crate import AXIS_LETTERS, Crate, Face
from holoptic.part.operations import (
    Arc,
    Ball,
    Bevel,
    Corner,
    CornerCut,
    Hole,
    Mode,
    Offset,
    Operation,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
    Slot,
    Strip,
)
from holoptic.part.part import Part
from holoptic.part.stems import counted
from holoptic.units import Length, Unit


def new_part(name: str, unit: Unit) -> Part:
    """Return a plain block."""
    sizes = (80.0, 45.0, 40.0) if unit is Unit.MM else (76.2, 50.8, 38.1)
    return Part(name, Crate(*(Length.of(size, unit) for size in sizes)))


def new_prism(part: Part, mode: Mode, face: Face, unit: Unit) -> Prism:
    """Return a prism over the upper far quarter of a face: a step to be reshaped."""
    crate = part.crate
    u, v = (("LDH"[axis]) for axis in face.axes)
    names = crate.names

    def length(text: str) -> Length:
        return Length.read(text, unit, names)

    corners = ((f"{u}/2", v), (u, v), (u, f"{v}/2"), (f"{u}/2", f"{v}/2"))
    outline = tuple(Corner(length(a), length(b)) for a, b in corners)
    end = None if mode == "cut" else length(f"{'LDH'[face.normal_axis]}/2")
    return Prism(_free_name(part, mode), mode, face, outline, length("0"), end)


def new_round(part: Part, mode: Mode, face: Face, unit: Unit) -> Round:
    """Return a hole or boss in the middle of a face, a third as wide as the face."""
    crate = part.crate
    width, height = crate.face_size(face)
    diameter = Length.of(round(min(width, height) / 3), unit)
    u, v = (Offset(Length.read(f"{'LDH'[axis]}/2", unit, crate.names)) for axis in face.axes)
    name = _free_name(part, "hole" if mode == "cut" else "boss")
    return Round(name, mode, face, diameter, u, v, Length.read("0"), None)


def new_hole(part: Part, face: Face, unit: Unit) -> Hole:
    """Return a plain hole in the middle of a face, a third as wide as the face."""
    bore = new_round(part, "cut", face, unit)
    return Hole(_free_name(part, "hole"), "cut", face, bore.diameter, bore.u, bore.v, bore.start,
                bore.end)  # fmt: skip


Shape = Literal[
    "slot", "bevel", "corner", "rib", "round end", "polygon", "cone", "pyramid", "ball", "ring",
    "strip",
]  # fmt: skip
SHAPES: dict[Shape, str] = {
    "slot": tr("Slot with round ends"),
    "bevel": tr("Sloped cut along an edge"),
    "corner": tr("Skew corner cut"),
    "rib": tr("Rib"),
    "round end": tr("Upright with a round end"),
    "polygon": tr("Polygon, 3 to 12 sides"),
    "cone": tr("Cone or frustum"),
    "pyramid": tr("Pyramid or frustum"),
    "ball": tr("Ball or half ball"),
    "ring": tr("Ring"),
    "strip": tr("Strip of constant width"),
}
"""The further shapes that can be begun, with their titles."""


def new_shape(part: Part, shape: Shape, mode: Mode, face: Face, unit: Unit) -> Operation:
    """Return a further shape in the middle of a face, in a size that fits."""
    crate = part.crate
    width, height = crate.face_size(face)
    room, deep = min(width, height), crate.thickness(face)
    letters = ["LDH"[axis] for axis in face.axes]

    def length(text: str) -> Length:
        return Length.read(text, unit, crate.names)

    def size(mm: float) -> Length:
        return Length.of(max(round(mm), 1.0), unit)

    u, v = (Offset(length(f"{letter}/2")) for letter in letters)
    name, none, far = _free_name(part, shape), length("0"), size(deep / 2)
    if shape == "slot":
        return Slot(name, mode, face, size(width / 2), size(height / 4), u, v, none, None)
    if shape == "bevel":
        beside = Face.RIGHT if face.normal_axis != Face.RIGHT.normal_axis else Face.TOP
        return Bevel(name, "cut", face, beside, size(room / 3), size(room / 4), none, None)
    if shape == "corner":
        along, back, up = (size(side / 3) for side in crate.sizes)
        return CornerCut(name, "cut", True, False, True, along, back, up)
    if shape == "rib":
        return _rib(name, part, face, unit)
    if shape == "round end":
        return _round_end(name, part, face, unit)
    if shape == "polygon":
        return Polygon(name, mode, face, 6, size(room / 2), "across flats", u, v, none, far)
    if shape == "cone":
        return Round(name, mode, face, size(room / 4), u, v, none, far, size(room / 2))
    if shape == "pyramid":
        return Pyramid(name, mode, face, size(width / 4), size(height / 4), u, v, none, far,
                       size(width / 2), size(height / 2))  # fmt: skip
    if shape == "ball":
        ball = size(min(room, deep) / 2)
        return Ball(name, mode, face, ball, u, v, size(deep / 2))
    if shape == "ring":
        return Ring(name, mode, face, size(room / 2), size(min(room, deep) / 6), u, v,
                    size(deep / 2))  # fmt: skip
    path = (Corner(length(f"{letters[0]}/4"), length(f"{letters[1]}/4")),
            Corner(length(f"{letters[0]}*3/4"), length(f"{letters[1]}*3/4")))  # fmt: skip
    return Strip(name, mode, face, path, size(room / 8), none, far)


def _rib(name: str, part: Part, face: Face, unit: Unit) -> Prism:
    """Return a triangular web in the middle of the crate, drawn on a face, 6 thick or so."""
    letters = ["LDH"[axis] for axis in (*face.axes, face.normal_axis)]
    scope = part.scope()

    def length(text: str) -> Length:
        return Length.read(text, unit, scope)

    half = Length.of(3.0 if unit is Unit.MM else 3.175, unit).text
    corners = (("0", "0"), (letters[0], "0"), (letters[0], letters[1]))
    outline = tuple(Corner(length(a), length(b)) for a, b in corners)
    start, end = (length(f"{letters[2]}/2{sign}{half}") for sign in "-+")
    return Prism(name, "add", face, outline, start, end)


def _round_end(name: str, part: Part, face: Face, unit: Unit) -> Prism:
    """Return an upright over the whole face whose upper end is a half circle."""
    u, v = ("LDH"[axis] for axis in face.axes)
    scope = part.scope()

    def corner(a: str, b: str, arc: Arc | None = None) -> Corner:
        return Corner(Length.read(a, unit, scope), Length.read(b, unit, scope), arc)

    width, height = part.crate.face_size(face)
    if height <= width / 2:  # too low for a half circle: a flat arc
        arc = Arc(None, "left", bulge=Length.read(f"{v}/2", unit, scope))
        shoulder = f"{v}/2"
    else:
        arc = Arc(Length.read(f"{u}/2", unit, scope), "left")
        shoulder = f"{v}-{u}/2"
    outline = corner("0", "0"), corner(u, "0"), corner(u, shoulder, arc), corner("0", shoulder)
    deep = Length.of(round(part.crate.thickness(face) / 4), unit)
    return Prism(name, "add", face, outline, Length("0", 0.0), deep)


def _free_name(part: Part, stem: str) -> str:
    taken = {operation.name for operation in part.operations}
    return next(
        name for number in range(1, len(taken) + 2) if (name := counted(stem, number)) not in taken
    )


def with_free_name(part: Part, operation: Operation) -> Operation:
    """Return an operation under a name that no operation of the part has."""
    taken = {other.name for other in part.operations}
    if operation.name not in taken:
        return operation
    stem = operation.name.rstrip("0123456789").rstrip() or operation.name
    return replace(operation, name=_free_name(part, stem))


def half_depth(operation: Operation, crate: Crate, unit: Unit) -> Length:
    """Return half the crate along an operation's depth, as its words."""
    letter = AXIS_LETTERS[operation.face.normal_axis]
    return Length.read(f"{letter}/2", unit, crate.names)
