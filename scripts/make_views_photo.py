"""Make the demo's photo of a sheet of views: a part of the harbour lamp, printed and photographed.

Run: .venv/bin/python scripts/make_views_photo.py [PART]
"""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

import cv2
import numpy as np
import pypdfium2

from holoptic.checking.pictures.stand_in import photographed
from holoptic.cli.main import main as holoptic
from holoptic.demo import job_path, views_photo_path

_PART = "wedge foot"
_DPI, _QUALITY, _SEED = 190, 66, 11


def main() -> None:
    """Write the photo beside the demo's jobs."""
    name = sys.argv[1] if len(sys.argv) > 1 else _PART
    with tempfile.TemporaryDirectory() as folder:
        sheet = Path(folder, "sheet.pdf")
        holoptic(["sheet", str(job_path()), "--part", name, "--kind", "views", "--paper", "A4",
                  "--scale", "1", "--dimension", "auto", "--out", str(sheet)])  # fmt: skip
        page = pypdfium2.PdfDocument(sheet)[0]
        dots = page.render(scale=_DPI / 72, grayscale=True).to_numpy()
    grey = dots.reshape(dots.shape[0], dots.shape[1], -1)[:, :, 0]
    bright = 0.94 * (0.08 + 0.92 * grey.astype(np.float32) / 255)
    photo = photographed(bright, np.random.default_rng(_SEED))
    cv2.imwrite(str(views_photo_path()), photo, [cv2.IMWRITE_JPEG_QUALITY, _QUALITY])


if __name__ == "__main__":
    main()
