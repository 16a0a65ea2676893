"""What a check has found, as data and as pages."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.checking.report import CheckReport
from holoptic.exchange.outputs import write_by_suffix
from holoptic.exchange.pdf import pdf_pages
from holoptic.sheet.drawing import Drawing, Ink, Words
from holoptic.sheet.frames import border_lines, fitted, frame_of
from holoptic.sheet.papers import paper_named
from holoptic.units import Unit
from holoptic.units.spoken import said

_ROW_MM, _TEXT_MM, _TITLE_MM = 6.0, 2.8, 5.0
_TOP_MM = 20.0


def check_json(report: CheckReport, unit: Unit = Unit.MM) -> str:
    """Return a report as JSON; lengths in mm."""
    content: dict[str, object] = {
        "figure": report.figure,
        "agrees": report.agrees,
        "strokes": [
            {"id": one.id, "state": one.state, "off_mm": one.off_mm, "allowed_mm": one.allowed_mm,
             "move": one.move}
            for one in report.strokes
        ],
        "extra": [
            {"from": list(one.start), "to": list(one.end), "length_mm": round(one.length, 2)}
            for one in report.extra
        ],
        "causes": [
            {"move": one.move, "what": one.what, "was_set": one.was_set, "should": one.should,
             "weight": one.weight, "story": said(str(one.story), unit), "slip": one.group + 1}
            for one in report.causes
        ],
        "measure": None if report.deciding is None else {
            "from": report.deciding.start, "to": report.deciding.end,
            "after": [{"move": move, "mm": round(reading, 2)} for move, reading in
                      zip(report.deciding.moves, report.deciding.readings, strict=True)],
        },
        "redraw": None if report.redraw is None else {
            "rub_out": list(report.redraw.rub_out), "moves": list(report.redraw.moves),
        },
        "done_until": report.until,
    }  # fmt: skip
    return json.dumps(content, ensure_ascii=False, indent=1) + "\n"


def write_check(
    out: Path, report: CheckReport, unit: Unit, work: str, *, replace: bool = False
) -> None:
    """Write a report as JSON or PDF, by the suffix. Raises BadInput."""
    write_by_suffix(out, {
        ".json": lambda: check_json(report, unit).encode(),
        ".pdf": lambda: pdf_pages(check_pages(report, unit, work)),
    }, replace=replace)  # fmt: skip


def check_pages(report: CheckReport, unit: Unit, work: str) -> list[Drawing]:
    """Return a report as pages of A4 upright: the drawing with what is off, then what to do."""
    rows = _rows(report, unit)
    paper = paper_named("A4").turned(upright=True)
    frame = frame_of(paper)
    room = paper.height - frame.high - frame.low - _TOP_MM
    each = max(1, int(room / _ROW_MM) - 1)
    title = tr("Check of the drawn sheet ({work})", work=work)
    pages = []
    for first in range(0, max(len(rows), 1), each):
        left, high = frame.left + 4.0, paper.height - frame.high - _TOP_MM
        words = [Words((left, high + 8.0), title, _TITLE_MM)]
        wide = paper.width - frame.left - frame.right - 8.0
        words += [
            Words((left, high - (number + 1) * _ROW_MM), text, fitted(text, _TEXT_MM, wide))
            for number, text in enumerate(rows[first : first + each])
        ]
        pages.append(Drawing(paper.width, paper.height, tuple(border_lines(paper)), tuple(words),
                             title))  # fmt: skip
    return [_picture(report, title), *pages] if report.strokes else pages


def _rows(report: CheckReport, unit: Unit) -> list[str]:
    if report.agrees:
        return [tr("the sheet agrees with its plan within tolerance")]
    rows = [tr("{stroke} (move {n}): {state}, off by {off} mm, {allowed} mm allowed", stroke=one.id,
               n=one.move, state=tr(one.state), off=f"{one.off_mm:.2f}",
               allowed=f"{one.allowed_mm:.2f}") for one in report.worst_first]  # fmt: skip
    rows += [said(str(cause.story), unit) for cause in report.causes]
    if report.redraw is not None and report.redraw.moves:
        rows.append(tr("moves to do again: {moves}",
                       moves=", ".join(map(str, report.redraw.moves))))  # fmt: skip
    return rows


def _picture(report: CheckReport, title: str) -> Drawing:
    """Return the planned strokes thin, and firm where what was found is off, to fit a page."""
    paper = paper_named("A4")
    frame = frame_of(paper)
    places = [place for one in report.strokes for place in (*one.meant, *one.path)]
    low = [min(place[axis] for place in places) for axis in (0, 1)]
    high = [max(place[axis] for place in places) for axis in (0, 1)]
    room = [
        paper.width - frame.left - frame.right - 20.0,
        paper.height - frame.low - frame.high - 30,
    ]
    scale = min(room[axis] / max(high[axis] - low[axis], 1.0) for axis in (0, 1))

    def on_page(path: Sequence[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
        return tuple((frame.left + 10 + scale * (x - low[0]), frame.low + 10 + scale * (y - low[1]))
                     for x, y in path)  # fmt: skip

    inks = list(border_lines(paper))
    inks += [Ink("hidden" if one.state != "there" else "title", on_page(one.meant))
             for one in report.strokes]  # fmt: skip
    inks += [Ink("visible", on_page(one.path)) for one in report.worst_first if one.path]
    head = Words((frame.left + 10, paper.height - frame.high - 12), title, _TITLE_MM)
    return Drawing(paper.width, paper.height, tuple(inks), (head,), title)
