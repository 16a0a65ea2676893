"""The line below the desk: true and drawn measures of an edge, or between two points."""

from __future__ import annotations

from holoptic.catalogue import tr
from holoptic.curves.space import Segment
from holoptic.desk.session.session import Session
from holoptic.part import Part, Whole
from holoptic.pictorial import View
from holoptic.pictorial.measure_words import measure_words
from holoptic.units import show

_HOW_ON = {
    "sheet": tr("1 to 5 take an answer; the start point is measured from the border."),
    "check": tr(
        "The wheel magnifies, the right button drags; a click on a mark finds it in the list."
    ),
    "draw": tr("Space draws the next move, Backspace takes it up."),
}
_HOW = tr("Touch an edge for its true and drawn length; Shift and click two points.")


def measure_line(session: Session, page: str) -> str:
    """Return what is known of the touched edge, the picked points or the selected edge; else what
    the hand can do on a page.
    """
    view, facts, picture = session.answers.view, session.answers.facts, session.answers.picture
    if view is None or facts is None or picture is None:
        return ""
    edge = (
        session.selection.hovered
        if session.selection.hovered is not None
        else session.selection.edge
    )
    if session.selection.hovered is None and len(session.selection.points) == 2:
        return _between(session, view)
    if session.selection.hovered is None and session.selection.points:
        return tr("First point picked. Shift and click the second.")
    found = picture.picked(edge, facts)
    if edge is None or found is None:
        figure = session.document.figure
        is_of_views = page in _HOW_ON and figure is not None and not figure.is_pictorial
        what = tr("orthographic views") if is_of_views else view.title
        return f"{what}. {_HOW_ON.get(page, _HOW)}"
    line = "Outline" if edge < 0 else "Edge"
    owner = _operation(session, found[1])
    if facts.bodies > 1:
        owner = tr(
            "body {body_of} of {bodies}",
            body_of=1 + picture.body_of(edge, facts),
            bodies=facts.bodies,
        )
    return measure_words(
        tr("{what} of {owner}", what=line, owner=owner), found[0], view, session.document.unit
    )


def views_line(session: Session) -> str:
    """Return what the sheet of views holds: each view with its width and height."""
    arrangement, unit = session.readings.arrangement, session.document.unit
    if arrangement is None:
        return tr("Two or three views of one part can be read.")
    sizes = []
    for placed in arrangement.views:
        xmin, ymin, xmax, ymax = placed.box
        sizes.append(f"{tr(placed.name)} {show(xmax - xmin, unit)} × {show(ymax - ymin, unit)}")
    angle = {"third": tr("Third angle"), "first": tr("First angle")}[arrangement.angle]
    return f"{angle}, {unit.label}: {'  ·  '.join(sizes)}"


def _between(session: Session, view: View) -> str:
    return measure_words(
        tr("Between the points"), Segment(*session.selection.points), view, session.document.unit
    )


def _operation(session: Session, index: int | None) -> str:
    part = session.document.job_part
    if session.document.arrangement is not None:
        return _body(session)
    if part is None or not isinstance(part.source, Part):
        return tr("the solid")
    if index is None:
        return tr("the block")
    return f"“{part.source.operations[index].name}”"


def _body(session: Session) -> str:
    """Return the name of the body that the selected line belongs to."""
    picture, facts, made = session.answers.picture, session.answers.facts, session.answers.made
    edge = session.selection.edge
    if edge is None or picture is None or facts is None or made is None:
        return tr("the solid")
    bodies = made.source.bodies if isinstance(made.source, Whole) else ()
    try:
        return f"“{bodies[picture.body_of(edge, facts)].name}”"
    except (KeyError, IndexError):
        return tr("the solid")
