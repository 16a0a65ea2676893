"""Drives the desk in the pseudo-language and prints what a user reads there that is not in it.

Run by `test_catalogue.py` in a process of its own, as a language is chosen when a process starts.
"""

import json
import re
import sys
from pathlib import Path

from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QComboBox, QMenu, QWidget

from holoptic.demo import job_path
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.window import DeskWindow
from holoptic.exchange.plan_files import plan_text

_ASKED = ("text", "title", "placeholderText", "toolTip", "accessibleName", "accessibleDescription",
          "windowTitle", "empty_text")  # fmt: skip
_KEYS = re.compile(r"\b(Ctrl|Alt|Shift|Home|End|PgUp|PgDn|PgDown|Space|space|Enter|Esc|Tab|Del|"
                   r"Up|Down|back|Backspace|F\d+)\b")  # fmt: skip


def words_in(text: str) -> list[str]:
    """The runs of plain letters in a text, keys and tags left out."""
    text = re.sub(r"<[^>]*>", "", text.split("\t", maxsplit=1)[0])
    return re.findall(r"[A-Za-z]{3,}", _KEYS.sub("", text))


def read(found: set[str]) -> None:
    """Take up everything that is shown, named or told."""
    for widget in QApplication.allWidgets():
        if not widget.isVisible():
            continue
        for name in _ASKED:
            asked = getattr(widget, name, None)
            shown = asked() if callable(asked) else asked
            if isinstance(shown, str):
                found.update(words_in(shown))
        if isinstance(widget, QComboBox):
            for index in range(widget.count()):
                found.update(words_in(widget.itemText(index)))


def read_menu(menu: QMenu, found: set[str]) -> None:
    """Take up the entries of a menu."""
    for action in menu.actions():
        found.update(words_in(action.text().replace("&", "")))
        if action.menu() is not None:
            read_menu(action.menu(), found)


def settle(window: DeskWindow) -> None:
    QTest.qWait(50)
    for _ in range(600):
        if not window.is_busy:
            break
        QTest.qWait(50)
    QTest.qWait(100)


def main(pictures: Path | None) -> None:
    app = make_application()
    window = DeskWindow()
    window.resize(1280, 800)
    window.show()
    window.furnish()
    found: set[str] = set()
    window.open_first(None)
    settle(window)
    read(found)
    window.open_first(job_path(), demo=True)
    settle(window)
    for part in (0, 2, 5):
        window.session.document.choose_part(part)
        settle(window)
        for page in ("read", "carve", "picture", "sheet", "draw"):
            window.show_page(page)
            settle(window)
            read(found)
            if pictures is not None and part == 2:
                window.grab().save(str(pictures / f"pseudo-{page}.png"))
        answers, document = window.session.answers, window.session.document
        made = answers.planned
        found.update(words_in(plan_text(made.plan, answers.picture, document.job_part.source,
                                        made.paper, document.unit)))  # fmt: skip
    for menu in (window.filing.open_menu(), window.filing.export_menu(),
                 window.pages["sheet"].column.figures.menu()):  # fmt: skip
        read_menu(menu, found)
    window.show_keys()
    settle(window)
    read(found)
    document.edit_part(document.part.__class__("p", document.part.crate), "broken")
    settle(window)
    read(found)
    children: list[QWidget] = window.findChildren(QWidget)
    window.session.document.history.mark_saved()
    window.close_down()
    app.quit()
    print(json.dumps({"words": sorted(found), "widgets": len(children)}))


if __name__ == "__main__":
    main(Path(sys.argv[1]) if len(sys.argv) > 1 else None)
