"""The line below the desk: true and drawn measures of the selected edge."""

from __future__ import annotations

from holoptic.desk.session import Session
from holoptic.part import Part
from holoptic.part.crate import AXIS_LETTERS
from holoptic.pictorial.measure import measure
from holoptic.units import show


def measure_line(session: Session) -> str:
    """Return what is known of the selected edge, in one line."""
    view, facts, edge = session.view, session.facts, session.selected_edge
    if view is None or facts is None:
        return ""
    if edge is None or edge >= len(facts.edges):
        return f"{view.title}. Click an edge for its true and drawn length."
    unit = session.job.unit
    found = measure(facts.edges[edge].curve, view)
    words = [f"Edge of {_operation(session, edge)}: true {show(found.true, unit)} {unit.label}"]
    if found.drawn is not None and found.angle is not None and found.offsets is not None:
        words.append(f"drawn {show(found.drawn, unit)} at {found.angle:.1f}°")
        words.append("  ".join(
            f"{letter} {show(offset, unit)}"
            for letter, offset in zip(AXIS_LETTERS, found.offsets, strict=True)
            if offset > 5e-4
        ))  # fmt: skip
    return "   ·   ".join(words)


def _operation(session: Session, edge: int) -> str:
    part = session.job_part
    index = session.facts.edges[edge].operation if session.facts else None
    if part is None or index is None or not isinstance(part.source, Part):
        return "the block"
    return f"“{part.source.operations[index].name}”"
