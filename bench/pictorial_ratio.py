"""The picture with its provenance, over the raw kernel hidden-line call on the same solid.

Run: .venv/bin/python -m bench.pictorial_ratio
"""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Iterator
from functools import partial

from OCP.BRepLib import BRepLib
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.HLRAlgo import HLRAlgo_Projector
from OCP.HLRBRep import HLRBRep_Algo, HLRBRep_HLRToShape
from OCP.HLRBRep import HLRBRep_TypeOfResultingEdge as Kind
from OCP.TopoDS import TopoDS_Shape

from bench.solids import comb, demo_parts, drilled_plate
from holoptic.part.provenance import operations_finder
from holoptic.pictorial import draw, view_of
from holoptic.solid.making.stages import build
from holoptic.solid.seeing.hidden import SeenSolid

_ROUNDS = 15
_VIEW = view_of("isometric")


def raw_call(shape: TopoDS_Shape) -> None:
    """Ask the kernel alone for what the picture is made from."""
    algorithm = HLRBRep_Algo()
    algorithm.Add(shape)
    algorithm.Projector(HLRAlgo_Projector(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(1, -1, 1))))
    algorithm.Update()
    algorithm.Hide()
    result = HLRBRep_HLRToShape(algorithm)
    for visible in (True, False):
        for kind in (Kind.HLRBRep_Sharp, Kind.HLRBRep_OutLine):
            result.CompoundOfEdges(kind, visible, True)


def picture(solid: SeenSolid) -> None:
    """Make the finished strokes; what was kept of an earlier look is dropped first."""
    solid.forget_looks()
    draw(solid.look(_VIEW.toward_viewer), _VIEW)


def seconds(action: Callable[[], None]) -> float:
    """Return how long an action takes."""
    start = time.perf_counter()
    action()
    return time.perf_counter() - start


def ratios() -> Iterator[tuple[str, int, float, float, float]]:
    """Yield solids: name, edges, the raw call and the picture in ms, and their ratio (medians)."""
    for part in (*demo_parts(), comb(20), drilled_plate(5, 4), drilled_plate(10, 6)):
        shape = build(part)
        BRepLib.EncodeRegularity_s(shape)
        solid = SeenSolid(shape, operations_finder(part))
        pairs = [
            (seconds(partial(raw_call, shape)), seconds(partial(picture, solid)))
            for _ in range(_ROUNDS)
        ]
        raw, whole = (statistics.median(column) * 1000 for column in zip(*pairs, strict=True))
        ratio = statistics.median(b / a for a, b in pairs)
        yield part.name, len(solid.facts.edges), raw, whole, ratio


def main() -> None:
    """Print a row per solid."""
    print("| solid | edges | raw ms | picture ms | ratio |")
    print("|---|---|---|---|---|")
    for name, edges, raw, whole, ratio in ratios():
        print(f"| {name} | {edges} | {raw:.2f} | {whole:.2f} | {ratio:.2f} |", flush=True)


if __name__ == "__main__":
    main()
