"""Make docs/screenshots/contact-sheet.png: every demo part in every kind, to be looked at.

Run: .venv/bin/python scripts/make_contact_sheet.py [FILE.png|.svg|.pdf|.dxf]
"""

from __future__ import annotations

import sys
from collections.abc import Iterator
from pathlib import Path

from holoptic.demo import job_names, job_path
from holoptic.exchange.job_file import read_job
from holoptic.exchange.outputs import drawing_makers, write_by_suffix
from holoptic.exchange.png import png_bytes
from holoptic.job import LineSchool, pose
from holoptic.pictorial import Picture, kind_families
from holoptic.sheet import Drawing, Ink, Words
from holoptic.sheet.inking import picture_ink
from holoptic.worker.client import Worker

TARGET = Path(__file__).parent.parent / "docs" / "screenshots" / "contact-sheet.png"
CELL_MM, CAPTION_MM, MARGIN_MM = 62.0, 8.0, 12.0
LINES = LineSchool(outline="thick-and-thin")
CORNERS = ("front-right", "front-left", "rear-right", "front-right-below")
"""Taken in turn, so that the sheet shows more than one."""


def pictures() -> Iterator[tuple[int, int, str, Picture]]:
    """Yield row, column, caption and picture of every part in every kind."""
    parts = [part for name in job_names() for part in read_job(job_path(name)).parts]
    with Worker() as worker:
        for row, part in enumerate(parts):
            for column, family in enumerate(kind_families()):
                kind = family.written()
                corner = CORNERS[0] if (row + column) % 3 else CORNERS[(row + column) % 4]
                made = worker.ask("candidate", pose(part.source), kind, corner)
                caption = f"{part.source.name}: {made.picture.view.title}, {corner}"
                yield row, column, caption, made.picture


def fitted(picture: Picture, left: float, low: float) -> list[Ink]:
    """Return a picture's ink, as large as a cell allows."""
    xmin, ymin, xmax, ymax = picture.extent
    room = CELL_MM - 10.0
    scale = min(room / (xmax - xmin), room / (ymax - ymin))
    origin = (
        left + CELL_MM / 2 - scale * (xmin + xmax) / 2,
        low + CELL_MM / 2 - scale * (ymin + ymax) / 2,
    )
    return picture_ink(picture, LINES, origin, scale)


def main() -> None:
    """Write the sheet."""
    inks: list[Ink] = []
    words: list[Words] = []
    found = list(pictures())
    rows, columns = (max(item[axis] for item in found) + 1 for axis in (0, 1))
    height = 2 * MARGIN_MM + rows * (CELL_MM + CAPTION_MM)
    for row, column, caption, picture in found:
        left = MARGIN_MM + column * CELL_MM
        low = height - MARGIN_MM - (row + 1) * (CELL_MM + CAPTION_MM) + CAPTION_MM
        inks += fitted(picture, left, low)
        words.append(Words((left + CELL_MM / 2, low - 4), caption, 1.5, "middle"))
    width = 2 * MARGIN_MM + columns * CELL_MM
    sheet = Drawing(width, height, tuple(inks), tuple(words), "every demo part in every kind")
    path = Path(sys.argv[1]) if len(sys.argv) > 1 else TARGET
    if path == TARGET:
        path.write_bytes(png_bytes(sheet, 100))
    else:
        write_by_suffix(path, drawing_makers(lambda: sheet))
    print(f"{path.name}: {len(found)} pictures")


if __name__ == "__main__":
    main()
