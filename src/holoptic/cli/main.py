"""The `holoptic` command: parse, run, and turn every trouble into one line and an exit code.

0 = done, 2 = bad input, 1 = internal error.
"""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from typing import NoReturn

from holoptic import __version__
from holoptic.curves.methods import FEWEST_ORDINATES, METHODS, MOST_ORDINATES
from holoptic.errors import BadInput, HolopticError, KernelTrouble, PartError


class _Parser(argparse.ArgumentParser):
    """A parser whose refusals are one clear line."""

    def error(self, message: str) -> NoReturn:
        raise BadInput(f"{message} (see {self.prog} --help)")


def main(arguments: list[str] | None = None) -> int:
    """Run the command and return its exit code."""
    try:
        options = _parser().parse_args(arguments)
        return int(options.run(options) or 0)
    except (BadInput, PartError) as error:
        _complain(str(error))
        return 2
    except KernelTrouble as error:
        _complain(str(error))
        return 1
    except HolopticError as error:
        _complain(str(error))
        return 1
    except BrokenPipeError:
        return 0
    except KeyboardInterrupt:
        return 130
    except Exception as error:
        _complain(f"internal error, please report it: {type(error).__name__}: {error}")
        return 1


def _complain(message: str) -> None:
    print("holoptic: " + " ".join(message.split()), file=sys.stderr)


def _parser() -> argparse.ArgumentParser:
    # without a command the last job is opened, so the options of `open` stand here too
    parser = _Parser(
        prog="holoptic",
        description="A pictorial drafting bench. Without a command: open the last job.",
    )
    parser.add_argument("--version", action="version", version=f"holoptic {__version__}")
    _add_window_options(parser)
    parser.set_defaults(run=_run_last)
    commands = parser.add_subparsers(metavar="COMMAND", parser_class=_Parser)

    demo = commands.add_parser("demo", help="open the desk with the demo job")
    demo.add_argument("--job", metavar="NAME", help="which demo job")
    demo.add_argument("--list", action="store_true", help="list the demo jobs and leave")
    _add_window_options(demo)
    demo.set_defaults(run=_run_demo)

    open_ = commands.add_parser("open", help="open a job or STEP file on the desk")
    open_.add_argument("file", nargs="?", metavar="FILE", help="default: the last job")
    _add_window_options(open_)
    open_.set_defaults(run=_run_open)

    pictorial = commands.add_parser("pictorial", help="make the picture as a file")
    _add_source_options(pictorial)
    _add_view_options(pictorial)
    _add_out(pictorial, ".svg .pdf .dxf .png .json")
    pictorial.add_argument(
        "--check", action="store_true", help="print what the trihedral corner rule says of it"
    )
    pictorial.set_defaults(run=_run_core("pictorial"))

    plan = commands.add_parser("plan", help="make the drawing moves as a file, or prove them")
    _add_source_options(plan)
    _add_view_options(plan)
    _add_out(plan, ".json .csv .txt", required=False)
    plan.add_argument("--strategy", choices=["crate-and-carve"], default="crate-and-carve")
    _add_round_options(plan)
    plan.add_argument(
        "--verify", action="store_true", help="let the virtual drafter draw it and compare"
    )
    plan.set_defaults(run=_run_core("plan"))

    views = commands.add_parser("views", help="make the orthographic views as a file")
    _add_source_options(views)
    views.add_argument("--views", choices=["three", "six"], help="how many (default: the job's)")
    views.add_argument(
        "--angle", choices=["third", "first"], help="how they are laid out (default: the job's)"
    )
    _add_out(views, ".dxf .svg .pdf .png")
    views.set_defaults(run=_run_core("views"))

    solid = commands.add_parser("solid", help="make the exact solid as a STEP file")
    _add_source_options(solid)
    _add_out(solid, ".step .stp")
    solid.set_defaults(run=_run_core("solid"))
    return parser


