"""Section views: what is seen where a part is cut, in the place of the view it is seen in; and the
line in another view that says where.

Source: ISO 128 (cuts and sections): the plane is a thin chain line with thick ends and corners,
arrows in the direction of sight, and letters; hidden lines are left out.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import shapely

from holoptic.catalogue import tr
from holoptic.curves.space import EllipticArc
from holoptic.curves.vectors import Vec2, Vec3, add, apply, dot, subtract, unit
from holoptic.errors import BadInput
from holoptic.part.cutting import Cutter
from holoptic.pictorial import Picture, Stroke
from holoptic.pictorial.picture import CuttingLine
from holoptic.solid.pieces import CutFace
from holoptic.tolerance import GIVEN_MM, PARALLEL
from holoptic.views.layout import PlacedView
from holoptic.views.orthographic import VIEWS_BY_NAME

SEEN_FROM = (1.0, -1.0, 1.0)
"""From where a cut of views is seen: the right, the front and the top go."""
_SHOWN_IN = ("front", "right", "top")
_LINE_IN = ("top", "front", "right")
OVERRUN_MM = 7.0
"""How far a cutting line runs beyond the view."""


def view_of_cut(faces: Sequence[CutFace]) -> str:
    """Return the view that shows cut faces true: front, right or top, the first that does.

    Raises BadInput where none does: a plane that leans has no view in line with the others.
    """
    for name in _SHOWN_IN:
        toward = VIEWS_BY_NAME[name].toward_viewer
        if any(dot(face.normal, toward) > 1 - PARALLEL for face in faces):
            return name
    raise BadInput(tr("no view shows this cut true: take a plane of the crate"))


def view_along(way: Vec3) -> str:
    """Return the view that looks against a direction: front, right or top.

    Raises BadInput for another direction.
    """
    for name in _SHOWN_IN:
        if dot(unit(way), VIEWS_BY_NAME[name].toward_viewer) > 1 - PARALLEL:
            return name
    raise BadInput(tr("no view shows this cut true: break it out of front, right or top"))


def section_picture(
    picture: Picture, letter: str, faces: Sequence[CutFace], *, turns: bool = True
) -> Picture:
    """Return a cut view as a section: without hidden lines, and where its plane `turns` without the
    lines there, which are no edges of the part.
    """
    toward = picture.view.toward_viewer
    edge_on = [face for face in faces if turns and abs(dot(face.normal, toward)) < PARALLEL]
    kept = tuple(
        stroke for stroke in picture.strokes
        if stroke.role != "hidden" and not any(_lies_in(stroke, face) for face in edge_on)
        and (stroke.role != "centre" or _is_shown(stroke, picture, faces))
    )  # fmt: skip
    view = replace(picture.view, title=section_title(letter))
    return replace(picture, view=view, strokes=kept)


def section_title(letter: str) -> str:
    """Return the name of a section view.

    >>> section_title("A")
    'A–A'
    """
    return f"{letter}–{letter}"


def _is_shown(axis: Stroke, picture: Picture, faces: Sequence[CutFace]) -> bool:
    """Say whether a centre line belongs to what a section shows: it lies in a plane that is cut, or
    crosses the middle of a circle in sight.
    """
    ends = axis.curve.start, axis.curve.end
    toward = picture.view.toward_viewer
    if any(
        dot(face.normal, toward) > 1 - PARALLEL
        and all(abs(dot(face.normal, subtract(end, face.place))) < GIVEN_MM for end in ends)
        for face in faces
    ):
        return True
    line = shapely.LineString(axis.path)
    return any(
        isinstance(stroke.curve, EllipticArc)
        and line.distance(shapely.Point(apply(axis.matrix, stroke.curve.centre))) < GIVEN_MM
        and abs(dot(stroke.curve.normal, toward)) > 1 - PARALLEL
        for stroke in picture.visible
    )


def _lies_in(stroke: Stroke, face: CutFace) -> bool:
    curve = stroke.curve
    return stroke.role == "visible" and all(
        abs(dot(face.normal, subtract(point, face.place))) < GIVEN_MM
        for point in (curve.start, curve.middle, curve.end)
    )


def cutting_line(
    cutter: Cutter, faces: Sequence[CutFace], box: tuple[Vec3, Vec3], letter: str, shown_in: str
) -> tuple[str, CuttingLine] | None:
    """Return the view that shows where a cut runs, and its line there, mm; None for what is broken
    out, which has no plane that runs through.

    `box` is that of what is cut, `shown_in` the view that shows the section.
    """
    sight = VIEWS_BY_NAME[shown_in].toward_viewer
    for name in _LINE_IN:
        view = VIEWS_BY_NAME[name]
        is_edge_on = all(abs(dot(face.normal, view.toward_viewer)) < PARALLEL for face in faces)
        if name == shown_in or not is_edge_on:
            continue
        line = _line_in(cutter, box, name)
        if line is not None:
            way = apply(view.matrix, (-sight[0], -sight[1], -sight[2]))
            return name, CuttingLine(letter, line, way)
    return None


def _line_in(cutter: Cutter, box: tuple[Vec3, Vec3], name: str) -> tuple[Vec2, ...] | None:
    """Return where the room of a cut ends in a view, as far as the view goes and a little beyond,
    from end to end; None where it ends in no one line.
    """
    matrix = VIEWS_BY_NAME[name].matrix
    ends = [*cutter.outline, *(add(point, cutter.way) for point in cutter.outline)]
    footprint = _footprint([apply(matrix, point) for point in ends], len(cutter.outline))
    low, high = (apply(matrix, corner) for corner in box)
    x0, x1 = sorted((low[0], high[0]))
    y0, y1 = sorted((low[1], high[1]))
    seen = shapely.box(x0 - OVERRUN_MM, y0 - OVERRUN_MM, x1 + OVERRUN_MM, y1 + OVERRUN_MM)
    inside = footprint.boundary.intersection(seen.buffer(-GIVEN_MM))
    line = shapely.line_merge(inside) if inside.geom_type != "LineString" else inside
    if not isinstance(line, shapely.LineString) or line.is_closed or line.is_empty:
        return None
    return tuple((x, y) for x, y in shapely.simplify(line, GIVEN_MM).coords)


def _footprint(points: Sequence[Vec2], count: int) -> shapely.Polygon:
    """Return the shadow of a prism on a view: its base, where that is seen true, else its hull."""
    base = shapely.Polygon(points[:count])
    is_true = math.dist(points[0], points[count]) < GIVEN_MM
    return base if is_true else shapely.MultiPoint(points).convex_hull


FoundSection = tuple[str, Picture, tuple[str, CuttingLine] | None]
"""The view in which a section is seen, its picture, and the view with its cutting line."""


def with_sections(
    views: Mapping[str, Picture], found: Sequence[FoundSection]
) -> tuple[dict[str, Picture], list[Picture]]:
    """Return views with sections in their places, and the sections that find theirs taken."""
    made, further, taken = dict(views), [], set()
    for name, picture, _ in found:
        if name in taken or name not in made:
            further.append(picture)
        else:
            made[name] = picture
            taken.add(name)
    for _, _, line in found:
        if line is not None and line[0] in made:
            shown = made[line[0]]
            made[line[0]] = replace(shown, marks=(*shown.marks, line[1]))
    return made, further


def beside(placed: Sequence[PlacedView], further: Sequence[Picture], gap: float
           ) -> tuple[PlacedView, ...]:  # fmt: skip
    """Return views with further sections set out to the right of them, on the level of the front
    view.
    """
    made = list(placed)
    right = max(view.extent[2] for view in placed)
    for number, picture in enumerate(further):
        across, name = right + gap - picture.extent[0], f"section {number + 1}"
        own = replace(picture, view=replace(picture.view, kind=name))
        made.append(PlacedView(name, own, (across, 0.0)))
        right = made[-1].extent[2]
    return tuple(made)
