"""The commands about drawn sheets: laid beside their plan, and taken by the scanner's stand-in."""

from __future__ import annotations

import argparse
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.checking.report import CheckReport
from holoptic.checking.sitting import Sitting
from holoptic.cli.asked import asked_for
from holoptic.cli.registering import keep_check
from holoptic.cli.sources import patient_worker
from holoptic.cli.spreading import NOT_CLEAN
from holoptic.curves.vectors import Vec2
from holoptic.devices.scanner import read_slip, require_dpi
from holoptic.devices.scanner_stand import printed_page
from holoptic.errors import BadInput
from holoptic.exchange.check_files import write_check
from holoptic.exchange.outputs import require_suffix, write_by_suffix
from holoptic.foreign import require_readable
from holoptic.job import sheet_order, title_block
from holoptic.plan.hand import Hand
from holoptic.units import Unit
from holoptic.units.spoken import said
from holoptic.worker.messages import SheetPlanned, SheetTaken

AGREES = "agrees"
"""What scripts read: the same in every language."""


def check(options: argparse.Namespace) -> int:
    """Lay the picture of a drawn sheet beside its plan; 0 where it agrees, 3 where it deviates."""
    out = Path(options.out) if options.out else None
    if out is not None:
        require_suffix(out, (".json", ".pdf"))
    scan = Path(options.scan)
    require_readable(scan)
    corners = _corners(options.corners) if options.corners else None
    hand = Hand(*options.hand) if options.hand else Hand()
    with patient_worker() as worker:
        asked = asked_for(options, worker)
        order, title = sheet_order(asked.job, asked.sheet), title_block(asked.job, asked.sheet)
        report: CheckReport = worker.ask(
            "check_drawn", str(scan.absolute()), order, asked.figure.id, title, hand, corners
        )
    unit = asked.job.unit
    if options.register:
        keep_check(asked, scan, report)
    if out is not None:
        write_check(out, report, unit, asked.job.name, replace=options.force)
    print("\n".join(_lines(report, unit)))
    return 0 if report.agrees else NOT_CLEAN


def _lines(report: CheckReport, unit: Unit) -> list[str]:
    """Return a report in lines: what is wrong, worst first, what is too much, and the causes."""
    if report.agrees:
        return [AGREES]
    lines = [
        f"{stroke.id}: {stroke.state}" + (f" {stroke.off_mm:+.2f} mm" if stroke.off_mm else "")
        for stroke in report.worst_first
    ]
    if report.until is not None:
        lines.append(tr("done up to move {n}", n=report.until))
    lines += [
        tr("too much: a line of {length} mm from {x}, {y}", length=f"{extra.length:.1f}",
           x=f"{extra.start[0]:.1f}", y=f"{extra.start[1]:.1f}")
        for extra in report.extra
    ]  # fmt: skip
    lines += [f"{cause.weight:4.0%} {said(str(cause.story), unit)}" for cause in report.causes]
    if report.deciding is not None:
        one = report.deciding
        lines.append(tr("measure from {start} to {end}: {first} mm after move {n}, {second} mm "
                        "after move {m}", start=one.start, end=one.end,
                        first=f"{one.readings[0]:.1f}", second=f"{one.readings[1]:.1f}",
                        n=one.moves[0], m=one.moves[1]))  # fmt: skip
    if report.redraw is not None:
        names = ", ".join(report.redraw.rub_out) or tr("nothing")
        lines.append(tr("rub out {names}; moves to do again: {moves}", names=names,
                        moves=", ".join(map(str, report.redraw.moves)) or tr("none")))  # fmt: skip
    return lines


def scan(options: argparse.Namespace) -> int:
    """Make the picture of a sheet as a hand with its slips would draw it; views are printed."""
    out = Path(options.out)
    require_suffix(out, (".png",))
    require_dpi(options.dpi)
    slips = [_slip(text) for text in options.slip]
    hand = Hand(*options.hand) if options.hand else Hand()
    sitting = Sitting(hand, {}, frozenset(options.leave_out), options.rubbed_out, options.photo,
                      options.dpi, max(0, options.seed), options.until)  # fmt: skip
    with patient_worker() as worker:
        asked = asked_for(options, worker)
        order, title = sheet_order(asked.job, asked.sheet), title_block(asked.job, asked.sheet)
        taken: SheetTaken
        if asked.figure.is_pictorial:
            taken = worker.ask("take_sheet", order, asked.figure.id, title, sitting, slips)
        else:  # views are printed, not drawn by a hand
            laid: SheetPlanned = worker.ask("sheet", order, title)
            printed = printed_page(laid, asked.job.unit)
            taken = worker.ask("take_printed", asked.figure.id, printed, sitting)
    write_by_suffix(out, {".png": lambda: taken.png}, replace=options.force)
    return 0


def _slip(text: str) -> tuple[int, float]:
    """Return a slip as it is written, such as 47:-0.9."""
    try:
        return read_slip(text)
    except BadInput as error:
        raise BadInput(tr("{option}: {error}", option=f"--slip {text}", error=error)) from error


def _corners(text: str) -> list[Vec2]:
    """Return four places as they are written: x,y;x,y;x,y;x,y."""
    try:
        places = [tuple(float(part) for part in pair.split(",")) for pair in text.split(";")]
        found: list[Vec2] = [(x, y) for x, y in places]
    except ValueError:
        found = []
    if len(found) != 4 or not all(abs(value) < 1e6 for place in found for value in place):
        raise BadInput(tr("--corners {text_}: write four places like 10,900;1400,905;1390,40;15,35",
                          text_=text))  # fmt: skip
    return found
