"""Sections on drawings: hatches are no edges, the cutting line is found, the section decides."""

import ezdxf
import pytest

from holoptic.demo import job_path
from holoptic.exchange.dxf import dxf_bytes
from holoptic.exchange.job_file import read_job
from holoptic.job import VIEW_LINES, Figure, Orthographic, Posed, TitleBlock, read_sections
from holoptic.sheet import views_sheet
from holoptic.solid.shelf import seen
from holoptic.worker import reading_tasks, tasks

DEMO = {part.source.name: part.source for part in read_job(job_path()).parts}
TITLE = TitleBlock("Skerry Lamp Works", "part")


def drawing(path, name, section, angle="third"):
    """Write a DXF sheet of the views of a part, one of them a section."""
    figure = Figure("f1", "p1", Orthographic(), VIEW_LINES, sections=read_sections((section,)))
    placed = tasks.show_views(Posed(figure, DEMO[name]), "three", angle).placed
    path.write_bytes(dxf_bytes(views_sheet(placed, TITLE, angle).drawing))
    return path


def exploded(path):
    """Draw the hatches of a file line by line, as many programs write them."""
    document = ezdxf.readfile(path)
    space = document.modelspace()
    for hatch in list(space.query("HATCH[layer=='hatch']")):
        from ezdxf.render.hatching import hatch_entity

        for start, end in hatch_entity(hatch):
            space.add_line(start, end, dxfattribs={"layer": "fine"})
        space.delete_entity(hatch)
    document.saveas(path)


@pytest.mark.parametrize(
    ("name", "section", "view", "cut"),
    [
        ("counterbored flange", "A=full:length", "right", "full:length=41.5"),
        ("bearing bracket", "A=full:length", "right", "full:length=33"),
        ("gallery block", "A=full:depth=9", "front", "full:depth=9"),
        ("latch plate", "A=full:depth", "front", "full:depth=27"),
    ],
)
@pytest.mark.parametrize("by_lines", [False, True])
def test_a_hatched_view_is_a_section_and_is_read_as_such(
    tmp_path, name, section, view, cut, by_lines
):  # fmt: skip
    path = drawing(tmp_path / "views.dxf", name, section)
    if by_lines:
        exploded(path)
    sheet = reading_tasks.open_sheet(str(path))
    views = {one.name: one for one in sheet.arrangement.drawn_views()}
    assert {one.name: one.cut for one in views.values() if one.cut} == {view: cut}
    assert any("is a section" in remark for remark in sheet.arrangement.remarks)
    assert not [check for check in sheet.checks if check.view == view]
    if by_lines and name != "bearing bracket":
        return  # what follows is the same, and takes its time
    reading = reading_tasks.read(tuple(views.values()), name)
    assert reading.verdict in ("unique", "several"), reading.notes
    assert any("decides" in note for note in reading.notes)
    volume = seen(DEMO[name]).facts.volume
    assert min(abs(answer.volume - volume) for answer in reading.answers) < 1e-3 * volume


def test_a_section_that_no_line_places_is_told_and_left_out(tmp_path):
    path = drawing(tmp_path / "views.dxf", "gallery block", "A=full:length")
    document = ezdxf.readfile(path)
    for entity in list(document.modelspace().query("*[layer=='section']")):
        document.modelspace().delete_entity(entity)
    document.saveas(path)
    sheet = reading_tasks.open_sheet(str(path))
    (section,) = (one for one in sheet.arrangement.views if one.cut)
    assert section.cut == "?"
    reading = reading_tasks.read(tuple(sheet.arrangement.drawn_views()), "block")
    assert any("no line says where" in note for note in reading.notes)
