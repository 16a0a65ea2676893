"""The solids that benchmarks share."""

from __future__ import annotations

from bench.random_parts import scattered_part
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.part import Corner, Crate, Face, Offset, Operation, Part, Prism, Round
from holoptic.units import Length


def demo_parts() -> list[Part]:
    """Return the parts of the demo job that can be carved."""
    return [item.source for item in read_job(job_path()).parts if isinstance(item.source, Part)]


def drilled_plate(columns: int, rows: int) -> Part:
    """Return a plate with a stepped hole at every place of a grid."""
    read = Length.read
    operations: list[Operation] = []
    for column in range(columns):
        for row in range(rows):
            at = Offset(read(f"{13 + 24 * column}")), Offset(read(f"{11.5 + 24 * row}"))
            for name, size, depth in (("seat", "17", "4.5"), ("hole", "9.5", None)):
                end = None if depth is None else read(depth)
                operations.append(
                    Round(f"{name} {column} {row}", "cut", Face.TOP, read(size), *at,
                          start=read("0"), end=end)
                )  # fmt: skip
    crate = Crate(read(f"{24 * columns + 2}"), read(f"{24 * rows - 1}"), read("14"))
    return Part(f"drilled plate {columns} × {rows}", crate, tuple(operations))


def comb(teeth: int) -> Part:
    """Return a block with many slots: about ten edges a tooth."""
    read = Length.read
    operations: list[Operation] = []
    for tooth in range(teeth):
        left, right = 4.5 + 11 * tooth, 10.5 + 11 * tooth
        corners = (
            (left, "H"),
            (right, "H"),
            (right, f"{9 + tooth % 7}"),
            (left, f"{9 + tooth % 7}"),
        )
        outline = tuple(Corner(read(str(u)), read(str(v), names={"H": 33.5})) for u, v in corners)
        operations.append(
            Prism(f"slot {tooth}", "cut", Face.FRONT, outline, read("0"), read("22.5"))
        )
    crate = Crate(read(f"{11 * teeth + 4}"), read("31"), read("33.5"))
    return Part(f"comb of {teeth} slots", crate, tuple(operations))


def mixed_slab() -> Part:
    """Return a slab with bosses, pockets, holes, cones and hollows as they come, thirty in all."""
    return scattered_part(4, columns=6, rows=5, most=30)
