"""The question about practice: an exercise from its seed."""

from __future__ import annotations

from collections.abc import Sequence

from holoptic.catalogue import tr
from holoptic.job import alone, pose
from holoptic.part import Part
from holoptic.part.cutting import Stock, cutter_of
from holoptic.pictorial import Picture, draw, view_of
from holoptic.practice.exercise import Exercise
from holoptic.practice.eye import SheetStart
from holoptic.practice.skills import make
from holoptic.progress import tell
from holoptic.reading.lines import DrawnView
from holoptic.reading.reader import go_together, read_views
from holoptic.reading.result import Reading
from holoptic.sheet.frames import frame_of
from holoptic.solid.pieces import SolidFacts
from holoptic.solid.shelf import look, opened, seen
from holoptic.views import direction_of, pictures_of
from holoptic.views.orthographic import VIEWS_BY_NAME
from holoptic.views.sections import SEEN_FROM, section_picture, view_of_cut
from holoptic.worker.planning import plan
from holoptic.worker.reading_tasks import KERNEL


class KernelEye:
    """Looks at parts by the kernel (`practice/eye.py`)."""

    def facts(self, part: Part) -> SolidFacts:
        """Return what is known of a part's solid."""
        return seen(part).facts

    def picture(self, part: Part, kind: str, corner: str, cut: str = "") -> Picture:
        """Return a picture of a part, cut open in words where that is asked."""
        view = view_of(kind, corner)
        cutter = None
        if cut:
            facts = seen(part).facts
            cutter = cutter_of(cut, Stock(part, facts.low, facts.high, view.toward_viewer))
        one = look(part, (view.toward_viewer,), cutter).look(view.toward_viewer)
        return draw(one, view)

    def views(self, part: Part, names: Sequence[str]) -> dict[str, Picture]:
        """Return views of a part by their names."""
        return pictures_of(look(part, tuple(direction_of(name) for name in names)), names)

    def drawn(self, part: Part, names: Sequence[str]) -> list[DrawnView]:
        """Return views of a part as drawn lines, for reading them."""
        return list(KERNEL.show(part, tuple(names))[0])

    def read(self, views: Sequence[DrawnView], most: int, seconds: float) -> Reading:
        """Return what views mean, so many parts at most."""
        return read_views(views, KERNEL, most=most, limit_s=seconds)

    def go_together(self, views: Sequence[DrawnView]) -> bool:
        """Say whether some part of faces along the axes has three views."""
        return go_together(views, KERNEL)

    def start_on_sheet(self, part: Part, kind: str, corner: str) -> SheetStart:
        """Return where the drawing of a part begins on a sheet of its own."""
        order = alone(pose(part, kind, corner))
        planned = plan(order, order.ids[0])
        frame = frame_of(planned.paper)
        return SheetStart(planned.paper.name, frame.inner, (frame.left, frame.low),
                          planned.plan.setup.start, planned.plan.setup.scale)  # fmt: skip

    def section(self, part: Part, cut: str) -> Picture:
        """Return a part cut in words as a section view, with its cut faces as regions."""
        facts = seen(part).facts
        solid = opened(part, cutter_of(cut, Stock(part, facts.low, facts.high, SEEN_FROM)))
        view = VIEWS_BY_NAME[view_of_cut(solid.cut_faces)]
        picture = draw(solid.look(view.toward_viewer), view)
        return section_picture(picture, "A", solid.cut_faces)


def make_exercises(
    skills: Sequence[str], level: int, count: int, seed: int
) -> tuple[Exercise, ...]:
    """Return exercises of some skills in turn, one seed after the other. Raises as `make` does."""
    eye, found = KernelEye(), []
    for number in range(count):
        tell(tr("making exercises"), number / count)
        found.append(make(skills[number % len(skills)], level, seed + number, eye))
    return tuple(found)


def make_exercise(skill: str, level: int, seed: int) -> Exercise:
    """Return the exercise of a skill, a level and a seed. Raises BadInput, NotMade."""
    return make(skill, level, seed, KernelEye())
