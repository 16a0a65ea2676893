"""Makes the two demo drawings of the Read page: a sound one, and one with slips.

Run: .venv/bin/python scripts/demo_drawings.py
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from pathlib import Path

import ezdxf
from ezdxf.document import Drawing as Document

import holoptic.demo
from holoptic.exchange.dxf import dxf_bytes
from holoptic.job import TitleBlock, pose
from holoptic.part import Corner, Crate, Face, Hole, Offset, Part, Prism
from holoptic.reading.arrangement import arrange
from holoptic.reading.dxf_sheet import read_dxf
from holoptic.sheet import views_sheet
from holoptic.units import Length
from holoptic.worker.client import Worker

Size = tuple[int, float, float, str]
_FOLDER = Path(holoptic.demo.__file__).parent
_DATE = "2026-11-25"


def _mm(text: str) -> Length:
    return Length.read(text)


def _prism(name: str, face: Face, corners: list[tuple[str, str]], end: str | None) -> Prism:
    outline = tuple(Corner(_mm(u), _mm(v)) for u, v in corners)
    return Prism(name, "cut", face, outline, _mm("0"), None if end is None else _mm(end))


def lantern_shoe() -> Part:
    """Return a shoe that carries a lantern's post: a step, a slope, a groove, two holes."""
    crate = Crate(_mm("77"), _mm("43"), _mm("36.5"))
    step = [("51.5", "36.5"), ("77", "36.5"), ("77", "13"), ("51.5", "13")]
    slope = [("0", "36.5"), ("14.5", "36.5"), ("0", "21")]
    groove = [("15.5", "0"), ("27.5", "0"), ("27.5", "7.5"), ("15.5", "7.5")]
    post = Hole("post hole", "cut", Face.TOP, _mm("17"), Offset(_mm("33")), Offset(_mm("21.5")),
                _mm("0"), _mm("22"))  # fmt: skip
    bolt = Hole("bolt hole", "cut", Face.TOP, _mm("8.5"), Offset(_mm("65.5")), Offset(_mm("21.5")),
                _mm("0"), None)  # fmt: skip
    return Part("lantern shoe", crate, (
        _prism("step", Face.FRONT, step, None), _prism("slope", Face.FRONT, slope, None),
        _prism("groove", Face.RIGHT, groove, None), post, bolt,
    ), number="SLW-207")  # fmt: skip


def stay_plate() -> Part:
    """Return a plate that stays a mast: two notches of unlike depth, a slope, a hole."""
    crate = Crate(_mm("68"), _mm("39"), _mm("31.5"))
    notch = [("19", "31.5"), ("44.5", "31.5"), ("44.5", "18"), ("19", "18")]
    corner = [("0", "31.5"), ("19", "31.5"), ("19", "24"), ("0", "24")]
    slope = [("68", "31.5"), ("55", "31.5"), ("68", "20")]
    hole = Hole("stay hole", "cut", Face.FRONT, _mm("9"), Offset(_mm("55")), Offset(_mm("11.5")),
                _mm("0"), None)  # fmt: skip
    return Part("stay plate", crate, (
        _prism("notch", Face.FRONT, notch, "24.5"), _prism("corner", Face.FRONT, corner, "13"),
        _prism("slope", Face.FRONT, slope, None), hole,
    ), number="SLW-211")  # fmt: skip


def drawn(part: Part, worker: Worker) -> tuple[Document, Path]:
    """Return the views of a part as a drawing, and where it is kept."""
    shown = worker.ask("show_views", pose(part))
    title = TitleBlock("Skerry Lamp Works", part.name, part.number, _DATE)
    page = views_sheet(shown.placed, title, "third").drawing
    path = _FOLDER / f"{part.name.replace(' ', '-')}.dxf"
    path.write_bytes(dxf_bytes(page))
    return ezdxf.readfile(path), path


# by axis: from where to where along the part, and what is written where that is not the distance
_SHOE_SIZES = (
    (0, 0, 77, ""), (0, 0, 14.5, ""), (0, 0, 33, ""), (0, 0, 51.5, ""), (0, 0, 65.5, ""),
    (1, 0, 43, ""), (1, 0, 15.5, ""), (1, 0, 27.5, ""),
    (2, 0, 36.5, ""), (2, 0, 7.5, ""), (2, 0, 13, ""), (2, 0, 21, ""), (2, 14.5, 36.5, ""),
)  # fmt: skip
_PLATE_SIZES = (
    (0, 0, 68, "64"), (0, 0, 19, ""), (0, 19, 44.5, ""), (0, 44.5, 55, ""), (0, 55, 68, ""),
    (1, 0, 39, ""), (1, 0, 13, ""), (1, 0, 24.5, ""),
    (2, 0, 31.5, ""), (2, 0, 11.5, ""), (2, 0, 18, ""), (2, 0, 20, ""), (2, 0, 24, ""),
)  # fmt: skip
_FIRST_MM, _NEXT_MM = 9.0, 6.5


def with_sizes(document: Document, path: Path, sizes: Iterable[Size]) -> None:
    """Write sizes on a drawing: along the length under the front view, along the height at its
    left, along the depth at the left of the top view.
    """
    views = {view.name: view.box for view in arrange(read_dxf(path).lines).views}
    rows = [0, 0, 0]
    for axis, low, high, words in sizes:
        xmin, ymin, _, _ = views["top" if axis == 1 else "front"]
        off = _FIRST_MM + _NEXT_MM * rows[axis]
        rows[axis] += 1
        if axis == 0:
            ends, base, angle = ((xmin + low, ymin), (xmin + high, ymin)), (xmin, ymin - off), 0
        else:
            ends, base, angle = ((xmin, ymin + low), (xmin, ymin + high)), (xmin - off, ymin), 90
        size = document.modelspace().add_linear_dim(
            base=base, p1=ends[0], p2=ends[1], angle=angle, text=words or "<>",
            dxfattribs={"layer": "dimensions"},
        )  # fmt: skip
        size.render()


def without_a_line(document: Document) -> None:
    """Leave out a line of the front view: the floor of the notch."""
    space = document.modelspace()
    lines = [e for e in space.query("LINE") if e.dxf.layer == "visible"]
    level = [e for e in lines if abs(e.dxf.start.y - e.dxf.end.y) < 1e-6]
    space.delete_entity(min(level, key=lambda e: abs(math.dist(e.dxf.start, e.dxf.end) - 25.5)))


def main() -> None:
    """Write both drawings."""
    with Worker() as worker:
        for part, sizes in ((lantern_shoe(), _SHOE_SIZES), (stay_plate(), _PLATE_SIZES)):
            document, path = drawn(part, worker)
            with_sizes(document, path, sizes)
            if part.name == "stay plate":
                without_a_line(document)
            document.saveas(path)


if __name__ == "__main__":
    main()
