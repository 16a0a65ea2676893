"""The questions about drawings: opening a sheet of views, and reading views into parts."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator, Sequence
from dataclasses import replace
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.checking.pictures.border import AROUND_MM
from holoptic.checking.pictures.showing import as_jpeg
from holoptic.curves.vectors import Vec2
from holoptic.errors import HolopticError
from holoptic.foreign import DXF_SUFFIX
from holoptic.paper.given import Given
from holoptic.paper.offers import Written
from holoptic.paper.opening import Pictured, figures_on, open_paper
from holoptic.paper.scan.ink import PER_MM
from holoptic.paper.scan.sheet import Interpreted
from holoptic.paper.vector.settling import settled
from holoptic.part import Part, Source
from holoptic.part.cutting import Stock, cutter_of
from holoptic.part.whole import PartSource
from holoptic.pictorial import draw
from holoptic.progress import tell
from holoptic.reading.arrangement import Arrangement, Wish, arrange
from holoptic.reading.checks import check_views
from holoptic.reading.compare import compare
from holoptic.reading.corrections import corrected
from holoptic.reading.derived import drawn_view
from holoptic.reading.dxf_sheet import read_dxf
from holoptic.reading.figures import figure_checks
from holoptic.reading.guide import Guide
from holoptic.reading.guided import begin, take_away
from holoptic.reading.hatching import with_sections
from holoptic.reading.kernel import Kernel
from holoptic.reading.lines import DrawnView, Status
from holoptic.reading.mending import mend
from holoptic.reading.reader import read_nearly, read_views
from holoptic.reading.result import (
    USUAL_LIMIT_S,
    USUAL_MOST,
    Answer,
    Check,
    Correction,
    Reading,
    Verdict,
)
from holoptic.reading.sketch import GivenSize, Sketch
from holoptic.reading.tidying import tidied
from holoptic.solid.shelf import bound, look, opened, seen
from holoptic.views import VIEW_NAMES, direction_of, pictures_of
from holoptic.views.orthographic import VIEWS_BY_NAME
from holoptic.views.sections import SEEN_FROM, section_picture
from holoptic.worker.messages import PictureRead, ReadOneOf, SheetRead

CORRECTING_LIMIT_S = 15.0
"""So long it is looked for what would make contradictory views read."""
_EACH_LIMIT_S = 6.0
_MOST_BESIDE = 24
"""So many parts are looked for where a section decides among them."""


def open_sheet(
    path: str, wish: Wish = "auto", taken: dict[tuple[str, str, int], Status] | None = None,
    given: Given | None = None,
) -> SheetRead:  # fmt: skip
    """Return the views that a drawing holds, and what is odd about them: a DXF file, a page of
    lines, or a picture, of which somebody may have told something. Raises BadInput.
    """
    file = Path(path)
    if file.suffix.lower() == DXF_SUFFIX:
        return _sheet_read(path, read_dxf(file, taken), wish)
    opened = open_paper(file, wish, given, taken)
    if isinstance(opened, Pictured):
        return _picture_read(path, opened)
    found = _sheet_read(path, opened.sketch, wish)
    exact = found.arrangement.with_views(settled(found.arrangement.drawn_views()))
    return replace(found, arrangement=exact, pages=opened.pages)


def _picture_read(path: str, opened: Pictured) -> SheetRead:
    """Return the views in a picture of a sheet, with the picture under them."""
    flat = opened.flat
    first = opened.shown[0] if opened.shown else Interpreted(Arrangement("third", ()), (), (), 1.0)
    under = PictureRead(
        as_jpeg(flat.picture), PER_MM, AROUND_MM, flat.size, flat.corners, flat.has_border,
        first.boxes, tuple(view.name for view in first.arrangement.views), first.levels,
        first.scale,
        tuple(one.arrangement for one in opened.shown[1:]), opened.trouble, flat.paper,
        first.asked, opened.is_sketch,
    )  # fmt: skip
    lines = tuple(line for view in first.arrangement.views for line in view.lines)
    sketch = Sketch(Path(path).stem, lines, (), (), False)
    # views out of proportion do not agree before their figures are told
    is_told = bool(opened.shown) and not first.asked
    checks = tuple(check_sheet(first.arrangement)) if is_told else ()
    return SheetRead(path, sketch, first.arrangement, checks, opened.pages, under)


def read_figures(path: str, given: Given) -> Written:
    """Return what is written on the picture of a sheet. Raises BadInput."""
    return figures_on(Path(path), given)


def _sheet_read(path: str, sketch: Sketch, wish: Wish) -> SheetRead:
    arrangement = with_sections(arrange(sketch.lines, wish), sketch.hatched, sketch.cutting)
    arrangement = replace(arrangement, remarks=(*arrangement.remarks, *_told(arrangement)))
    checks = check_sheet(arrangement, sketch.sizes)
    return SheetRead(path, sketch, arrangement, tuple(checks))


def sheet_lines(path: str) -> tuple[tuple[tuple[Vec2, ...], str], ...]:
    """Return the lines of a DXF file's views at a glance, points in mm, with their status. Raises
    BadInput.
    """
    views = arrange(read_dxf(Path(path)).lines, "auto").views
    return tuple((tuple(line.shape.path()), line.status) for view in views for line in view.lines)


def check_sheet(arrangement: Arrangement, sizes: Sequence[GivenSize] = ()) -> list[Check]:
    """Return what is odd about the figures of a sheet and about its views; sections are none that
    must agree with the others line by line.
    """
    whole = [view for view in arrangement.drawn_views() if not view.cut]
    return [*figure_checks(arrangement.views, sizes), *check_views(tidied(whole))]


def read(
    views: tuple[DrawnView, ...], name: str, most: int = USUAL_MOST, limit_s: float = USUAL_LIMIT_S
) -> Reading:
    """Return what views mean; sections decide among the parts that the others can mean.

    Raises BadInput for fewer than two planes.
    """
    sections = [view for view in views if view.cut]
    whole = tuple(view for view in views if not view.cut)
    if not sections:
        return read_views(views, KERNEL, name, most=most, limit_s=limit_s)
    found = read_views(whole, KERNEL, name, most=max(most, _MOST_BESIDE), limit_s=limit_s,
                       sections=sections)  # fmt: skip
    return _decided(found, sections, most)


def read_one_of(
    ways: Sequence[tuple[DrawnView, ...]], name: str, most: int = USUAL_MOST,
    limit_s: float = USUAL_LIMIT_S,
) -> ReadOneOf:  # fmt: skip
    """Return what the first of several ways to take views means that has one meaning; else what
    the first way means. The others take no longer together than the first may. Raises BadInput as
    `read` does.
    """
    first = read(ways[0], name, most, limit_s)
    if first.verdict != "unique":
        for number, views in enumerate(ways[1:], 1):
            tell(tr("taking the levels otherwise"), number / len(ways))
            found = read(views, name, most, limit_s / (len(ways) - 1))
            if found.verdict == "unique":
                return ReadOneOf(number, found)
    return ReadOneOf(0, first)


def correct(
    views: tuple[DrawnView, ...], name: str, limit_s: float = CORRECTING_LIMIT_S
) -> tuple[Correction, ...]:
    """Return what one line drawn otherwise would make of contradictory views; see `corrected`.

    Raises BadInput for fewer than two planes.
    """
    whole = [view for view in views if not view.cut]
    tell(tr("looking for one line that may be wrong"), 0.2)

    def read_briefly(views: tuple[DrawnView, ...], left: float) -> Reading:
        limit = min(left, _EACH_LIMIT_S)
        return read_views(views, KERNEL, name, most=2, limit_s=limit, brief=True)

    return corrected(whole, _nearly(whole, name, limit_s), read_briefly, limit_s)


def _nearly(views: Sequence[DrawnView], name: str, limit_s: float) -> Iterator[Answer]:
    """Yield what views all but mean, as long as there is time and they are not too much for it."""
    with contextlib.suppress(HolopticError):
        yield from read_nearly(views, KERNEL, name, limit_s=limit_s)


def _decided(found: Reading, sections: Sequence[DrawnView], most: int) -> Reading:
    """Return a reading with those parts alone that the sections show."""
    if found.verdict not in ("unique", "several"):
        return found
    known = [view for view in sections if view.cut != "?"]
    names = ", ".join(tr(view.name) for view in sections)
    if not known:
        note = tr("the {names} view is a section, but no line says where it is cut", names=names)
        return replace(found, notes=(*found.notes, note))
    kept = tuple(one for one in found.answers if all(_shows(one.taken, view) for view in known))
    note = tr("the {names} view is a section ({cuts}): it is no outside view, and decides",
              names=names, cuts=", ".join(view.cut for view in known))  # fmt: skip
    notes = (*found.notes, note)
    if not kept:
        why = tr("none of the parts that the other views can mean looks so where it is cut")
        return replace(found, verdict="contradictory", answers=found.answers[:1],
                       notes=(*notes, why))  # fmt: skip
    verdict: Verdict = "unique" if len(kept) == 1 else "several"
    question = "" if len(kept) == 1 else found.question
    return replace(found, verdict=verdict, answers=kept[:most], notes=notes, question=question)


def _shows(part: PartSource, section: DrawnView) -> bool:
    """Say whether a part looks as a section shows it, where it is cut; a feature may have been left
    plain, as ribs are.
    """
    operations = part.operations if isinstance(part, Part) else ()
    added = [one.name for one in operations if one.mode == "add"]
    return any(
        not compare([section], [own])
        for plain in ("", *added)
        for own in [_section_of(part, section, plain)] if own is not None
    )  # fmt: skip


def _section_of(part: PartSource, section: DrawnView, plain: str) -> DrawnView | None:
    """Return a part's own section, with a feature left plain; None where it cannot be cut so."""
    words = f"{section.cut};plain={plain or 'none'}"
    try:
        facts = seen(part).facts
        cutter = cutter_of(words, Stock(part, facts.low, facts.high, SEEN_FROM))
        solid = opened(part, cutter)
        view = VIEWS_BY_NAME[section.name]
        picture = draw(solid.look(view.toward_viewer), view)
    except (HolopticError, KeyError):
        return None
    return drawn_view(section.name, section_picture(picture, "A", solid.cut_faces))


