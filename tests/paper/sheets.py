"""Sheets of views on paper for the tests: as pages of lines, and as pictures."""

from __future__ import annotations

import cv2
import numpy as np
import pypdfium2

from holoptic.exchange.pdf import pdf_pages
from holoptic.exchange.svg import svg_text
from holoptic.job import TitleBlock, pose
from holoptic.sheet import views_sheet


def drawn(worker, part, angle="third"):
    """Return the sheet of three views of a part."""
    placed = worker.ask("show_views", pose(part), "three", angle).placed
    return views_sheet(placed, TitleBlock("Skerry Lamp Works", part.name), angle).drawing


def written(drawing, path):
    """Write a sheet as PDF or SVG."""
    data = pdf_pages([drawing]) if path.suffix == ".pdf" else svg_text(drawing).encode()
    path.write_bytes(data)
    return path


def scanned(drawing, path, dpi=200, turn=0.6, noise=0.015):
    """Write a sheet as a scan: askew by some degrees, with noise."""
    page = pypdfium2.PdfDocument(pdf_pages([drawing]))[0]
    dots = page.render(scale=dpi / 72, grayscale=True).to_numpy()
    grey = dots.reshape(dots.shape[0], dots.shape[1], -1)[:, :, 0]
    bright = 0.94 * (0.08 + 0.92 * grey.astype(np.float32) / 255)
    high, wide = bright.shape
    lean = cv2.getRotationMatrix2D((wide / 2, high / 2), turn, 1.0)
    bright = cv2.warpAffine(bright, lean, (wide, high), flags=cv2.INTER_CUBIC, borderValue=0.94)
    dice = np.random.default_rng(3)
    bright += dice.normal(0, noise, bright.shape).astype(np.float32)
    cv2.imwrite(str(path), np.clip(bright * 255, 0, 255).astype(np.uint8))
    return path
