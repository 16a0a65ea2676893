"""Options that several commands share."""

from __future__ import annotations

import argparse
from typing import TYPE_CHECKING

from holoptic.catalogue import tr
from holoptic.curves.methods import FEWEST_ORDINATES, METHODS, MOST_ORDINATES
from holoptic.diagnostics import LEVELS

if TYPE_CHECKING:
    from holoptic.job import Outfit


def add_window_options(parser: argparse.ArgumentParser, *, again: bool = False) -> None:
    """Add what every command that opens the window takes; `again`: as its own parser does.

    What was said before the command then stands, unless it is said behind it once more.
    """
    unsaid = argparse.SUPPRESS if again else None
    for option, metavar, words in (
        ("--page", "NAME", tr("the page to begin with: read, carve, draw, check …")),
        ("--screenshot", "FILE", tr("save the window's picture as PNG and leave")),
        ("--size", "WxH", tr("window size (default: as it was last)")),
    ):
        parser.add_argument(option, metavar=metavar, default=unsaid, help=words)
    parser.add_argument(
        "--force", action="store_true", default=argparse.SUPPRESS if again else False,
        help=tr("replace the screenshot where it exists"),
    )  # fmt: skip


def add_log_options(parser: argparse.ArgumentParser, *, again: bool = False) -> None:
    """Add where the log goes, and how much of it; `again`: behind the command."""
    unsaid = argparse.SUPPRESS if again else None
    parser.add_argument(
        "--log-level",
        choices=LEVELS,
        default=unsaid,
        metavar="LEVEL",
        help=tr("debug, info, warning (default) or error"),
    )
    parser.add_argument(
        "--log-file", metavar="FILE", default=unsaid,
        help=tr("where (default: log.txt in the state folder)"),
    )  # fmt: skip


def add_source_options(parser: argparse.ArgumentParser) -> None:
    """Add what a command works on."""
    parser.add_argument(
        "source", metavar="SOURCE", help=tr("job file, .step/.stp file or .dxf views")
    )
    parser.add_argument("--part", metavar="NAME", help=tr("which part (default: the first)"))


def add_figure_option(parser: argparse.ArgumentParser) -> None:
    """Add which figure of the job a command is about."""
    parser.add_argument(
        "--figure", metavar="ID", help=tr("which figure, by its id (default: the part's first)")
    )


def add_view_options(parser: argparse.ArgumentParser, *, figure: bool = True) -> None:
    """Add which figure is meant, where one is asked for, and how its subject is pictured."""
    if figure:
        add_figure_option(parser)
    parser.add_argument(
        "--kind",
        metavar="K",
        help=tr(
            "isometric, isometric-projection, dimetric, trimetric:A:B, "
            "cavalier, cabinet, oblique:ANGLE:RATIO, "
            "plan-oblique[:TURN:RATIO]; for sheet and plan also: views"
        ),
    )
    parser.add_argument("--corner", metavar="C", help=tr("front-right, front-left, …, with -below"))
    parser.add_argument("--hidden", choices=["omit", "thin", "dashed"], help=tr("hidden lines"))
    parser.add_argument(
        "--outline", choices=["one-weight", "thick-and-thin"], help=tr("line weights")
    )
    parser.add_argument("--centre-lines", choices=["show", "omit"], help=tr("of round features"))
    parser.add_argument(
        "--cut", metavar="CUT",
        help=tr("cut open: full:depth=22.5, through:NAME,NAME, half, offset:NAME,NAME, broken:…, "
                "plane:…, or none"),
    )  # fmt: skip


def add_section_option(parser: argparse.ArgumentParser) -> None:
    """Add the sections that stand among orthographic views."""
    parser.add_argument(
        "--section", metavar="A=CUT", action="append", default=[],
        help=tr("a section among the views, such as A=full:depth=22.5; may be said again"),
    )  # fmt: skip


