"""First shapes of new parts and operations, to be changed at once."""

from __future__ import annotations

from holoptic.part.crate import Crate, Face
from holoptic.part.operations import Corner, Mode, Offset, Prism, Round
from holoptic.part.part import Part
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


def _free_name(part: Part, stem: str) -> str:
    taken = {operation.name for operation in part.operations}
    return next(
        name for number in range(1, len(taken) + 2) if (name := f"{stem} {number}") not in taken
    )
