"""Every cache of the solid room, each with its key, its bound and its reason.

An edit leaves most of a solid as it was: the very same faces and edges of the kernel. So what was
found out about them is kept, by body (`holoptic.keeping`). Bounds were measured on parts of some
hundred operations; `docs/benchmarks.md` has the memory.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from holoptic.keeping import Cache

if TYPE_CHECKING:
    from OCP.TopoDS import TopoDS_Shape

    from holoptic.part import Part
    from holoptic.solid.anatomy.known_edges import KnownEdge
    from holoptic.solid.anatomy.skin import Skin
    from holoptic.solid.making.stages import Built, Stage
    from holoptic.solid.making.step import StepFile
    from holoptic.solid.seeing.hidden import SeenSolid
    from holoptic.solid.seeing.opened import SeenOpened
    from holoptic.solid.seeing.whole import SeenWhole

Made = tuple[object, ...]
"""What led to a shape: begin and sizes of the crate, then the numbers of steps."""

# --- reading ----------------------------------------------------------------------------------

FILES: Cache[tuple[str, int], StepFile] = Cache(
    "solids of a STEP file, by path and time", 3, "a file is listed first and then pictured"
)

# --- making -----------------------------------------------------------------------------------

SHAPES: Cache[Made, TopoDS_Shape] = Cache(
    "shapes by what led to them", 80, "an edit is worked into the shape of all that stays", 60
)
LAST_WORKED_IN: Cache[Made, tuple[int, ...]] = Cache(
    "steps worked into a crate last, by crate", 80, "they tell what an edit left as it was", 60
)
WORKED_INTO: Cache[Made, Made] = Cache(
    "what a shape was worked into, by what led to it", 80,
    "a shape that is made ready must share its faces with the next edit's", 60,
)  # fmt: skip
STAGES: Cache[tuple[object, ...], Stage] = Cache(
    "shapes after each operation, by the one before", 800,
    "where an operation fails, none before it is made again", 400,
)  # fmt: skip
LAST_BUILT: Cache[str, tuple[Part, Built]] = Cache(
    "the part built last", 12, "whether a part is sound is asked right before its solid is", 1
)
CHANGES: Cache[tuple[object, ...], float] = Cache(
    "volumes changed, by the steps that decide them", 4000, "an edit leaves most as they were", 2000
)

# --- anatomy ----------------------------------------------------------------------------------

FACES: Cache[int, object] = Cache(
    "faces by the kernel's own", 5000, "normals and areas are slow to ask the kernel for", 4000,
    usual=(1500, 1000),
)  # fmt: skip
EDGES: Cache[int, KnownEdge] = Cache(
    "edges by the kernel's own", 10_000, "so are exact curves", 8000, usual=(3000, 2000)
)
SKINS: Cache[str, Skin] = Cache(
    "the skin looked at last", 12, "soundness, facts and lines are asked one after another", 1
)
# --- seeing -----------------------------------------------------------------------------------

SOLIDS: Cache[object, SeenSolid] = Cache(
    "solids with their looks, by part", 20, "pages, candidates and views look at one solid", 18
)
OPENED: Cache[object, SeenOpened] = Cache(
    "solids cut open, by what is cut and the room taken away", 16,
    "picture, sheet and plan look at one cut", 8,
)  # fmt: skip
WHOLES: Cache[object, SeenWhole] = Cache(
    "solids together, by part, turn and place", 12, "together and apart, in picture and views", 12
)