def add_arrangement_options(parser: argparse.ArgumentParser) -> None:
    """Add that an arrangement is meant instead of a part, and whether it is drawn apart."""
    parser.add_argument(
        "--arrangement", metavar="NAME", help=tr("an arrangement of the job instead of a part")
    )
    parser.add_argument(
        "--spread", action="store_true", help=tr("the arrangement drawn apart (default: together)")
    )


def add_round_options(parser: argparse.ArgumentParser) -> None:
    """Add how round work is drawn by hand."""
    parser.add_argument(
        "--circles",
        choices=[m for m in METHODS if m != "compass"],
        help=tr("how circles are drawn by hand (default: four-centre, else the next best)"),
    )
    parser.add_argument(
        "--limit",
        metavar="MM",
        type=positive,
        help=tr("the simplest way no further than this from the true ellipse, on paper"),
    )
    parser.add_argument(
        "--ordinates", metavar="N", type=_ordinates, help=tr("points for offsets (6 to 72)")
    )
    parser.add_argument(
        "--depth-copy",
        choices=["shift", "again"],
        help=tr("a circle at another depth: shift its centres, or construct it again"),
    )
    parser.add_argument(
        "--raise",
        choices=["crate", "corners"],
        help=tr("polygons: repeat the offsets on the crate above, or raise each corner"),
    )
    parser.add_argument(
        "--balls",
        choices=["ovals", "short"],
        help=tr("balls: round their three ovals, or the short way, a circle alone"),
    )


def add_way_options(parser: argparse.ArgumentParser) -> None:
    """Add the ways of working."""
    parser.add_argument(
        "--strategy", choices=["crate-and-carve", "faces-first", "centre-lines-first"],
        help=tr("the way of carving (default: as suits the part)"),
    )  # fmt: skip
    parser.add_argument("--order", choices=["by-feature", "batched"],
                        help=tr("by feature, or what one instrument does together"))  # fmt: skip
    parser.add_argument(
        "--firming",
        choices=["soon", "end"],
        help=tr("firm in as soon as a line is certain, or all at the end"),
    )
    parser.add_argument(
        "--lettering",
        choices=["by-hand", "leave"],
        help=tr("title block and captions (default: by hand where the sheet has dimensions)"),
    )
    parser.add_argument(
        "--hand",
        metavar="A,B,C",
        type=_hand,
        help=tr(
            "spread of your settings (mm), angles (degrees), compass (mm); default 0.25,0.25,0.2"
        ),
    )
    parser.add_argument(
        "--instruments",
        metavar="A,B,C,D",
        type=_instruments,
        help=tr(
            "your compass's least and largest radius, edge of set squares, rule (mm); default "
            "3,160,260,300"
        ),
    )


def add_sheet_options(parser: argparse.ArgumentParser) -> None:
    """Add what is asked of the sheet."""
    parser.add_argument("--paper", metavar="NAME", help=tr("A4 to A0, ANSI A …, Arch A …"))
    parser.add_argument("--series", choices=["ISO", "ANSI", "architectural"],
                        help=tr("the papers to choose from"))  # fmt: skip
    way = parser.add_mutually_exclusive_group()
    way.add_argument("--upright", action="store_true", default=None, help=tr("on its short side"))
    way.add_argument("--lengthwise", dest="upright", action="store_false", default=None,
                     help=tr("on its long side"))  # fmt: skip
    parser.add_argument("--scale", metavar="S", help="1:2, 5:1, ½\" = 1' …")
    parser.add_argument(
        "--margin", metavar="MM", type=float, help=tr("kept free inside the border")
    )
    parser.add_argument(
        "--dimensions", metavar="MM", type=float, help=tr("room about each drawing")
    )
    parser.add_argument(
        "--caption", metavar="MM", type=float, help=tr("room for its name below it")
    )
    parser.add_argument("--border", choices=["draw", "printed"],
                        help=tr("draw border and title block, or find them printed"))  # fmt: skip
    parser.add_argument("--beside", metavar="LIST",
                        help=tr("what else stands on the sheet: views,cabinet,…"))  # fmt: skip


