"""Make the demo's sketch of views: a part of the lamp works, drawn and figured by a free hand.

Run: PYTHONPATH=. .venv/bin/python scripts/make_sketch.py
"""

from __future__ import annotations

import random

import cv2
import numpy as np
from bench.paper.free_hand import sketch_views
from bench.paper.raster import picture

from holoptic.demo import sketch_path
from holoptic.part import Corner, Crate, Face, Hole, Offset, Part, Prism
from holoptic.units import Length
from holoptic.worker.client import Worker

_SEED, _QUALITY = 5, 60
_DOTS = 1900
"""How wide the picture is: a small file is enough for a sketch."""


def _mm(text: str) -> Length:
    return Length.read(text)


def wick_rest() -> Part:
    """Return a rest that a wick's holder lies on: a step, a groove, a hole."""
    crate = Crate(_mm("63"), _mm("38.5"), _mm("33"))
    step = [("36.5", "33"), ("63", "33"), ("63", "12.5"), ("36.5", "12.5")]
    groove = [("8.5", "0"), ("17", "0"), ("17", "7"), ("8.5", "7")]
    hole = Hole("pin hole", "cut", Face.TOP, _mm("9"), Offset(_mm("50")), Offset(_mm("27")),
                _mm("0"), None)  # fmt: skip
    shapes = []
    for name, face, corners in (("step", Face.FRONT, step), ("groove", Face.RIGHT, groove)):
        outline = tuple(Corner(_mm(u), _mm(v)) for u, v in corners)
        shapes.append(Prism(name, "cut", face, outline, _mm("0"), None))
    return Part("wick rest", crate, (*shapes, hole), number="SLW-223")


def main() -> None:
    """Write the sketch beside the demo's jobs, and say where its levels lie."""
    with Worker() as worker:
        views = list(worker.ask("derive_views", wick_rest())[:3])
    sheet, levels = sketch_views(views, random.Random(_SEED), has_figures=True)
    page = picture(sheet, "pencil", np.random.default_rng(_SEED))
    small = cv2.resize(page, (_DOTS, round(page.shape[0] * _DOTS / page.shape[1])),
                       interpolation=cv2.INTER_AREA)  # fmt: skip
    cv2.imwrite(str(sketch_path()), small, [cv2.IMWRITE_JPEG_QUALITY, _QUALITY])
    print(";".join(",".join(f"{at:g}" for at in own[1:]) for own in levels))


if __name__ == "__main__":
    main()
