"""The caliper stand-in and its line protocol."""

import contextlib
import os
import subprocess
import sys

import pytest
from hypothesis import given
from hypothesis import strategies as st

from holoptic.demo import playback_path
from holoptic.devices.caliper import CaliperReading, LineBuffer, Stand, playback, read_line
from holoptic.errors import BadInput


@pytest.mark.parametrize(
    ("line", "reading"),
    [("R 26.48 mm", CaliperReading("26.48", "mm", 26.48)),
     ("R 1.0425 in\r", CaliperReading("1.0425", "in", pytest.approx(26.4795))),
     ("Z", None), ("B 80", None), ("", None)],
)  # fmt: skip
def test_lines_of_the_protocol(line, reading):
    assert read_line(line) == reading


@pytest.mark.parametrize("line", ["R 26,48 mm", "R 0.00 mm", "R -3 mm", "R 99999 mm", "26.48 mm",
                                  "R 1 cm", "R 1 mm; rm", "R " + "1" * 80])  # fmt: skip
def test_lines_that_measure_nothing_are_refused_in_one_line(line):
    with pytest.raises(BadInput) as refused:
        read_line(line)
    assert "\n" not in str(refused.value)


@given(st.binary(max_size=400))
def test_no_noise_on_the_line_does_harm(noise):
    for line in LineBuffer().lines(noise + b"\n"):
        with contextlib.suppress(BadInput):
            read_line(line)


def test_lines_arrive_in_pieces():
    buffer = LineBuffer()
    assert list(buffer.lines(b"R 26.")) == []
    assert list(buffer.lines(b"48 mm\nZ\nR 1")) == ["R 26.48 mm", "Z"]


def test_the_stand_in_speaks_on_a_terminal():
    stand = Stand()
    listener = os.open(stand.path, os.O_RDONLY | os.O_NOCTTY)
    stand.send("R 16.52 mm")
    assert os.read(listener, 100) == b"R 16.52 mm\n"
    os.close(listener)
    stand.close()


def test_a_playback_file_is_played_by_the_program(tmp_path):
    file = tmp_path / "readings.txt"
    file.write_text("wait 0.6\nR 12.5 mm  # across\nR 8 mm\n")
    run = subprocess.Popen([sys.executable, "-m", "holoptic.devices.caliper", str(file)],
                           stdout=subprocess.PIPE, text=True)  # fmt: skip
    listener = os.open(run.stdout.readline().strip(), os.O_RDONLY | os.O_NOCTTY)
    heard = b""
    while heard.count(b"\n") < 2:
        heard += os.read(listener, 100)
    os.close(listener)
    assert heard == b"R 12.5 mm\nR 8 mm\n"
    run.stdout.close()
    assert run.wait(timeout=10) == 0
    lines = [line for _, line in playback(playback_path())]
    assert len([read_line(line) for line in lines if read_line(line)]) == 4
