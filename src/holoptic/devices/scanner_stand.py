"""The scanner's stand-in, a program of its own: it draws the sheet that lies on its glass.

    python -m holoptic.devices.scanner_stand glass.json sheet.png

The glass is told by a JSON file (`holoptic.devices.scanner`); the job's plan is worked out, drawn
by a hand with its spread and its slips, and taken as paper and pencil look under a lamp.
"""

from __future__ import annotations

import sys
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.checking.sitting import Sitting
from holoptic.devices.scanner import Glass, read_glass
from holoptic.errors import BadInput, HolopticError
from holoptic.exchange.atomic import write_atomically
from holoptic.exchange.job_file import read_job
from holoptic.exchange.pdf import pdf_pages
from holoptic.job import Job, SheetOrder, sheet_order, title_block, views_order
from holoptic.plan.hand import Hand
from holoptic.units import Unit
from holoptic.units.spoken import said
from holoptic.worker.client import Worker
from holoptic.worker.messages import Progress, SheetPlanned, SheetTaken


def take(glass: Glass, say: bool = True) -> bytes:
    """Return the picture of what lies on the glass, as PNG. Raises HolopticError."""
    job = read_job(Path(glass.job))
    try:
        sheet = job.sheet_of(job.figure(glass.figure))
    except KeyError as error:
        raise BadInput(tr("the job has no figure “{name}”", name=glass.figure)) from error
    hand = Hand(*glass.hand) if glass.hand else Hand()
    sitting = Sitting(hand, {}, frozenset(glass.left_out), glass.is_rubbed_out, glass.is_photo,
                      glass.dpi, glass.seed, glass.until)  # fmt: skip
    title = title_block(job, sheet)

    def tell(progress: Progress) -> None:
        if say and progress.share is not None:
            print(f"P {100 * progress.share:.0f}", flush=True)

    taken: SheetTaken
    with Worker(on_progress=tell) as worker:
        if glass.shows == "views":
            laid = worker.ask("sheet", _views(job, glass.figure), title)
            taken = worker.ask("take_printed", glass.figure, printed_page(laid, job.unit), sitting)
        else:
            taken = worker.ask("take_sheet", sheet_order(job, sheet), glass.figure, title,
                               sitting, glass.slips)  # fmt: skip
    return taken.png


def _views(job: Job, figure: str) -> SheetOrder:
    try:
        return views_order(job, job.figure(figure))
    except KeyError as error:
        raise BadInput(tr("the figure is of several parts; views of one part are printed")
                       ) from error  # fmt: skip


def printed_page(laid: SheetPlanned, unit: Unit) -> bytes:
    """Return a sheet as it is printed, a PDF file. Raises BadInput where nothing fits."""
    if laid.misfit is not None:
        raise BadInput(said(str(laid.misfit), unit))
    return pdf_pages(laid.pages[:1])


def main(arguments: list[str] | None = None) -> int:
    """Take the page once; 0 where a picture came of it."""
    given = sys.argv[1:] if arguments is None else arguments
    if len(given) != 2 or given[0] in ("-h", "--help"):
        print(tr("usage: python -m holoptic.devices.scanner_stand GLASS.json SHEET.png"),
              file=sys.stderr)  # fmt: skip
        return 2
    out = Path(given[1])
    print("P 5", flush=True)
    try:
        write_atomically(out, take(read_glass(Path(given[0]))))
    except HolopticError as error:
        print(f"E {' '.join(str(error).split())}", flush=True)
        return 2
    print("P 100", flush=True)
    print(f"I {out}", flush=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
