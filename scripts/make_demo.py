"""Write the demo job of the Skerry Lamp Works: run after a change of the job file's format."""

from __future__ import annotations

from pathlib import Path

from holoptic.cli.sources import write_with_cover
from holoptic.job import (
    VIEW_LINES,
    Figure,
    Job,
    Orthographic,
    Pictorial,
    Section,
    Sheet,
    SheetWish,
    TitleEntries,
)
from holoptic.part import (
    Ball,
    Begin,
    Crate,
    Face,
    Mode,
    Offset,
    Operation,
    Part,
    Polygon,
    Prism,
    Pyramid,
    Ring,
    Round,
)
from holoptic.part.outline_text import read_outline
from holoptic.units import Length, Unit
from holoptic.worker.client import Worker

TARGET = Path(__file__).parent.parent / "src" / "holoptic" / "demo" / "harbour-lamp.holoptic"

Shown = tuple[Part, Pictorial]
"""A part and how its first figure shows it."""


class Maker:
    """Collects the operations of one part; every length is a sum as a drafter would write it."""

    def __init__(
        self, name: str, number: str, sizes: tuple[str, str, str], begin: Begin = "block"
    ) -> None:
        self.name, self.number, self.begin = name, number, begin
        self.crate = Crate(*(Length.read(size) for size in sizes))
        self.operations: list[Operation] = []

    def length(self, text: str) -> Length:
        """Read a length that may name the crate's sizes."""
        return Length.read(text, names=self.crate.names)

    def prism(
        self, name: str, mode: Mode, face: Face, outline: str, start: str = "0",
        end: str | None = None,
    ) -> Maker:  # fmt: skip
        """Add a prism; the outline reads `u, v` corner by corner, divided by semicolons."""
        corners = read_outline(outline, Unit.MM, self.crate.names)
        self.operations.append(
            Prism(name, mode, face, corners, self.length(start), self._deep(end))
        )
        return self

    def round(
        self, name: str, mode: Mode, face: Face, diameter: str, u: str, v: str,
        start: str = "0", end: str | None = None, to: str | None = None,
    ) -> Maker:  # fmt: skip
        """Add a cylinder, or with `to` a frustum, centred u and v from a face's near edges."""
        self.operations.append(
            Round(name, mode, face, self.length(diameter), self._offset(u), self._offset(v),
                  self.length(start), self._deep(end), self._deep(to))
        )  # fmt: skip
        return self

    def hole(
        self, name: str, face: Face, diameter: str, u: str, v: str, end: str | None = None
    ) -> Maker:
        """Add a round hole centred u and v from the near edges of a face."""
        return self.round(name, "cut", face, diameter, u, v, end=end)

    def polygon(
        self, name: str, mode: Mode, face: Face, sides: int, size: str, turn: float = 0.0,
        start: str = "0", end: str | None = None, to: str | None = None,
    ) -> Maker:  # fmt: skip
        """Add a regular polygon across flats in the middle of a face."""
        u, v = (self._offset(f"{'LDH'[axis]}/2") for axis in face.axes)
        self.operations.append(
            Polygon(name, mode, face, sides, self.length(size), "across flats", u, v,
                    self.length(start), self._deep(end), turn, self._deep(to))
        )  # fmt: skip
        return self

    def pyramid(
        self, name: str, mode: Mode, sizes: str, top: str, start: str = "0",
        end: str | None = None,
    ) -> Maker:  # fmt: skip
        """Add a frustum that stands in the middle of the crate's bottom; sizes are two lengths."""
        (width, height), (end_width, end_height) = (
            [self.length(text) for text in pair.split(",")] for pair in (sizes, top)
        )
        self.operations.append(
            Pyramid(name, mode, Face.BOTTOM, width, height, self._offset("L/2"),
                    self._offset("D/2"), self.length(start), self._deep(end), end_width,
                    end_height)
        )  # fmt: skip
        return self

    def also(self, operation: Operation) -> Maker:
        """Add an operation made elsewhere."""
        self.operations.append(operation)
        return self

    def _deep(self, text: str | None) -> Length | None:
        return None if text is None else self.length(text)

    def _offset(self, text: str) -> Offset:
        return Offset(self.length(text))

    def part(self, kind: str = "isometric", corner: str = "front-right") -> Shown:
        """Return the finished part."""
        made = Part(self.name, self.crate, tuple(self.operations), self.begin, self.number)
        return made, Pictorial(kind, corner)


