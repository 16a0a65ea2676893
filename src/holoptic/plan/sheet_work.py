"""The first moves: the sheet on the board, its border and title block, the start point."""

from __future__ import annotations

from holoptic.catalogue import Saying, later, sentences
from holoptic.plan.bench import Bench
from holoptic.plan.instruments import RULE, SOFT_PENCIL, SQUARE_30, T_SQUARE
from holoptic.plan.moves import (
    BORDER_CORNER,
    BORDER_LINE,
    BORDER_MARK,
    FRAME,
    LEFT_EDGE,
    LOWER_EDGE,
    PAPER_CORNER,
    BlankSheet,
)
from holoptic.plan.spots import spot_of
from holoptic.plan.writing import MoveWriter
from holoptic.units.spoken import on_rule


def lay_out_sheet(bench: MoveWriter, sheet: BlankSheet) -> None:
    """Lay a blank sheet on the board and draw its border and the outline of its title block."""
    way = later("lengthwise") if sheet.width > sheet.height else later("upright")
    bench.write(
        "lay",
        T_SQUARE,
        (),
        (PAPER_CORNER, LOWER_EDGE, LEFT_EDGE),
        later(
            "Lay the {name} sheet {way} on the board, its lower edge along "
            "the T-square, and tape its corners.",
            name=sheet.name,
            way=way,
        ),
        table=((-sheet.left, -sheet.low), (sheet.width - sheet.left, sheet.height - sheet.low)),
    )
    work = _FrameWork(bench)
    work.borders(sheet)
    work.title(sheet)
    work.firm_in()


def find_start(bench: Bench, before: Saying = "") -> None:
    """Find the start point of a pictorial; an upright stands there then.

    `before` is what is said before the first setting.
    """
    corner = spot_of(bench.frame.start_corner())
    upright = bench.name_line(2)
    bench.register_line(2, corner, upright)
    mark_start(bench, upright, bench.name_point(corner), before)


def mark_start(writer: MoveWriter, upright: str, name: str, before: Saying = "") -> None:
    """Find the start point from two borders; an upright stands there then.

    `before` is what is said before the first setting.
    """
    across, up = writer.setup.start
    work = _FrameWork(writer)
    words = later("From the lower left border corner set off {across} along the lower border.",
                  across=on_rule(across))  # fmt: skip
    work.set_off(BORDER_CORNER, BORDER_LINE, BORDER_MARK, across, 0.0,
                 sentences(before, words) if before else words)  # fmt: skip
    work.upright(
        BORDER_MARK,
        (upright,),
        later("Through the mark on the lower border draw a light upright with the set square."),
    )
    work.set_off(
        BORDER_MARK,
        upright,
        name,
        up,
        90.0,
        later(
            "From the mark set off {up} upward, along the upright: start point {name}.",
            up=on_rule(up),
            name=name,
        ),
    )


_FIRMED_IN = {
    "lower": later("Firm in the lower border."), "right": later("Firm in the right border."),
    "upper": later("Firm in the upper border."), "left": later("Firm in the left border."),
    "title side": later("Firm in the title side."), "title top": later("Firm in the title top."),
}  # fmt: skip


class _FrameWork:
    """Writes the few kinds of move that a frame needs."""

    def __init__(self, bench: MoveWriter) -> None:
        self.bench = bench
        self._sides: list[tuple[str, str, str, str]] = []

    def set_off(
        self, start: str, line: str, point: str, size: float, angle: float, text: Saying
    ) -> None:
        self.bench.write("set off", RULE, (start, line), (point,), text, setting=size, angle=angle)

    def upright(self, point: str, makes: tuple[str, ...], text: Saying, *meets: str) -> None:
        self.bench.write("draw", SQUARE_30, (point, *meets), makes, text, angle=90.0)

    def level(self, point: str, makes: tuple[str, ...], text: Saying, *meets: str) -> None:
        self.bench.write("draw", T_SQUARE, (point, *meets), makes, text, angle=0.0)

    def borders(self, sheet: BlankSheet) -> None:
        """Draw the four borders, lightly."""
        width, height = sheet.inner
        right_corner, top_corner, far = (
            f"{corner} border corner" for corner in ("lower right", "upper left", "upper right")
        )
        self.set_off(
            PAPER_CORNER,
            LOWER_EDGE,
            "edge mark 1",
            sheet.left,
            0.0,
            later("Along the lower edge set off {left} from the left.", left=on_rule(sheet.left)),
        )
        self.upright(
            "edge mark 1",
            ("left border",),
            later("Through the mark on the lower edge draw the left border, upright."),
        )
        self.set_off(PAPER_CORNER, LEFT_EDGE, "edge mark 2", sheet.low, 90.0,
                     later("Up the left edge set off {low}.", low=on_rule(sheet.low)))  # fmt: skip
        self.level("edge mark 2", (BORDER_LINE, BORDER_CORNER),
                   later("Through the mark on the left edge draw the lower border with the "
                         "T-square, from the left border on."),
                   "left border")  # fmt: skip
        self.set_off(
            BORDER_CORNER,
            BORDER_LINE,
            right_corner,
            width,
            0.0,
            later("Along the lower border set off its length, {width}.", width=on_rule(width)),
        )
        self.upright(
            right_corner,
            ("right border",),
            later("Through its end draw the right border, upright."),
        )
        self.set_off(
            BORDER_CORNER,
            "left border",
            top_corner,
            height,
            90.0,
            later("Up the left border set off its height, {height}.", height=on_rule(height)),
        )
        self.level(top_corner, ("upper border", far),
                   later("Through its end draw the upper border with the T-square, to the right "
                         "border."),
                   "right border")  # fmt: skip
        self._sides += [
            ("lower", BORDER_CORNER, right_corner, BORDER_LINE),
            ("right", right_corner, far, "right border"),
            ("upper", top_corner, far, "upper border"),
            ("left", BORDER_CORNER, top_corner, "left border"),
        ]

    def title(self, sheet: BlankSheet) -> None:
        """Draw the outline of the title block in the lower right corner."""
        corner = self._sides[0][2]
        self.set_off(
            corner,
            BORDER_LINE,
            "title mark 1",
            sheet.title_width,
            180.0,
            later(
                "Title block: from the lower right corner set off {title_width} to the left along "
                "the lower border.",
                title_width=on_rule(sheet.title_width),
            ),
        )
        self.upright(
            "title mark 1",
            ("title side",),
            later("Through the mark on the lower border draw the title side, upright."),
        )
        self.set_off(
            corner,
            "right border",
            "title mark 2",
            sheet.title_height,
            90.0,
            later(
                "Up the right border set off {title_height}.",
                title_height=on_rule(sheet.title_height),
            ),
        )
        self.level("title mark 2", ("title top", "title corner"),
                   later("Through the mark on the right border draw the title top, level, to the "
                         "title side."), "title side")  # fmt: skip
        self._sides += [
            ("title side", "title mark 1", "title corner", "title side"),
            ("title top", "title corner", "title mark 2", "title top"),
        ]

    def firm_in(self) -> None:
        """Go over border and title block."""
        for name, start, end, line in self._sides:
            self.bench.write("firm in", SOFT_PENCIL, (start, end, line), (f"{FRAME}{name}",),
                             _FIRMED_IN[name])  # fmt: skip
