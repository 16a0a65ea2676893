"""What can be said on the command line: the commands, their options, what each runs."""

from __future__ import annotations

import argparse
from collections.abc import Callable, Iterable
from typing import Any, NoReturn

from holoptic import __version__
from holoptic.catalogue import tr
from holoptic.cli.options import (
    add_arrangement_options,
    add_dimension_options,
    add_figure_option,
    add_log_options,
    add_out,
    add_round_options,
    add_section_option,
    add_sheet_options,
    add_source_options,
    add_view_options,
    add_way_options,
    add_window_options,
    positive,
    seconds,
)
from holoptic.cli.refusals import told
from holoptic.errors import BadInput


class _Help(argparse.HelpFormatter):
    """Help with the parser's own headings in the user's language."""

    def add_usage(
        self,
        usage: str | None,
        actions: Iterable[argparse.Action],
        groups: Iterable[Any],
        prefix: str | None = None,
    ) -> None:
        # what commands are called is made of a usage with an empty prefix
        said = f"{tr('usage:')} " if prefix is None else prefix
        super().add_usage(usage, actions, groups, said)

    def start_section(self, heading: str | None) -> None:
        titles = {"positional arguments": tr("positional arguments"), "options": tr("options")}
        super().start_section(titles.get(heading or "", heading))


class _Parser(argparse.ArgumentParser):
    """A parser whose refusals are one clear line, and whose help is in the user's language."""

    def __init__(self, **options: Any) -> None:
        super().__init__(**options, formatter_class=_Help, add_help=False)
        self.add_argument("-h", "--help", action="help", help=tr("show this help message and exit"))

    def error(self, message: str) -> NoReturn:
        raise BadInput(tr("{message} (see {prog} --help)", message=told(message), prog=self.prog))


def command_parser() -> argparse.ArgumentParser:
    """Return what reads the command line: every command with its options."""
    # without a command the last job is opened, so the options of `open` stand here too
    parser = _Parser(
        prog="holoptic",
        description=tr("A pictorial drafting bench. Without a command: open the last job."),
    )
    parser.add_argument(
        "--version", action="version", version=tr("holoptic {version}", version=__version__)
    )
    add_window_options(parser)
    parser.set_defaults(run=_run_last)
    commands = parser.add_subparsers(metavar="COMMAND", parser_class=_Parser)

    demo = commands.add_parser("demo", help=tr("open the desk with the demo job"))
    demo.add_argument("--job", metavar="NAME", help=tr("which demo job"))
    demo.add_argument("--list", action="store_true", help=tr("list the demo jobs and leave"))
    add_window_options(demo, again=True)
    demo.set_defaults(run=_run_demo)

    open_ = commands.add_parser("open", help=tr("open a job or STEP file on the desk"))
    open_.add_argument("file", nargs="?", metavar="FILE", help=tr("default: the last job"))
    add_window_options(open_, again=True)
    open_.set_defaults(run=_run_open)

    _add_file_commands(commands)
    add_log_options(parser)
    for command in commands.choices.values():
        add_log_options(command, again=True)
    return parser


def _add_file_commands(commands: argparse._SubParsersAction[_Parser]) -> None:
    pictorial = commands.add_parser("pictorial", help=tr("make the picture as a file"))
    add_source_options(pictorial)
    add_view_options(pictorial)
    add_sheet_options(pictorial)
    add_out(pictorial, ".svg .pdf .dxf .png .json")
    pictorial.add_argument(
        "--check", action="store_true", help=tr("print what the trihedral corner rule says of it")
    )
    pictorial.set_defaults(run=_run_core("pictorial"))

    plan = commands.add_parser(
        "plan",
        help=tr("make the drawing moves as a file, or prove them"),
        description=tr(
            "Make the drawing moves. With --critic, leaves with 0 where the critic has no remark, "
            "else with 3; with --verify, with 1 where the proof does not hold."
        ),
    )
    add_source_options(plan)
    add_view_options(plan)
    add_out(plan, tr(".json .csv .txt .pdf (a booklet)"), required=False)
    add_way_options(plan)
    add_round_options(plan)
    add_sheet_options(plan)
    add_dimension_options(plan)
    add_arrangement_options(plan)
    add_section_option(plan)
    plan.add_argument(
        "--verify", action="store_true", help=tr("let the virtual drafter draw it and compare")
    )
    plan.add_argument(
        "--critic", action="store_true", help=tr("print what a strict reader finds wrong with it")
    )
    plan.add_argument(
        "--compare",
        action="store_true",
        help=tr("print what each way of working costs, and its errors"),
    )
    plan.set_defaults(run=_run_core("plan"))
    _add_paper_commands(commands)


