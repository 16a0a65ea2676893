"""The window: a slim strip of pages, the views beside the page, a line of measures below.

Only Qt is imported here at first, so that the window is painted at once; `furnish` brings in
the pages and the core.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QObject, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QAction, QCloseEvent, QKeySequence, QShortcut
from PyQt6.QtWidgets import (
    QApplication,
    QButtonGroup,
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMenu,
    QSplitter,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.desk.icons import icon, pixmap
from holoptic.desk.notice import Notice
from holoptic.desk.theme import DARK, LIGHT, apply_theme, theme
from holoptic.errors import BadInput, HolopticError

if TYPE_CHECKING:
    from holoptic.desk.pages.carve import CarvePage
    from holoptic.desk.pages.draw import DrawPage
    from holoptic.desk.pages.picture import PicturePage
    from holoptic.desk.session import Session

    Page = CarvePage | PicturePage | DrawPage

PAGE_TITLES = {"carve": "Carve", "picture": "Picture", "draw": "Draw"}
_JOB_FILTER = "Holoptic jobs (*.holoptic);;STEP files (*.step *.stp)"
_EXPORTS = {
    "picture": "Picture (*.svg *.pdf *.png *.json)",
    "views": "Views (*.svg *.pdf *.png)",
    "plan": "Plan (*.json *.csv *.txt)",
}


class DeskWindow(QMainWindow):
    """The desk.

    Signals:
        first_painted: the window stands on the screen for the first time.
    """

    first_painted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle("Holoptic")
        self.setWindowIcon(icon("mark", "#0c6b5c"))
        self.setMinimumSize(900, 600)
        self._painted = False
        self._buttons: dict[str, QToolButton] = {}
        body = QWidget()
        body.setObjectName("body")
        self._column = QVBoxLayout(body)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(0)
        self._column.addWidget(self._make_strip())
        self.trouble = Notice("notice")
        self.hint = Notice("hint")
        self._column.addWidget(self.trouble)
        self._column.addWidget(self.hint)
        self._room = QWidget()
        self._column.addWidget(self._room, 1)
        self._column.addWidget(self._make_footer())
        self.setCentralWidget(body)

    # --- the frame, before anything else is loaded ------------------------------------------

    def _make_strip(self) -> QWidget:
        strip = QWidget()
        strip.setObjectName("strip")
        strip.setFixedHeight(46)
        row = QHBoxLayout(strip)
        row.setContentsMargins(12, 0, 8, 0)
        row.setSpacing(4)
        mark = QLabel()
        mark.setPixmap(pixmap("mark", 26, "#0c6b5c"))
        row.addWidget(mark)
        self.parts = QComboBox()
        self.parts.setAccessibleName("part on the desk")
        self.parts.setToolTip("Part on the desk (Ctrl+PgUp, Ctrl+PgDown)")
        self.parts.setMinimumWidth(190)
        row.addWidget(self.parts)
        row.addSpacing(18)
        self._pages = QButtonGroup(self)
        for number, (name, title) in enumerate(PAGE_TITLES.items(), 1):
            button = QToolButton()
            button.setObjectName("page")
            button.setText(title)
            button.setCheckable(True)
            button.setToolTip(f"{title} (F{number + 1})")
            button.setFixedHeight(45)
            button.clicked.connect(lambda _=False, name=name: self.show_page(name))
            QShortcut(f"F{number + 1}", self).activated.connect(button.click)
            self._pages.addButton(button)
            self._buttons[name] = button
            row.addWidget(button)
        row.addStretch(1)
        self._tools = row
        strip.installEventFilter(self)
        return strip

    def _make_footer(self) -> QWidget:
        footer = QWidget()
        footer.setObjectName("footer")
        footer.setFixedHeight(26)
        row = QHBoxLayout(footer)
        row.setContentsMargins(14, 0, 14, 0)
        self.measures = QLabel("Getting the bench ready …")
        self.work = QLabel()
        self.work.setObjectName("quiet")
        row.addWidget(self.measures, 1)
        row.addWidget(self.work)
        return footer

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Tell of the first paint; the strip is watched, as the window itself is all covered."""
        if event is not None and event.type() == QEvent.Type.Paint and not self._painted:
            self._painted = True
            self.first_painted.emit()
        return super().eventFilter(watched, event)

    # --- furnishing -------------------------------------------------------------------------

    def furnish(self) -> None:
        """Bring in the session and the pages."""
        from holoptic.desk.facts_slip import FactsSlip  # noqa: PLC0415
        from holoptic.desk.pages.carve import CarvePage  # noqa: PLC0415
        from holoptic.desk.pages.draw import DrawPage  # noqa: PLC0415
        from holoptic.desk.pages.picture import PicturePage  # noqa: PLC0415
        from holoptic.desk.panes import ViewsPane  # noqa: PLC0415
        from holoptic.desk.session import Session  # noqa: PLC0415

        self.session: Session = Session(self)
        self.views = ViewsPane(self.session)
        self.pages: dict[str, Page] = {
            "carve": CarvePage(self.session),
            "picture": PicturePage(self.session),
            "draw": DrawPage(self.session, self.views),
        }
        self._stack = QStackedWidget()
        for page in self.pages.values():
            self._stack.addWidget(page)
        left = QWidget()
        under_each_other = QVBoxLayout(left)
        under_each_other.setContentsMargins(0, 0, 0, 0)
        under_each_other.setSpacing(0)
        under_each_other.addWidget(self.views, 1)
        under_each_other.addWidget(FactsSlip(self.session))
        splitter = QSplitter(Qt.Orientation.Horizontal)
        splitter.setHandleWidth(5)
        splitter.addWidget(left)
        splitter.addWidget(self._stack)
        splitter.setStretchFactor(0, 0)
        splitter.setStretchFactor(1, 1)
        splitter.setSizes([400, 880])
        self._column.replaceWidget(self._room, splitter)
        self._room.deleteLater()
        self._connect()
        self.show_page("carve")

    def _connect(self) -> None:
        session = self.session
        session.job_changed.connect(self._show_job)
        session.trouble_changed.connect(self._show_trouble)
        session.selection_changed.connect(self._show_measures)
        session.picture_changed.connect(self._show_measures)
        session.busy_changed.connect(self._show_busy)
        session.told.connect(lambda text: self.hint.say(text, {"Close": self._quiet_hint}))
        self.parts.activated.connect(session.choose_part)
        self._busy_timer = QTimer(self)
        self._busy_timer.setSingleShot(True)
        self._busy_timer.timeout.connect(self._say_busy)
        self._add_tools()

    def _add_tools(self) -> None:
        session = self.session
        self._actions: dict[str, QAction] = {}
        for name, tip, keys, run in (
            ("undo", "Undo", "Ctrl+Z", session.undo),
            ("redo", "Redo", "Ctrl+Shift+Z", session.redo),
            ("new", "New part or job", "", self._show_new_menu),
            ("open", "Open", "Ctrl+O", self.ask_open),
            ("save", "Save", "Ctrl+S", self.save),
            ("export", "Export", "Ctrl+E", self._show_export_menu),
            ("look", "Light or dark desk", "Ctrl+L", self.swap_theme),
            ("keys", "Keys", "F1", self.show_keys),
        ):
            button = QToolButton()
            action = QAction(icon(name), tip, self)
            if keys:
                action.setShortcut(QKeySequence(keys))
            action.setToolTip(f"{tip} ({keys})" if keys else tip)
            action.triggered.connect(lambda _=False, run=run: run())
            button.setDefaultAction(action)
            button.setIconSize(QSize(22, 22))
            self._tools.addWidget(button)
            self._actions[name] = action
            self._buttons[name] = button
        for keys, run in (
            ("Ctrl+Shift+S", self.save_as), ("Ctrl+N", self.new_part),
            ("Ctrl+Shift+N", self.new_job), ("Ctrl+PgDown", lambda: self._step_part(1)),
            ("Ctrl+PgUp", lambda: self._step_part(-1)), ("Ctrl+0", self._fit),
        ):  # fmt: skip
            QShortcut(keys, self).activated.connect(run)

    # --- pages ------------------------------------------------------------------------------

    def show_page(self, name: str) -> None:
        """Go to a page."""
        self._buttons[name].setChecked(True)
        page = self.pages[name]
        self._stack.setCurrentWidget(page)
        self.views.show_lift(None)
        page.refresh()
        page.setFocus()

    @property
    def page(self) -> str:
        """The name of the page shown."""
        shown = self._stack.currentWidget()
        return next(name for name, page in self.pages.items() if page is shown)

    @property
    def is_busy(self) -> bool:
        """Whether something is still being worked out."""
        return self.session.kernel.is_busy

    # --- files ------------------------------------------------------------------------------

    def open_first(self, path: Path | None, *, demo: bool = False, page: str | None = None) -> None:
        """Open what the command line named, else the last job; offer recovered work."""
        from holoptic.exchange.job_file import read_job  # noqa: PLC0415
        from holoptic.exchange.safekeeping import recent_files  # noqa: PLC0415

        if demo and path is not None:
            self.session.replace_job(read_job(path), None)
        elif path is not None:
            self._open(path)
        else:
            recent = recent_files()
            if recent:
                self._open(recent[0])
            else:
                self.session.clear()
        if page is not None:
            self.show_page(page)
        self._offer_recovery()

    def _open(self, path: Path) -> None:
        try:
            self.session.open_file(path)
        except BadInput as error:
            self.hint.say(str(error), {"Close": self._quiet_hint})

    def ask_open(self) -> None:
        """Ask for a file, with the recent ones at hand."""
        from holoptic.exchange.safekeeping import recent_files  # noqa: PLC0415

        menu = QMenu(self)
        menu.addAction("Choose a file …", self._choose_file)
        for path in recent_files():
            menu.addAction(path.name, lambda path=path: self._leave_then(lambda: self._open(path)))
        self._pop_up(menu, "open")

    def _choose_file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open", "", _JOB_FILTER)
        if name:
            self._leave_then(lambda: self._open(Path(name)))

    def save(self) -> None:
        """Save the job to its file, or ask for one."""
        if self.session.path is None:
            self.save_as()
        else:
            self._save_to(self.session.path)

    def save_as(self) -> None:
        """Ask for a file and save the job there."""
        name, _ = QFileDialog.getSaveFileName(self, "Save as", "", "Holoptic jobs (*.holoptic)")
        if name:
            path = Path(name)
            self._save_to(path if path.suffix else path.with_suffix(".holoptic"))

    def _save_to(self, path: Path) -> None:
        try:
            self.session.save(path)
        except BadInput as error:
            self.hint.say(f"Not saved: {error}", {"Save elsewhere": self.save_as})
            return
        self.hint.say(f"Saved as {path.name}", {"Close": self._quiet_hint})
        QTimer.singleShot(2500, self._quiet_hint)

    def new_part(self) -> None:
        """Put a new block into the job."""
        from holoptic.job import JobPart  # noqa: PLC0415
        from holoptic.part.starters import new_part  # noqa: PLC0415

        job = self.session.job
        part = new_part(f"part {len(job.parts) + 1}", job.unit)
        self.session.edit(job.with_added(JobPart(part)), f"new {part.name}")
        self.session.choose_part(len(job.parts))
        self.show_page("carve")

    def new_job(self) -> None:
        """Clear the desk for another job."""
        self._leave_then(self.session.clear)

    def remove_part(self) -> None:
        """Take the part on the desk out of the job; undo brings it back."""
        part = self.session.job_part
        if part is not None:
            job = self.session.job.without(self.session.part_index)
            self.session.edit(job, f"remove {part.source.name}")

    def _show_new_menu(self) -> None:
        menu = QMenu(self)
        menu.addAction("New part in this job\tCtrl+N", self.new_part)
        menu.addAction("Remove the part on the desk", self.remove_part)
        menu.addAction("Rename the part on the desk", self._rename_part)
        menu.addAction("Number the part on the desk", self._number_part)
        menu.addSeparator()
        for unit in self.session.units:
            action = menu.addAction(f"Lengths in {unit.title}")
            if action is not None:
                action.setCheckable(True)
                action.setChecked(unit is self.session.job.unit)
                action.triggered.connect(lambda _=False, unit=unit: self.session.use_unit(unit))
        menu.addSeparator()
        menu.addAction("Rename the job", self._rename_job)
        menu.addAction("New job\tCtrl+Shift+N", self.new_job)
        self._pop_up(menu, "new")

    def _rename_part(self) -> None:
        part = self.session.job_part
        if part is not None:
            self._ask_name(part.source.name, self.session.rename_part)

    def _number_part(self) -> None:
        part = self.session.job_part
        if part is not None:
            self._ask_name(part.source.number, self.session.number_part)

    def _rename_job(self) -> None:
        self._ask_name(self.session.job.name, self.session.rename_job)

    def _ask_name(self, old: str, take: Callable[[str], None]) -> None:
        """Let the part's field take a name for a moment, in place of a dialog."""
        self.parts.setEditable(True)
        line = self.parts.lineEdit()
        if line is None:
            return
        line.setText(old)
        line.selectAll()
        line.setFocus()

        def done() -> None:
            name = line.text().strip()
            self.parts.setEditable(False)
            if name:
                take(name)
            self._show_job()

        line.editingFinished.connect(done)

    def _show_export_menu(self) -> None:
        menu = QMenu(self)
        menu.addAction("Save the job as …\tCtrl+Shift+S", self.save_as)
        menu.addSeparator()
        for what in _EXPORTS:
            menu.addAction(f"Export the {what} …", lambda what=what: self.ask_export(what))
        self._pop_up(menu, "export")

    def ask_export(self, what: str) -> None:
        """Ask for a file and export the picture, the views or the plan to it."""
        name, _ = QFileDialog.getSaveFileName(self, f"Export the {what}", "", _EXPORTS[what])
        if name:
            self.export(what, Path(name))

    def export(self, what: str, path: Path) -> None:
        """Write the picture, the views or the plan by the suffix of `path`."""
        from holoptic.desk.export import export  # noqa: PLC0415

        try:
            export(self.session, what, path)
        except HolopticError as error:
            self.hint.say(f"Not exported: {error}", {"Close": self._quiet_hint})
            return
        self.hint.say(f"Exported {path.name}", {"Close": self._quiet_hint})

    def _leave_then(self, go: Callable[[], None]) -> None:
        """Leave the present job for another, unless it has edits that are not saved."""
        if self.session.history.is_saved or not self.session.job.parts:
            go()
            return

        def anyway() -> None:
            self._quiet_hint()
            go()

        def save_first() -> None:
            self.save()
            if self.session.history.is_saved:
                anyway()

        self.hint.say(
            "This job has edits that are not saved.",
            {"Save and go on": save_first, "Go on without": anyway, "Stay": self._quiet_hint},
        )

    def _offer_recovery(self) -> None:
        from holoptic.exchange.safekeeping import forget, left_behind  # noqa: PLC0415

        found = left_behind()
        if not found:
            return
        item = found[0]

        def take() -> None:
            self.session.replace_job(item.job, item.path, unsaved=True)
            forget(item.kept)
            self._quiet_hint()

        def drop() -> None:
            forget(item.kept)
            self._quiet_hint()

        self.hint.say(
            f"Work on “{item.job.name}” was not saved when Holoptic last ended.",
            {"Bring it back": take, "Discard it": drop},
        )

    # --- showing ----------------------------------------------------------------------------

    def _show_job(self) -> None:
        session = self.session
        names = [part.source.name for part in session.job.parts]
        if [self.parts.itemText(i) for i in range(self.parts.count())] != names:
            self.parts.clear()
            self.parts.addItems(names)
        self.parts.setCurrentIndex(session.part_index if names else -1)
        saved = "" if session.history.is_saved else " •"
        self.setWindowTitle(f"{session.job.name}{saved} – Holoptic")
        undo, redo = session.history.undo_text, session.history.redo_text
        self._actions["undo"].setEnabled(undo is not None)
        self._actions["redo"].setEnabled(redo is not None)
        self._actions["undo"].setToolTip(f"Undo: {undo} (Ctrl+Z)")
        self._actions["redo"].setToolTip(f"Redo: {redo} (Ctrl+Shift+Z)")

    def _show_trouble(self) -> None:
        trouble = self.session.trouble
        if trouble is None:
            self.trouble.say("")
            return
        still = " The last good picture stays." if self.session.picture else ""
        actions = {"Undo": self.session.undo} if self.session.history.undo_text else {}
        self.trouble.say(f"{trouble[0].upper()}{trouble[1:]}.{still}", actions)

    def _show_measures(self) -> None:
        from holoptic.desk.measures import measure_line  # noqa: PLC0415

        self.measures.setText(measure_line(self.session))

    def _show_busy(self, working: bool) -> None:
        if working:
            self._busy_timer.start(400)
        else:
            self._busy_timer.stop()
            self.work.setText("")
            if self.hint.text.startswith(_WORKING):
                self._quiet_hint()

    def _say_busy(self) -> None:
        self.hint.say(_WORKING, {"Stop": self.session.kernel.stop})

    def _quiet_hint(self) -> None:
        self.hint.say("")

    def show_keys(self) -> None:
        """Show the map of keys in place."""
        self.hint.say(KEYS, {"Close": self._quiet_hint})

    def swap_theme(self) -> None:
        """Change between the light and the dark desk."""
        app = QApplication.instance()
        if isinstance(app, QApplication):
            apply_theme(app, LIGHT if theme() is DARK else DARK)
            for name, action in self._actions.items():
                action.setIcon(icon(name))

    def _fit(self) -> None:
        from holoptic.desk.canvas import Canvas  # noqa: PLC0415

        for pane in self.findChildren(Canvas):
            pane.fit()

    def _step_part(self, way: int) -> None:
        self.session.choose_part(self.session.part_index + way)

    def _pop_up(self, menu: QMenu, name: str) -> None:
        button = self._buttons[name]
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(button.mapToGlobal(button.rect().bottomLeft()))

    # --- leaving ----------------------------------------------------------------------------

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Ask in place before edits would be lost."""
        if event is None or not hasattr(self, "session"):
            return
        if self.session.history.is_saved or not self.session.job.parts:
            event.accept()
            return
        event.ignore()
        self._leave_then(self._close_anyway)

    def _close_anyway(self) -> None:
        self.session.history.mark_saved()
        self.close()

    def close_down(self) -> None:
        """End the worker and drop the safety copy."""
        if hasattr(self, "session"):
            self.session.close()


_WORKING = "Working out the solid …"

KEYS = (
    "F2 Carve · F3 Picture · F4 Draw · Ctrl+PgUp/PgDn other part · Ctrl+0 fit · "
    "Ctrl+Z undo · Ctrl+Shift+Z redo · Ctrl+N new part · Ctrl+O open · Ctrl+S save · "
    "Ctrl+Shift+S save as · Ctrl+E export · Ctrl+L light or dark.  "
    "Carve: Alt+C cut, Alt+A add, Alt+H hole, Alt+B boss, Alt+Up/Down order, Alt+Del remove.  "
    "Picture: 1 to 7.  Draw: space next move, back undo, Home, End, PgUp/PgDn by phase."
)
