"""What the figures on a sheet say: wrong ones, sums that do not add up, sizes that are wanting."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import NamedTuple

from holoptic.catalogue import tr
from holoptic.part.crate import AXIS_NAMES
from holoptic.reading.arrangement import ViewOnSheet
from holoptic.reading.lines import Bow, DrawnLine, DrawnView, Straight
from holoptic.reading.planes import PLANES, canonical
from holoptic.reading.result import Check
from holoptic.reading.sketch import GivenSize
from holoptic.tolerance import APART_MM, ROUNDING

_AGREE_MM = 0.02
_LEVEL_MM = 0.05
_BESIDE_MM = 2.0
"""Ends of a size may lie so far outside the view that it belongs to."""
_MOST_IN_CHAIN = 12


def figure_checks(views: Sequence[ViewOnSheet], sizes: Sequence[GivenSize]) -> list[Check]:
    """Return what is odd about the figures of a sheet; places of sums are in sheet mm."""
    return [*_wrong_figures(sizes), *_wrong_sums(sizes), *_sizes_needed(views, sizes)]


def _wrong_figures(sizes: Sequence[GivenSize]) -> Iterator[Check]:
    for size in sizes:
        if abs(size.drawn - size.written) > _AGREE_MM:
            figure, drawn = plain_mm(size.written), plain_mm(size.drawn)
            words = tr(
                "the figure {figure} stands on a distance of {drawn}", figure=figure, drawn=drawn
            )
            yield Check("figure", "", (size.start, size.end), words)


# --- sums -------------------------------------------------------------------------------------


class _Span(NamedTuple):
    """A size across (0) or up (1) on the sheet, from `low` to `high` as drawn."""

    way: int
    low: float
    high: float
    size: GivenSize


def _spans(sizes: Sequence[GivenSize]) -> list[_Span]:
    """Return the sizes that run across or up; slanting ones are left out."""
    found = []
    for size in sizes:
        for way in (0, 1):
            low, high = sorted((size.start[way], size.end[way]))
            if abs(high - low - size.drawn) < _AGREE_MM:
                found.append(_Span(way, low, high, size))
                break
    return found


def _wrong_sums(sizes: Sequence[GivenSize]) -> Iterator[Check]:
    """Yield sizes that a chain of others fills without coming to the same."""
    spans = _spans(sizes)
    for whole in spans:
        inner = [
            span for span in spans
            if span.way == whole.way and span is not whole
            and span.low > whole.low - _LEVEL_MM and span.high < whole.high + _LEVEL_MM
            and span.high - span.low < whole.high - whole.low - _LEVEL_MM
        ]  # fmt: skip
        chain = _chain(whole.low, whole.high, inner, _MOST_IN_CHAIN)
        if chain is None:
            continue
        total = sum(span.size.written for span in chain)
        if abs(total - whole.size.written) > _AGREE_MM * len(chain):
            added = " + ".join(plain_mm(span.size.written) for span in chain)
            words = tr(
                "{added} add up to {total}, but the whole is given as {whole}",
                added=added,
                total=plain_mm(total),
                whole=plain_mm(whole.size.written),
            )
            path = whole.size.start, whole.size.end
            yield Check("sum", "", path, words)


def _chain(low: float, high: float, spans: list[_Span], most: int) -> list[_Span] | None:
    """Return sizes end to end from one level to another, or None."""
    if abs(low - high) < _LEVEL_MM:
        return []
    if most == 0:
        return None
    for span in spans:
        if abs(span.low - low) < _LEVEL_MM:
            rest = _chain(span.high, high, spans, most - 1)
            if rest is not None:
                return [span, *rest]
    return None


# --- sizes that are wanting -------------------------------------------------------------------


class _Level(NamedTuple):
    """A place along an axis of the part that a line of a view lies at."""

    at: float
    view: str
    line: DrawnLine


def _sizes_needed(views: Sequence[ViewOnSheet], sizes: Sequence[GivenSize]) -> Iterator[Check]:
    """Yield lines that no figure holds along an axis, where figures are given along it at all."""
    own = [placed.view() for placed in views]
    for axis in range(3):
        links = list(_links(views, own, sizes, axis))
        if not links:
            continue
        levels = sorted(_levels(own, axis), key=lambda level: level.at)
        grouped = [[*same] for _, same in groupby(_numbered(levels), key=lambda item: item[0])]
        held = _held(grouped, [*links, *_by_themselves(own, axis)])
        for number, group in enumerate(grouped):
            if number not in held:
                level = group[0][1]
                words = tr(
                    "no figure holds this line along the {axis_names}", axis_names=AXIS_NAMES[axis]
                )
                yield Check("size needed", level.view, tuple(level.line.shape.path()), words)


def _levels(views: Sequence[DrawnView], axis: int) -> Iterator[_Level]:
    for view in views:
        if axis not in PLANES[view.name].axes:
            continue
        which = PLANES[view.name].axes.index(axis)
        for line, given in zip(canonical(view).lines, view.lines, strict=True):
            shape = line.shape
            if line.status == "centre":
                continue
            if (
                isinstance(shape, Straight)
                and abs(shape.start[which] - shape.end[which]) < APART_MM
            ):
                yield _Level(shape.start[which], view.name, given)
            elif isinstance(shape, Bow) and shape.is_closed:
                yield _Level(shape.centre[which], view.name, given)


def _numbered(levels: list[_Level]) -> Iterator[tuple[int, _Level]]:
    """Yield levels with a number that those at the same place share."""
    number, last = 0, None
    for level in levels:
        if last is not None and level.at - last > _LEVEL_MM:
            number += 1
        last = level.at
        yield number, level


def _links(
    views: Sequence[ViewOnSheet], own: Sequence[DrawnView], sizes: Sequence[GivenSize], axis: int
) -> Iterator[tuple[float, float]]:
    """Yield the two places along an axis that each size joins."""
    for placed, view in zip(views, own, strict=True):
        if placed.quarters or axis not in PLANES[view.name].axes:
            continue
        which = PLANES[view.name].axes.index(axis)
        xmin, ymin, xmax, ymax = placed.box
        low, high = (xmin, xmax) if which == 0 else (ymin, ymax)
        for span in _spans(sizes):
            if span.way == which and all(
                xmin - _BESIDE_MM <= x <= xmax + _BESIDE_MM
                and ymin - _BESIDE_MM <= y <= ymax + _BESIDE_MM
                for x, y in (span.size.start, span.size.end)
            ):
                turned = PLANES[view.name].turned[which]
                ends = (high - span.high, high - span.low) if turned else (
                    span.low - low, span.high - low
                )  # fmt: skip
                yield ends


def _by_themselves(views: Sequence[DrawnView], axis: int) -> Iterator[tuple[float, float]]:
    """Yield places that need no figure of their own: about a circle's centre, and the middle of
    the part where a centre line runs.
    """
    for view in map(canonical, views):
        if axis not in PLANES[view.name].axes:
            continue
        which = PLANES[view.name].axes.index(axis)
        size = view.box[which + 2]
        for line in view.lines:
            shape = line.shape
            if isinstance(shape, Bow) and line.status != "centre":
                centre = shape.centre[which]
                yield centre, centre - shape.radius
                yield centre, centre + shape.radius
            elif isinstance(shape, Straight) and line.status == "centre":
                at = {round(shape.start[which], 2), round(shape.end[which], 2)}
                if at == {round(size / 2, 2)}:
                    yield 0.0, size / 2


def _held(groups: list[list[tuple[int, _Level]]], links: list[tuple[float, float]]) -> set[int]:
    """Return the numbers of the levels that links join to the first one."""
    places = [group[0][1].at for group in groups]
    reached = {0.0}
    while True:
        more = {
            other
            for a, b in links
            for one, other in ((a, b), (b, a))
            if any(abs(one - at) < _LEVEL_MM for at in reached)
            and not any(abs(other - at) < ROUNDING for at in reached)
        }
        if not more:
            break
        reached |= more
    return {
        k for k, place in enumerate(places) if any(abs(place - at) < _LEVEL_MM for at in reached)
    }


def plain_mm(value: float) -> str:
    """Return a size as it is written on a sheet, mm."""
    return f"{value:.3f}".rstrip("0").rstrip(".")
