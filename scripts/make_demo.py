"""Write the demo job of the Skerry Lamp Works: run after a change of the job file's format."""

from __future__ import annotations

from pathlib import Path

from holoptic.exchange.job_file import write_job
from holoptic.job import Choice, Job, JobPart
from holoptic.part import Begin, Corner, Crate, Face, Mode, Offset, Operation, Part, Prism, Round
from holoptic.units import Length

TARGET = Path(__file__).parent.parent / "src" / "holoptic" / "demo" / "harbour-lamp.holoptic"


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
        corners = tuple(
            Corner(*(self.length(text) for text in corner.split(",")))
            for corner in outline.split(";")
        )
        deep = None if end is None else self.length(end)
        self.operations.append(Prism(name, mode, face, corners, self.length(start), deep))
        return self

    def hole(
        self, name: str, face: Face, diameter: str, u: str, v: str, end: str | None = None
    ) -> Maker:
        """Add a round hole centred u and v from the near edges of a face."""
        self.operations.append(
            Round(name, "cut", face, self.length(diameter), Offset(self.length(u)),
                  Offset(self.length(v)), self.length("0"),
                  None if end is None else self.length(end))
        )  # fmt: skip
        return self

    def part(self, choice: Choice | None = None) -> JobPart:
        """Return the finished part."""
        made = Part(self.name, self.crate, tuple(self.operations), self.begin, self.number)
        return JobPart(made, choice or Choice())


def gallery_block() -> JobPart:
    """A stepped block that carries the lamp's gallery, with a key slot across its foot."""
    block = Maker("gallery block", "SLW-114", ("84", "46", "18+19.5"))
    block.prism("upper step", "cut", Face.FRONT, "L-26.5, H; L, H; L, H-12; L-26.5, H-12")
    block.prism("lower step", "cut", Face.FRONT, "L-14, H-12; L, H-12; L, 11.5; L-14, 11.5")
    block.prism("cable recess", "cut", Face.TOP,
                "18, 0; 18+22.5, 0; 18+22.5, 17; 18, 17", end="15.5")  # fmt: skip
    block.prism("key slot", "cut", Face.RIGHT, "16, 0; D-16, 0; D-16, 6.5; 16, 6.5")
    return block.part()


def wedge_foot() -> JobPart:
    """A foot with one sloped face and a tenon notch; levels the lamp on a pier."""
    foot = Maker("wedge foot", "SLW-121", ("72.5", "38", "41"))
    foot.prism("slope", "cut", Face.FRONT, "23, H; L, H; L, 13.5")
    foot.prism("tenon notch", "cut", Face.LEFT, "D/2-7, H; D/2+7, H; D/2+7, H-16.5; D/2-7, H-16.5",
               end="23")  # fmt: skip
    foot.prism("toe chamfer", "cut", Face.TOP, "L-15, 0; L, 0; L, 11")
    return foot.part(Choice(corner="front-right"))


def bearing_bracket() -> JobPart:
    """A bracket from three pieces, its upright bored for the lantern's trunnion."""
    bracket = Maker("bearing bracket", "SLW-108", ("66", "44.5", "52"), "empty")
    bracket.prism("base plate", "add", Face.BOTTOM, "0, 0; L, 0; L, D; 0, D", end="12.5")
    upright = "9, 12.5; 9, H-11; 9+11, H; L-9-11, H; L-9, H-11; L-9, 12.5"
    bracket.prism("upright", "add", Face.REAR, upright, end="14")
    bracket.prism("rib", "add", Face.LEFT, "7.5, 12.5; D-14, 12.5; D-14, 27",
                  "L/2-4.5", "L/2+4.5")  # fmt: skip
    bracket.hole("eye", Face.REAR, "17", "L/2", "H-16", "14")
    return bracket.part(Choice(kind="cabinet"))


def latch_plate() -> JobPart:
    """A plate with two slots and a raised stop, screwed to the lantern door."""
    plate = Maker("latch plate", "SLW-133", ("92", "54", "16.5"), "empty")
    plate.prism("plate", "add", Face.BOTTOM, "0, 0; L, 0; L, D-13; L-13, D; 0, D", end="9")
    plate.prism("stop", "add", Face.TOP, "61, 11; 61+12.5, 11; 61+12.5, D-11; 61, D-11",
                end="H-9")  # fmt: skip
    plate.prism("long slot", "cut", Face.TOP, "12, 13; 12+35.5, 13; 12+35.5, 22; 12, 22")
    plate.prism("short slot", "cut", Face.TOP, "12, 33; 12+21, 33; 12+21, 42; 12, 42")
    return plate.part(Choice(corner="front-left"))


def main() -> None:
    """Write the job file."""
    parts = (gallery_block(), wedge_foot(), bearing_bracket(), latch_plate())
    write_job(Job("Skerry Lamp Works: harbour lamp", parts, date="2026-11-23"), TARGET)


if __name__ == "__main__":
    main()
