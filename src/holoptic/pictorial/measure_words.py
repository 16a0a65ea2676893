"""What an edge measures, in words: true and drawn, in the job's unit and in the other."""

from __future__ import annotations

from holoptic.catalogue import tr
from holoptic.curves.space import Curve
from holoptic.part.crate import AXIS_LETTERS
from holoptic.pictorial.kinds import View
from holoptic.pictorial.measure import Measure, measure
from holoptic.tolerance import SHOWN_MM
from holoptic.units import Unit, show


def measure_words(what: str, curve: Curve, view: View, unit: Unit) -> str:
    """Return the measures of a curve in a view; `what` begins them."""
    found = measure(curve, view)
    words = [
        tr(
            "{what}: true {true} {label} ({true2})",
            what=what,
            true=show(found.true, unit),
            label=unit.label,
            true2=_other(found.true, unit),
        )
    ]
    words += _round(found, unit) if found.axes is not None else _straight(found, unit)
    return "   ·   ".join(words)


def _straight(found: Measure, unit: Unit) -> list[str]:
    if found.drawn is None or found.angle is None or found.offsets is None:
        return []
    offsets = "  ".join(
        f"{letter} {show(offset, unit)}"
        for letter, offset in zip(AXIS_LETTERS, found.offsets, strict=True)
        if offset > SHOWN_MM
    )
    drawn = tr(
        "drawn {drawn} {label} ({drawn2}) at {angle:.1f}°",
        angle=found.angle,
        drawn=show(found.drawn, unit),
        label=unit.label,
        drawn2=_other(found.drawn, unit),
    )
    return [drawn, offsets]


def _round(found: Measure, unit: Unit) -> list[str]:
    radius = (
        [] if found.radius is None else [tr("radius {radius}", radius=show(found.radius, unit))]
    )
    assert found.axes is not None
    major, minor = (show(axis, unit) for axis in found.axes)
    drawn = (
        tr("drawn as a circle {major}", major=major)
        if major == minor
        else tr("drawn as an ellipse {major} × {minor}", major=major, minor=minor)
    )
    return [*radius, drawn]


def _other(mm: float, unit: Unit) -> str:
    """Return a length in the other system: inches beside mm, mm beside inches."""
    other = Unit.INCH_DECIMAL if unit is Unit.MM else Unit.MM
    return f"{show(mm, other)} {other.label}"
