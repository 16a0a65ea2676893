"""The keys that a user has changed, by the place where they count.

They stand in the settings file under `keys`: for each place (a page, or everywhere) the key that is
usual with the one that is wanted instead, both as Qt writes them. What is no key there is as if it
were not there. Escape, Tab, Enter, plain arrows and figures are never taken for something else: by
them one leaves, walks, takes and types. They can have a second key beside them, under `always`.
"""

from __future__ import annotations

from PyQt6.QtGui import QKeySequence

from holoptic.desk.look.settings import keep_setting, read_settings

EVERYWHERE, ALWAYS = "everywhere", "always"
"""Places of keys beside the pages: what counts on each of them, and what stays what it is."""
FIXED = frozenset(
    ("Esc", "Tab", "Backtab", "Shift+Tab", "Return", "Enter", "Left", "Right", "Up", "Down",
     *"0123456789")
)  # fmt: skip
_NAME = "keys"


def written(key: str) -> str:
    """Return a key as Qt writes it; empty where it is none.

    >>> written("PgDown"), written("any word"), written("−")
    ('PgDown', '', '-')
    """
    sequence = QKeySequence(key.replace("−", "-"))  # as texts have it
    return sequence.toString() if sequence.count() == 1 else ""


def own_keys() -> dict[str, dict[str, str]]:
    """Return the changed keys by place, the usual key with the one that is wanted."""
    kept = read_settings().get(_NAME)
    table: dict[str, dict[str, str]] = {}
    for place, pairs in kept.items() if isinstance(kept, dict) else ():
        for usual, wanted in pairs.items() if isinstance(pairs, dict) else ():
            key = written(wanted) if isinstance(wanted, str) else ""
            if key and key not in FIXED and (usual in FIXED) == (place == ALWAYS):
                table.setdefault(place, {})[usual] = key
    return table


def keep_keys(changes: dict[tuple[str, str], str]) -> None:
    """Keep keys for what has a usual key at a place; the usual one again takes the change away."""
    table = own_keys()
    for (place, usual), key in changes.items():
        pairs = table.setdefault(place, {})
        pairs[usual] = key
        if key == usual:
            del pairs[usual]
    keep_setting(_NAME, {place: pairs for place, pairs in table.items() if pairs})
