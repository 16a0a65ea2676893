"""Starting points for a part: the shapes that most parts begin as, to be changed at once.

Their sizes are named lengths where several features share one.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from holoptic.catalogue import tr
from holoptic.part.crate import Crate, Face
from holoptic.part.operations import Arc, Corner, Hole, InLine, Offset, Prism, Round
from holoptic.part.part import NamedLength, Part
from holoptic.units import Length, Unit


def templates() -> dict[str, Callable[[str, Unit], Part]]:
    """Return what makes each template by its title; a maker takes the part's name and unit."""
    return {
        tr("Blank block"): _block,
        tr("L-block"): _l_block,
        tr("Bracket"): _bracket,
        tr("Plate with holes"): _plate,
        tr("Prism"): _prism,
        tr("Turned piece"): _turned,
    }


class _Maker:
    """Writes lengths with the names that a template gives."""

    def __init__(self, name: str, unit: Unit, sizes: tuple[float, ...], **names: str) -> None:
        self.unit = unit
        grow = 1.0 if unit is Unit.MM else 25.4 / 24  # round figures in either unit
        self.part = Part(name, Crate(*(Length.of(size * grow, unit) for size in sizes)))
        for word, text in names.items():
            length = Length.read(text, unit, self.part.own_names())
            self.part = replace(self.part, names=(*self.part.names, NamedLength(word, length)))

    def length(self, text: str) -> Length:
        """Return a length in the part's own words."""
        return Length.read(text, self.unit, self.part.scope())

    def corner(self, u: str, v: str, arc: Arc | None = None) -> Corner:
        """Return a corner in the part's own words."""
        return Corner(self.length(u), self.length(v), arc)

    def outline(self, text: str) -> tuple[Corner, ...]:
        """Return plain corners: `0, 0; L, 0; …`."""
        pairs = (pair.split(",") for pair in text.split(";"))
        return tuple(self.corner(u, v) for u, v in pairs)

    def with_operations(self, *operations: Prism | Round | Hole, begin: str = "empty") -> Part:
        """Return the part with its operations."""
        kept = replace(self.part, operations=operations)
        return replace(kept, begin="empty") if begin == "empty" else kept


def _block(name: str, unit: Unit) -> Part:
    return _Maker(name, unit, (78.0, 46.0, 38.0)).part


def _l_block(name: str, unit: Unit) -> Part:
    make = _Maker(name, unit, (78.0, 46.0, 52.0), wall=_third(unit))
    step = Prism("L", "cut", Face.FRONT, make.outline("wall, wall; L, wall; L, H; wall, H"),
                 make.length("0"), None)  # fmt: skip
    return make.with_operations(step, begin="block")


def _bracket(name: str, unit: Unit) -> Part:
    make = _Maker(name, unit, (66.0, 46.0, 56.0), base=_third(unit), back=_third(unit))
    half = Arc(make.length("L/2"), "left")
    base = Prism("base", "add", Face.BOTTOM, make.outline("0, 0; L, 0; L, D; 0, D"),
                 make.length("0"), make.length("base"))  # fmt: skip
    upright = Prism(
        "upright", "add", Face.REAR,
        (make.corner("0", "0"), make.corner("L", "0"), make.corner("L", "H-L/2", half),
         make.corner("0", "H-L/2")),
        make.length("0"), make.length("back"),
    )  # fmt: skip
    eye = Hole("eye", "cut", Face.REAR, make.length("L/3"), Offset(make.length("L/2")),
               Offset(make.length("H-L/2")), make.length("0"), make.length("back"))  # fmt: skip
    return make.with_operations(base, upright, eye)


def _plate(name: str, unit: Unit) -> Part:
    make = _Maker(name, unit, (92.0, 54.0, 12.0), edge=_third(unit))
    row = InLine("u", make.length("L-2*edge"), 2)
    holes = [
        Hole(
            tr("holes {side}", side=side),
            "cut",
            Face.TOP,
            make.length("edge/2"),
            Offset(make.length("edge")),
            Offset(make.length("edge"), far=far),
            make.length("0"),
            None,
            copies=row,
        )
        for side, far in (("front", False), ("rear", True))
    ]
    return make.with_operations(*holes, begin="block")


def _prism(name: str, unit: Unit) -> Part:
    make = _Maker(name, unit, (72.0, 44.0, 40.0))
    wedge = Prism("wedge", "add", Face.FRONT, make.outline("0, 0; L, 0; L/3, H; 0, H"),
                  make.length("0"), None)  # fmt: skip
    return make.with_operations(wedge)


def _turned(name: str, unit: Unit) -> Part:
    make = _Maker(name, unit, (60.0, 60.0, 58.0), flange=_third(unit), bore=_third(unit))
    centre = Offset(make.length("L/2")), Offset(make.length("D/2"))

    def disc(title: str, diameter: str, start: str, end: str | None, mode: str = "add") -> Round:
        made = Round(title, "add", Face.BOTTOM, make.length(diameter), *centre,
                     make.length(start), None if end is None else make.length(end))  # fmt: skip
        return made if mode == "add" else replace(made, mode="cut")

    return make.with_operations(
        disc("flange", "L", "0", "flange"), disc("shaft", "L/2", "flange", None),
        disc("bore", "bore", "0", None, "cut"),
    )  # fmt: skip


def _third(unit: Unit) -> str:
    """Return a handy thickness."""
    return "12" if unit is Unit.MM else "1/2"