def _told(arrangement: Arrangement) -> list[str]:
    """Say which views are sections, and where they are cut."""
    return [
        tr("the {name} view is a section: no line says where it is cut", name=tr(view.name))
        if view.cut == "?"
        else tr("the {name} view is a section, {cut}", name=tr(view.name), cut=view.cut)
        for view in arrangement.views if view.cut
    ]  # fmt: skip


def begin_guide(views: Sequence[DrawnView], name: str) -> Guide:
    """Return the intersection of the outlines and the loops to take away. Raises BadInput."""
    return begin(views, name)


def guide_on(guide: Guide, number: int, low: float, high: float) -> Guide:
    """Return a guide with one more loop taken away. Raises BadInput."""
    return take_away(guide, number, low, high)


def mend_views(views: Sequence[DrawnView]) -> list[DrawnView]:
    """Return views with their small slips mended."""
    return mend(views)


def derive_views(source: Source) -> tuple[DrawnView, ...]:
    """Return the six views of a part as drawn lines. Raises PartError or BadInput."""
    return tuple(_views(source, VIEW_NAMES)[0])


def _views(source: Source, names: Sequence[str]) -> tuple[list[DrawnView], float]:
    seen = look(source, tuple(direction_of(name) for name in names))
    drawn = [
        drawn_view(name, picture, seen.look(picture.view.toward_viewer).smooth)
        for name, picture in pictures_of(seen, names).items()
    ]
    return drawn, seen.facts.volume


KERNEL = Kernel(_views, bound)
"""What reading asks of the kernel."""
