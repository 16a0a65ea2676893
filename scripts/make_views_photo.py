"""Make the demo's photo of a sheet of views: a part of the harbour lamp, printed and photographed.

Run: .venv/bin/python scripts/make_views_photo.py [PART]
"""

from __future__ import annotations

import sys

import cv2
import numpy as np
import pypdfium2

from holoptic.checking.pictures.stand_in import photographed
from holoptic.demo import job_path, views_photo_path
from holoptic.exchange.job_file import read_job
from holoptic.exchange.pdf import pdf_pages
from holoptic.job import TitleBlock, pose
from holoptic.sheet import views_sheet
from holoptic.worker.client import Worker

_PART = "latch plate"
_DPI, _QUALITY, _SEED = 190, 66, 11


def main() -> None:
    """Write the photo beside the demo's jobs."""
    name = sys.argv[1] if len(sys.argv) > 1 else _PART
    job = read_job(job_path())
    part = next(one.source for one in job.parts if one.source.name == name)
    with Worker() as worker:
        placed = worker.ask("show_views", pose(part)).placed
    sheet = views_sheet(placed, TitleBlock("Skerry Lamp Works", name), "third")
    page = pypdfium2.PdfDocument(pdf_pages([sheet.drawing]))[0]
    dots = page.render(scale=_DPI / 72, grayscale=True).to_numpy()
    grey = dots.reshape(dots.shape[0], dots.shape[1], -1)[:, :, 0]
    bright = 0.94 * (0.08 + 0.92 * grey.astype(np.float32) / 255)
    photo = photographed(bright, np.random.default_rng(_SEED))
    cv2.imwrite(str(views_photo_path()), photo, [cv2.IMWRITE_JPEG_QUALITY, _QUALITY])


if __name__ == "__main__":
    main()