def _add_window_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--page", metavar="NAME", help="carve, picture or draw")
    parser.add_argument(
        "--screenshot", metavar="FILE", help="save the window's picture as PNG and leave"
    )
    parser.add_argument("--size", metavar="WxH", default="1280x800", help="window size")


def _add_source_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("source", metavar="SOURCE", help="job file or .step/.stp file")
    parser.add_argument("--part", metavar="NAME", help="which part (default: the first)")


def _add_view_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--kind", metavar="K",
        help="isometric, isometric-projection, dimetric, trimetric:A:B, cavalier, cabinet, "
        "oblique:ANGLE:RATIO, plan-oblique[:TURN:RATIO]",
    )  # fmt: skip
    parser.add_argument("--corner", metavar="C", help="front-right, front-left, …, with -below")
    parser.add_argument("--hidden", choices=["omit", "thin", "dashed"], help="hidden lines")
    parser.add_argument("--outline", choices=["one-weight", "thick-and-thin"], help="line weights")
    parser.add_argument("--centre-lines", choices=["show", "omit"], help="of round features")


def _add_round_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "--circles", choices=[m for m in METHODS if m != "compass"],
        help="how circles are drawn by hand (default: four-centre, else the next best)",
    )  # fmt: skip
    parser.add_argument(
        "--limit", metavar="MM", type=_positive,
        help="the simplest way no further than this from the true ellipse, on paper",
    )  # fmt: skip
    parser.add_argument(
        "--ordinates", metavar="N", type=_ordinates, help="points for offsets (6 to 72)"
    )
    parser.add_argument(
        "--depth-copy", choices=["shift", "again"],
        help="a circle at another depth: shift its centres, or construct it again",
    )  # fmt: skip
    parser.add_argument(
        "--raise", choices=["crate", "corners"],
        help="polygons: repeat the offsets on the crate above, or raise each corner",
    )  # fmt: skip


def _positive(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        value = 0.0
    if not 0 < value < 1e6:
        raise argparse.ArgumentTypeError(f"“{text}” is no length in mm above 0")
    return value


def _ordinates(text: str) -> int:
    count = int(text) if text.isdecimal() else 0
    if not FEWEST_ORDINATES <= count <= MOST_ORDINATES:
        raise argparse.ArgumentTypeError(
            f"“{text}” is no number from {FEWEST_ORDINATES} to {MOST_ORDINATES}"
        )
    return count


def _add_out(parser: argparse.ArgumentParser, suffixes: str, required: bool = True) -> None:
    parser.add_argument("--out", metavar="FILE", required=required, help=f"by suffix: {suffixes}")


def _run_core(name: str) -> Callable[[argparse.Namespace], int]:
    def run(options: argparse.Namespace) -> int:
        # imported late: `--help` and the window must not wait for what files need
        from holoptic.cli import files  # noqa: PLC0415

        return int(getattr(files, name)(options))

    return run


def _run_demo(options: argparse.Namespace) -> int:
    from holoptic import demo  # noqa: PLC0415

    if options.list:
        print("\n".join(demo.job_names()))
        return 0
    path = demo.job_path(options.job or demo.DEFAULT)
    return _run_desk(options, str(path), demo=True)


def _run_open(options: argparse.Namespace) -> int:
    return _run_desk(options, options.file)


def _run_last(options: argparse.Namespace) -> int:
    return _run_desk(options, None)


def _run_desk(options: argparse.Namespace, file: str | None, demo: bool = False) -> int:
    from holoptic.desk.launch import launch  # noqa: PLC0415

    return launch(
        file,
        demo=demo,
        page=options.page,
        screenshot=options.screenshot,
        size=_size(options.size),
    )


def _size(text: str) -> tuple[int, int]:
    width, _, height = text.lower().partition("x")
    if not (width.isdecimal() and height.isdecimal()):
        raise BadInput(f"--size {text}: write it like 1280x800")
    size = int(width), int(height)
    if not (320 <= size[0] <= 16000 and 240 <= size[1] <= 16000):
        raise BadInput(f"--size {text}: choose between 320x240 and 16000x16000")
    return size
