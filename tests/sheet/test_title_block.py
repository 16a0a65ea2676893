"""The company's own fields and the revision table over the title block, with room for them."""

import json
from dataclasses import replace

import pytest
import shapely

from holoptic.demo import job_path
from holoptic.errors import BadInput
from holoptic.exchange.job_file import read_job, write_job
from holoptic.exchange.sheet_template import save_template, with_template
from holoptic.job import (
    AS_FITS,
    HandWays,
    OwnEntry,
    Revision,
    TitleEntries,
    sheet_order,
    title_block,
)
from holoptic.plan.letter_widths import width_of
from holoptic.sheet.frames import (
    LIST_ROW_MM,
    above_mm,
    block_rows,
    frame_of,
    note_lines,
    rows_with_place,
    title_words,
)
from holoptic.sheet.papers import paper_named
from holoptic.worker import tasks

OWN = (OwnEntry("order", "L-0417"), OwnEntry("material", "bronze"), OwnEntry("finish"),
       OwnEntry("pattern", "P 33"))  # fmt: skip
REVISIONS = (Revision("A", "issued", "2026-10-02", "M. Tarn"),
             Revision("B", "slot was 41", "2026-11-12", "O. Fenn"))  # fmt: skip


def job_with(own=OWN, revisions=REVISIONS, **wish):
    job = read_job(job_path())
    sheet = replace(job.sheets[3], revisions=revisions, wish=replace(AS_FITS, **wish))
    return replace(job.with_sheet(sheet), title=replace(job.title, own=own))


def page_of(job):
    sheet = job.sheets[3]
    return tasks.sheet(sheet_order(job, sheet), title_block(job, sheet))


def test_they_grow_upward_the_newest_revision_first():
    job = job_with()
    title = title_block(job, job.sheets[3])
    assert title.revision == "B"
    paper = paper_named("A3")
    rows = list(rows_with_place(paper, block_rows(title, "isometric drawing", "1:1")))
    lows = [low for _, low in rows]
    assert lows == sorted(lows, reverse=True)
    said = [[cell.value for cell in row.cells] for row, _ in rows]
    assert said[:3] == [["B", "slot was 41", "2026-11-12", "O. Fenn"],
                        ["A", "issued", "2026-10-02", "M. Tarn"],
                        ["rev.", "change", "date", "by"]]  # fmt: skip
    assert said[3:5] == [["L-0417", "bronze", "–"], ["P 33"]]
    whole = sum(row.height for row, _ in rows)
    assert whole == pytest.approx(frame_of(paper).title_height + above_mm(4, 2))
    assert above_mm(0, 0) == 0.0
    labels = [words.text for words in title_words(paper, [row for row, _ in rows])]
    assert {"order", "material", "finish", "pattern"} <= set(labels)


def test_notes_stand_in_their_cell_or_numbered_over_the_block():
    assert note_lines("") == note_lines("bed in putty") == []
    long = "Fettle all cast edges before the seat is turned; leave the foundry's mark in sight"
    assert len(note_lines(long)) == 2
    lines = note_lines(f"bed in putty\n\n{long}\n{'x' * 120}")
    assert [line[:2] for line in lines] == ["1.", "2.", "  ", "3.", "  "]
    assert "".join(lines).replace(" ", "").count("x") == 120
    assert all(width_of(line, 2.5) < 119 for line in lines)
    assert above_mm(0, 0, long) == pytest.approx(2 * LIST_ROW_MM)


def test_notes_are_lettered_on_the_page_and_by_hand():
    job = job_with()
    sheet = replace(job.sheets[3], title=TitleEntries(notes="bed in putty\nno paint inside"))
    figure = replace(sheet.figures[0], by_hand=HandWays(lettering="by-hand"))
    job = job.with_sheet(sheet.with_figure(figure))
    page = page_of(job).pages[0]
    notes = [words for words in page.words if words.text == "1.  bed in putty"]
    block = frame_of(paper_named("A3"))
    assert notes[0].at[1] > block.low + block.title_height + above_mm(4, 2)
    order, title = sheet_order(job, job.sheets[3]), title_block(job, job.sheets[3])
    assert tasks.verify(order, figure.id, title).holds
    lettered = tasks.plan(order, figure.id, title=title).plan.setup.finish.letters.values()
    assert {"1.  bed in putty", "2.  no paint inside"} <= {words.text for words in lettered}


@pytest.mark.parametrize("wish", [{"paper": "A4"}, {"dimensions": "auto"}, {}])
def test_drawings_and_dimensions_keep_clear_of_them(wish):
    laid = page_of(job_with(**wish))
    assert laid.misfit is None
    page = laid.pages[0]
    frame = frame_of(laid.layout.paper)
    right, top = page.width - frame.right, frame.low + frame.title_height + above_mm(4, 2)
    block = shapely.box(right - frame.title_width, frame.low, right, top)
    for ink in page.inks:
        if ink.layer in ("visible", "hidden", "centre", "dimension"):
            assert not block.intersects(shapely.LineString(ink.path))
    own = [words for words in page.words if words.text == "L-0417"]
    assert len(own) == 1
    assert block.contains(shapely.Point(own[0].at))


def test_the_hand_rules_and_letters_them_too():
    job = job_with()
    figure = job.sheets[3].figures[0]
    job = job.with_figure(replace(figure, by_hand=HandWays(lettering="by-hand")))
    sheet = job.sheets[3]
    order, title = sheet_order(job, sheet), title_block(job, sheet)
    assert tasks.verify(order, figure.id, title).holds
    lettered = tasks.plan(order, figure.id, title=title).plan.setup.finish.letters.values()
    assert {"L-0417", "slot was 41", "rev."} <= {words.text for words in lettered}


def test_job_file_and_template_keep_them(tmp_path):
    job = job_with()
    write_job(job, tmp_path / "own.holoptic")
    assert read_job(tmp_path / "own.holoptic") == job
    template = tmp_path / "works.sheet.json"
    save_template(template, AS_FITS, job.title)
    assert json.loads(template.read_text())["title"]["own"][0] == {
        "label": "order", "value": "L-0417",
    }  # fmt: skip
    bare = replace(job.sheets[0], title=replace(job.sheets[0].title, own=None))
    assert with_template(bare, template).title.own == OWN
    broken = json.loads(template.read_text())
    broken["title"]["own"][1]["label"] = 7
    template.write_text(json.dumps(broken))
    with pytest.raises(BadInput, match="own › 1 › label"):
        with_template(bare, template)