def add_dimension_options(parser: argparse.ArgumentParser) -> None:
    """Add what stands on a sheet, and how the sizes of the parts stand there."""
    parser.add_argument(
        "--figures", metavar="LIST",
        help=tr("what stands on the sheet: ids of the job's figures, views, kinds of picture"),
    )  # fmt: skip
    parser.add_argument("--template", metavar="FILE",
                        help=tr("a sheet template; other options go over it"))  # fmt: skip
    parser.add_argument("--dimension", choices=["auto", "none"],
                        help=tr("the parts' sizes, proposed complete, or none"))  # fmt: skip
    parser.add_argument(
        "--run",
        dest="run_of_lengths",
        choices=["given", "chain", "edge"],
        help=tr("lengths as given, each from the one before, or from one edge"),
    )
    parser.add_argument("--style", choices=["ISO", "ASME"],
                        help=tr("by whose habits they are drawn (default ISO)"))  # fmt: skip
    parser.add_argument("--shade", choices=["left", "right", "none"],
                        help=tr("from where the light falls on a shaded pictorial"))  # fmt: skip
    parser.add_argument("--axis-angles", choices=["show", "none"],
                        help=tr("marks of the angles at which a pictorial's axes run"))  # fmt: skip
    parser.add_argument("--ends", choices=["arrow", "slash", "dot"],
                        help=tr("how the lines of lengths end (default arrow)"))  # fmt: skip
    parser.add_argument("--text", choices=["sheared", "upright"],
                        help=tr("lettered in the plane of the size, or upright"))  # fmt: skip


def _instruments(text: str) -> Outfit:
    # imported late: `--help` and the window must not wait for the core
    from holoptic.job import Outfit  # noqa: PLC0415

    try:
        outfit = Outfit(*(float(value) for value in text.split(",")))
    except (ValueError, TypeError):
        outfit = Outfit(-1.0)
    if not outfit.is_sound:
        raise argparse.ArgumentTypeError(
            tr("“{text_}” is no set of instruments: least and largest radius of the compass, edge "
               "of the set squares, rule, in mm, such as 3,160,260,300", text_=text)
        )  # fmt: skip
    return outfit


def _hand(text: str) -> tuple[float, float, float]:
    try:
        setting, angle, compass = (float(value) for value in text.split(","))
    except ValueError:
        setting = angle = compass = -1.0
    if not all(0 <= value <= 5 for value in (setting, angle, compass)):
        raise argparse.ArgumentTypeError(
            tr("“{text_}” is not three figures from 0 to 5: A,B,C", text_=text)
        )
    return setting, angle, compass


def seconds(text: str) -> float:
    """Return a time from 1 to 600 s."""
    try:
        value = float(text)
    except ValueError:
        value = 0.0
    if not 1 <= value <= 600:
        raise argparse.ArgumentTypeError(tr("“{text_}” is no time from 1 to 600 s", text_=text))
    return value


def positive(text: str) -> float:
    """Return a length in mm above 0."""
    try:
        value = float(text)
    except ValueError:
        value = 0.0
    if not 0 < value < 1e6:
        raise argparse.ArgumentTypeError(tr("“{text_}” is no length in mm above 0", text_=text))
    return value


def _ordinates(text: str) -> int:
    count = int(text) if text.isdecimal() else 0
    if not FEWEST_ORDINATES <= count <= MOST_ORDINATES:
        raise argparse.ArgumentTypeError(
            tr(
                "“{text_}” is no number from {fewest_ordinates} to {most_ordinates}",
                text_=text,
                fewest_ordinates=FEWEST_ORDINATES,
                most_ordinates=MOST_ORDINATES,
            )
        )
    return count


def add_out(parser: argparse.ArgumentParser, suffixes: str, required: bool = True) -> None:
    """Add the file to be made."""
    parser.add_argument(
        "--out",
        metavar="FILE",
        required=required,
        help=tr("by suffix: {suffixes}", suffixes=suffixes),
    )
    parser.add_argument("--force", action="store_true", help=tr("replace FILE where it exists"))
