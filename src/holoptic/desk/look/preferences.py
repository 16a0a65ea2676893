"""What a user may choose once for all jobs: names, choices and what counts where nothing is said.

They stand in the settings file (`settings.json` in the XDG configuration folder) by their names; a
value that is none of the choices is as if it were not there. The module is read before the first
paint, so it imports little.
"""

from __future__ import annotations

import json
import weakref
from collections.abc import Callable
from typing import Any, NamedTuple

from holoptic.catalogue import tr
from holoptic.desk.look.settings import keep_setting, keep_settings, read_settings
from holoptic.errors import BadInput
from holoptic.regional import LANGUAGES

FORMAT = "holoptic-settings"


class Preference(NamedTuple):
    """Something to be chosen; the first choice counts where nothing is said."""

    name: str
    title: str
    choices: tuple[tuple[Any, str], ...]
    note: str = ""

    @property
    def usual(self) -> Any:
        """What counts where nothing is said."""
        return self.choices[0][0]


GROUPS = (
    (tr("Desk"), (
        Preference("theme", tr("Look of the desk"), (
            ("system", tr("as the desktop")), ("light", tr("light")), ("dark", tr("dark")),
            ("contrast", tr("high contrast")),
        )),
        Preference("letters", tr("Letters"), (
            ("system", tr("as the desktop")), ("1.0", tr("usual")), ("1.25", tr("larger")),
            ("1.5", tr("largest")),
        ), tr("from the next start on")),
        Preference("language", tr("Language"), (
            ("system", tr("as the desktop")), *LANGUAGES.items(),
        ), tr("from the next start on")),
        Preference("decimal", tr("Decimals"), (
            ("system", tr("as the language")), ("point", "26.5"), ("comma", "26,5"),
        ), tr("from the next start on")),
        Preference("left_handed", tr("Drawing hand"), (
            (False, tr("right")), (True, tr("left")),
        ), tr("how the instruments lie")),
        Preference("safety_s", tr("Safety copy of edits"), (
            (2, tr("after 2 s")), (10, tr("after 10 s")), (60, tr("after a minute")),
        )),
    )),
    (tr("New jobs and parts"), (
        Preference("new_unit", tr("Lengths of new jobs"), (
            ("mm", tr("mm")), ("inch", tr("decimal inches")),
            ("inch-fraction", tr("inches and fractions")),
        )),
        Preference("new_angle", tr("Views of new jobs"), (
            ("third", tr("third angle")), ("first", tr("first angle")),
        )),
        Preference("new_views", tr("How many views"), (
            ("three", tr("three")), ("six", tr("all six")),
        )),
        Preference("new_hidden", tr("Hidden lines of new parts"), (
            ("omit", tr("left out")), ("thin", tr("thin")), ("dashed", tr("dashed")),
        )),
        Preference("new_outline", tr("Outline of new parts"), (
            ("one-weight", tr("one weight")), ("thick-and-thin", tr("thick and thin")),
        )),
    )),
    (tr("New sheets"), (
        Preference("new_series", tr("Papers of new sheets"), (
            ("ISO", "ISO"), ("ANSI", "ANSI"), ("architectural", "Arch"),
        )),
        Preference("new_frame", tr("Border and title block"), (
            ("draw", tr("drawn by hand")), ("printed", tr("printed")),
        )),
        Preference("new_dimensions", tr("Dimensions of new sheets"), (
            ("none", tr("none")), ("auto", tr("proposed")),
        )),
        Preference("new_style", tr("Dimensions after"), (("ISO", "ISO"), ("ASME", "ASME"))),
    )),
)  # fmt: skip
"""What can be chosen, as the sheet of settings has it."""

PREFERENCES = tuple(one for _, several in GROUPS for one in several)
DRAWN_BY = "drawn_by"
"""Who draws, as the title block of a new job has it: a text, not a choice."""

_TAKEN_ALONG = (DRAWN_BY, "hand", "outfit", "step_mm", "keys")
"""What is exported besides: the drafter's own hand and instruments, the step, changed keys."""

_listeners: list[weakref.WeakMethod[Callable[[], None]]] = []
"""Who is to be told; whoever is gone is told no more."""


def preference(name: str) -> Any:
    """Return what is chosen. Raises KeyError for an unknown name."""
    found = next((one for one in PREFERENCES if one.name == name), None)
    if found is None:
        raise KeyError(name)
    kept = read_settings().get(name, found.usual)
    known = [value for value, _ in found.choices]
    # True and 1 are the same to Python, and not to a reader of the file
    sound = any(kept == value and type(kept) is type(value) for value in known)
    return kept if sound else found.usual


def drawn_by() -> str:
    """Return who draws, as new title blocks have it."""
    kept = read_settings().get(DRAWN_BY)
    return kept if isinstance(kept, str) else ""


def choose(name: str, value: Any) -> None:
    """Choose something, and let everybody know."""
    keep_setting(name, value)
    tell_all()


def listen(tell: Callable[[], None]) -> None:
    """Be told when something is chosen, by a method, for as long as its object lives."""
    _listeners.append(weakref.WeakMethod(tell))


def tell_all() -> None:
    """Let everybody know that something is chosen otherwise."""
    for listener in [*_listeners]:
        tell = listener()
        if tell is None:
            _listeners.remove(listener)
        else:
            tell()


def exported() -> bytes:
    """Return the preferences as a file for another machine."""
    kept = read_settings()
    names = [one.name for one in PREFERENCES] + list(_TAKEN_ALONG)
    content = {"format": FORMAT, **{name: kept[name] for name in names if name in kept}}
    return (json.dumps(content, indent=1, ensure_ascii=False) + "\n").encode("utf-8")


def take_over(data: bytes) -> None:
    """Take the preferences of a file. Raises BadInput, and then nothing is changed."""
    try:
        content = json.loads(data.decode("utf-8"))
    except (ValueError, RecursionError) as error:
        raise BadInput(tr("no settings: it is no whole JSON")) from error
    if not isinstance(content, dict) or content.get("format") != FORMAT:
        raise BadInput(tr("no settings of Holoptic"))
    names = {one.name for one in PREFERENCES} | set(_TAKEN_ALONG)
    keep_settings({name: value for name, value in content.items() if name in names})
    tell_all()


def reset() -> None:
    """Let what is usual count again; hand, instruments and jobs stay."""
    keep_settings({one.name: one.usual for one in PREFERENCES} | {"keys": {}, DRAWN_BY: ""})
    tell_all()
