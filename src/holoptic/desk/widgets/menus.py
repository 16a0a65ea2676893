"""Menus that open under a button with an entry chosen, each entry with a letter of its own."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtWidgets import QComboBox, QMenu, QWidget

_LIST_MARGIN = 44


def with_mnemonics(titles: Sequence[str]) -> list[str]:
    """Return titles with an `&` before one letter each, no letter twice.

    First letters come first, then those of other words, then any. A title whose letters are all
    taken stays without one.

    >>> with_mnemonics(["Slot", "Strip", "Save as"])
    ['&Slot', 'S&trip', 'Save &as']
    """
    taken: set[str] = set()
    made = []
    for title in titles:
        words = [k for k, letter in enumerate(title) if k == 0 or title[k - 1] == " "]
        order = [*words, *(k for k in range(len(title)) if k not in words)]
        at = next((k for k in order if title[k].isalnum() and title[k].lower() not in taken), None)
        if at is None:
            made.append(title)
            continue
        taken.add(title[at].lower())
        made.append(f"{title[:at]}&{title[at:]}")
    return made


def give_mnemonics(menu: QMenu) -> None:
    """Give each entry of a menu a letter of its own; what stands behind a tab is its key."""
    actions = [action for action in menu.actions() if action.text()]
    titles = [action.text().replace("&", "&&").partition("\t") for action in actions]
    made = with_mnemonics([title for title, _, _ in titles])
    for action, title, (_, tab, key) in zip(actions, made, titles, strict=True):
        action.setText(f"{title}{tab}{key}")


def open_under(menu: QMenu, button: QWidget) -> None:
    """Open a menu under a button, its first entry chosen for the arrow keys and Enter."""
    menu.popup(button.mapToGlobal(button.rect().bottomLeft()))
    first = next((a for a in menu.actions() if a.isEnabled() and not a.isSeparator()), None)
    if first is not None:
        menu.setActiveAction(first)


def show_whole_entries(box: QComboBox) -> None:
    """Let the list of a drop-down be as wide as its longest entry."""
    view = box.view()
    if view is not None:
        metrics = box.fontMetrics()
        widest = max((metrics.horizontalAdvance(box.itemText(k)) for k in range(box.count())),
                     default=0)  # fmt: skip
        view.setMinimumWidth(widest + _LIST_MARGIN)
