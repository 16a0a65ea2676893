"""The desktop's own list of recent files (freedesktop.org, desktop bookmark specification).

The list belongs to all programs of the user: it is read and written as a whole, entries of others
stay as they are, and a list that is not sound is left alone.
"""

from __future__ import annotations

import contextlib
from datetime import UTC, datetime
from pathlib import Path
from xml.etree import ElementTree

from holoptic.bounded import read_bounded
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.places import is_there
from holoptic.regional import base_folder

_NAME = "recently-used.xbel"
_LARGEST = 4_000_000
_MOST_OURS = 20
_BOOKMARK = "http://www.freedesktop.org/standards/desktop-bookmarks"
_MIME = "http://www.freedesktop.org/standards/shared-mime-info"
_TYPES = {".holoptic": "application/x-holoptic-job", ".step": "model/step", ".stp": "model/step"}
_PROGRAM = "Holoptic"


def note_recent(path: Path) -> None:
    """Put a job or a solid into the desktop's list; where that fails nothing is lost."""
    kind = _TYPES.get(path.suffix.lower())
    if kind is None:
        return
    with contextlib.suppress(OSError, BadInput, ValueError):
        place = _place()
        root = _read(place)
        if root is None:
            return
        _enter(root, path.absolute().as_uri(), kind)
        ElementTree.register_namespace("bookmark", _BOOKMARK)
        ElementTree.register_namespace("mime", _MIME)
        text = ElementTree.tostring(root, encoding="utf-8", xml_declaration=True)
        write_atomically(place, text, private=True)


def _place() -> Path:
    return base_folder("XDG_DATA_HOME", ".local/share") / _NAME


def _read(place: Path) -> ElementTree.Element | None:
    """Return the list, a new one where there is none, None where it is not sound."""
    if not is_there(place):
        return ElementTree.Element("xbel", {"version": "1.0"})
    data = read_bounded(place, _LARGEST)
    if b"<!ENTITY" in data or b"<!DOCTYPE" in data:  # the list has none; a bomb would
        return None
    try:
        root = ElementTree.fromstring(data.decode("utf-8"))
    except ElementTree.ParseError:
        return None
    return root if root.tag == "xbel" else None


def _enter(root: ElementTree.Element, address: str, kind: str) -> None:
    now = datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")
    entry = next((e for e in root.iter("bookmark") if e.get("href") == address), None)
    if entry is None:
        entry = ElementTree.SubElement(root, "bookmark", {"href": address, "added": now})
        metadata = ElementTree.SubElement(
            ElementTree.SubElement(entry, "info"), "metadata", {"owner": "http://freedesktop.org"}
        )
        ElementTree.SubElement(metadata, f"{{{_MIME}}}mime-type", {"type": kind})
        programs = ElementTree.SubElement(metadata, f"{{{_BOOKMARK}}}applications")
        ElementTree.SubElement(programs, f"{{{_BOOKMARK}}}application",
                       {"name": _PROGRAM, "exec": "'holoptic open %u'", "count": "0"})  # fmt: skip
    entry.set("modified", now)
    entry.set("visited", now)
    for program in entry.iter(f"{{{_BOOKMARK}}}application"):
        if program.get("name") == _PROGRAM:
            count = program.get("count", "0")
            program.set("count", str(int(count) + 1 if count.isdecimal() else 1))
            program.set("modified", now)
    ours = [e for e in root.findall("bookmark") if _is_ours(e)]
    for old in sorted(ours, key=lambda e: e.get("modified", ""))[:-_MOST_OURS]:
        root.remove(old)


def _is_ours(entry: ElementTree.Element) -> bool:
    """Say whether no other program has an entry in its list too."""
    names = {program.get("name") for program in entry.iter(f"{{{_BOOKMARK}}}application")}
    return names == {_PROGRAM}
