"""What shells offer while a command is typed: for bash, zsh and fish, from the command line."""

from __future__ import annotations

from holoptic.desk import PAGES
from holoptic.integration.spoken_commands import Command, Option, spoken_commands
from holoptic.pictorial import NearCorner
from holoptic.pictorial.kinds import kind_families
from holoptic.sheet.papers import PAPERS


def values_of(option: Option) -> tuple[str, ...]:
    """Return the words that an option takes, as far as they can be listed."""
    if option.choices:
        return option.choices
    known = {
        "--kind": tuple(family.name for family in kind_families()),
        "--corner": tuple(corner.value for corner in NearCorner),
        "--paper": tuple(paper.name for paper in PAPERS if " " not in paper.name),
        "--page": PAGES if option.takes == "NAME" else (),
    }
    return next((known[flag] for flag in option.flags if flag in known), ())


def bash_completion() -> str:
    """Return the completion for bash."""
    program, *commands = spoken_commands()
    cases = "\n".join(
        f"        {command.name}) options={_quoted(' '.join(_flags(command)))} ;;"
        for command in commands
    )
    values = "\n".join(
        f"        {'|'.join(pairs)}) words={_quoted(' '.join(words))} ;;"
        for words, pairs in _shared_values((program, *commands)).items()
    )
    return f"""# bash completion for holoptic
_holoptic() {{
    local current=${{COMP_WORDS[COMP_CWORD]}} before=${{COMP_WORDS[COMP_CWORD-1]}}
    local command= word options={_quoted(" ".join(_flags(program)))} words=
    COMPREPLY=()
    for word in "${{COMP_WORDS[@]:1:COMP_CWORD-1}}"; do
        case $word in
        {"|".join(command.name for command in commands)}) command=$word; break ;;
        esac
    done
    case $command in
{cases}
    esac
    case "$command $before" in
{values}
    esac
    if [ -n "$words" ]; then
        mapfile -t COMPREPLY < <(compgen -W "$words" -- "$current")
    elif [[ $current == -* ]]; then
        mapfile -t COMPREPLY < <(compgen -W "$options" -- "$current")
    elif [ -z "$command" ]; then
        mapfile -t COMPREPLY < <(compgen -W "{" ".join(c.name for c in commands)}" -- "$current")
    else
        compopt -o filenames 2>/dev/null
        mapfile -t COMPREPLY < <(compgen -f -- "$current")
    fi
}}
complete -F _holoptic holoptic
"""


def zsh_completion() -> str:
    """Return the completion for zsh."""
    _, *commands = spoken_commands()
    named = "\n".join(f"        {_zsh(f'{command.name}:{command.help}')}" for command in commands)
    cases = "\n".join(
        f"        {command.name}) _arguments {' '.join(map(_zsh_option, command.flagged))}"
        " '*:file:_files' ;;"
        for command in commands
    )
    return f"""#compdef holoptic
_holoptic() {{
    local -a commands
    commands=(
{named}
    )
    if (( CURRENT == 2 )); then
        _describe command commands
        return
    fi
    local command=$words[2]
    shift words
    (( CURRENT-- ))
    case $command in
{cases}
    esac
}}
_holoptic "$@"
"""


def fish_completion() -> str:
    """Return the completion for fish."""
    program, *commands = spoken_commands()
    lines = ["# fish completion for holoptic"]
    for command in commands:
        lines.append(
            "complete -c holoptic -n __fish_use_subcommand -f "
            f"-a {command.name} -d {_quoted(command.help)}"
        )
    for command in (program, *commands):
        when = (
            f"-n {_quoted(f'__fish_seen_subcommand_from {command.name}')}"
            if command.name
            else "-n __fish_use_subcommand"
        )
        lines += [_fish_option(when, option) for option in command.flagged]
    return "\n".join(lines) + "\n"


def _flags(command: Command) -> list[str]:
    return [option.flags[-1] for option in command.flagged]


def _shared_values(commands: tuple[Command, ...]) -> dict[tuple[str, ...], list[str]]:
    """Return for each list of words behind which options of which commands it stands."""
    found: dict[tuple[str, ...], list[str]] = {}
    for command in commands:
        for option in command.flagged:
            if words := values_of(option):
                found.setdefault(words, []).append(f'"{command.name} {option.flags[-1]}"')
    return found


def _zsh_option(option: Option) -> str:
    takes = ""
    if option.takes:
        words = values_of(option)
        offered = f"({' '.join(words)})" if words else "_files"
        takes = f":{option.takes}:{offered}"
    said = option.help.replace("[", "(").replace("]", ")").replace(":", "\\:")
    return _zsh(f"{option.flags[-1]}[{said}]{takes}")


def _fish_option(when: str, option: Option) -> str:
    long = option.flags[-1].lstrip("-")
    takes = ""
    if option.takes:
        words = values_of(option)
        takes = f" -x -a {_quoted(' '.join(words))}" if words else " -r"
    return f"complete -c holoptic {when} -l {long}{takes} -d {_quoted(option.help)}"


def _zsh(text: str) -> str:
    return "'" + text.replace("%%", "%").replace("'", "'\\''") + "'"


def _quoted(text: str) -> str:
    return "'" + text.replace("%%", "%").replace("\\", "").replace("'", "’") + "'"
