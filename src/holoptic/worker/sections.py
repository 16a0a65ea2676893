"""Section views of a figure: cut, looked at, and put among its orthographic views."""

from __future__ import annotations

from collections.abc import Mapping

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.job import Angle, Posed, Section
from holoptic.keeping import about
from holoptic.part.cutting import Cutter, Stock, cutter_of, read_cut
from holoptic.pictorial import Picture, draw
from holoptic.solid.shelf import opened, seen
from holoptic.views import PlacedView, lay_out
from holoptic.views.layout import GAP_MM
from holoptic.views.orthographic import VIEWS_BY_NAME
from holoptic.views.sections import (
    SEEN_FROM,
    FoundSection,
    beside,
    cutting_line,
    section_picture,
    view_along,
    view_of_cut,
    with_sections,
)

_MARKED_GAP_MM = 14.0
"""So much further apart views stand where cutting lines run out of them."""


def place_with_sections(
    posed: Posed, views: Mapping[str, Picture], angle: Angle, apart: float | None = None
) -> tuple[PlacedView, ...]:
    """Return views laid out, the sections of a figure among them, `apart` mm from each other.

    Those that cannot be are left out; `section_troubles` says why.
    """
    sections = posed.figure.sections
    gap = GAP_MM if apart is None else apart
    if not sections:
        return lay_out(dict(views), angle, gap)
    found = [
        one for one in (_section(posed, each) for each in sections) if not isinstance(one, str)
    ]
    made, further = with_sections(views, found)
    gap += _MARKED_GAP_MM
    return beside(lay_out(made, angle, gap), further, gap)


def section_troubles(posed: Posed) -> list[str]:
    """Return what is wrong with the sections of a figure, a line each."""
    found = (_section(posed, section) for section in posed.figure.sections)
    return [one for one in found if isinstance(one, str)]


def _section(posed: Posed, section: Section) -> FoundSection | str:
    """Return a section, or why it cannot be."""
    try:
        with about(posed.figure.subject):
            return _cut(posed, section)
    except BadInput as error:
        return tr("section {letter}: {why}", letter=section.letter, why=str(error))


def _cut(posed: Posed, section: Section) -> FoundSection:
    source = posed.source
    facts = seen(source).facts
    cutter: Cutter = cutter_of(section.cut, Stock(source, facts.low, facts.high, SEEN_FROM))
    solid = opened(source, cutter)
    is_broken = read_cut(section.cut).sort == "broken"
    name = view_along(cutter.outward) if is_broken else view_of_cut(solid.cut_faces)
    view = VIEWS_BY_NAME[name]
    picture = draw(solid.look(view.toward_viewer), view)
    if is_broken:  # its border is seen, and no plane runs through
        return name, section_picture(picture, section.letter, solid.cut_faces, turns=False), None
    line = cutting_line(cutter, solid.cut_faces, (facts.low, facts.high), section.letter, name)
    return name, section_picture(picture, section.letter, solid.cut_faces), line
