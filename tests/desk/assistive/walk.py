"""Walks the tree that a screen reader sees of a running desk, and tells it as JSON.

Run by the system's own Python, as the bindings of AT-SPI are Debian packages (`python3-gi`,
`gir1.2-atspi-2.0`): walk.py PAGE,PAGE COMMAND … starts the command, goes to each page by the action
of its button, as a reader does, and prints what is showing there.
"""

import json
import subprocess
import sys
import time

import gi

gi.require_version("Atspi", "2.0")
from gi.repository import Atspi, GLib  # noqa: E402 - the version comes first

LIMIT_S = 60.0


def found(node, role_part, name):
    """Return the first node of a role and name, or None."""
    if node.get_name() == name and role_part in node.get_role_name():
        return node
    for child in children(node):
        if (hit := found(child, role_part, name)) is not None:
            return hit
    return None


def children(node):
    """Return the children of a node; those that went away meanwhile are left out."""
    got = []
    for number in range(node.get_child_count()):
        child = node.get_child_at_index(number)
        if child is not None:
            got.append(child)
    return got


def told(node, path=()):
    """Yield what a reader knows of each node that shows."""
    states = {state.value_nick for state in node.get_state_set().get_states()}
    if "showing" not in states and len(path) > 1:
        return
    entry = {
        "path": list(path), "role": node.get_role_name(), "name": node.get_name() or "",
        "description": node.get_description() or "", "states": sorted(states),
        "labelled": any(r.get_relation_type() == Atspi.RelationType.LABELLED_BY
                        for r in node.get_relation_set()),
    }  # fmt: skip
    try:
        box = node.get_extents(Atspi.CoordType.SCREEN)
        entry["size"] = [box.width, box.height]
        entry["actions"] = [str(k) for k in range(node.get_n_actions())]
    except Exception:  # what has no place or no action says so by an error
        entry.setdefault("size", [0, 0])
        entry.setdefault("actions", [])
    yield entry
    for number, child in enumerate(children(node)):
        yield from told(child, (*path, number))


def until(what):
    """Wait for something and return it."""
    end = time.monotonic() + LIMIT_S
    while time.monotonic() < end:
        if (got := what()) is not None:
            return got
        time.sleep(0.1)
    raise SystemExit("nothing came")


def is_blank(entry):
    """Say whether a pane has nothing to tell yet: what it shows is being worked out."""
    return entry["role"] == "image" and "focusable" in entry["states"] and not entry["description"]


def settled(desk):
    """Return the tree once it stays as it is, and its panes have something to tell."""
    before, same, end = None, 0, time.monotonic() + LIMIT_S
    entries = []
    while same < 3 and time.monotonic() < end:
        try:
            entries = list(told(desk))
            now = [(e["role"], e["name"], e["description"]) for e in entries]
        except GLib.Error:  # something went away while it was asked
            now = None
        stays = now is not None and now == before and not any(map(is_blank, entries))
        same = same + 1 if stays else 0
        before = now
        time.sleep(0.25)
    return entries


def asked(what):
    """Return what asking came to; nothing where something went away meanwhile."""
    try:
        return what()
    except GLib.Error:
        return None


def main():
    """Walk."""
    pages, command = sys.argv[1].split(","), sys.argv[2:]
    Atspi.init()
    Atspi.set_timeout(10_000, 20_000)  # on a busy machine the desk takes its time
    root = Atspi.get_desktop(0)
    process = subprocess.Popen(command)
    title = "Skerry Lamp Works: harbour lamp – Holoptic"
    try:
        desk = until(lambda: asked(lambda: next(
            (c for c in children(root) if c.get_name() == "Holoptic"), None)))  # fmt: skip
        until(lambda: asked(lambda: found(desk, "frame", title)))
        settled(desk)
        seen = {}
        for page in pages:
            button = until(lambda page=page: asked(lambda: found(desk, "", page)))
            button.do_action(0)
            seen[page] = settled(desk)
        print(json.dumps(seen))
    finally:
        process.terminate()
        process.wait()


main()
