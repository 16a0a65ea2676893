"""Make the demo's scan: the gallery block drawn with two slips, as the scanner's stand-in sees it.

Run after a change of the block's plan: .venv/bin/python scripts/make_demo_scan.py
"""

from __future__ import annotations

import cv2
import numpy as np

from holoptic.checking.pictures.showing import as_jpeg
from holoptic.checking.sitting import Sitting
from holoptic.demo import SCANNED_FIGURE, job_path, scan_path
from holoptic.exchange.job_file import read_job
from holoptic.job import sheet_order, title_block
from holoptic.worker.client import Worker

SLIPS = ((54, 9.0), (41, 4.5))
"""The upper step's depth with its figures changed over, the recess at another length of the sum."""


def main() -> None:
    """Write the scan."""
    job = read_job(job_path())
    sheet = job.sheet_of(job.figure(SCANNED_FIGURE))
    order, title = sheet_order(job, sheet), title_block(job, sheet)
    with Worker() as worker:
        taken = worker.ask("take_sheet", order, SCANNED_FIGURE, title, Sitting(dpi=200, seed=7),
                           SLIPS)  # fmt: skip
    grey = cv2.imdecode(np.frombuffer(taken.png, np.uint8), cv2.IMREAD_GRAYSCALE)
    scan_path().write_bytes(as_jpeg(np.asarray(grey, np.uint8)))


if __name__ == "__main__":
    main()
