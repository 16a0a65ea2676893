"""The window: a slim strip of pages, the views beside the page, a line of measures below.

Only Qt is imported here at first, so that the window is painted at once; `furnish` brings in
the pages and the core.
"""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6 import sip
from PyQt6.QtCore import QEvent, QObject, QPoint, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QAction,
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QKeyEvent,
    QKeySequence,
    QResizeEvent,
    QShortcut,
)
from PyQt6.QtWidgets import (
    QApplication,
    QButtonGroup,
    QComboBox,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMenu,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from holoptic.catalogue import tr
from holoptic.desk.application.window_place import remember
from holoptic.desk.look.icons import icon, pixmap, renew_icons
from holoptic.desk.look.preferences import choose
from holoptic.desk.look.theme import DARK, LIGHT, SIGN, apply_theme, px, theme
from holoptic.desk.widgets.menus import give_mnemonics, open_under
from holoptic.desk.widgets.notice import Bars, Notice, sentence
from holoptic.desk.widgets.pressed import show_down
from holoptic.desk.widgets.reader import describe_choices, tell_reader
from holoptic.diagnostics import forget_faults
from holoptic.quoting import one_line

PAGE_TITLES = {
    "read": tr("Read"),
    "carve": tr("Carve"),
    "picture": tr("Picture"),
    "spread": tr("Spread"),
    "sheet": tr("Sheet"),
    "draw": tr("Draw"),
    "check": tr("Check"),
    "register": tr("Register"),
    "practice": tr("Practice"),
}

_PAGE_KEYS = ("F2", "F3", "F4", "F5", "F6", "F7", "F9", "F10", "F11")
"""Of the pages in their order; F8 was that of the views before there were so many."""
_WITHOUT_VIEWS = ("read", "check", "register", "practice")
_NAME_ROOM, _LEAST_NAME_ROOM, _LAST_NAME_ROOM = 110, 56, 46
"""Pixels for the name of the part on the desk."""
_SPARE = 8
"""Pixels that the layout does not tell of: the frame about a field in focus."""
_SMALL_PAGES = 9
"""Size of the pages' names, in pixels, where nothing else is left to give."""


class DeskWindow(QMainWindow):
    """The desk.

    Signals:
        first_painted: the window stands on the screen for the first time.
        closed: it was closed, its work saved or given up.
        tour_asked(page): a tour of a page is wanted, in a window of its own.
    """

    first_painted = pyqtSignal()
    closed = pyqtSignal()
    tour_asked = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle(tr("Holoptic"))
        self.setWindowIcon(icon("mark", SIGN))
        self.setMinimumSize(720, 480)
        self.setAcceptDrops(True)
        self._painted = False
        self._buttons: dict[str, QToolButton] = {}
        body = QWidget()
        body.setObjectName("body")
        self._column = QVBoxLayout(body)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(0)
        self._column.addWidget(self._make_strip())
        self.trouble = Notice("notice")
        self.question = Notice("question")
        self.hint = Notice("hint")
        self._bars = Bars(body, [self.question, self.trouble, self.hint], self._room_for_bars)
        self._room = QWidget()
        self._column.addWidget(self._room, 1)
        self._column.addWidget(self._make_footer())
        self.setCentralWidget(body)

    # --- the frame, before anything else is loaded ------------------------------------------

    def _make_strip(self) -> QWidget:
        strip = QWidget()
        strip.setObjectName("strip")
        strip.setFixedHeight(px(50))
        row = QHBoxLayout(strip)
        row.setContentsMargins(12, 0, 8, 0)
        row.setSpacing(4)
        self._mark = QLabel()
        self._mark.setPixmap(pixmap("mark", 26, SIGN))
        row.addWidget(self._mark)
        self.parts = QComboBox()
        self.parts.setAccessibleName(tr("part on the desk"))
        self.parts.setToolTip(tr("Part on the desk (Ctrl+PgUp, Ctrl+PgDown)"))
        self.parts.setMinimumWidth(px(_NAME_ROOM))
        self.parts.setMaximumWidth(px(230))
        self.parts.setMinimumContentsLength(3)
        self.parts.setProperty("may_be_cut", True)  # the list and the tip have long names whole
        row.addWidget(self.parts, 8)
        row.addSpacing(8)
        self._pages = QButtonGroup(self)
        for key, (name, title) in zip(_PAGE_KEYS, PAGE_TITLES.items(), strict=True):
            button = QToolButton()
            button.setObjectName("page")
            button.setText(title)
            button.setCheckable(True)
            button.setEnabled(False)  # there is no page to go to before the window is furnished
            button.setToolTip(f"{title} ({key})")
            button.setFixedHeight(px(49))
            button.clicked.connect(lambda _=False, name=name: self.show_page(name))
            button.toggled.connect(partial(self._toggled, name))
            QShortcut(key, self).activated.connect(button.click)
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
        footer.setFixedHeight(px(26))
        row = QHBoxLayout(footer)
        row.setContentsMargins(14, 0, 14, 0)
        self.measures = QLabel(tr("Getting the bench ready …"))
        self.work = QLabel()
        self.work.setObjectName("quiet")
        self.work.setProperty("may_be_cut", True)  # how far work is changes by the moment
        self.stop = QToolButton()
        self.stop.setObjectName("footer")
        self.stop.setText(tr("Stop"))
        self.stop.setFixedHeight(max(px(24), 24))
        self.stop.setToolTip(tr("Stop what is being worked out"))
        self.stop.hide()
        # words that find no room are in the tip, they must not push the window wide
        self.measures.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.measures.setProperty("may_be_cut", True)
        row.addWidget(self.measures, 1)
        row.addWidget(self.work)
        row.addWidget(self.stop)
        return footer

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Tell of the first paint; the strip is watched, as the window itself is all covered."""
        if event is not None and event.type() == QEvent.Type.Paint and not self._painted:
            self._painted = True
            self.first_painted.emit()
        return super().eventFilter(watched, event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Take a key that nothing in the window took, where it stands for another one."""
        is_second = (
            hasattr(self, "session") and event is not None and self._furniture.take_key(event)
        )
        if not is_second:
            super().keyPressEvent(event)

    # --- furnishing -------------------------------------------------------------------------

    def furnish(self) -> None:
        """Bring in the session and the pages."""
        from holoptic.desk.application.furniture import Furniture  # noqa: PLC0415

        furniture = Furniture(self, self.parts, self.hint, self.question)
        self._furniture = furniture
        self.session, self.views, self.pages = furniture.session, furniture.views, furniture.pages
        self.filing, self.part_menu = furniture.filing, furniture.part_menu
        self._stack = furniture.stack
        self.invitation, self.key_sheet = furniture.invitation, furniture.key_sheet
        self.first_steps = furniture.first_steps
        self._column.replaceWidget(self._room, room := furniture.room)
        self._room.deleteLater()
        self._room = room
        self._column.insertWidget(self._column.count() - 1, furniture.first_steps)
        for name in PAGE_TITLES:
            self._buttons[name].setEnabled(True)
        self._connect()
        furniture.fit(self.width(), self.height())
        describe_choices(self)
        furniture.bind_keys(self)
        self._column.insertWidget(self._column.count() - 1, furniture.tour)
        self.show_page("carve")

    def _connect(self) -> None:
        session = self.session
        session.document.changed.connect(self._show_job)
        session.answers.trouble_changed.connect(self._show_trouble)
        session.selection.changed.connect(self._tell_measures)
        session.walk.moved.connect(self._tell_move)
        session.answers.picture_changed.connect(self._show_measures)
        session.readings.sheet_changed.connect(self._show_measures)
        session.busy_changed.connect(self._show_busy)
        session.told.connect(self.hint.tell)
        session.document.file.asked_for.connect(self._come_forward)
        session.kernel.told.connect(self._show_progress)
        session.document.part_begun.connect(self._carve_new_part)
        self.parts.activated.connect(session.document.choose_part)
        self._busy_timer = QTimer(self)
        self._busy_timer.setSingleShot(True)
        self._busy_timer.timeout.connect(self._say_busy)
        self.stop.clicked.connect(session.kernel.stop)
        self._add_tools()
        QTimer.singleShot(0, self._fit_strip)  # hidden buttons claim no room yet

    def _add_tools(self) -> None:
        session = self.session
        self._actions: dict[str, QAction] = {}
        for name, tip, keys, run in (
            ("undo", tr("Undo"), "Ctrl+Z", session.document.undo),
            ("redo", tr("Redo"), "Ctrl+Shift+Z", session.document.redo),
            ("new", tr("New part or job"), "Alt+N", lambda: self._pop_up(self._new_menu(), "new")),
            ("open", tr("Open"), "Ctrl+O", lambda: self._pop_up(self.filing.open_menu(), "open")),
            ("save", tr("Save"), "Ctrl+S", self.filing.save),
            ("export", tr("Export"), "Ctrl+E", self._pop_up_exports),
            ("look", tr("Light or dark desk"), "Ctrl+L", self.swap_theme),
            ("keys", tr("Keys"), "F1", self.show_keys),
        ):
            button = QToolButton()
            button.setObjectName("tool")
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextUnderIcon)
            action = QAction(icon(name), tip, self)
            action.setIconText(_TOOL_WORDS.get(name, tip))
            if keys:
                action.setShortcut(QKeySequence(keys))
            action.setToolTip(f"{tip} ({keys})" if keys else tip)
            action.triggered.connect(lambda _=False, run=run: run())
            button.setDefaultAction(action)
            button.setIconSize(QSize(px(20), px(20)))
            self._tools.addWidget(button)
            self._actions[name] = action
            self._buttons[name] = button
        for keys, run in (
            ("Ctrl+Shift+S", self.filing.save_as), ("Ctrl+P", self.filing.ask_print),
            ("Ctrl+Shift+P", self.filing.ask_print_all),
            ("Ctrl+N", self.part_menu.new_part),
            ("Ctrl+Shift+N", self.filing.new_job), ("Ctrl+PgDown", lambda: self._step_part(1)),
            ("Ctrl+PgUp", lambda: self._step_part(-1)), ("Ctrl+0", self._fit),
            ("F8", self._furniture.widen_views),
            ("Ctrl+Shift+C", self.filing.take_along.copy_shown),
            ("Shift+F1", self._show_guide), ("Ctrl+F1", self._furniture.explain),
            ("F12", self._take_tour), ("Shift+F12", self._furniture.leave_tour),
            ("Ctrl+,", self._furniture.show_settings), ("Ctrl+K", self._furniture.finder.open),
        ):  # fmt: skip
            QShortcut(keys, self).activated.connect(run)

        self.filing.take_along.serve(self._buttons["export"], lambda: self.page)

    def _take_tour(self) -> None:
        """Go on with the tour here, or ask for one of the page in hand."""
        if self._furniture.tour.is_under_way:
            self._furniture.tour.go_on()
        else:
            self.tour_asked.emit(self.page)

    def begin_tour(self, page: str) -> None:
        """Lead through a page, on a job of the demo that takes the place of what is here."""
        self._furniture.begin_tour(self, page)

    def _pop_up_exports(self) -> None:
        self._pop_up(self.filing.export_menu(), "export")

    # --- pages ------------------------------------------------------------------------------

    def show_page(self, name: str) -> None:
        """Go to a page."""
        self._furniture.show_keys_of(None)
        show_down(self._buttons[name], True)
        page = self.pages[name]
        self._stack.setCurrentWidget(page)
        # on these the views given, the sheet that was drawn or the list take their place
        self._furniture.left.setVisible(name not in _WITHOUT_VIEWS)
        self.views.show_lift(None)
        self._furniture.facts.show_plan(name == "draw")
        self.views.show_sizes_of(name == "carve")
        self.session.answers.show_views_apart(name == "draw")
        page.refresh()
        self._show_measures()
        page.setFocus()
        self._furniture.follow()
        self._bars.fit()

    def _toggled(self, name: str, down: bool) -> None:
        """Follow a screen reader, which puts a button down without clicking it."""
        if down:
            QTimer.singleShot(0, partial(self._go_unless_there, name))

    def _go_unless_there(self, name: str) -> None:
        if not sip.isdeleted(self) and hasattr(self, "session") and self.page != name:
            self.show_page(name)

    @property
    def page(self) -> str:
        """The name of the page shown."""
        return self._furniture.page

    def open_first(self, path: Path | None, *, demo: bool = False, page: str | None = None) -> None:
        """Open what the command line named, else the last job; offer recovered work."""
        self.filing.open_first(path, demo=demo)
        if page is not None:
            self.show_page(page)
        self.filing.offer_recovery()

    @property
    def is_busy(self) -> bool:
        """Whether something is still being worked out."""
        session = self.session
        at_work = session.answers, session.loader, session.checks, session.practice
        return any(one.is_busy for one in at_work)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the bars over the panes."""
        super().resizeEvent(event)
        self._fit_strip()
        if hasattr(self, "session"):
            self._furniture.fit(self.width(), self.height())
        QTimer.singleShot(0, self._bars.fit)  # the layout comes first

    def _fit_strip(self) -> None:
        """Leave out what does not fit: the words under the tools, then room about the pages and for
        the name of the part, last our mark.
        """
        strip = None if sip.isdeleted(self) else self._tools.parentWidget()
        if strip is None:
            return
        under = Qt.ToolButtonStyle.ToolButtonTextUnderIcon
        bare = Qt.ToolButtonStyle.ToolButtonIconOnly
        tight = "padding: 6px 6px;"
        tightest = f"padding: 6px 2px; font-size: {px(_SMALL_PAGES)}px;"
        for style, dress, name_room in (
            (under, "", _NAME_ROOM), (bare, "", _NAME_ROOM), (bare, tight, _NAME_ROOM),
            (bare, tight, _LEAST_NAME_ROOM), (bare, tightest, _LAST_NAME_ROOM),
        ):  # fmt: skip
            self.parts.setMinimumWidth(px(name_room))
            self._mark.setVisible(dress != tightest)
            for button in strip.findChildren(QToolButton):
                if button.objectName() == "tool":
                    button.setToolButtonStyle(style)
                elif button.styleSheet() != dress:
                    button.setStyleSheet(dress)
            self._tools.invalidate()
            if self._tools.minimumSize().width() + px(_SPARE) <= self.width():
                return

    def _room_for_bars(self) -> tuple[int, int, int]:
        """Return the top of the panes, up to the column of the page: left, top, width."""
        if sip.isdeleted(self):  # the bars may outlive the window by a moment
            return 0, 0, 0
        left, width = 0, self.width()
        if hasattr(self, "session") and (column := self.pages[self.page].column).isVisible():
            beside = column.mapTo(self, QPoint(0, 0)).x()
            if self.isRightToLeft():
                left = beside + column.width()
                width -= left
            else:
                width = beside
        return left, self._room.y(), width

    # --- showing ----------------------------------------------------------------------------

    def _show_job(self) -> None:
        session = self.session
        self._furniture.follow()
        job = session.document.job
        names = [job.title_of(subject) for subject in session.document.subjects]
        if [self.parts.itemText(i) for i in range(self.parts.count())] != names:
            self.parts.clear()
            self.parts.addItems(names)
        self.parts.setCurrentIndex(session.document.part_index if names else -1)
        saved = "" if session.document.history.is_saved else " •"
        if session.document.file.is_read_only:
            saved += " " + tr("(read only)")
        self.setWindowTitle(f"{one_line(session.document.job.name, 80)}{saved} – Holoptic")
        undo, redo = session.document.history.undo_text, session.document.history.redo_text
        self._actions["undo"].setEnabled(undo is not None)
        self._actions["redo"].setEnabled(redo is not None)
        self._actions["undo"].setToolTip(
            tr("Undo: {edit} (Ctrl+Z)", edit=undo) if undo else tr("Undo (Ctrl+Z)")
        )
        self._actions["redo"].setToolTip(
            tr("Redo: {edit} (Ctrl+Shift+Z)", edit=redo) if redo else tr("Redo (Ctrl+Shift+Z)")
        )

    def _show_trouble(self) -> None:
        trouble = self.session.answers.trouble
        if trouble is None:
            self._show_left_out()
            return
        still = " " + tr("The last good picture stays.") if self.session.answers.picture else ""
        actions = (
            {tr("Try again"): self.session.answers.ask}
            if self.session.answers.can_try_again
            else {}
        )
        if self.session.document.history.undo_text:
            actions[tr("Undo")] = self.session.document.undo
        self.trouble.say(f"{sentence(trouble)}.{still}", actions)

    def _show_left_out(self) -> None:
        """Say which operations could not be made; the picture shows the part without them."""
        troubles = list(self.session.answers.troubles.values())
        if not troubles:
            self.trouble.say("")
            return
        more = (
            " " + tr("And {troubles} more.", troubles=len(troubles) - 1)
            if len(troubles) > 1
            else ""
        )
        actions = (
            {tr("Undo"): self.session.document.undo}
            if self.session.document.history.undo_text
            else {}
        )
        self.trouble.say(
            tr(
                "{sentence}. It is left out of the picture.{more}",
                sentence=sentence(troubles[0]),
                more=more,
            ),
            actions,
        )

    def _show_measures(self) -> None:
        words = self._furniture.measures()
        self.measures.setText(words)
        self.measures.setToolTip(words)

    def _tell_measures(self) -> None:
        """Show what is known of the line in hand, and tell it to who does not see it."""
        self._show_measures()
        if self.session.selection.edge is not None and self.session.selection.hovered is None:
            tell_reader(self.measures.text())

    def _tell_move(self) -> None:
        move = self.session.walk.move
        if self.page == "draw":
            unit = self.session.document.unit
            tell_reader(move.said(unit) if move is not None else tr("The drawing is done."))

    def _show_busy(self, working: bool) -> None:
        if working:
            self._busy_timer.start(400)
        else:
            self._busy_timer.stop()
            self.work.setText("")
            self.stop.hide()

    def _say_busy(self) -> None:
        """Say in the footer that something takes long: there it pushes no pane about."""
        self.work.setText(_WORKING)
        self.stop.show()

    def _show_progress(self, progress: object) -> None:
        if self.stop.isVisible():
            self.work.setText(f"{_WORKING} {progress}")

    def show_keys(self) -> None:
        """Show the sheet of keys, or go back from it."""
        sheet = self._furniture.key_sheet
        self._furniture.show_keys_of(None if sheet.isVisible() else self._say_page())

    def _show_guide(self) -> None:
        """Open the guide where it speaks of what is in hand; it is written in English."""
        titles = {"begin": "The empty desk", "check": "Check", "register": "Register",
                  "practice": "Practice"}  # fmt: skip
        page = self._say_page()
        self._furniture.show_guide(titles.get(page, page.capitalize()))

    def offer_report(self) -> None:
        """Offer a report, where Holoptic did not end well before this start."""

        def show() -> None:
            self.hint.quiet()
            self._furniture.show_report()

        def leave() -> None:
            self.hint.quiet()
            forget_faults()

        self.hint.offer(
            tr("Holoptic did not end well last time. A report can help to mend that."),
            {tr("Show the report"): show, tr("Not now"): leave},
        )

    def swap_theme(self) -> None:
        """Change between the light and the dark desk."""
        app = QApplication.instance()
        if isinstance(app, QApplication):
            apply_theme(app, LIGHT if theme() is DARK else DARK)
            choose("theme", theme().name)
            for window in app.topLevelWidgets():
                if isinstance(window, DeskWindow):
                    window.take_theme()

    def take_theme(self) -> None:
        """Draw again what hangs on the colours of the desk."""
        if hasattr(self, "session"):
            for name, action in self._actions.items():
                action.setIcon(icon(name))
            renew_icons(self)
            self.pages["carve"].refresh()

    def _carve_new_part(self, wants_size: bool) -> None:
        self.show_page("carve")
        self._furniture.carve.begin_describing(wants_size)

    def _say_page(self) -> str:
        """Return the page in sight, `begin` for the empty desk."""
        return "begin" if self._furniture.is_empty else self.page

    def _fit(self) -> None:
        self._furniture.fit_panes(self)

    def _step_part(self, way: int) -> None:
        self.session.document.choose_part(self.session.document.part_index + way)

    def _new_menu(self) -> QMenu:
        menu = self.part_menu.menu()
        menu.addSeparator()
        menu.addAction(tr("New job\tCtrl+Shift+N"), self.filing.new_job)
        menu.addMenu(self.filing.template_menu())
        menu.addAction(tr("Keep this job as a template"), self.filing.keep_as_template)
        return menu

    def _pop_up(self, menu: QMenu, name: str) -> None:
        button = self._buttons[name]
        menu.aboutToHide.connect(menu.deleteLater)
        give_mnemonics(menu)
        self._furniture.keys.name_in_menu(menu)
        open_under(menu, button)

    # --- dropping ---------------------------------------------------------------------------

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """Take files and pictures, once there is a desk to put them on."""
        data = event.mimeData() if event is not None else None
        if event is None or data is None or not hasattr(self, "session"):
            return
        if data.hasImage() or any(url.isLocalFile() for url in data.urls()):
            _accept_copy(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Open the first file that is dropped, or check the picture."""
        data = event.mimeData() if event is not None else None
        if event is None or data is None:
            return
        _accept_copy(event)
        # a dialog or a question must not keep the program waiting from which it was dragged
        files = [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()]
        image = data.imageData()
        QTimer.singleShot(0, lambda: self._furniture.take_dropped(self, files, image))

    # --- leaving ----------------------------------------------------------------------------

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Ask in place before edits would be lost."""
        if event is None or not hasattr(self, "session"):
            return
        if self.session.document.history.is_saved or not self.session.document.job.parts:
            remember(self)
            event.accept()
            self.closed.emit()
            return
        event.ignore()
        self.filing.leave_then(self._close_anyway)

    def come_forward(self) -> None:
        """Come before all other windows."""
        self.setWindowState(self.windowState() & ~Qt.WindowState.WindowMinimized)
        self.raise_()
        self.activateWindow()

    def _come_forward(self) -> None:
        """Show the window to whoever asked for the job that it has open."""
        self.come_forward()
        self.hint.tell(tr("Here is the job that was asked for in another window."))

    def _close_anyway(self) -> None:
        self.session.document.history.mark_saved()  # whoever leaves has just been asked
        self.close()

    def close_down(self) -> None:
        """End the worker and drop the safety copy."""
        if hasattr(self, "session"):
            self.filing.take_along.close()
            self.session.close()


def _accept_copy(event: QDropEvent) -> None:
    """Accept what is dragged as a copy: who drags a file to be moved would take it away after."""
    if event.possibleActions() & Qt.DropAction.CopyAction:
        event.setDropAction(Qt.DropAction.CopyAction)
        event.accept()


_WORKING = tr("Working out the solid …")
_TOOL_WORDS = {"new": tr("New"), "look": tr("Light")}
