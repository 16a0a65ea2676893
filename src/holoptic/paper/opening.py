"""A file with views on paper, opened: lines of a page exactly, pictures by picture work."""

from __future__ import annotations

import os
from dataclasses import dataclass, replace
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.checking.pictures.loading import load
from holoptic.curves.vectors import Vec2
from holoptic.errors import BadInput
from holoptic.foreign import PICTURE_SUFFIXES
from holoptic.heads import told_of
from holoptic.keeping import Cache
from holoptic.paper.freehand.sketch import flat_sketch, interpret_sketch
from holoptic.paper.given import USUAL_PAPER, Given, Sizes
from holoptic.paper.offers import Written
from holoptic.paper.scan.levels import likely_roundings
from holoptic.paper.scan.sheet import FlatSheet, Interpreted, flat_sheet, interpret, written_on
from holoptic.paper.vector.looks import Key
from holoptic.paper.vector.page import Page
from holoptic.paper.vector.pdf import count_pages, read_pdf
from holoptic.paper.vector.sheet import sketch_of
from holoptic.paper.vector.svg import read_svg
from holoptic.quoting import name_of
from holoptic.reading.arrangement import Wish, arrange
from holoptic.reading.lines import Status, scaled
from holoptic.reading.planes import PLANES
from holoptic.reading.sketch import Sketch
from holoptic.sheet.papers import MM_PER_INCH, PAPERS

_PICTURED, _FEW_LINES = 0.35, 12
"""A page that pictures cover so far, or that has so few lines, is a picture."""

_PAGED = (".tif", ".tiff")
_SCANNED_MM = 6.0
"""A scanner's glass is a little smaller or larger than the paper on it."""

_flat: Cache[tuple[object, ...], FlatSheet] = Cache(
    "sheets laid flat", 2, "boxes, sizes and levels of a sheet are told one after the other"
)


@dataclass(frozen=True)
class Opened:
    """A file of lines: what is on its page, and how many pages it has."""

    sketch: Sketch
    pages: int


@dataclass(frozen=True)
class Pictured:
    """A picture of a sheet: as it lies flat, and what it shows, the likeliest first; nothing where
    no views are found, and then `trouble` says why; how many pages its file has; whether it
    was taken for a sketch.
    """

    flat: FlatSheet
    shown: tuple[Interpreted, ...]
    pages: int
    trouble: str = ""
    is_sketch: bool = False


def open_paper(
    path: Path, wish: Wish = "auto", given: Given | None = None,
    taken: dict[Key, Status] | None = None,
) -> Opened | Pictured:  # fmt: skip
    """Return what a PDF or SVG file, or a picture shows. Raises BadInput."""
    given = given or Given()
    suffix = path.suffix.lower()
    if suffix == ".svg":
        page = read_svg(path)
        if _is_picture(page):
            raise BadInput(tr("{name} holds no lines: save its picture as PNG",
                              name=name_of(path)))  # fmt: skip
        return Opened(_sized(sketch_of(page, path.name, taken), given.sizes), 1)
    if suffix == ".pdf":
        pages, page = count_pages(path), read_pdf(path, given.page)
        if not _is_picture(page):
            return Opened(_sized(sketch_of(page, path.name, taken), given.sizes), pages)
        return replace(_pictured(path, wish, given, page.size), pages=pages)
    if suffix not in PICTURE_SUFFIXES:
        raise BadInput(tr("{file}: views are read from .dxf, .pdf and .svg files and from pictures "
                          "such as .png and .jpg", file=name_of(path)))  # fmt: skip
    return _pictured(path, wish, given, None)


def figures_on(path: Path, given: Given | None = None) -> Written:
    """Return what is written on the picture of a sheet: read by a machine, so each size may be
    wrong. Raises BadInput.
    """
    given = given or Given()
    page = read_pdf(path, given.page).size if path.suffix.lower() == ".pdf" else None
    return written_on(_laid_flat(path, given, page))


def _is_picture(page: Page) -> bool:
    return page.pictured > _PICTURED or len(page.strokes) < _FEW_LINES


