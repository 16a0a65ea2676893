"""All sheets of a job together, with the list of them before."""

from dataclasses import replace

import pypdfium2
import pytest

from holoptic.cli.main import main
from holoptic.demo import job_path
from holoptic.exchange.job_file import read_job
from holoptic.job import SheetWish, all_sheets
from holoptic.sheet.frames import frame_of
from holoptic.sheet.papers import paper_named
from holoptic.sheet.sheet_list import ListedSheet, list_pages
from holoptic.worker import tasks


def listed(count):
    return [ListedSheet(f"{k} of {count}", f"bracket {k}", f"SLW-{k}", "A4", "1:1", "", "")
            for k in range(1, count + 1)]  # fmt: skip


@pytest.mark.parametrize("count", [0, 2, 29, 31, 75])
def test_every_sheet_stands_once_in_the_list_and_inside_its_border(count):
    pages = list_pages(listed(count), "Skerry Lamp Works")
    frame, paper = frame_of(paper_named("A4")), paper_named("A4").turned(upright=True)
    words = [line.text for page in pages for line in page.words]
    assert [words.count(f"SLW-{k}") for k in range(1, count + 1)] == [1] * count
    for page in pages:
        assert "List of sheets (Skerry Lamp Works)" in [line.text for line in page.words]
        for ink in page.inks:
            xs, ys = zip(*ink.path, strict=True)
            if ink.layer == "title":
                assert frame.left < min(xs) <= max(xs) < paper.width - frame.right
                assert frame.low + 10 < min(ys) <= max(ys) < paper.height - frame.high


def test_a_sheet_that_cannot_be_drawn_is_told_and_stands_in_the_list():
    job = read_job(job_path())
    small = replace(job.sheets[1], wish=SheetWish(paper="A4", scale=20.0))
    job = replace(job, sheets=(job.sheets[0], small, job.sheets[2]))
    made = tasks.sheet_set(all_sheets(job))
    assert len(made.pages) == 1 + 2
    assert made.troubles[0].startswith("sheet 2 of 3: ")
    texts = [line.text for line in made.pages[0].words]
    assert texts.count("not drawn") == 1
    assert {"wedge foot", "2 of 3"} <= set(texts)


def test_the_command_writes_them_as_one_file(tmp_path, capsys):
    out = tmp_path / "set.pdf"
    job = str(job_path())
    assert main(["sheet", job, "--all", "--out", str(out)]) == 0
    document = pypdfium2.PdfDocument(out)
    assert len(document) == 12
    sizes = {tuple(round(v * 25.4 / 72) for v in page.get_size()) for page in document}
    assert sizes >= {(210, 297), (297, 210)}
    assert (
        main(
            ["sheet", job, "--all", "--scale", "20", "--paper", "A4", "--out", str(out), "--force"]
        )
        == 1
    )
    assert main(["sheet", job, "--all", "--out", str(tmp_path / "set.svg")]) == 2
    assert "must end in .pdf" in capsys.readouterr().err
