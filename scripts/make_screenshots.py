"""Make docs/screenshots from the demo data: one picture of each main view.

Run: .venv/bin/python scripts/make_screenshots.py
The picture at scale 2 is taken by a second run of this script, as the scale is fixed at start.
"""

from __future__ import annotations

import math
import os
import random
import subprocess
import sys
import tempfile
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# nobody's own settings and places in plans
home = os.environ["HOME"] = os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp()
os.environ["XDG_DATA_HOME"] = home
os.environ["XDG_CONFIG_HOME"] = f"{home}/.config"

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from holoptic.checking.own_hand import STEPS_MM
from holoptic.curves.space import EllipticArc
from holoptic.demo import drawing_paths, job_path, sketch_path, views_photo_path
from holoptic.desk.application.launch import make_application
from holoptic.desk.application.window import DeskWindow
from holoptic.desk.look.theme import CONTRAST, LIGHT, apply_theme
from holoptic.desk.pages.practice.page import PracticePage
from holoptic.desk.pages.read.page import ReadPage
from holoptic.exchange.job_file import read_job
from holoptic.exchange.png import png_bytes
from holoptic.job import VIEW_LINES, Figure, Orthographic
from holoptic.paper.given import Given
from holoptic.part import Corner, Crate, Face, Offset, Part, Polygon, Prism, Round
from holoptic.practice.sketching import joined
from holoptic.practice.worksheet import worksheet
from holoptic.register.book import Register
from holoptic.register.entries import CauseKept, CheckKept, Drawn, MoveTime, Subject
from holoptic.sheet.papers import paper_named
from holoptic.units import Length

TARGET = Path(__file__).parent.parent / "docs" / "screenshots"


_SKETCHED = (
    (36.5, 45.5, 50.0, 54.5, 63.0), (8.5, 17.0, 22.5, 27.0, 31.5, 38.5), (7.0, 12.5, 33.0)
)  # fmt: skip
"""Where the levels of the demo's sketch lie after the first, along length, depth and height."""
_HAND_DRAWN = (
    ("front", "visible", ("r L", "u 13", "l 25.5", "u to H", "l to 14.5", "go 0, 21", "close")),
    ("top", "visible", ("r L", "u D", "l to 0", "close", "at 51.5, 0", "u D", "", "at 14.5, 0",
                        "u D", "", "at 33, D/2", "circle 17", "at 65.5, D/2", "circle 8.5")),
    ("right", "visible", ("r D", "u H", "l to 0", "close", "at 0, 13", "r D", "")),
    ("right", "hidden", ("at 13, 14.5", "r 17")),
)  # fmt: skip


def _mm(text: str) -> Length:
    return Length.read(text)


def lamp_hood() -> Part:
    """Return a hood whose cone is cut slantwise, with a bore for the flue."""
    middle = Offset(_mm("26.5"))
    hood = Round("hood", "add", Face.BOTTOM, _mm("53"), middle, middle, _mm("0"), _mm("61"),
                 _mm("0"))  # fmt: skip
    flue = Round("flue", "cut", Face.TOP, _mm("11"), middle, middle, _mm("0"), None)
    corners = [("0", "24.5"), ("53", "38"), ("53", "61"), ("0", "61")]
    slant = Prism("slant", "cut", Face.FRONT, tuple(Corner(_mm(u), _mm(v)) for u, v in corners),
                  _mm("0"), None)  # fmt: skip
    crate = Crate(_mm("53"), _mm("53"), _mm("61"))
    return Part("lamp hood", crate, (hood, slant, flue), "empty")


def keel_bar() -> Part:
    """Return a six-sided bar lying on an edge, with a blind bore in its end."""
    u, v = Offset(_mm("15.6")), Offset(_mm("18"))
    bar = Polygon("bar", "add", Face.RIGHT, 6, _mm("36"), "corners", u, v, _mm("0"), _mm("67.5"),
                  turn=30.0)  # fmt: skip
    bore = Round("bore", "cut", Face.RIGHT, _mm("13.5"), u, v, _mm("0"), _mm("29"))
    return Part("keel bar", Crate(_mm("67.5"), _mm("31.2"), _mm("36")), (bar, bore), "empty")


