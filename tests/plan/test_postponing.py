"""What only a later feature needs is made with that one."""

from holoptic.plan.moves import Move
from holoptic.plan.postponing import postponed


def move(phase, verb, uses, makes):
    return Move(0, phase, verb, "", uses, makes, "")


STOOL = [
    move("crate", "draw", (), ("a",)),
    move("carve: seat", "set off", ("a",), ("A",)),
    move("carve: seat", "draw", ("A",), ("b",)),
    move("carve: seat", "draw", ("a",), ("c",)),
    move("carve: seat", "firm in", ("a", "a", "c"), ("s1",)),
    move("carve: leg", "draw", ("c",), ("d",)),
    move("carve: leg", "meet", ("b", "d"), ("B",)),
    move("carve: leg", "firm in", ("B", "B", "d"), ("s2",)),
]


def told(moves):
    return [(each.phase, *each.makes) for each in moves]


def test_what_the_leg_alone_needs_is_made_before_its_first_use_there():
    moves = postponed(STOOL, {"s1": "seat", "s2": "leg"})
    assert told(moves) == [
        ("crate", "a"), ("carve: seat", "c"), ("carve: seat", "s1"), ("carve: leg", "d"),
        ("carve: leg", "A"), ("carve: leg", "b"), ("carve: leg", "B"), ("carve: leg", "s2"),
    ]  # fmt: skip


def test_what_a_feature_needs_itself_stays_with_it():
    assert postponed(STOOL, {"s1": "seat", "s2": "seat"}) == STOOL


def test_what_a_check_reads_stays():
    checked = [*STOOL, move("check", "check", ("A", "B"), ())]
    assert postponed(checked, {"s1": "seat", "s2": "leg"}) == checked


def test_nothing_is_postponed_where_strokes_have_no_feature():
    assert postponed(STOOL, {}) == STOOL


def test_nothing_is_constructed_where_all_is_firmed_in_at_the_end():
    late = [*STOOL[:-2], move("firm in", "firm in", ("A", "A", "d"), ("s2",))]
    assert told(postponed(late, {"s1": "seat", "s2": "leg"}))[1] == ("carve: seat", "A")
