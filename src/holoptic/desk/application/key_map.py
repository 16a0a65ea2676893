"""Every key of the desk with what it does, by page: the key sheet and the guide are made of it."""

from __future__ import annotations

EVERYWHERE = "everywhere"

KEYS: dict[str, tuple[tuple[str, str], ...]] = {
    EVERYWHERE: (
        ("F2 to F6", "Read, Carve, Picture, Sheet, Draw"),
        ("F1", "this sheet of keys, and back"),
        ("Ctrl+PgUp, Ctrl+PgDn", "the part before, the part after"),
        ("Ctrl+Z, Ctrl+Shift+Z", "undo, redo"),
        ("Ctrl+N", "new part; the cursor is in its length"),
        ("Alt+N", "new part from a template, names, units"),
        ("Ctrl+Shift+N", "new job"),
        ("Ctrl+O", "open a job, a solid or a drawing"),
        ("Ctrl+S, Ctrl+Shift+S", "save, save as"),
        ("Ctrl+E", "export"),
        ("Ctrl+0, double click", "fit; the wheel zooms, the right button drags"),
        ("Ctrl+L", "light or dark desk"),
        ("1 to 9, Esc", "answer a question in the bar at the top"),
    ),
    "begin": (
        ("84 Tab 46 Tab 37.5 Enter", "begin a part of that length, depth and height"),
        ("Alt+1 to Alt+6", "begin with a template"),
        ("Alt+R", "read a drawing"),
        ("Alt+V", "draw the views of a part"),
        ("Alt+O", "open a file"),
        ("Alt+D", "the demo"),
        ("Alt+7 and on", "recent work"),
    ),
    "read": (
        ("O", "open a drawing"),
        ("D", "draw the views here"),
        ("P", "practise on the views of the part on the desk"),
        ("1, 2", "without a drawing: a demo drawing"),
        ("R", "read it"),
        ("M", "mend small slips, show it as it was"),
        ("V", "third or first angle"),
        ("Alt+Down, Alt+Up", "next remark, the one before"),
        ("1 to 6", "take an answer in hand"),
        ("L", "lay the answer over the drawing"),
        ("Enter", "take the answer into the job"),
        ("G, T, Backspace", "the guided way, take a loop away, put it back"),
        ("X", "close the drawing"),
    ),
    "carve": (
        ("Alt+C, Alt+A", "cut, add an outline"),
        ("Alt+H, Alt+B", "hole, boss"),
        ("Alt+M", "more shapes"),
        ("Alt+W, Alt+U", "walk the outline, up to a face"),
        ("Alt+D", "double the operation"),
        ("Alt+O", "leave it out or put it back"),
        ("Alt+Up, Alt+Down", "earlier, later"),
        ("Alt+Del", "remove it"),
        ("Ctrl+C, Ctrl+V", "copy it, also to another part"),
        ("Alt+L, Alt+E, Alt+S", "the list, named lengths, the shelf of parts"),
        ("Alt+., Alt+,", "larger, smaller step of dragging"),
        ("Alt+G, Alt+R", "the caliper: in hand or away, measure (stand-in)"),
    ),
    "picture": (
        ("1 to 5", "take a proposal"),
        ("K", "kind"),
        ("arrows", "near corner"),
        ("H, T, C", "hidden lines, thick and thin, centre lines"),
        ("V", "third or first angle"),
        ("E, Shift+E", "next edge, the edge before"),
        ("Shift and click", "measure between two points"),
        ("M, Shift+M", "on a construction card: next way, for all circles"),
        ("B, Esc", "on a construction card: the band, close"),
    ),
    "sheet": (
        ("1 to 5", "take an answer"),
        ("A", "as fits best"),
        ("U", "way round"),
        ("N", "next drawing of the sheet"),
        ("F", "add a figure: another kind, the views, another part"),
        ("X", "remove the figure in hand"),
    ),
    "draw": (
        ("space, right", "draw the next move"),
        ("back, left", "take it up"),
        ("Home, End", "start, end"),
        ("PgUp, PgDn", "by phase"),
        ("P, +, −", "play, faster, slower"),
        ("L", "pick out moves"),
        ("W, then 1 to 6", "ways of working, take one"),
        ("E", "errors to expect"),
        ("H", "hide the construction"),
        ("K", "the card in a window of its own"),
    ),
}
"""By page, in the order of the pages; each entry is (keys, what they do)."""

TITLES = {
    EVERYWHERE: "Everywhere", "begin": "Empty desk", "read": "Read", "carve": "Carve",
    "picture": "Picture", "sheet": "Sheet", "draw": "Draw",
}  # fmt: skip


def groups_for(page: str) -> list[str]:
    """Return the groups in the order of the sheet: the page in hand first."""
    return [page, *(name for name in KEYS if name != page)] if page in KEYS else list(KEYS)


def found(words: str) -> dict[str, tuple[tuple[str, str], ...]]:
    """Return the entries that have every one of some words in their keys, group or meaning."""
    wanted = words.lower().split()
    kept = {}
    for name, entries in KEYS.items():
        hits = tuple(
            (key, what) for key, what in entries
            if all(word in f"{TITLES[name]} {key} {what}".lower() for word in wanted)
        )  # fmt: skip
        if hits:
            kept[name] = hits
    return kept
