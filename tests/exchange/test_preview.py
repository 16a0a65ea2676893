"""A job file shows itself: the lines of its first figure, drawn without kernel and window."""

import io
import json
import subprocess
import sys

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from holoptic.cli.main import main
from holoptic.demo import job_names, job_path
from holoptic.errors import BadInput
from holoptic.exchange.job_file import job_bytes, job_schema, read_job
from holoptic.exchange.preview import GRID, preview_in, preview_png


def _picture(path):
    return Image.open(io.BytesIO(path.read_bytes())).convert("L")


@pytest.mark.parametrize("name", job_names())
def test_every_demo_job_is_shown_without_kernel_or_window(name, tmp_path):
    code = (
        "import sys; from holoptic.cli.main import main\n"
        f"assert main(['thumbnail', {str(job_path(name))!r}, {str(tmp_path / 'o.png')!r}]) == 0\n"
        "assert not {'OCP', 'PyQt6', 'pydantic', 'scipy'} & {m.partition('.')[0] for m in"
        " sys.modules}"
    )
    subprocess.run([sys.executable, "-P", "-c", code], check=True)
    picture = _picture(tmp_path / "o.png")
    assert picture.size == (256, 256)
    ink = sum(picture.point(lambda shade: shade < 100).histogram()[1:])
    assert ink > 300
    # the figure fills its paper: one of its sides is the grid's whole length
    places = [place for line in preview_in(job_path(name)) for place in line]
    assert max(max(place) for place in places) == GRID


def test_a_job_without_its_picture_is_worked_out_and_looks_the_same(tmp_path):
    content = json.loads(job_path("harbour-lamp").read_text("utf-8"))
    del content["preview"]
    bare = tmp_path / "bare.holoptic"
    bare.write_text(json.dumps(content), "utf-8")
    assert preview_in(bare) is None
    for source, name in ((bare, "a.png"), (job_path("harbour-lamp"), "b.png")):
        assert main(["thumbnail", str(source), str(tmp_path / name), "--size", "96"]) == 0
    first, second = _picture(tmp_path / "a.png"), _picture(tmp_path / "b.png")
    differences = sum(
        abs(a - b) > 90 for a, b in zip(first.tobytes(), second.tobytes(), strict=True)
    )
    assert differences < 40


def test_what_was_changed_by_another_hand_has_no_picture(tmp_path):
    text = job_path("harbour-lamp").read_text("utf-8")
    changed = tmp_path / "changed.holoptic"
    changed.write_text(text.replace('"84"', '"94"').replace("84.0", "94.0"), "utf-8")
    assert preview_in(changed) is None
    again = tmp_path / "again.holoptic"
    again.write_text(json.dumps(json.loads(text)), "utf-8")  # laid out otherwise, and the same
    assert preview_in(again) == preview_in(job_path("harbour-lamp"))


def test_the_picture_is_no_part_of_the_job():
    job = read_job(job_path("harbour-lamp"))
    assert b'"preview"' not in job_bytes(job)
    assert "preview" in job_schema()["properties"]
    assert "preview" not in job_schema()["required"]


@given(st.data())
def test_hostile_pictures_are_left_out(tmp_path_factory, data):
    file = tmp_path_factory.mktemp("hostile") / "a.holoptic"
    content = json.loads(job_bytes(read_job(job_path("harbour-lamp"))))
    lines = data.draw(
        st.one_of(
            st.text(max_size=40), st.none(), st.integers(), st.just("1 1 " * 100_000),
            st.just("99999 1 2 2"), st.just("1 1 2"), st.just("-1 0 4 4"), st.just(";"),
        )
    )  # fmt: skip
    from holoptic.exchange.preview import digest

    content["preview"] = {"of": digest(content), "lines": lines}
    file.write_text(json.dumps(content), "utf-8")
    assert preview_in(file) is None
    content["preview"] = data.draw(st.one_of(st.none(), st.lists(st.integers()), st.text()))
    file.write_text(json.dumps(content), "utf-8")
    assert preview_in(file) is None


@pytest.mark.parametrize(
    ("content", "says"),
    [(b"", "no whole JSON"), (b"[" * 90_000, "no whole JSON"), (b"\xff", "no whole JSON"),
     (b"[]", "not a Holoptic job file"), (b'{"format": "other"}', "not a Holoptic job file")],
)  # fmt: skip
def test_files_that_are_no_jobs_are_refused_in_one_line(content, says, tmp_path, capsys):
    bad = tmp_path / "bad.holoptic"
    bad.write_bytes(content)
    assert main(["thumbnail", str(bad), str(tmp_path / "o.png")]) == 2
    told = capsys.readouterr().err
    assert says in told
    assert told.count("\n") == 1
    assert not (tmp_path / "o.png").exists()


def test_sizes_and_targets_are_looked_at(tmp_path, capsys):
    job, out = str(job_path("round-parts")), tmp_path / "o.png"
    for size in ("15", "1025", "-3"):
        assert main(["thumbnail", job, str(out), "--size", size]) == 2
    assert main(["thumbnail", job, str(out), "--size", "16"]) == 0
    assert main(["thumbnail", job, str(out)]) == 2
    assert "--force" in capsys.readouterr().err
    assert main(["thumbnail", job, str(out), "--force"]) == 0
    with pytest.raises(BadInput):
        preview_png([[(0, 0), (1, 1)]], 0)