def _add_paper_commands(commands: argparse._SubParsersAction[_Parser]) -> None:
    sheet = commands.add_parser("sheet", help=tr("make the finished sheet as a file"))
    add_source_options(sheet)
    add_view_options(sheet)
    add_sheet_options(sheet)
    add_arrangement_options(sheet)
    add_section_option(sheet)
    add_dimension_options(sheet)
    sheet.add_argument(
        "--all", action="store_true", help=tr("all sheets of the job as one PDF, with a list")
    )
    sheet.add_argument(
        "--check",
        action="store_true",
        help=tr("say whether the sizes suffice to make the parts, and none is said twice"),
    )
    add_out(sheet, ".svg .pdf .dxf .png", required=False)
    sheet.set_defaults(run=_run_core("sheet"))

    grid = commands.add_parser("grid", help=tr("make an underlay to draw over"))
    grid.add_argument(
        "--paper", metavar="NAME", default="A4", help=tr("A4 to A0, ANSI A …, Arch A …")
    )
    grid.add_argument("--upright", action="store_true", help=tr("on its short side"))
    grid.add_argument(
        "--kind",
        metavar="K",
        default="isometric",
        help=tr("isometric, isometric-dots, oblique, square, or any kind of pictorial"),
    )
    grid.add_argument("--pitch", metavar="MM", type=positive, default=5.0,
                      help=tr("of the cells along the axes (default 5)"))  # fmt: skip
    add_out(grid, ".pdf .svg .dxf .png")
    grid.set_defaults(run=_run_core("grid"))

    views = commands.add_parser("views", help=tr("make the orthographic views as a file"))
    add_source_options(views)
    add_figure_option(views)
    views.add_argument(
        "--views", choices=["three", "six"], help=tr("how many (default: the job's)")
    )
    views.add_argument(
        "--angle", choices=["third", "first"], help=tr("how they are laid out (default: the job's)")
    )
    add_section_option(views)
    add_out(views, ".dxf .svg .pdf .png")
    views.set_defaults(run=_run_core("views"))

    _add_reading_commands(commands)
    _add_spread_command(commands)
    _add_checking_commands(commands)

    solid = commands.add_parser("solid", help=tr("make the exact solid as a STEP file"))
    add_source_options(solid)
    add_out(solid, ".step .stp")
    solid.set_defaults(run=_run_core("solid"))