def gallery_block() -> Shown:
    """A stepped block that carries the lamp's gallery, with a key slot across its foot."""
    block = Maker("gallery block", "SLW-114", ("84", "46", "18+19.5"))
    block.prism("upper step", "cut", Face.FRONT, "L-26.5, H; L, H; L, H-12; L-26.5, H-12")
    block.prism("lower step", "cut", Face.FRONT, "L-14, H-12; L, H-12; L, 11.5; L-14, 11.5")
    block.prism("cable recess", "cut", Face.TOP,
                "18, 0; 18+22.5, 0; 18+22.5, 17; 18, 17", end="15.5")  # fmt: skip
    block.prism("key slot", "cut", Face.RIGHT, "16, 0; D-16, 0; D-16, 6.5; 16, 6.5")
    return block.part()


def wedge_foot() -> Shown:
    """A foot with one sloped face and a tenon notch; levels the lamp on a pier."""
    foot = Maker("wedge foot", "SLW-121", ("72.5", "38", "41"))
    foot.prism("slope", "cut", Face.FRONT, "23, H; L, H; L, 13.5")
    foot.prism("tenon notch", "cut", Face.LEFT, "D/2-7, H; D/2+7, H; D/2+7, H-16.5; D/2-7, H-16.5",
               end="23")  # fmt: skip
    foot.prism("toe chamfer", "cut", Face.TOP, "L-15, 0; L, 0; L, 11")
    return foot.part(corner="front-right")


def bearing_bracket() -> Shown:
    """A bracket with a round end, bored for the lantern's trunnion; a rib holds it up."""
    bracket = Maker("bearing bracket", "SLW-108", ("66", "44.5", "14.5+21.5+18.5"), "empty")
    bracket.prism("base plate", "add", Face.BOTTOM,
                  "0, 0; L, 0; L, D; 0, D", end="14.5")  # fmt: skip
    upright = "L/2-18.5, 14.5; L/2+18.5, 14.5; L/2+18.5, H-18.5 arc 18.5 left; L/2-18.5, H-18.5"
    bracket.prism("upright", "add", Face.REAR, upright, end="13")
    bracket.prism("rib", "add", Face.LEFT, "6.5, 14.5; D-13, 14.5; D-13, 31.5",
                  "L/2-4", "L/2+4")  # fmt: skip
    bracket.hole("eye", Face.REAR, "19", "L/2", "H-18.5", "13")
    for number, u in enumerate(("10.5", "L-10.5"), 1):
        bracket.hole(f"bolt hole {number}", Face.TOP, "8.5", u, "13.5")
    return bracket.part(kind="cabinet")


def lamp_pedestal() -> Shown:
    """A stepped six-sided foot with a six-sided recess for the lamp's stem."""
    pedestal = Maker("lamp pedestal", "SLW-117", ("74", "74", "12.5+27.5"), "empty")
    pedestal.polygon("foot", "add", Face.BOTTOM, 6, "63", end="12.5")
    pedestal.polygon("stem", "add", Face.BOTTOM, 6, "44.5", start="12.5", end="H")
    pedestal.polygon("recess", "cut", Face.TOP, 6, "26", end="17.5")
    return pedestal.part()


def lens_ring() -> Shown:
    """The ring that holds the lens: a collar, bevelled inside, with a groove round its foot."""
    ring = Maker("lens ring", "SLW-144", ("67", "67", "8.5+6"), "empty")
    middle = ("L/2", "D/2")
    ring.round("flange", "add", Face.BOTTOM, "67", *middle, end="8.5")
    ring.round("collar", "add", Face.BOTTOM, "58.5", *middle, start="8.5", end="H")
    ring.round("bore", "cut", Face.TOP, "47", *middle)
    ring.round("bevel", "cut", Face.TOP, "53.5", *middle, end="4.5", to="47")
    ring.also(Ring("groove", "cut", Face.BOTTOM, Length.read("67"), Length.read("3.5"),
                   Offset(ring.length("L/2")), Offset(ring.length("D/2")),
                   Length.read("4.25")))  # fmt: skip
    return ring.part(corner="front-left")


def roof_cone() -> Shown:
    """The lantern's roof: an eaves plate, a cone, a neck and a ball finial."""
    roof = Maker("roof cone and finial", "SLW-147", ("71", "71", "4.5+29+6.5+14"), "empty")
    middle = ("L/2", "D/2")
    roof.round("eaves", "add", Face.BOTTOM, "71", *middle, end="4.5")
    roof.round("cone", "add", Face.BOTTOM, "64.5", *middle, start="4.5", end="33.5", to="11.5")
    roof.round("neck", "add", Face.BOTTOM, "7.5", *middle, start="33.5", end="H-12")
    roof.also(Ball("finial", "add", Face.TOP, roof.length("16.5"), Offset(roof.length("L/2")),
                   Offset(roof.length("D/2")), roof.length("16.5/2")))  # fmt: skip
    return roof.part(corner="front-left")


