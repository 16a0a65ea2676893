"""The command line as data: what manual pages and shells need of each command."""

from __future__ import annotations

import argparse
from collections.abc import Iterator
from dataclasses import dataclass

from holoptic.cli.parser import command_parser


@dataclass(frozen=True)
class Option:
    """An option, or a place where it has no flags."""

    flags: tuple[str, ...]
    takes: str
    help: str
    choices: tuple[str, ...] = ()
    needed: bool = False


@dataclass(frozen=True)
class Command:
    """A command; the name of what stands without one is empty."""

    name: str
    help: str
    description: str
    options: tuple[Option, ...]

    @property
    def flagged(self) -> tuple[Option, ...]:
        """The options, without the places."""
        return tuple(option for option in self.options if option.flags)

    @property
    def places(self) -> tuple[Option, ...]:
        """What stands behind the command without a flag."""
        return tuple(option for option in self.options if not option.flags)


def spoken_commands() -> list[Command]:
    """Return the program without a command, then every command in its order."""
    parser = command_parser()
    found = [Command("", parser.description or "", parser.description or "", _options(parser))]
    for action in parser._actions:
        if not isinstance(action, argparse._SubParsersAction):
            continue
        said = {choice.dest: choice.help or "" for choice in action._choices_actions}
        for name, command in action.choices.items():
            about = command.description or ""
            found.append(Command(name, said.get(name, ""), about, _options(command)))
    return found


def _options(parser: argparse.ArgumentParser) -> tuple[Option, ...]:
    return tuple(_told(parser))


def _told(parser: argparse.ArgumentParser) -> Iterator[Option]:
    for action in parser._actions:
        if isinstance(action, argparse._SubParsersAction) or action.help == argparse.SUPPRESS:
            continue
        choices = tuple(str(choice) for choice in action.choices or ())
        takes = "" if action.nargs == 0 else _place_of(action, choices)
        needed = action.required if action.option_strings else action.nargs != "?"
        yield Option(tuple(action.option_strings), takes, action.help or "", choices, needed)


def _place_of(action: argparse.Action, choices: tuple[str, ...]) -> str:
    if isinstance(action.metavar, str):
        return action.metavar
    return "|".join(choices) if choices else action.dest.upper()
