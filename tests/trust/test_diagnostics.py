"""What went wrong can be told afterwards, and nothing of a drawing goes along unasked."""

import json
import os
import signal
import subprocess
import sys
import time

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from holoptic.cli.main import main
from holoptic.demo import job_path
from holoptic.desk.application.window import DeskWindow
from holoptic.diagnostics import LOG_NAME, Run, catch_faults, ended_badly, report, start_log
from holoptic.errors import BadInput
from holoptic.places import state_folder

LEFT = Qt.MouseButton.LeftButton
DESK = [sys.executable, "-P", "-m", "holoptic", "demo"]


def test_the_log_is_where_it_is_asked_for_and_private(capsys, tmp_path):
    log = tmp_path / "mine.txt"
    grid = ["grid", "--out", str(tmp_path / "grid.svg")]
    assert main(["--log-level", "debug", *grid, "--log-file", str(log)]) == 0
    assert log.stat().st_mode & 0o777 == 0o600
    assert main([*grid, "--force", "--log-file", str(tmp_path / "no" / "log.txt")]) == 2
    assert "log.txt cannot be written" in capsys.readouterr().err
    assert main([*grid, "--log-level", "loud"]) == 2


def test_an_internal_error_is_one_line_and_the_log_has_the_rest(capsys, monkeypatch, tmp_path):
    def fail(*_):
        raise ZeroDivisionError("made to\nfail")

    monkeypatch.setattr("holoptic.cli.files.underlay", fail)
    assert main(["grid", "--out", str(tmp_path / "grid.svg")]) == 1
    assert capsys.readouterr().err.count("\n") == 1
    assert "Traceback" in (state_folder() / LOG_NAME).read_text()


def test_the_log_does_not_grow_for_ever():
    import logging

    start_log()
    for _ in range(3000):
        logging.getLogger("holoptic").error("x" * 1000)
    logs = list(state_folder().glob(f"{LOG_NAME}*"))
    assert sum(log.stat().st_size for log in logs) < 2_000_000


def test_a_run_that_does_not_end_well_is_known_afterwards():
    good, bad = Run(), Run()
    assert not ended_badly()
    good.end()
    os.close(bad._handle)  # as when its process is killed
    assert ended_badly()
    assert not ended_badly()  # asked once


def test_a_process_that_is_brought_down_leaves_its_stack():
    code = "from holoptic.diagnostics import catch_faults; catch_faults('worker'); import os\n"
    code += "def deep(): os.abort()\ndeep()"
    subprocess.run([sys.executable, "-P", "-c", code], check=False, capture_output=True)
    told = report()
    assert "Fatal Python error: Aborted" in told
    assert "in deep" in told
    assert "holoptic-job" not in told
    assert "holoptic-job" in report(job_path().read_bytes())


def test_a_named_log_that_cannot_be_is_said():
    with pytest.raises(BadInput, match="cannot be written"):
        start_log(file="/no/such/folder/log.txt")
    catch_faults("window")


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGHUP])
def test_a_desk_that_is_ended_keeps_its_work(number, tmp_path):
    """As when one logs out: edits that were not saved are offered at the next start."""
    code = f"""
import sys
from PyQt6.QtCore import QTimer
from holoptic.desk.application import launch
opened = launch.DeskWindow.open_first
def open_first(window, *arguments, **options):
    opened(window, *arguments, **options)
    window.session.document.rename_job("not saved yet")
    print("ready", flush=True)
launch.DeskWindow.open_first = open_first
sys.exit(launch.launch({str(job_path())!r}, demo=True))
"""
    with subprocess.Popen([sys.executable, "-P", "-c", code], stdout=subprocess.PIPE) as process:
        assert process.stdout.readline() == b"ready\n"
        process.send_signal(number)
        assert process.wait(10) == 143
    (kept,) = state_folder().glob("autosave-*.holoptic")
    assert json.loads(kept.read_text())["name"] == "not saved yet"
    assert not ended_badly()


def test_after_a_crash_the_next_start_offers_a_report(qtbot, tmp_path):
    process = subprocess.Popen(DESK, stderr=subprocess.DEVNULL)
    while not list(state_folder().glob("run-*.lock")):
        time.sleep(0.05)
    process.kill()
    process.wait()
    assert ended_badly()
    window = DeskWindow()
    qtbot.add_widget(window)
    window.show()
    window.furnish()
    window.open_first(None)
    window.offer_report()
    window.hint.buttons["Show the report"].click()
    sheet = window._furniture.report_sheet
    qtbot.wait_until(sheet.isVisible)
    assert "Python 3" in sheet.text.toPlainText()
    assert "holoptic-job" not in sheet.text.toPlainText()
    sheet.save_to(tmp_path / "report.txt")
    assert "PyQt6" in (tmp_path / "report.txt").read_text()
    QTest.mouseClick(sheet.close_button, LEFT)
    assert not sheet.isVisible()
    window.show_keys()
    QTest.mouseClick(window.key_sheet.about_button, LEFT)
    assert sheet.isVisible()
    assert str(state_folder()) in sheet.text.toPlainText()
    window.close_down()
