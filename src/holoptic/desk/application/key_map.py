"""Every key of the desk with what it does, by page: the key sheet and the guide are made of it."""

from __future__ import annotations

from holoptic.catalogue import mark, tr
from holoptic.desk.look.own_keys import ALWAYS, EVERYWHERE

KEYS: dict[str, tuple[tuple[str, str], ...]] = {
    EVERYWHERE: (
        ("F2, F3, F4, F5, F6, F7", tr("Read, Carve, Picture, Spread, Sheet, Draw")),
        ("F9, F10, F11", tr("Check, Register, Practice")),
        ("F1", tr("this sheet of keys, and back")),
        (mark("Ctrl+PgUp, Ctrl+PgDown"), tr("the part before, the part after")),
        ("Ctrl+Z, Ctrl+Shift+Z", tr("undo, redo")),
        ("Ctrl+N", tr("new part; the cursor is in its length")),
        ("Alt+N", tr("new part from a template, names, units")),
        ("Ctrl+Shift+N", tr("new job")),
        ("Ctrl+O", tr("open a job, a solid or a drawing")),
        ("Ctrl+S, Ctrl+Shift+S", tr("save, save as")),
        ("Ctrl+E", tr("export")),
        (
            "Ctrl+Shift+C",
            tr("copy what the page shows; the Export button can be dragged out as a file"),
        ),
        ("Ctrl+Shift+P", tr("print all sheets, with a list of them")),
        ("Ctrl+P", tr("print the sheet at 100 %; on smaller paper as a poster")),
        (mark("Ctrl+0, double click"), tr("fit; the wheel zooms, the right button drags")),
        ("F8", tr("widen the views, and back; their edge can be dragged too")),
        ("Ctrl+L", tr("light or dark desk")),
        ("Ctrl+K", tr("find what can be done now, by its name")),
        ("Ctrl+,", tr("settings")),
        ("Shift+F1", tr("the guide, at the page in hand")),
        ("F12, Shift+F12", tr("a tour of the page: begin it or go on, leave it")),
        ("Ctrl+F1", tr("what is this: the control in focus explained")),
        (mark("1 to 9, Esc"), tr("answer a question in the bar at the top")),
    ),
    "begin": (
        ("84 Tab 46 Tab 37.5 Enter", tr("begin a part of that length, depth and height")),
        ("Alt+1, Alt+2, Alt+3, Alt+4, Alt+5, Alt+6", tr("begin with a template")),
        ("Alt+R", tr("read a drawing")),
        ("Alt+V", tr("draw the views of a part")),
        ("Alt+O", tr("open a file")),
        ("Alt+D", tr("the demo")),
        (mark("Alt+7 and on"), tr("recent work, jobs of the demo")),
    ),
    "read": (
        ("O", tr("open a drawing")),
        ("D", tr("draw the views here")),
        ("P", tr("practise on the views of the part on the desk")),
        (mark("1 to 3"), tr("without a drawing: a demo drawing")),
        ("Ctrl+V", tr("a picture that was copied")),
        ("S", tr("without a drawing: take the page on the scanner's glass (stand-in)")),
        ("N", tr("the next step of a sheet on paper")),
        ("H", tr("take the picture for a sketch by a free hand")),
        ("W", tr("take the figures as they are written on it")),
        (mark("Alt+Right, Alt+Left"), tr("take a line in hand")),
        (mark("F, B, C, Del"), tr("make it firm, broken, a centre line; take it away")),
        ("R", tr("read it")),
        ("M", tr("mend small slips, show it as it was")),
        ("E", tr("draw the one line otherwise with which it reads")),
        ("V", tr("third or first angle")),
        (mark("Alt+Down, Alt+Up"), tr("next remark, the one before")),
        (mark("1 to 6"), tr("take an answer in hand")),
        ("L", tr("lay the answer over the drawing")),
        ("Enter", tr("take the answer into the job")),
        (mark("G, T, Backspace"), tr("the guided way, take a loop away, put it back")),
        ("X", tr("close the drawing")),
    ),
    "carve": (
        ("Alt+C, Alt+A", tr("cut, add an outline")),
        ("Alt+H, Alt+B", tr("hole, boss")),
        ("Alt+M", tr("more shapes")),
        ("Alt+W, Alt+U", tr("walk the outline, up to a face")),
        ("Alt+D", tr("double the operation")),
        ("Alt+O", tr("leave it out or put it back")),
        (mark("Alt+Up, Alt+Down"), tr("earlier, later")),
        (mark("Alt+Del"), tr("remove it")),
        ("Ctrl+C, Ctrl+V", tr("copy it, also to another part")),
        ("Alt+L, Alt+E, Alt+S", tr("the list, named lengths, the shelf of parts")),
        ("Alt+., Alt+,", tr("larger, smaller step of dragging")),
        ("Alt+G, Alt+R", tr("the caliper: in hand or away, measure (stand-in)")),
    ),
    "picture": (
        (mark("1 to 5"), tr("take a proposal")),
        ("K", tr("kind")),
        (mark("arrows"), tr("near corner")),
        ("H, T, C", tr("hidden lines, thick and thin, centre lines")),
        ("V", tr("third or first angle")),
        ("E, Shift+E", tr("next edge, the edge before")),
        (mark("Shift and click"), tr("measure between two points")),
        ("X, Shift+X", tr("cuts are proposed, or kinds again; whole again")),
        ("M, Shift+M", tr("on a construction card: next way, for all circles")),
        ("B, Esc", tr("on a construction card: the band, close")),
    ),
    "spread": (
        (mark("space"), tr("together, apart")),
        ("A", tr("axis")),
        ("G", tr("gap; empty is as needed")),
        (mark("1 to 4"), tr("take a proposal")),
        ("N, Shift+N", tr("next part, the part before")),
        (mark("Ctrl+Right, Ctrl+Left"), tr("move it in the order")),
        ("+, −", tr("keep it with the next, let them go apart")),
        ("T", tr("tie the part in hand to another one; Enter takes the tie")),
        ("P", tr("place a part; without an arrangement: put all together")),
        (mark("Del, Esc"), tr("take it away, let it go")),
    ),
    "sheet": (
        (mark("1 to 5"), tr("take an answer")),
        ("D", tr("dimensions: none, or proposed complete")),
        ("E, Shift+E", tr("next dimension, or the one before; drag one with the mouse")),
        (".", tr("the dimension in hand at its next good place")),
        ("S", tr("shading: none, lit from the left, from the right")),
        ("A", tr("as fits best")),
        ("U", tr("way round")),
        ("N", tr("next drawing of the sheet")),
        ("F", tr("add a figure: another kind, the views, another part")),
        ("R", tr("drawings that were dragged stand in rows again")),
        ("O", tr("circle a detail: press on its middle, drag its circle out")),
        ("X", tr("remove the figure in hand")),
    ),
    "draw": (
        (mark("space, right"), tr("draw the next move")),
        (mark("Backspace, left"), tr("take it up")),
        (mark("Home, End"), tr("start, end")),
        (mark("PgUp, PgDown"), tr("by phase")),
        ("P, +, −", tr("play, faster, slower")),
        ("L", tr("pick out moves")),
        ("V", tr("draw the views, or the pictorial again")),
        ("N", tr("the next figure of the sheet")),
        (mark("W, then 1 to 6"), tr("ways of working, take one")),
        ("E", tr("errors to expect")),
        ("H", tr("hide the construction")),
        ("K", tr("the card in a window of its own")),
        ("J", tr("join in: click what you have drawn already, J again goes on with the rest")),
        ("D", tr("at a check: what the rule reads")),
        ("O", tr("this move is done otherwise: what it makes stands")),
        ("R", tr("read aloud; PgDn and PgUp then go move by move, as a foot switch does")),
    ),
    "check": (
        ("O", tr("open a picture of the drawn sheet")),
        ("Ctrl+V", tr("paste a picture, or a file that was copied")),
        ("1", tr("without a sheet: the demo's scan")),
        ("S", tr("without a sheet: take the page on the scanner's glass (stand-in)")),
        ("D", tr("control distances: what the rule reads, in any order")),
        (mark("Down, Up"), tr("next deviation, the one before")),
        ("M", tr("the magnifier, in hand or away")),
        (mark("space"), tr("the sheet as it should be, as it is drawn")),
        ("R", tr("draw again what is off, move by move")),
        ("G", tr("go on drawing after the last move that is done")),
        ("C", tr("check anew, beside the plan as it is now")),
        ("T", tr("write a report")),
        (mark("X, Esc"), tr("put the sheet away; stop the check")),
    ),
    "register": (
        (mark("Down, Up"), tr("next drawing, the one before")),
        ("H", tr("let plans reckon with your own hand")),
        ("T, P", tr("write the table (CSV), that of practice")),
        ("K", tr("take a copy of the register along")),
        (mark("Del"), tr("delete a drawing, or everything")),
    ),
    "practice": (
        (mark("Enter"), tr("mark the answer; once it is right, go on")),
        ("?", tr("a hint: three in all, each costs a quarter of the points")),
        ("=", tr("show the answer")),
        ("Ctrl+Enter", tr("another exercise")),
        ("Ctrl+T", tr("write a worksheet of what is chosen (PDF)")),
        ("Ctrl+B", tr("build a stack of cubes that becomes a part of the job")),
        (mark("A, B, C …"), tr("choose an answer, mark a place")),
        (
            mark("arrows, Home, End, PgUp, PgDown"),
            tr("move the pen from dot to dot, the square in hand"),
        ),
        (mark("space"), tr("begin a line, end it; one cube more")),
        ("D", tr("dashed lines, firm lines")),
        (mark("Backspace"), tr("take the last line back; one cube less")),
        ("0 … 9", tr("the height of the square in hand")),
        ("O, S", tr("show a sheet that was drawn on paper: a picture, the scanner's glass")),
        ("Ctrl+V", tr("show the picture of it that was copied")),
    ),
    ALWAYS: (
        ("Esc", tr("leave, close, let go")),
        ("Enter", tr("take it, do it")),
        ("Tab, Shift+Tab", tr("the next control, the one before")),
        (mark("Left, Right, Up, Down"), tr("walk, move, turn")),
        ("1, 2, 3, 4, 5, 6, 7, 8, 9, 0", tr("take what has this number")),
    ),
}
"""By page, in the order of the pages; each entry is (keys, what they do)."""

TITLES = {
    EVERYWHERE: tr("Everywhere"),
    "begin": tr("Empty desk"),
    "read": tr("Read"),
    "carve": tr("Carve"),
    "picture": tr("Picture"),
    "spread": tr("Spread"),
    "sheet": tr("Sheet"),
    "draw": tr("Draw"),
    "check": tr("Check"),
    "register": tr("Register"),
    "practice": tr("Practice"),
    ALWAYS: tr("They stay, and may have a second key"),
}


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
            if all(word in f"{TITLES[name]} {tr(key)} {what}".lower() for word in wanted)
        )  # fmt: skip
        if hits:
            kept[name] = hits
    return kept