def fill_register(register: Register) -> None:
    """Keep some weeks of made-up work of the lamp works in a register."""
    job, dice = read_job(job_path()), random.Random(5)
    phases = ("sheet", "start", "crate", "carve: the block", "carve: upper step", "firm in")
    logs = [-9.0 * math.log(step / 0.34) ** 2 for step in STEPS_MM]
    hands = tuple(a + 0.7 * b for a in logs for b in logs for _ in logs)
    at = datetime(2026, 10, 5, 9, 20).astimezone()
    for number in range(14):
        at += timedelta(days=dice.randint(1, 4), minutes=dice.randint(-40, 90))
        figure = job.sheets[number % 7].figures[0]
        subject = Subject(job.id, job.name, figure.id, job.title_of(figure.subject), f"{number}")
        times = tuple(MoveTime(n + 1, phases[n // 9], dice.uniform(5, 34) * (1 - 0.03 * number))
                      for n in range(54))  # fmt: skip
        done = 31 if number == 13 else 54
        register.note_drawn(Drawn(subject, f"{number % 7 + 1} of 11", "B", "isometric",
                                  "crate and carve, by feature", "A4", "1:1", at, at, 54, done,
                                  times[:done]))  # fmt: skip
        if number % 3 == 1:
            continue
        cause = CauseKept(38, "setting", 25.6, 26.5, 0.86, 1, "move 38: K was set off 25.6, it "
                          "should be 26.5: figures changed over?")  # fmt: skip
        agrees = number % 5 != 1
        register.note_check(CheckKept(f"{number}", subject, at, "picture", agrees, 36,
                                      0 if agrees else 5, 0, dice.uniform(0.24, 0.5) + 0.7 *
                                      (not agrees), None, (), () if agrees else (cause,),
                                      hands))  # fmt: skip


class Studio:
    """A window with the demo job, to be brought into a state and pictured."""

    def __init__(self) -> None:
        self.app = make_application()
        self.window = DeskWindow()
        self.window.resize(1280, 800)
        self.window.show()
        QTest.qWait(50)
        self.window.furnish()
        self.settle()

    def open_demo(self) -> None:
        """Open the demo job."""
        self.window.open_first(job_path(), demo=True)
        self.settle()

    def settle(self) -> None:
        """Wait until nothing is being worked out."""
        QTest.qWait(30)
        while self.window.is_busy:
            QTest.qWait(20)
        QTest.qWait(60)

    def part(self, index: int) -> None:
        """Put a part on the desk."""
        self.window.session.document.choose_part(index)
        self.settle()

    def named(self, name: str) -> None:
        """Put the part of a name on the desk."""
        job = self.window.session.document.job
        self.part(job.part_index(job.find(name).id))

    def pair(self, name: str, left: str, right: str) -> None:
        """Put two pictures beside each other, half as large, in the place of both."""
        paths = [TARGET / f"{one}.png" for one in (left, right)]
        images = [QImage(str(path)) for path in paths]
        width, height = images[0].width(), images[0].height() // 2
        both = QImage(width, height, images[0].format())
        both.fill(Qt.GlobalColor.white)
        painter = QPainter(both)
        for number, image in enumerate(images):
            half = image.scaledToWidth(width // 2 - 4, Qt.TransformationMode.SmoothTransformation)
            painter.drawImage(number * (width // 2 + 4), 0, half)
        painter.end()
        for path in paths:
            path.unlink()
        both.save(str(TARGET / f"{name}.png"))

    def stack(self, name: str, upper: str, lower: str) -> None:
        """Put two pictures one over the other, in the place of both."""
        paths = [TARGET / f"{one}.png" for one in (upper, lower)]
        first, second = (QImage(str(path)) for path in paths)
        both = QImage(first.width(), first.height() + second.height() + 8, first.format())
        both.fill(Qt.GlobalColor.white)
        painter = QPainter(both)
        painter.drawImage(0, 0, first)
        painter.drawImage(0, first.height() + 8, second)
        painter.end()
        for path in paths:
            path.unlink()
        both.save(str(TARGET / f"{name}.png"))

    def cut_open(self) -> None:
        """Picture the flange in half section with what is proposed, and A–A beside its views."""
        window = self.window
        self.named("counterbored flange")
        window.show_page("picture")
        self.settle()
        QTest.keyClick(window, Qt.Key.Key_X)
        self.settle()
        window.session.document.cut_open("half")
        self.take("cut-open")
        QTest.keyClick(window, Qt.Key.Key_X)
        window.session.document.choose_figure("f13")
        window.show_page("sheet")
        QTest.keyClick(window, Qt.Key.Key_F8)
        self.settle()
        QTest.keyClick(window, Qt.Key.Key_F8)
        self.take("sheet-section")
        self.stack("cut-open", "cut-open", "sheet-section")
        self.open_demo()

    def take(self, name: str) -> None:
        """Save the window's picture."""
        self.settle()
        self.window.grab().save(str(TARGET / f"{name}.png"))
        print(name)

    def round_parts(self, name: str) -> None:
        """Picture a round part on the dark desk, thick and thin, with six views and the card of a
        circle.
        """
        session = self.window.session
        session.open_file(job_path("round-parts"))
        self.settle()
        self.named(name)
        figure = session.document.figure
        lines = replace(figure.lines, outline="thick-and-thin")
        session.document.edit_figure(replace(figure, lines=lines), "outline")
        session.document.lay_out_views("six", "first")
        self.settle()
        rims = [s for s in session.answers.picture.visible if isinstance(s.curve, EllipticArc)]
        session.selection.select(rims[-1].origin.edge)
        self.window.swap_theme()
        self.take("dark")
        self.window.swap_theme()
        session.selection.select(None)
        self.open_demo()
        self.at_home()

    def at_home(self) -> None:
        """Show the settings beside the carved part in high contrast, under the dark desk, and under
        these the desk in German and at one and a half times the size.
        """
        app = QApplication.instance()
        self.window.show_page("carve")
        apply_theme(app, CONTRAST)
        self.window.take_theme()
        self.take("contrast")
        apply_theme(app, LIGHT)
        self.window.take_theme()
        self.window._furniture.show_settings()
        self.take("settings")
        self.window._furniture.show_settings()
        self.pair("at home", "settings", "contrast")
        self.stack("picture-round-dark", "dark", "at home")
        for name, own in (("german", {"HOLOPTIC_LANGUAGE": "de"}),
                          ("larger", {"QT_SCALE_FACTOR": "1.5"})):  # fmt: skip
            subprocess.run([sys.executable, __file__, name], check=True, env={**os.environ, **own})
        self.pair("elsewhere", "german", "larger")
        self.stack("picture-round-dark", "picture-round-dark", "elsewhere")

    def carving(self) -> None:
        """Walk an outline on the gallery block."""
        session, page = self.window.session, self.window.pages["carve"]
        session.document.choose_operation(2)
        page.editor.start_walk()
        for step in ("at 18, 0", "r 22.5", "u 11.5", "l 22.5 arc bulge 5 left"):
            QTest.keyClicks(page.editor.walk_bar.step, step)
            QTest.keyClick(page.editor.walk_bar.step, Qt.Key.Key_Return)
        QTest.keyClicks(page.editor.walk_bar.step, "close")
        self.take("carve-walk")
        self.stack("carve", "carve", "carve-walk")
        page.editor.leave_walk()
        self.settle()

    def reading(self) -> None:
        """Read the demo drawings, and two views that can mean several parts."""
        window = self.window
        window.show_page("read")
        page, readings = window.pages["read"], window.session.readings
        sound, odd = drawing_paths()
        readings.open(sound)
        self.settle()
        readings.read()
        self.settle()
        page.lay_over()
        self.take("read")
        readings.open(odd)
        self.settle()
        readings.read()
        self.settle()
        page.remarks.setCurrentRow(0)
        self.take("read-contradiction")
        readings.open(sound)
        self.settle()
        readings.use_view("top", False)
        readings.read()
        self.take("read-several")
        self.stack("read-answers", "read-contradiction", "read-several")
        self.classics(page)
        self.drawing_views(page)

    def classics(self, page: ReadPage) -> None:
        """Read a cone and a lying prism, from their own views; half as large beside each other."""
        readings = self.window.session.readings
        for name, part in (("read-cone", lamp_hood()), ("read-prism", keel_bar())):
            readings.practise(part)
            self.settle()
            readings.read()
            self.settle()
            page.lay_over()
            self.take(name)
        self.pair("read-classics", "read-cone", "read-prism")
        self.stack("read-answers", "read-answers", "read-classics")

    def drawing_views(self, page: ReadPage) -> None:
        """Draw the lantern shoe's views by hand, up to a step in the side view."""
        page.draw_views()
        panel = page.draft
        for field, size in zip(panel.sizes, ("77", "43", "36.5"), strict=True):
            field.fill(size)
            field.deselect()
        step = panel.walk_bar.step
        for pane, status, steps in _HAND_DRAWN:
            panel.take_pane(pane)
            if status == "hidden":
                QTest.keyClicks(step, "h")
            for words in steps:
                QTest.keyClicks(step, words)
                QTest.keyClick(step, Qt.Key.Key_Return)
        QTest.keyClick(step, Qt.Key.Key_Up)
        QTest.keyClick(step, Qt.Key.Key_Up)  # on to a height that the front view has
        self.take("read-drawing")
        self.stack("read", "read", "read-drawing")
        page.end_drawing()
        self.paper(page)

    def paper(self, page: ReadPage) -> None:
        """Confirm the demo's photo of a sheet step by step, and read it."""
        page.readings.open(views_photo_path())
        self.settle()
        page.paper.go_to("border")
        self.settle()
        self.take("paper-border")
        page.paper.go_to("views")
        self.take("paper-views")
        page.paper.go_to("sizes")
        while page.readings.figures.offered(page.readings.picture).is_empty:
            QTest.qWait(50)  # they are read when nobody waits
        self.take("paper-sizes")
        page.paper.go_to("levels")
        page.readings.read()
        self.settle()
        self.take("paper-levels")
        self.pair("read-paper", "paper-border", "paper-views")
        self.pair("paper-rest", "paper-sizes", "paper-levels")
        self.stack("read-paper", "read-paper", "paper-rest")
        page.readings.close()
        self.sketch(page)
        self.pair("sketch", "sketch-asked", "sketch-read")
        self.stack("read-paper", "read-paper", "sketch")
        page.readings.close()

    def sketch(self, page: ReadPage) -> None:
        """Tell the figures of the demo's sketch, and read it."""
        page.readings.open(sketch_path(), Given(is_sketch=True))
        self.settle()
        picture = page.readings.picture
        told = tuple(tuple(zip(own.measured[1:], true, strict=True))
                     for own, true in zip(picture.levels, _SKETCHED, strict=True))  # fmt: skip
        page.readings.tell(Given(is_sketch=True, levels=(told[0], told[1][:2], ())))
        self.settle()
        page.read()  # asks for the rest
        self.take("sketch-asked")
        page.readings.tell(Given(is_sketch=True, levels=told))
        self.settle()
        page.read()
        self.settle()
        self.take("sketch-read")

    def open_lamp(self) -> None:
        """Open the job of the lamp put together, and take its arrangement in hand, apart."""
        self.window.session.open_file(job_path("lamp-put-together"))
        self.settle()  # a large job is read beside the window
        self.window.session.document.take_spread()
        self.settle()

    def spread(self) -> None:
        """Picture the lamp together and apart with a part in hand, and its sheet."""
        self.open_lamp()
        self.window.show_page("spread")
        self.settle()
        self.window.session.spreads.choose("b6")
        self.take("spread")
        self.window.session.spreads.choose(None)
        self.window.show_page("sheet")
        self.take("sheet-spread")
        self.open_demo()

    def sheet(self) -> None:
        """Picture a sheet with a shaded pictorial and views that have all sizes."""
        self.part(2)
        document = self.window.session.document
        sheet = document.sheet
        views = Figure("f99", document.figure.subject, Orthographic(), VIEW_LINES)
        wish = replace(sheet.wish, dimensions="auto", shade="left")
        document.edit_sheet(replace(sheet.with_figure(views), wish=wish), "dimensions")
        self.window.show_page("sheet")
        self.take("sheet")
        self.open_demo()

    def ways(self) -> None:
        """Compare the ways of working on the bracket, and picture the errors to expect."""
        self.part(2)
        page = self.window.pages["draw"]
        moves = self.window.session.answers.planned.plan.moves
        self.draw_at(next(i for i, move in enumerate(moves) if move.verb == "parallel"))
        page.toggle_ways()
        page.toggle_errors()
        self.draw_at(len(moves) - 1)
        self.take("draw-ways")
        page.toggle_ways()
        page.toggle_errors()

    def by_hand(self) -> None:
        """Picture the views of a part being drawn, and a dimension of its pictorial."""
        document, answers = self.window.session.document, self.window.session.answers
        self.named("latch plate")
        document.edit_wish(replace(document.sheet.wish, dimensions="auto"), "dimensions")
        self.settle()
        moves = answers.planned.plan.moves
        lettered = [i for i, move in enumerate(moves) if move.verb == "letter"]
        rolled = (i for i, m in enumerate(moves) if m.verb == "set off" and m.phase == "dimensions")
        self.draw_at(next(i for i in rolled if i > lettered[6]))
        self.take("draw-dimension")
        document.undo()
        document.choose_views(is_begun=False)
        self.settle()
        moves = answers.planned.plan.moves
        self.draw_at([i for i, move in enumerate(moves) if move.verb == "touch"][-1])
        self.take("draw-views")
        self.stack("draw-views", "draw-views", "draw-dimension")
        self.open_demo()

    def checking(self) -> None:
        """Check the demo's scan, and look at a stroke that is shifted through the magnifier."""
        window = self.window
        window.show_page("check")
        self.settle()
        QTest.keyClick(window, Qt.Key.Key_1)
        self.settle()
        page = window.pages["check"]
        shifted = next(k for k, one in enumerate(page.deviations) if one.sort == "shifted")
        page.column.off.setCurrentRow(shifted)
        page.toggle_magnifier()
        self.take("check")
        page.toggle_magnifier()
        window.session.checks.put_away()

    def registering(self) -> None:
        """Picture the register of some weeks of made-up work."""
        fill_register(Register())
        self.window.show_page("register")
        QTest.keyClick(self.window, Qt.Key.Key_Down)
        QTest.keyClick(self.window, Qt.Key.Key_Down)
        self.take("register")

    def practising(self) -> None:
        """Picture three sorts of exercises, a drawing that is marked, and a worksheet's pages."""
        window = self.window
        page, practice = window.pages["practice"], window.session.practice
        practice._dice = random.Random(8)
        window.show_page("practice")
        for name, skill, level in (("one", "pictorial", 3), ("two", "cubes", 4),
                                   ("three", "setoffs", 4), ("four", "draw", 3)):  # fmt: skip
            self.settle()
            practice.choose(skill, level)
            self.settle()
            if skill == "draw":
                self.draw_with_slips(page)
            self.take(f"practice-{name}")
        self.pair("practice", "practice-one", "practice-two")
        self.pair("practice-lower", "practice-three", "practice-four")
        self.stack("practice", "practice", "practice-lower")
        exercises = [window.session.practice._line.worker.ask("make_exercise", "views", 3, seed)
                     for seed in range(7, 11)]  # fmt: skip
        pages = worksheet(exercises, paper_named("A4").turned(upright=True))
        chosen = pages[0], next(one for one in pages if one.title.startswith("Answers"))
        for number, drawing in enumerate(chosen):
            image = QImage.fromData(png_bytes(drawing)).scaledToWidth(1280)
            image.save(str(TARGET / f"practice-sheet-{number}.png"))
        self.pair("practice-sheets", "practice-sheet-0", "practice-sheet-1")
        self.stack("practice", "practice", "practice-sheets")

    def draw_with_slips(self, page: PracticePage) -> None:
        """Draw most of a pictorial, a hidden edge and a line that nobody asked for, and mark it."""
        hand = page.board.hand
        firm = joined(hand.asked.right)
        for start, end in firm[:-2]:
            hand.draw(start, end)
        for start, end in joined(hand.asked.behind)[:1]:
            hand.draw(start, end)
        hand.draw((2, 2), (4, 4))
        page.enter()

    def low_window(self) -> None:
        """Put every page at 1024 × 600, and the sheet of keys, into one picture."""
        self.window.resize(1024, 600)
        self.named("gallery block")
        pages = [
            self._page_picture(page)
            for page in (
                "read",
                "carve",
                "picture",
                "sheet",
                "draw",
                "check",
                "register",
                "practice",
            )
        ]
        self.open_lamp()
        pages.insert(3, self._page_picture("spread"))
        self.open_demo()
        self.window.show_keys()
        pages.append(self._page_picture(None))
        self.window.show_keys()
        self.window.resize(1280, 800)
        gap = 12
        across, down = pages[0].width() + gap, pages[0].height() + gap
        rows = -(-len(pages) // 2)
        board = QImage(2 * across + gap, rows * down + gap, QImage.Format.Format_RGB32)
        board.fill(Qt.GlobalColor.gray)
        painter = QPainter(board)
        for k, picture in enumerate(pages):
            painter.drawImage(gap + k % 2 * across, gap + k // 2 * down, picture)
        painter.end()
        board.save(str(TARGET / "pages-at-1024x600.png"))
        print("pages-at-1024x600")

    def _page_picture(self, page: str | None) -> QImage:
        if page is not None:
            self.window.show_page(page)
        self.settle()
        return self.window.grab().toImage()

    def draw_at(self, index: int) -> None:
        """Show the Draw page before a move."""
        self.window.show_page("draw")
        self.window.pages["draw"].go_to(index)


def twice_as_large() -> None:
    """Take the Draw page at scale 2, in the middle of the plan of the lamp drawn apart."""
    studio = Studio()
    studio.open_lamp()
    moves = studio.window.session.answers.planned.plan.moves
    at = next(i for i, move in enumerate(moves) if move.phase == "part: gallery block")
    studio.draw_at(at + 4)
    studio.take("draw-spread")
    studio.window.close_down()


def elsewhere(name: str) -> None:
    """Take the desk as it is in another language, or at another scale."""
    studio = Studio()
    studio.open_demo()
    if name == "german":
        studio.draw_at(46)
    else:
        studio.window.show_page("picture")
    studio.take(name)
    studio.window.close_down()


def main() -> None:
    """Take every picture."""
    TARGET.mkdir(parents=True, exist_ok=True)
    studio = Studio()
    studio.take("empty-desk")
    studio.open_demo()
    session = studio.window.session
    studio.low_window()
    studio.reading()
    studio.window.show_page("carve")
    studio.take("carve")
    studio.carving()
    studio.part(2)
    studio.window.show_page("picture")
    session.selection.select(None)
    studio.take("picture")
    studio.round_parts("counterbored flange")
    studio.part(0)
    words = [move.lift.words if move.lift else "" for move in session.answers.planned.plan.moves]
    studio.draw_at(words.index("18+22.5"))
    studio.take("draw-set-off")
    studio.by_hand()
    studio.sheet()
    studio.cut_open()
    studio.spread()
    studio.ways()
    studio.checking()
    studio.registering()
    studio.stack("check", "check", "register")
    studio.practising()
    studio.window.close_down()
    subprocess.run([sys.executable, __file__, "twice"], check=True,
                   env={**os.environ, "QT_SCALE_FACTOR": "2"})  # fmt: skip


if __name__ == "__main__":
    if sys.argv[1:] == ["twice"]:
        twice_as_large()
    elif sys.argv[1:]:
        elsewhere(sys.argv[1])
    else:
        main()
