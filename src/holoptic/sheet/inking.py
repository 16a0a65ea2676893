"""Strokes as ink: which line is heavy, which is dashed, by the schools of drafting."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace

from holoptic.curves.paper_arc import PaperArc
from holoptic.curves.space import Curve, EllipticArc
from holoptic.curves.vectors import Vec2
from holoptic.job import LineSchool
from holoptic.pictorial import Picture, Stroke, View
from holoptic.pictorial.cut_regions import CutRegion
from holoptic.pictorial.weights import weighted_parts
from holoptic.sheet.drawing import Hatch, Ink, Region, moved
from holoptic.sheet.layers import CHAIN, THICK_MM

SHORT_CROSS_MM = 16.0
"""A centre line shorter than this on the page is drawn continuous: a short cross."""


def picture_ink(
    picture: Picture, lines: LineSchool, origin: Vec2, scale: float, names: Sequence[str] = ()
) -> list[Ink]:
    """Return the ink of a picture at a place on the page, hidden lines under visible ones.

    `names` are those of its bodies: with them each line says which part it belongs to.
    """
    if names:
        by_body: dict[int, list[Stroke]] = {}
        for stroke in picture.strokes:
            by_body.setdefault(stroke.origin.body, []).append(stroke)
        return [
            replace(ink, part=f"{body + 1} {names[body]}")
            for body, strokes in sorted(by_body.items())
            for ink in picture_ink(replace(picture, strokes=tuple(strokes)), lines, origin, scale)
        ]
    inks: list[Ink] = []
    if lines.centre_lines:
        inks += (_centre(stroke, origin, scale) for stroke in picture.of_role("centre"))
    if lines.hidden != "omit":
        dashes = None if lines.hidden == "dashed" else ()
        for stroke in picture.of_role("hidden"):
            inks.append(
                Ink("hidden", moved(stroke.path, origin, scale), None, dashes,
                    arc=_arc(stroke.drawn, picture.view, origin, scale))
            )  # fmt: skip
    for stroke in picture.visible:
        inks += _visible(stroke, lines, picture.view, origin, scale)
    return inks


def cut_areas(
    picture: Picture, origin: Vec2, scale: float, names: Sequence[str] = ()
) -> list[Region]:
    """Return the cut faces of a picture at a place on the page, hatched or filled; `names` are
    those of its bodies.

    The lines stand where they would if the page began at the picture's own origin.
    """
    made = []
    for region in picture.hatched_for(scale).regions:
        outlines = tuple(moved(ring, origin, scale) for ring in _hatched_rings(region))
        part = f"{region.body + 1} {names[region.body]}" if names else ""
        if region.fill == "solid":
            made.append(Region("hatch", outlines, part=part))
        elif region.fill == "hatch":
            turn = math.radians(region.angle_deg)
            off = origin[1] * math.cos(turn) - origin[0] * math.sin(turn)
            pitch = region.pitch * scale
            hatch = Hatch(region.angle_deg, pitch, off % pitch)
            made.append(Region("hatch", outlines, None, hatch, part))
    return made


def _hatched_rings(region: CutRegion) -> Iterator[tuple[Vec2, ...]]:
    """Yield the outlines between what is hatched and what is not."""
    if not region.plain:
        yield from region.rings
        return
    area = region.hatched
    for piece in getattr(area, "geoms", [area]):
        for ring in (piece.exterior, *piece.interiors):
            yield tuple((x, y) for x, y in ring.coords[:-1])


def _visible(
    stroke: Stroke, lines: LineSchool, view: View, origin: Vec2, scale: float
) -> Iterator[Ink]:
    for curve, is_thick in drawn_parts(stroke, lines):
        weight = None
        if lines.outline == "thick-and-thin":
            weight = THICK_MM if is_thick else THICK_MM / 2
        arc = _arc(curve, view, origin, scale)
        path = stroke.path if curve is stroke.drawn else curve.path(view.matrix)
        yield Ink("visible", moved(path, origin, scale), weight, arc=arc)


def drawn_parts(stroke: Stroke, lines: LineSchool) -> Iterable[tuple[Curve, bool]]:
    """Return the parts in which a visible stroke is drawn: what runs on paper, thick or not."""
    whole = not stroke.thick or stroke.thick == (stroke.curve.span,)
    if lines.outline == "one-weight" or whole:
        return [(stroke.drawn, bool(stroke.thick))]
    return weighted_parts(stroke.curve, stroke.thick)


def _arc(drawn: Curve, view: View, origin: Vec2, scale: float) -> PaperArc | None:
    if not isinstance(drawn, EllipticArc):
        return None
    return drawn.on_paper(view.matrix).placed(origin, scale)


def _centre(stroke: Stroke, origin: Vec2, scale: float) -> Ink:
    path = moved(stroke.path, origin, scale)
    length = math.dist(path[0], path[-1])
    if length < SHORT_CROSS_MM:
        return Ink("centre", path, dashes=())
    # the middle of the line, where a cross has its centre, falls into the middle of a dash
    phase = (CHAIN[0] / 2 - length / 2) % sum(CHAIN)
    return Ink("centre", path, phase=phase)
