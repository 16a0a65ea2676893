"""Types the demo's own texts, letter by letter, into the fields of every shape in a real window."""

from __future__ import annotations

from collections.abc import Iterator

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from holoptic.desk.application.window import DeskWindow
from holoptic.desk.widgets.fields import AngleField, LengthField, ReadField
from holoptic.job import Job
from holoptic.part import Part, Prism, Strip
from holoptic.part.outline_text import outline_text
from holoptic.part.part import lengths_in
from holoptic.part.starters import SHAPES

ANGLES = ("30", "-22.5", "400", "12°", "x", "")
NEW = ("cut", "add", "hole", "boss", *SHAPES)
"""What can be begun on the Carve page."""


def size_texts(job: Job) -> list[str]:
    """The words of every length of a job's parts."""
    parts = [item.source for item in job.parts if isinstance(item.source, Part)]
    return sorted({length.text for part in parts for length in lengths_in(part)})


def outline_texts(job: Job) -> list[str]:
    """The words of every outline and path of a job's parts, and some of other sorts."""
    found = {
        outline_text(operation.outline)
        for item in job.parts if isinstance(item.source, Part)
        for operation in item.source.operations if isinstance(operation, Prism | Strip)
    }  # fmt: skip
    more = ("10, 0; angle 30 length 25; run 8 rise -2", "0, 0 arc smooth; 9, 9 arc bulge 2 left",
            "8, 0; L/2, H | L-8, 0; L/2, H")  # fmt: skip
    return [*sorted(found), *more]


def begin(window: DeskWindow, what: str) -> None:
    """Begin an operation on the Carve page."""
    carve = window.pages["carve"]
    if what in ("cut", "add"):
        carve.add_prism(what)
    elif what == "hole":
        carve.add_hole()
    elif what == "boss":
        carve.add_round("add")
    else:
        carve.add_shape(what)


def fields_of(window: DeskWindow) -> list[ReadField]:
    """The fields in sight that read what is typed."""
    editor = window.pages["carve"].editor
    return [field for field in editor.findChildren(ReadField) if field.isVisible()]


def texts_for(field: ReadField, sizes: list[str], outlines: list[str]) -> list[str]:
    """What may be typed into a field."""
    if isinstance(field, LengthField):
        return sizes
    return list(ANGLES) if isinstance(field, AngleField) else outlines


def type_letters(field: ReadField, text: str) -> Iterator[str]:
    """Type a text over what stands there, the window following each letter; yield each prefix."""
    field.setFocus()
    field.selectAll()
    QTest.keyClick(field, Qt.Key.Key_Delete)
    for number, letter in enumerate(text, 1):
        press = QKeyEvent(QEvent.Type.KeyPress, 0, Qt.KeyboardModifier.NoModifier, letter)
        QApplication.sendEvent(field, press)  # QTest knows no letters beyond ASCII
        QApplication.processEvents()
        yield text[:number]
