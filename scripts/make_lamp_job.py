"""Write the demo job of the harbour lamp put together: nine parts of the Skerry Lamp Works."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from holoptic.cli.sources import write_with_cover
from holoptic.job import (
    Arrangement,
    Figure,
    Job,
    JobPart,
    Pictorial,
    Placed,
    Sheet,
    TitleEntries,
    Turn,
    read_tie,
)
from holoptic.part import (
    Ball,
    Corner,
    Crate,
    Face,
    Offset,
    Operation,
    Part,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
)  # fmt: skip
from holoptic.units import Length
from holoptic.worker.client import Worker

FILE = Path(__file__).parents[1] / "src/holoptic/demo/lamp-put-together.holoptic"


class _Maker:
    """Makes operations of one part from the words of their lengths."""

    def __init__(self, name: str, number: str, *sizes: str) -> None:
        self.part = Part(name, Crate(*(Length.read(size) for size in sizes)), (), "empty", number)

    def length(self, words: str) -> Length:
        return Length.read(words, names=self.part.scope())

    def add(self, operation: Operation) -> None:
        self.part = replace(self.part, operations=(*self.part.operations, operation))

    def _spot(self, u: str, v: str) -> dict[str, Offset]:
        return {"u": Offset(self.length(u)), "v": Offset(self.length(v))}

    def round(self, name: str, mode: str, face: Face, diameter: str, start: str, end: str | None,
              u: str = "L/2", v: str = "D/2", end_diameter: str | None = None) -> None:  # fmt: skip
        self.add(Round(
            name, mode, face, self.length(diameter), **self._spot(u, v), start=self.length(start),
            end=None if end is None else self.length(end),
            end_diameter=None if end_diameter is None else self.length(end_diameter),
        ))  # fmt: skip

    def prism(self, name: str, mode: str, face: Face, corners: str, start: str = "0",
              end: str | None = None) -> None:  # fmt: skip
        outline = tuple(
            Corner(*(self.length(word) for word in pair.split(","))) for pair in corners.split()
        )
        self.add(Prism(name, mode, face, outline, self.length(start),
                       None if end is None else self.length(end)))  # fmt: skip

    def hexagon(self, name: str, mode: str, face: Face, flats: str, start: str, end: str) -> None:
        self.add(Polygon(name, mode, face, 6, self.length(flats), "across flats",
                         **self._spot("L/2", "D/2"), start=self.length(start),
                         end=self.length(end)))  # fmt: skip

    def pyramid(self, name: str, mode: str, face: Face, base: str, top: str, start: str,
                end: str) -> None:  # fmt: skip
        wide, deep = base.split(",")
        top_wide, top_deep = top.split(",")
        self.add(Pyramid(name, mode, face, self.length(wide), self.length(deep),
                         **self._spot("L/2", "D/2"), start=self.length(start),
                         end=self.length(end), end_width=self.length(top_wide),
                         end_height=self.length(top_deep)))  # fmt: skip


def _wedge_foot() -> Part:
    made = _Maker("wedge foot", "SLW-201", "23.5", "62", "19+7.5")
    made.prism("wedge", "add", Face.FRONT, "0,0 L,0 L,19 7.5,19")
    made.round("peg", "add", Face.TOP, "9.5", "0", "7.5", "L-9", "D/2")
    made.prism("heel", "cut", Face.RIGHT, "0,0 11,0 11,6.5 0,6.5")
    return made.part


def _latch_plate() -> Part:
    made = _Maker("latch plate", "SLW-202", "97", "66", "13.5+5")
    made.prism("plate", "add", Face.TOP, "0,0 L,0 L,D 0,D", "5", "H")
    made.prism("stop", "add", Face.TOP, "4.5,5 10.5,5 10.5,D-5 4.5,D-5", "0", "5")
    made.round("peg hole 1", "cut", Face.BOTTOM, "9.5", "0", "7.5", "17.5")
    made.round("peg hole 2", "cut", Face.BOTTOM, "9.5", "0", "7.5", "L-17.5")
    made.round("wire hole", "cut", Face.BOTTOM, "17.5", "0", None)
    made.prism("slot", "cut", Face.TOP, "L-11.5,19 L-5.5,19 L-5.5,D-19 L-11.5,D-19")
    return made.part


def _flange() -> Part:
    made = _Maker("counterbored flange", "SLW-203", "64", "64", "8.5+9")
    made.round("plate", "add", Face.BOTTOM, "64", "0", "8.5")
    made.round("hub", "add", Face.BOTTOM, "33.5", "8.5", "H")
    made.round("bore", "cut", Face.TOP, "17.5", "0", None)
    for number, (u, v) in enumerate([("L/2-24", "D/2"), ("L/2+24", "D/2"), ("L/2", "D/2-24"),
                                     ("L/2", "D/2+24")], 1):  # fmt: skip
        made.round(f"screw {number}", "cut", Face.BOTTOM, "4.5", "0", "8.5", u, v)
        made.round(f"counterbore {number}", "cut", Face.BOTTOM, "8.5", "4.5", "8.5", u, v)
    return made.part


def _pedestal() -> Part:
    made = _Maker("lamp pedestal", "SLW-204", "56", "56", "24.5+6.5")
    made.hexagon("stem", "add", Face.BOTTOM, "46.5", "0", "24.5")
    made.round("spigot", "add", Face.BOTTOM, "27.5", "24.5", "H")
    made.round("socket", "cut", Face.BOTTOM, "33.5", "0", "9")
    made.round("wire hole", "cut", Face.BOTTOM, "17.5", "0", None)
    return made.part


def _gallery_block() -> Part:
    made = _Maker("gallery block", "SLW-205", "88", "61", "11+8.5")
    made.prism("block", "add", Face.FRONT, "0,0 L,0 L,11 L-13.5,11 L-13.5,H 13.5,H 13.5,11 0,11")
    made.round("seat", "cut", Face.BOTTOM, "27.5", "0", "6.5")
    made.round("bore", "cut", Face.BOTTOM, "17.5", "0", None)
    made.round("ring seat", "cut", Face.TOP, "36.5", "0", "5.5")
    made.prism("cable notch", "cut", Face.FRONT, "L-9.5,11 L-4,11 L-4,4.5 L-9.5,4.5")
    return made.part


def _bracket() -> Part:
    made = _Maker("bearing bracket", "SLW-206", "61", "69", "8.5+38")
    made.prism("base", "add", Face.TOP, "0,0 L,0 L,D 0,D", "38", "H")
    made.prism("upright", "add", Face.REAR, "13,8.5 L-13,8.5 L-13,29 13,29", "0", "7.5")
    made.round("eye", "add", Face.REAR, "L-26", "0", "7.5", "L/2", "29")
    made.round("eye bore", "cut", Face.REAR, "16.5", "0", "7.5", "L/2", "29")
    made.round("ring hole", "cut", Face.BOTTOM, "36.5", "0", "8.5", "L/2", "30.5")
    return made.part


def _lens_ring() -> Part:
    made = _Maker("lens ring", "SLW-207", "52.5", "52.5", "14+7.5+6.5")
    made.round("spigot", "add", Face.BOTTOM, "36.5", "0", "14")
    made.round("flange", "add", Face.BOTTOM, "52.5", "14", "21.5")
    made.round("collar", "add", Face.BOTTOM, "41.5", "21.5", "H")
    made.round("bore", "cut", Face.TOP, "28.5", "0", None)
    made.add(
        Ring(
            "groove",
            "cut",
            Face.BOTTOM,
            made.length("52.5"),
            made.length("3"),
            **made._spot("L/2", "D/2"),
            start=made.length("17.75"),
        )
    )
    return made.part


def _cowl() -> Part:
    made = _Maker("vent cowl", "SLW-208", "57", "54", "6.5+27")
    made.pyramid("rim", "add", Face.BOTTOM, "L,D", "L,D", "0", "6.5")
    made.pyramid("hood", "add", Face.BOTTOM, "L-7,D-7", "24.5,21.5", "6.5", "H")
    made.round("collar seat", "cut", Face.BOTTOM, "41.5", "0", "6.5")
    made.round("chimney", "cut", Face.BOTTOM, "12.5", "6.5", None)
    return made.part


def _roof() -> Part:
    made = _Maker("roof cone and finial", "SLW-209", "35", "35", "9+3.5+18+5+13")
    made.round("spigot", "add", Face.BOTTOM, "12.5", "0", "9")
    made.round("eaves", "add", Face.BOTTOM, "35", "9", "12.5")
    made.round("cone", "add", Face.BOTTOM, "31", "12.5", "30.5", end_diameter="7.5")
    made.round("neck", "add", Face.BOTTOM, "5.5", "30.5", "H-8")
    made.add(
        Ball(
            "finial",
            "add",
            Face.TOP,
            made.length("13"),
            **made._spot("L/2", "D/2"),
            start=made.length("6.5"),
        )
    )
    return made.part


_STACK = (
    # part, material, where its origin stands (the lamp's axis runs through 48.5, 33), its ties
    (_wedge_foot, "oak", (("3", "2", "0"), ("94", "64", "0")),
     (("peg on latch plate.peg_hole_1", "wedge.top on latch plate.bottom"),
      ("peg on latch plate.peg_hole_2", "wedge.top on latch plate.bottom"))),
    (_latch_plate, "gunmetal", (("0", "0", "19"),), ((),)),
    (_flange, "gunmetal", (("16.5", "1", "32.5"),),
     (("bore on latch plate.wire_hole", "bottom on latch plate.plate.top"),)),
    (_pedestal, "cast iron", (("20.5", "5", "41"),),
     (("wire_hole on counterbored flange.bore", "bottom on counterbored flange.plate.top"),)),
    (_gallery_block, "cast iron", (("4.5", "2.5", "65.5"),),
     (("bore on lamp pedestal.wire_hole", "bottom on lamp pedestal.stem.top"),)),
    (_bracket, "gunmetal", (("18", "2.5", "85"),),
     (("ring_hole on gallery block.ring_seat", "bottom on gallery block.top"),)),
    (_lens_ring, "brass", (("22.25", "6.75", "79.5"),),
     (("bore on bearing bracket.ring_hole", "flange.bottom on bearing bracket.base.top"),)),
    (_cowl, "sheet copper", (("20", "6", "101"),),
     (("chimney on lens ring.bore", "bottom on lens ring.flange.top"),)),
    (_roof, "brass", (("31", "15.5", "125.5"),),
     (("spigot on vent cowl.chimney", "eaves.bottom on vent cowl.top"),)),
)  # fmt: skip
"""Bottom up; the second foot is the first one turned about."""


def lamp() -> Job:
    """Return the lamp as a job: its parts, the arrangement, and a sheet of it."""
    parts, placed, ids = [], [], {}
    for number, (make, material, places, _) in enumerate(_STACK, 1):
        parts.append(JobPart(f"p{number}", make(), len(places), material))
        for count, place in enumerate(places):
            turn = Turn(Face.REAR, Face.TOP) if count else Turn()
            at = tuple(Length.read(word) for word in place)
            placed.append(Placed(f"b{len(placed) + 1}", f"p{number}", at, turn))
            ids[parts[-1].source.name] = placed[-1].id
    lines = [ties for *_, each in _STACK for ties in each]
    placed = [
        replace(item, ties=tuple(read_tie(line, ids) for line in own))
        for item, own in zip(placed, lines, strict=True)
    ]
    whole = Arrangement("a1", "harbour lamp", tuple(placed), number="SLW-200")
    sheet = Sheet("s1", (
        Figure("f1", "a1", Pictorial(), apart=True),
        Figure("f2", "a1", Pictorial()),
    ))  # fmt: skip
    opened = Sheet("s2", (
        Figure("f3", "a1", Pictorial(), apart=True, cut="half"),
        Figure("f4", "a1", Pictorial(), cut="half"),
    ))  # fmt: skip
    title = TitleEntries(drawn_by="E. Skarr", date="2026-11-28")
    return Job("Skerry Lamp Works: the lamp put together", tuple(parts), (sheet, opened), (whole,),
               title=title, id="skerry-lamp-put-together")  # fmt: skip


def main() -> None:
    """Write the job."""
    with Worker() as worker:
        write_with_cover(lamp(), FILE, worker)


if __name__ == "__main__":
    main()
