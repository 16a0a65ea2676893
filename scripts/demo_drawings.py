"""Makes the two demo drawings of the Read page: a sound one, and one with slips.

Run: .venv/bin/python scripts/demo_drawings.py
"""

from __future__ import annotations

import math
from pathlib import Path

import ezdxf
from ezdxf.document import Drawing as Document

import holoptic.demo
from holoptic.exchange.dxf import dxf_bytes
from holoptic.job import JobPart
from holoptic.part import Corner, Crate, Face, Hole, Offset, Part, Prism
from holoptic.sheet import TitleBlock, views_sheet
from holoptic.units import Length
from holoptic.worker.client import Worker

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


def drawn(part: Part, worker: Worker) -> Document:
    """Return the views of a part as a drawing."""
    shown = worker.ask("show_views", JobPart(part))
    title = TitleBlock("Skerry Lamp Works", part.name, part.number, _DATE)
    page = views_sheet(shown.placed, title, "third", JobPart(part).choice.sheet).drawing
    path = _FOLDER / f"{part.name.replace(' ', '-')}.dxf"
    path.write_bytes(dxf_bytes(page))
    return ezdxf.readfile(path)


def with_slips(document: Document) -> None:
    """Leave out a line of the front view and write a wrong figure on it."""
    space = document.modelspace()
    lines = [e for e in space.query("LINE") if e.dxf.layer == "visible"]
    level = [e for e in lines if abs(e.dxf.start.y - e.dxf.end.y) < 1e-6]
    # the floor of the notch
    gone = min(level, key=lambda e: abs(math.dist(e.dxf.start, e.dxf.end) - 25.5))
    low = min(level, key=lambda e: e.dxf.start.y)
    start, end = sorted(((low.dxf.start.x, low.dxf.start.y), (low.dxf.end.x, low.dxf.end.y)))
    size = space.add_linear_dim(base=(start[0], start[1] - 9), p1=start, p2=end, text="64",
                                dxfattribs={"layer": "dimensions"})  # fmt: skip
    size.render()
    space.delete_entity(gone)


def main() -> None:
    """Write both drawings."""
    with Worker() as worker:
        for part, slips in ((lantern_shoe(), False), (stay_plate(), True)):
            document = drawn(part, worker)
            if slips:
                with_slips(document)
            document.saveas(_FOLDER / f"{part.name.replace(' ', '-')}.dxf")


if __name__ == "__main__":
    main()