def vent_cowl() -> Shown:
    """The cowl over the vent: a hollow frustum of a pyramid on a rim."""
    cowl = Maker("vent cowl", "SLW-126", ("62", "53", "7+31.5"), "empty")
    cowl.pyramid("rim", "add", "L, D", "L, D", end="7")
    cowl.pyramid("hood", "add", "L-9, D-9", "24.5, 18", start="7", end="H")
    cowl.pyramid("hollow", "cut", "16, 10.5", "16, 10.5", start="H-19", end="H")
    return cowl.part(corner="front-left")


def latch_plate() -> Shown:
    """A plate with two round-ended slots and a raised stop, screwed to the lantern door."""
    plate = Maker("latch plate", "SLW-133", ("92", "54", "16.5"), "empty")
    plate.prism("plate", "add", Face.BOTTOM, "0, 0; L, 0; L, D-13; angle 135 run -13; 0, D",
                end="9")  # fmt: skip
    plate.prism("stop", "add", Face.TOP, "61, 11; 61+12.5, 11; 61+12.5, D-11; 61, D-11",
                end="H-9")  # fmt: skip
    slot = "{0}, {2}; {1}, {2} arc {4} left; {1}, {3}; {0}, {3} arc {4} left"
    plate.prism("long slot", "cut", Face.TOP, slot.format("16.5", "43", "12", "21", "4.5"))
    plate.prism("short slot", "cut", Face.TOP, slot.format("16.5", "28.5", "33", "42", "4.5"))
    return plate.part(corner="front-left")


def flange() -> Shown:
    """The counterbored flange that carries the lamp on its pier: six screws on a ring."""
    plate = Maker("counterbored flange", "SLW-140", ("83", "83", "11.5+9.5"), "empty")
    plate.round("plate", "add", Face.BOTTOM, "83", "L/2", "D/2", end="11.5")
    plate.round("hub", "add", Face.BOTTOM, "45", "L/2", "D/2", start="11.5", end="H")
    plate.hole("bore", Face.TOP, "29", "L/2", "D/2")
    places = (("27.71", "16"), ("0", "32"), ("-27.71", "16"),
              ("-27.71", "-16"), ("0", "-32"), ("27.71", "-16"))  # fmt: skip
    for number, (across, back) in enumerate(places, 1):
        u, v = (f"{half}+{off}".replace("+-", "-").removesuffix("+0")
                for half, off in (("L/2", across), ("D/2", back)))  # fmt: skip
        plate.hole(f"screw {number}", Face.BOTTOM, "5.5", u, v)
        plate.round(f"counterbore {number}", "cut", Face.TOP, "9.8", u, v, start="9.5",
                    end="9.5+4.2")  # fmt: skip
    return plate.part()


def main() -> None:
    """Write the job file."""
    parts = (
        gallery_block(), wedge_foot(), bearing_bracket(), latch_plate(), lamp_pedestal(),
        lens_ring(), roof_cone(), vent_cowl(), flange(),
    )  # fmt: skip
    job = Job("Skerry Lamp Works: harbour lamp", title=TitleEntries(date="2026-11-23"),
              id="skerry-harbour-lamp")  # fmt: skip
    for part, view in parts:
        job = job.with_added(part, Figure("", "", view))
    with Worker() as worker:
        write_with_cover(with_cut_sheet(with_door_sheet(job)), TARGET, worker)


def with_door_sheet(job: Job) -> Job:
    """Return the job with a sheet on which figures of two parts stand, one at its own scale."""
    plate, ring = job.find("latch plate").id, job.find("lens ring").id
    figures = (
        Figure("f10", plate, Pictorial("isometric", "front-left")),
        Figure("f11", plate, Orthographic(), VIEW_LINES),
        Figure("f12", ring, Pictorial("cabinet", "front-left"), scale=0.5),
    )
    title = TitleEntries(
        part="lantern door",
        number="SLW-150",
        revision="B",
        notes="latch plate screwed on from inside, lens ring bedded in putty",
    )
    return job.with_sheet(Sheet("s10", figures, SheetWish(caption_mm=8.0), title))


def with_cut_sheet(job: Job) -> Job:
    """Return the job with a sheet that shows the flange cut open: A–A among its views, and half."""
    flange_id = job.find("counterbored flange").id
    figures = (
        Figure("f13", flange_id, Orthographic(), VIEW_LINES,
               sections=(Section("A", "full:length"),)),
        Figure("f14", flange_id, Pictorial(), cut="half"),
    )  # fmt: skip
    title = TitleEntries(number="SLW-141")
    return job.with_sheet(Sheet("s11", figures, SheetWish(dimensions="auto"), title))


if __name__ == "__main__":
    main()
