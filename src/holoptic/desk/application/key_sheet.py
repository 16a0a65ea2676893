"""The sheet of keys: grouped by page, the page in hand first, to be searched and printed."""

from __future__ import annotations

from collections.abc import Callable
from html import escape
from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice, QMarginsF, Qt
from PyQt6.QtGui import (
    QPageLayout,
    QPageSize,
    QPdfWriter,
    QResizeEvent,
    QTextDocument,
)
from PyQt6.QtWidgets import (
    QFileDialog,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.application.key_catcher import KeyCatcher
from holoptic.desk.application.key_map import KEYS, TITLES, found, groups_for
from holoptic.desk.application.keys_in_hand import KeysInHand, Use
from holoptic.desk.application.over_sheet import OverSheet
from holoptic.desk.look.own_keys import written
from holoptic.desk.look.theme import lettering, px, theme
from holoptic.desk.widgets.folders import last_folder
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.quoting import name_of

_GROUP_WIDTH = 380
_GAP = 14


class KeySheet(OverSheet):
    """Lies over the room until it is closed again.

    `close` goes back to the page, `first_steps` brings the strip of first steps back, `about` shows
    versions and where files lie, `settings` the settings, `tell` says how the printing went.
    """

    def __init__(
        self,
        close: Callable[[], None],
        first_steps: Callable[[], None],
        about: Callable[[], None],
        settings: Callable[[], None],
        tell: Callable[[str], None],
    ) -> None:
        super().__init__(close, tr("Close (F1)"))
        self.title.setText(tr("Keys"))
        self._tell = tell
        self._page = ""
        self._keys: KeysInHand | None = None
        self.catcher = KeyCatcher(self._keys_changed)
        self.search = QLineEdit()
        self.search.setPlaceholderText(tr("search the keys: circle, undo, Alt …"))
        self.search.setAccessibleName(tr("search the keys"))
        self.search.textChanged.connect(self._fill)
        self.search.returnPressed.connect(self._ask_first)
        self.print_button = self.button(tr("Print to a PDF …"), self._ask_print)
        self.steps_button = self.button(
            tr("First steps"), first_steps, tr("Bring the strip of first steps back")
        )
        self.about_button = self.button(
            tr("About"), about, tr("Versions, and where Holoptic keeps its files")
        )
        self.settings_button = self.button(tr("Settings"), settings, tr("Settings (Ctrl+,)"))
        self._lay_out()

    def _lay_out(self) -> None:
        column = self.lay_head(self.settings_button, self.about_button, self.steps_button,
                               self.print_button, wide=self.search)  # fmt: skip
        column.setContentsMargins(22, 12, 22, 0)
        self._area = QScrollArea()
        self._area.setWidgetResizable(True)
        self._area.setFrameShape(QFrame.Shape.NoFrame)
        how = QLabel(
            tr("An underlined key can be changed: press it, or search for it and press Enter.")
        )
        how.setObjectName("quiet")
        column.addWidget(how)
        column.addWidget(self.catcher)
        column.addWidget(self._area, 1)

    def serve(self, keys: KeysInHand) -> None:
        """Let the keys of the window be changed here."""
        self._keys = keys

    def _keys_changed(self) -> None:
        self._fill()
        self.search.setFocus()

    def open_for(self, page: str) -> None:
        """Show the keys, those of a page first, and put the cursor into the search."""
        self._page = page
        self.search.clear()
        self._fill()
        self.search.setFocus()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Set the groups in as many columns as there is room for."""
        super().resizeEvent(event)
        self._fill()

    @property
    def shown(self) -> dict[str, tuple[tuple[str, str], ...]]:
        """The entries in sight, by group in their order."""
        hits = found(self.search.text())
        return {name: hits[name] for name in groups_for(self._page) if name in hits}

    def _fill(self) -> None:
        inner = QWidget()
        columns = max(1, (self.width() - 44) // px(_GROUP_WIDTH))
        row = QHBoxLayout(inner)
        row.setContentsMargins(0, 8, 0, 12)
        row.setSpacing(_GAP)
        stacks = [QVBoxLayout() for _ in range(columns)]
        heights = [0] * columns
        for name, entries in self.shown.items():
            at = heights.index(min(heights))
            stacks[at].addWidget(self._group(name, entries))
            heights[at] += len(entries) + 2
        for stack in stacks:
            stack.addStretch(1)
            row.addLayout(stack, 1)
        if not self.shown:
            stacks[0].insertWidget(0, QLabel(tr("No key does that. Try fewer letters.")))
        self._area.setWidget(inner)

    def _group(self, name: str, entries: tuple[tuple[str, str], ...]) -> QFrame:
        box = QFrame()
        box.setObjectName("card")
        grid = QGridLayout(box)
        grid.setContentsMargins(12, 8, 12, 10)
        grid.setVerticalSpacing(3)
        grid.setHorizontalSpacing(10)
        title = QLabel(TITLES[name])
        title.setObjectName("heading")
        grid.addWidget(title, 0, 0, 1, 2)
        uses = {use.usual: use for use in self._keys.uses(name)} if self._keys else {}
        for number, (key, what) in enumerate(entries, 1):
            keys, words = self._key_label(key, uses), QLabel(what)
            for label in (keys, words):
                label.setWordWrap(True)
                label.setAlignment(Qt.AlignmentFlag.AlignTop)
            grid.addWidget(keys, number, 0)
            grid.addWidget(words, number, 1)
        grid.setColumnStretch(0, 2)
        grid.setColumnStretch(1, 3)
        return box

    def _key_label(self, keys: str, uses: dict[str, Use]) -> QLabel:
        """Return the keys of an entry; those that can be changed are links."""
        label = QLabel(tr(keys))
        label.setObjectName("key")
        usual, words = keys.split(", "), tr(keys).split(", ")
        found = [uses.get(written(key)) for key in usual]
        if self._keys is None or not any(found) or len(usual) != len(words):
            return label
        dress = f"color: {theme().accent}"  # underlined, as colour alone would not tell
        pieces = []
        for use, word in zip(found, words, strict=True):
            shown = escape(self._shown(word, use))
            link = f'<a href="{escape(use.usual)}" style="{dress}">{shown}</a>' if use else shown
            pieces.append(link)
        label.setText(", ".join(pieces))
        label.setTextFormat(Qt.TextFormat.RichText)
        label.setTextInteractionFlags(
            Qt.TextInteractionFlag.LinksAccessibleByMouse
            | Qt.TextInteractionFlag.LinksAccessibleByKeyboard
        )
        label.setToolTip(tr("Press it to give this another key"))
        label.setAccessibleName(tr(keys))
        label.linkActivated.connect(lambda usual: self._ask_key(uses[usual]))
        return label

    def _shown(self, word: str, use: Use | None) -> str:
        """Return what is shown for a key: the wanted one, or both where the usual one stays."""
        own = self._keys.key(*use[:2]) if self._keys and use else ""
        if self._keys is None or use is None or own == use.usual:
            return word
        return f"{word} · {own}" if self._keys.stays(use) else own

    def _ask_first(self) -> None:
        """Ask for another key of the first thing in sight that can have one."""
        if self._keys is None or not self.search.text().strip():
            return
        for name, entries in self.shown.items():
            keys = {written(key) for line, _ in entries for key in line.split(", ")}
            use = next((use for use in self._keys.uses(name) if use.usual in keys), None)
            if use is not None:
                self._ask_key(use)
                return

    def _ask_key(self, use: Use) -> None:
        if self._keys is not None:
            self.catcher.ask(self._keys, use)

    # --- printing ---------------------------------------------------------------------------

    def _ask_print(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, tr("Print the keys"), str(Path(last_folder(), "keys.pdf")), tr("PDF (*.pdf)")
        )
        if name:
            # the dialog asked about the name as it was typed, not about one that gets a suffix
            is_whole = name.lower().endswith(".pdf")
            self.print_to(name if is_whole else f"{name}.pdf", replace=is_whole)

    def print_to(self, path: str, *, replace: bool = True) -> None:
        """Write all keys as a PDF of A4 pages."""
        made = QBuffer()
        made.open(QIODevice.OpenModeFlag.WriteOnly)
        writer = QPdfWriter(made)
        writer.setTitle(tr("Keys of Holoptic"))
        writer.setPageLayout(
            QPageLayout(QPageSize(QPageSize.PageSizeId.A4), QPageLayout.Orientation.Portrait,
                        QMarginsF(16, 14, 16, 14), QPageLayout.Unit.Millimeter)
        )  # fmt: skip
        document = QTextDocument()
        document.setDefaultFont(lettering(11))
        document.setHtml(keys_as_html(self._page))
        document.print(writer)
        try:
            write_atomically(Path(path), made.data().data(), replace=replace)
        except BadInput as error:
            self._tell(tr("Not printed: {error}", error=error))
            return
        self._tell(tr("Printed to {path}", path=name_of(path)))


def keys_as_html(page: str) -> str:
    """Return all keys as a page of HTML."""
    blocks = [f"<h2>{escape(tr('Keys of Holoptic'))}</h2>"]
    for name in groups_for(page):
        rows = "".join(
            f"<tr><td width='190'><b>{escape(tr(key))}</b></td><td>{escape(what)}</td></tr>"
            for key, what in KEYS[name]
        )
        blocks.append(f"<h3>{TITLES[name]}</h3><table cellspacing='2'>{rows}</table>")
    return "".join(blocks)