def _sized(sketch: Sketch, sizes: Sizes) -> Sketch:
    """Return a sketch scaled so that the first size that is given holds (length, depth, height)."""
    known = next(((k, size) for k, size in enumerate(sizes) if size), None)
    if known is None or not sketch.lines:
        return sketch
    axis, size = known
    for view in arrange(sketch.lines).views:
        plane = PLANES[view.name]
        if axis in plane.axes:
            k = plane.axes.index(axis)
            drawn = view.view().box[k + 2] - view.view().box[k]
            return _stretched(sketch, size / drawn) if drawn > 0 else sketch
    return sketch


def _stretched(sketch: Sketch, factor: float) -> Sketch:
    return replace(
        sketch,
        lines=tuple(replace(x, shape=scaled(x.shape, factor)) for x in sketch.lines),
        sizes=tuple(size.scaled(factor) for size in sketch.sizes), unit_is_given=True,
        hatched=tuple((a * factor, b * factor, c * factor, d * factor)
                      for a, b, c, d in sketch.hatched),
        cutting=tuple(scaled(x, factor) for x in sketch.cutting),  # type: ignore[misc]
    )  # fmt: skip


# --- pictures -------------------------------------------------------------------------------------


def _pictured(path: Path, wish: Wish, given: Given, page: Vec2 | None) -> Pictured:
    flat = _laid_flat(path, given, page)
    if given.is_sketch:
        return _sketched(path, flat, wish, given)
    try:
        measured = interpret(flat, wish, given.sizes, given.boxes, given.levels)
    except BadInput as error:  # its border or its views may be shown by somebody
        return Pictured(flat, (), _pages(path), str(error))
    shown = [
        measured if rounding == 0.0
        else interpret(flat, wish, given.sizes, given.boxes, given.levels, rounding)
        for rounding in likely_roundings(measured.levels)
    ]  # fmt: skip
    different: list[Interpreted] = []
    for one in shown:
        if all(one.arrangement != other.arrangement for other in different):
            different.append(one)
    return Pictured(flat, tuple(different), _pages(path))


def _sketched(path: Path, flat: FlatSheet, wish: Wish, given: Given) -> Pictured:
    try:
        shown = (interpret_sketch(flat, wish, given.sizes, given.boxes, given.levels),)
    except BadInput as error:
        if any(given.levels) or any(given.sizes):
            raise  # what was told cannot be
        return Pictured(flat, (), _pages(path), str(error), is_sketch=True)
    return Pictured(flat, shown, _pages(path), is_sketch=True)


def _laid_flat(path: Path, given: Given, page: Vec2 | None) -> FlatSheet:
    is_chosen = given.paper is not None or given.frame is not None
    told = None if is_chosen else page or _scanned_size(path)
    named = _paper_of(told) if told else None
    inner = replace(given, paper=named or given.paper).inner()
    try:
        found = os.stat(path)  # noqa: PTH116 - times in whole nanoseconds
        stamp = found.st_mtime_ns, found.st_size
    except OSError:
        stamp = 0, 0
    key = (str(path), stamp, given.page, inner, given.corners, named, given.is_sketch)
    kept = _flat.get(key)
    if kept is None:
        picture = load(path, given.page)
        paper = (told if named else page) or given.sheet()
        if given.is_sketch:
            kept = flat_sketch(picture, given.corners, paper)
        else:
            kept = flat_sheet(picture, inner, given.corners, paper, bool(named))
        kept = replace(kept, paper=named or given.paper or USUAL_PAPER)
        _flat.keep(key, kept)
    return kept


def _pages(path: Path) -> int:
    """Return how many pages a file of pictures has; what moves has one."""
    told = told_of(path) if path.suffix.lower() in _PAGED else None
    return told.pictures if told is not None else 1


def _scanned_size(path: Path) -> Vec2 | None:
    """Return how large a picture says that it is, mm, long side first; None where it says nothing.

    Pictures say all sorts of dots an inch: it counts only where it is a paper (`_paper_of`).
    """
    told = told_of(path)
    if told is None or min(told.dpi) <= 0.0:
        return None
    sides = (MM_PER_INCH * told.wide / told.dpi[0], MM_PER_INCH * told.high / told.dpi[1])
    return max(sides), min(sides)


def _paper_of(sides: Vec2) -> str | None:
    """Return the name of the paper of a size (mm), None where there is none."""
    long, short = max(sides), min(sides)
    for paper in PAPERS:
        near = max(abs(long - max(paper.width, paper.height)),
                   abs(short - min(paper.width, paper.height)))  # fmt: skip
        if near < _SCANNED_MM:
            return paper.name
    return None