def _add_reading_commands(commands: argparse._SubParsersAction[_Parser]) -> None:
    read = commands.add_parser(
        "read",
        help=tr("read orthographic views into a part"),
        description=tr(
            "Read the views of a drawing, or of a scan or photo of one, into a part. Leaves with 0 "
            "for one reading, 3 for several, 4 for views that contradict themselves."
        ),
    )
    read.add_argument("views", metavar="VIEWS", help=tr(
        "the drawing: .dxf .pdf .svg, or a picture of it: .png .jpg .tif .webp"))  # fmt: skip
    read.add_argument("--arrangement", choices=["third", "first", "auto"], default="auto",
                      help=tr("how its views are laid out (default: as agrees)"))  # fmt: skip
    read.add_argument("--all", action="store_true", help=tr("write every reading, numbered"))
    read.add_argument(
        "--mend", action="store_true", help=tr("mend small slips of the drawing first")
    )
    read.add_argument("--correct", action="store_true",
                      help=tr("where the views contradict themselves, look for one line with which "
                              "they do not, if it is drawn otherwise"))  # fmt: skip
    read.add_argument("--seconds", type=seconds, default=30.0, metavar="N",
                      help=tr("how long it may take, 1 to 600 (default: 30)"))  # fmt: skip
    read.add_argument("--size", metavar="L,D,H",
                      help=tr("length, depth and height of the part in mm"))  # fmt: skip
    read.add_argument("--paper", metavar="NAME",
                      help=tr("of a picture: the paper with its frame (default: the one that a "
                              "scan says it is, else A4)"))  # fmt: skip
    read.add_argument("--sketch", action="store_true",
                      help=tr("the picture is a sketch by a free hand: places come from figures "
                              "alone"))  # fmt: skip
    read.add_argument("--levels", metavar="L,…;D,…;H,…",
                      help=tr("of a picture: where its levels truly lie along length, depth and "
                              "height, each after the first (0)"))  # fmt: skip
    read.add_argument("--page", metavar="N", type=int, default=1,
                      help=tr("which page of a PDF file (default: 1)"))  # fmt: skip
    add_out(read, ".step .stp .holoptic")
    read.set_defaults(run=_run_core("read"))

    compare = commands.add_parser("compare", help=tr("list lines missing or extra against a part"))
    compare.add_argument("views", metavar="VIEWS", help=tr("the drawing: .dxf .pdf .svg"))
    add_source_options(compare)
    compare.add_argument("--arrangement", choices=["third", "first", "auto"], default="auto",
                         help=tr("how its views are laid out"))  # fmt: skip
    compare.set_defaults(run=_run_core("compare"))


def _add_spread_command(commands: argparse._SubParsersAction[_Parser]) -> None:
    spread = commands.add_parser(
        "spread",
        help=tr("draw an arrangement apart, list its parts, or check it"),
        description=tr(
            "Draw an arrangement apart. With --check, leaves with 0 where no parts overlap and "
            "all of them come apart, else with 3."
        ),
    )
    spread.add_argument("source", metavar="SOURCE", help=tr("job file or STEP assembly"))
    spread.add_argument(
        "--arrangement", metavar="NAME", help=tr("which arrangement (default: the first)")
    )
    spread.add_argument(
        "--axis", metavar="A", help=tr("length, depth, height, with a - the other way, or x,y,z")
    )
    spread.add_argument("--gap", metavar="G", help=tr("auto, or the clear way between parts"))
    spread.add_argument(
        "--order", metavar="LIST", help=tr("parts as they follow each other along the axis")
    )
    spread.add_argument("--together", action="store_true", help=tr("together, not apart"))
    spread.add_argument(
        "--check", action="store_true", help=tr("print overlaps and what cannot be taken apart")
    )
    add_view_options(spread, figure=False)
    add_sheet_options(spread)
    add_out(spread, ".svg .pdf .dxf .png .json .csv .step", required=False)
    spread.set_defaults(run=_run_core("spread"))


