"""The shared cast: parts by hand, random parts, and ways to look at them."""

from __future__ import annotations

from hypothesis import strategies as st

from holoptic.construction.intended import Intended
from holoptic.job import HandWays, SheetWish
from holoptic.part import Corner, Crate, Face, Offset, Part, Prism, Round
from holoptic.pictorial import Picture, draw, view_of
from holoptic.plan import Plan, Proof, Setup, make_plan, prove
from holoptic.plan.builder import start_on_picture
from holoptic.sheet import Paper, picture_item, plan_setup
from holoptic.sheet.planning import best_layout
from holoptic.solid.pieces import Seen
from holoptic.units import Length
from holoptic.worker.client import Worker

VIEWS = [
    view_of(kind, corner)
    for kind in ("isometric", "cabinet")
    for corner in ("front-right", "front-left")
]


def length(value: float | str) -> Length:
    return Length.read(str(value))


def crate(*sizes: float) -> Crate:
    return Crate(*(length(size) for size in sizes))


def prism(name="cut", mode="cut", face=Face.FRONT, outline=(), start=0.0, end=None) -> Prism:
    corners = tuple(Corner(length(u), length(v)) for u, v in outline)
    return Prism(name, mode, face, corners, length(start), None if end is None else length(end))


def hole(name="hole", face=Face.TOP, diameter=10.0, u=20.0, v=20.0, end=None, mode="cut") -> Round:
    deep = None if end is None else length(end)
    return Round(name, mode, face, length(diameter), Offset(length(u)), Offset(length(v)),
                 length(0), deep)  # fmt: skip


def stepped_block() -> Part:
    """84 × 46 × 37.5 with one step at the right."""
    step = prism("step", outline=[(57.5, 37.5), (84, 37.5), (84, 20), (57.5, 20)])
    return Part("stepped block", crate(84, 46, 37.5), (step,))


def look(worker: Worker, part, *views) -> Seen:
    return worker.ask("look", part, tuple(view.toward_viewer for view in views))


def picture(worker: Worker, part, kind="isometric", corner="front-right") -> tuple[Seen, Picture]:
    view = view_of(kind, corner)
    seen = look(worker, part, view)
    return seen, draw(seen.look(view.toward_viewer), view)


def intended_of(source, facts, drawn, scale=1.0, ways=None) -> Intended:
    return Intended(source, facts, drawn, ways or HandWays(), scale)


def set_up(source, facts, drawn, wish=None) -> tuple[Setup, Paper]:
    """How the usual sheet sets a picture up for drawing by hand."""
    wish = wish or SheetWish()
    layout = best_layout([picture_item(drawn)], wish)
    start = start_on_picture(source, facts, drawn)
    return plan_setup(layout, "", start, wish.frame == "draw"), layout.paper


def proved(source, facts, drawn, setup=None, ways=None) -> tuple[Plan, Proof]:
    """The plan of a picture, and what the virtual drafter makes of it."""
    setup = setup or Setup((60.0, 40.0))
    intended = intended_of(source, facts, drawn, setup.scale, ways)
    plan = make_plan(intended, setup)
    return plan, prove(plan, intended, start_on_picture(source, facts, drawn))


@st.composite
def parts(draw_from: st.DrawFn, rounds: bool = True) -> Part:
    """Random parts of one to four operations; many share planes, as real parts do."""
    sizes = [draw_from(st.integers(40, 180)) / 2 for _ in range(3)]
    box = crate(*sizes)
    operations = []
    for number in range(draw_from(st.integers(1, 4))):
        face = draw_from(st.sampled_from(list(Face)))
        width, height = box.face_size(face)
        thickness = box.thickness(face)
        mode = draw_from(st.sampled_from(["cut", "cut", "cut", "add"]))
        end = draw_from(st.one_of(st.none(), st.floats(0.2, 0.9)))
        end = None if end is None else round(end * thickness, 1)
        if rounds and draw_from(st.integers(0, 3)) == 0:
            diameter = round(draw_from(st.floats(0.2, 0.6)) * min(width, height), 1)
            room = diameter / 2 + 0.1
            u = round(draw_from(st.floats(room, width - room)), 1)
            v = round(draw_from(st.floats(room, height - room)), 1)
            operations.append(hole(f"round {number}", face, diameter, u, v, end, mode))
        else:
            outline = draw_from(_outlines(width, height))
            operations.append(prism(f"prism {number}", mode, face, outline, 0, end))
    return Part("random", box, tuple(operations))


@st.composite
def _outlines(draw_from: st.DrawFn, width: float, height: float) -> list[tuple[float, float]]:
    def place(size: float) -> float:
        return round(size * draw_from(st.sampled_from([0, 0.25, 1 / 3, 0.5, 2 / 3, 0.75, 1])), 1)

    if draw_from(st.booleans()):
        us, vs = sorted([place(width), place(width)]), sorted([place(height), place(height)])
        return [(us[0], vs[0]), (us[1], vs[0]), (us[1], vs[1]), (us[0], vs[1])]
    return [(place(width), place(height)) for _ in range(3)]
