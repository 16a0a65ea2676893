"""A small fixed sample of the trial that `python -m bench.trust` makes whole."""

import pytest
from bench.trust.desks import kill_desks, start_on_damaged_state
from bench.trust.mutating import damage_own_files, damage_sources
from bench.trust.names import try_names
from bench.trust.processes import PatientWorker, meddle_with_workers, open_in_two
from bench.trust.registers import damage_registers
from bench.trust.saving import fill_disks, kill_autosaves, kill_saves
from bench.trust.tally import Tally


@pytest.fixture
def tally():
    tried = Tally()
    yield tried
    assert tried.bad == 0, "\n".join(tried.examples)
    assert tried.counts


@pytest.fixture
def one_worker(monkeypatch):
    shared = PatientWorker()
    monkeypatch.setattr("holoptic.cli.sources.Worker", lambda *_, **__: shared)
    yield shared
    shared.stop()


def test_kills_while_saving(tally, tmp_path):
    kill_saves(tally, tmp_path, 12)
    kill_autosaves(tally, 8)


def test_a_desk_that_is_killed_and_one_on_damaged_state(tally, tmp_path):
    assert kill_desks(tally, 1) < 5.0
    start_on_damaged_state(tally, tmp_path, most=1)


def test_full_disks(tally, tmp_path):
    fill_disks(tally, tmp_path)


def test_two_windows(tally, tmp_path):
    open_in_two(tally, tmp_path, 2)


def test_own_files_that_are_damaged(tally):
    damage_own_files(tally, 300)
    damage_registers(tally, 25)


def test_sources_that_are_damaged(tally, tmp_path, one_worker):
    damage_sources(tally, tmp_path, 20)


def test_odd_names(tally, tmp_path, one_worker, monkeypatch):
    monkeypatch.setattr("bench.trust.names.NAMES", (b"\xff\xfe", b"a\nb", b"--out", b"x" * 246))
    try_names(tally, tmp_path)


def test_workers_that_die_or_hang(tally, tmp_path, one_worker):
    meddle_with_workers(tally, tmp_path, one_worker, most=1)