def _add_checking_commands(commands: argparse._SubParsersAction[_Parser]) -> None:
    check = commands.add_parser(
        "check",
        help=tr("lay the picture of a drawn sheet beside its plan"),
        description=tr(
            "Lay a scan or photo of a drawn sheet beside the plan. Leaves with 0 where it agrees "
            "within tolerance, with 3 where it deviates."
        ),
    )
    check.add_argument("scan", metavar="SCAN", help=tr("a picture: .png .jpg .tif .pdf"))
    check.add_argument("--corners", metavar="X,Y;…", help=tr(
        "where the border's corners lie in the picture, in dots: lower left, lower right, upper "
        "right, upper left"))  # fmt: skip
    add_out(check, ".json .pdf", required=False)
    scan = commands.add_parser("scan", help=tr("picture a drawn sheet, as a scanner's stand-in"))
    scan.add_argument("--slip", metavar="MOVE:+MM", action="append", default=[],
                      help=tr("a setting that is off: number of the move, and by how much (mm, of "
                              "an angle degrees)"))  # fmt: skip
    scan.add_argument("--leave-out", metavar="STROKE", action="append", default=[],
                      help=tr("a stroke that is not drawn, by its name in the plan"))  # fmt: skip
    scan.add_argument("--until", metavar="MOVE", type=int, help=tr("only so many moves are done"))
    scan.add_argument("--rubbed-out", action="store_true",
                      help=tr("construction lines are rubbed out"))  # fmt: skip
    scan.add_argument("--photo", action="store_true", help=tr("a photo instead of a scan"))
    scan.add_argument("--seed", metavar="N", type=int, default=1, help=tr("of the hand's chance"))
    scan.add_argument("--dpi", metavar="N", type=int, default=300, help=tr("72 to 600"))
    add_out(scan, ".png")
    check.add_argument("--register", action="store_true",
                       help=tr("note the outcome in the register"))  # fmt: skip
    for command in (check, scan):
        add_source_options(command)
        add_view_options(command)
        add_way_options(command)
        add_round_options(command)
        add_sheet_options(command)
        add_dimension_options(command)
        add_arrangement_options(command)
        add_section_option(command)
    check.set_defaults(run=_run_core("check"))
    scan.set_defaults(run=_run_core("scan"))
    register = commands.add_parser("register", help=tr("list what was drawn and checked"))
    register.add_argument("--csv", action="store_true", help=tr("as CSV, for other programs"))
    register.add_argument("--practice", action="store_true",
                          help=tr("what was practised instead, as CSV"))  # fmt: skip
    register.set_defaults(run=_run_core("register"))
    practice = commands.add_parser("practice", help=tr("write exercises as worksheets"))
    practice.add_argument("--skill", metavar="NAME", required=True,
                          help=tr("views, cubes, draw …; several with commas, or all; a wrong "
                                  "name lists them"))  # fmt: skip
    practice.add_argument("--level", metavar="N", type=int, default=1, help=tr("1 to 5"))
    practice.add_argument("--count", metavar="N", type=int, default=6, help=tr("how many"))
    practice.add_argument("--seed", metavar="N", type=int, default=1,
                          help=tr("the same seed gives the same sheets"))  # fmt: skip
    practice.add_argument("--paper", metavar="NAME", default="A4", help=tr("default: A4"))
    add_out(practice, ".pdf .json")
    practice.set_defaults(run=_run_core("practice"))
    thumbnail = commands.add_parser("thumbnail", help=tr("make a small picture of a job"))
    thumbnail.add_argument("source", metavar="JOB", help=tr("job file or STEP file"))
    thumbnail.add_argument("out", metavar="OUT", help=tr("the PNG file to be made"))
    thumbnail.add_argument("--size", metavar="N", type=int, default=256,
                           help=tr("dots a side, 16 to 1024 (default: 256)"))  # fmt: skip
    thumbnail.add_argument("--force", action="store_true", help=tr("replace OUT where it exists"))
    thumbnail.set_defaults(run=_run_thumbnail)


def _run_core(name: str) -> Callable[[argparse.Namespace], int]:
    def run(options: argparse.Namespace) -> int:
        # imported late: `--help` and the window must not wait for what files need
        from holoptic.cli import (  # noqa: PLC0415
            checking,
            files,
            practising,
            reading,
            registering,
            spreading,
        )

        rooms = {"read": reading, "compare": reading, "spread": spreading, "check": checking,
                 "scan": checking, "register": registering, "practice": practising}  # fmt: skip
        return int(getattr(rooms.get(name, files), name)(options))

    return run


def _run_thumbnail(options: argparse.Namespace) -> int:
    from holoptic.cli.showing import thumbnail  # noqa: PLC0415 - of the core it needs little

    return thumbnail(options)


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
    from holoptic.desk.application.launch import launch  # noqa: PLC0415

    return launch(
        file,
        demo=demo,
        page=options.page,
        screenshot=options.screenshot,
        size=_size(options.size) if options.size is not None else None,
    )


def _size(text: str) -> tuple[int, int]:
    width, _, height = text.lower().partition("x")
    if not (width.isdecimal() and height.isdecimal()):
        raise BadInput(tr("--size {text_}: write it like 1280x800", text_=text))
    size = int(width), int(height)
    if not (320 <= size[0] <= 16000 and 240 <= size[1] <= 16000):
        raise BadInput(tr("--size {text_}: choose between 320x240 and 16000x16000", text_=text))
    return size
