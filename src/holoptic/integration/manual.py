"""Manual pages: one for the program, one for each command, from what the command line says."""

from __future__ import annotations

from holoptic import __version__
from holoptic.catalogue import tr
from holoptic.integration.spoken_commands import Command, Option, spoken_commands

SECTION = "1"


def manual_pages() -> dict[str, str]:
    """Return the pages in the roff language by the name of their file."""
    program, *commands = spoken_commands()
    pages = {"holoptic.1": _page("holoptic", program, _overview(program, commands))}
    for command in commands:
        name = f"holoptic-{command.name}"
        pages[f"{name}.1"] = _page(name, command, _about(command))
    return pages


def _page(name: str, command: Command, body: list[str]) -> str:
    brief = command.help.rstrip(".").partition(". ")[0]
    lines = [
        f'.TH {name.upper()} {SECTION} "" "Holoptic {__version__}" "Holoptic"',
        f".SH {_escaped(tr('Name')).upper()}",
        f"{_escaped(name)} \\- {_escaped(brief[:1].lower() + brief[1:])}",
        f".SH {_escaped(tr('Synopsis')).upper()}",
        *_synopsis(name, command),
        *body,
        f".SH {_escaped(tr('Exit status')).upper()}",
        _escaped(
            tr(
                "0 where it was done, 2 for bad input with one line that says what, 1 for an error "
                "of the program. What else a command may leave with stands in its description."
            )
        ),
        f".SH {_escaped(tr('Caution')).upper()}",
        _escaped(
            tr(
                "A pictorial explains a part; make it from dimensioned orthographic drawings "
                "checked under your local standard."
            )
        ),
    ]
    return "\n".join(lines) + "\n"


def _synopsis(name: str, command: Command) -> list[str]:
    said = f".B {_escaped(name.replace('-', ' ', 1))}"
    words = [
        _shown(option) if option.needed else f"[{_shown(option)}]"
        for option in (*command.places, *command.flagged)
        if option.flags[:1] != ("-h",)
    ]
    if not command.name:
        words.append(f"[{tr('COMMAND')} …]")
    return [said, _escaped(" ".join(words))]


def _overview(program: Command, commands: list[Command]) -> list[str]:
    lines = [f".SH {_escaped(tr('Description')).upper()}", _escaped(program.description)]
    lines += [f".SH {_escaped(tr('Options')).upper()}", *_told(program.flagged)]
    lines.append(f".SH {_escaped(tr('Commands')).upper()}")
    for command in commands:
        lines += [".TP", f".BR holoptic\\-{_escaped(command.name)} (1)", _escaped(command.help)]
    lines.append(f".SH {_escaped(tr('Files')).upper()}")
    for place, what in (
        ("$XDG_CONFIG_HOME/holoptic/settings.json", tr("what the desk remembers of its user")),
        ("$XDG_STATE_HOME/holoptic", tr("safety copies, recent files, the log")),
        ("$XDG_DATA_HOME/holoptic", tr("the register of what was drawn and practised")),
    ):
        lines += [".TP", f".I {_escaped(place)}", _escaped(what)]
    return lines


def _about(command: Command) -> list[str]:
    lines = [f".SH {_escaped(tr('Description')).upper()}"]
    lines.append(_escaped(command.description or f"{command.help[:1].upper()}{command.help[1:]}."))
    lines += [f".SH {_escaped(tr('Options')).upper()}", *_told(command.options)]
    lines += [f".SH {_escaped(tr('See also')).upper()}", ".BR holoptic (1)"]
    return lines


def _told(options: tuple[Option, ...]) -> list[str]:
    lines = []
    for option in options:
        lines += [".TP", f".B {_escaped(_shown(option))}", _escaped(option.help)]
    return lines


def _shown(option: Option) -> str:
    if not option.flags:
        return option.takes
    return f"{', '.join(option.flags)} {option.takes}".rstrip()


def _escaped(text: str) -> str:
    """Return text for roff: no escape, no hyphen that may be broken, no request by chance."""
    made = " ".join(text.replace("%%", "%").replace("…", "...").split())
    made = made.replace("\\", "\\(rs").replace("-", "\\-")
    return f"\\&{made}" if made.startswith((".", "'")) else made
