"""The refusals of Python's own parser of command lines, in the user's language.

It makes them in English, of one sentence each (`argparse`); they are taken apart again here.
"""

from __future__ import annotations

import re
from collections.abc import Callable

from holoptic.catalogue import tr

_Said = Callable[[re.Match[str]], str]

_ARGUMENT = re.compile(r"argument (?P<name>[^:]+): (?P<why>.*)", re.DOTALL)

_SENTENCES: tuple[tuple[str, _Said], ...] = (
    (r"the following arguments are required: (.+)",
     lambda found: tr("the following arguments are required: {names}", names=found[1])),
    (r"unrecognized arguments: (.+)",
     lambda found: tr("unrecognized arguments: {words}", words=found[1])),
    (r"one of the arguments (.+) is required",
     lambda found: tr("one of the arguments {names} is required", names=found[1])),
    (r"ambiguous option: (.+) could match (.+)",
     lambda found: tr("ambiguous option: {option} could match {names}", option=found[1],
                      names=found[2])),
    (r"expected one argument", lambda _: tr("expected one argument")),
    (r"expected at least one argument", lambda _: tr("expected at least one argument")),
    (r"expected at most one argument", lambda _: tr("expected at most one argument")),
    (r"expected (\d+) arguments?",
     lambda found: tr("expected {count} arguments", count=found[1])),
    (r"invalid choice: (.+) \(choose from (.+)\)",
     lambda found: tr("invalid choice: {word} (choose from {names})", word=found[1],
                      names=found[2])),
    (r"not allowed with argument (.+)",
     lambda found: tr("not allowed with argument {name}", name=found[1])),
    (r"ignored explicit argument (.+)",
     lambda found: tr("ignored explicit argument {word}", word=found[1])),
    (r"invalid \w+ value: (.+)", lambda found: tr("invalid value: {word}", word=found[1])),
)  # fmt: skip


def told(message: str) -> str:
    """Return a refusal of the parser in the user's language; one that is not known stays."""
    about = _ARGUMENT.fullmatch(message)
    if about is not None:
        return tr("argument {name}: {why}", name=about["name"], why=told(about["why"]))
    for pattern, say in _SENTENCES:
        found = re.fullmatch(pattern, message, re.DOTALL)
        if found is not None:
            return say(found)
    return message
