"""What is kept: by body, bounded, shared fairly, and forgotten in one place."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

import holoptic.keeping
from cast import crate, hole
from holoptic.job import pose
from holoptic.keeping import Cache, about, caches, forget_everything
from holoptic.part import Part
from holoptic.solid import caches as solid_caches
from holoptic.solid.anatomy import faces, rows
from holoptic.worker import tasks


@pytest.fixture
def cache(monkeypatch):
    monkeypatch.setattr(holoptic.keeping, "_all", [])
    return Cache("numbers", 12, "for a test", 8)


def test_what_was_used_longest_ago_goes_first(cache):
    for number in range(8):
        cache.keep(number, str(number))
    assert cache.get(0) == "0"
    cache.keep(8, "8")
    assert (cache.get(0), cache.get(1), cache.get(8)) == ("0", None, "8")


def test_bodies_do_not_push_each_other_out(cache):
    with about("small"):
        cache.keep("own", "kept")
    with about("large"):
        for number in range(1000):
            cache.keep(number, "large")
        assert cache.get("own") is None  # it belongs to the other one
    with about("small"):
        assert cache.get("own") == "kept"


@given(st.lists(st.tuples(st.sampled_from("abcd"), st.integers(0, 40)), max_size=200))
def test_a_cache_stays_within_its_bounds(steps):
    cache = Cache("numbers", 12, "for a test", 8)
    holoptic.keeping._all.remove(cache)
    for body, number in steps:
        with about(body):
            cache.keep(number, (body, number))
            assert cache.get(number) == (body, number)
    held = {body: sum(cache_has(cache, body, n) for n in range(41)) for body in "abcd"}
    assert sum(held.values()) == len(cache) <= 12
    assert max(held.values()) <= 8


@given(st.lists(st.integers(1, 60), min_size=1, max_size=60))
def test_room_is_made_for_large_bodies_and_given_back(sizes):
    cache = Cache("numbers", 100, "for a test", 80, usual=(12, 8))
    holoptic.keeping._all.remove(cache)
    for size in sizes:
        cache.make_room(size)
        for number in range(size):
            cache.keep(number, number)
        assert len(cache) <= cache.each <= 80
        # all of a body stays, and it stays for the next
        assert all(cache.get(number) == number for number in range(size))
    for _ in range(16):
        cache.make_room(3)
    cache.keep(0, 0)
    assert len(cache) <= cache.each == 8
    assert cache.most == 12


def cache_has(cache, body, number):
    with about(body):
        return cache.get(number) is not None


def test_work_for_a_body_ends_even_where_it_fails():
    with pytest.raises(ZeroDivisionError), about("one"):
        1 / 0  # noqa: B018
    assert holoptic.keeping._InHand.body == ""


def test_every_cache_says_what_it_holds_how_much_and_why():
    own = {c for c in vars(solid_caches).values() if isinstance(c, Cache)}
    assert own <= set(caches())
    for cache in caches():
        assert cache.what
        assert cache.why
        assert 0 < cache.each <= cache.most


def plate(name, diameter, u):
    """Parts of one crate with many holes in common, so that only content tells them apart."""
    holes = tuple(
        hole(
            f"{name} {k}", diameter=4 + 0.01 * len(name), u=10 + 14 * (k % 8), v=10 + 14 * (k // 8)
        )
        for k in range(40)
    )
    return Part(name, crate(128, 90, 12), (*holes, hole("edited", diameter=diameter, u=u, v=82)))


def test_parts_of_one_crate_take_turns_without_starting_over(monkeypatch):
    """What is found out about a face is not found out again when another part was looked at."""
    forget_everything()
    looked_into = []
    row = rows.face_row
    monkeypatch.setattr(faces, "face_row", lambda *of: looked_into.append(1) or row(*of))
    one, other = pose(plate("p", 4.0, 60)), pose(plate("other", 4.0, 30))
    other = replace(other, figure=replace(other.figure, id="f2", subject="p2"))
    counts = []
    for step in range(1, 6):
        tasks.present(replace(one, source=plate("p", 4.0 + 0.2 * step, 60)))
        tasks.present(replace(other, source=plate("other", 4.0 + 0.2 * step, 30)))
        counts.append(len(looked_into))
        looked_into.clear()
    assert counts[0] > 80
    # later the edited hole, and the two faces that it is cut into
    assert max(counts[2:]) <= 2 * 4


def test_everything_is_forgotten_in_one_place():
    tasks.present(pose(plate("p", 5.0, 60)))
    assert any(len(cache) for cache in caches())
    forget_everything()
    assert not any(len(cache) for cache in caches())
    assert tasks.present(pose(plate("p", 5.0, 60))).facts.volume > 0
