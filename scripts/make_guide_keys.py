"""Write the tables of keys in docs/guide.md from the desk's own map of keys.

Run: .venv/bin/python scripts/make_guide_keys.py
"""

from __future__ import annotations

from pathlib import Path

from holoptic.desk.application.key_map import KEYS, TITLES

GUIDE = Path(__file__).parent.parent / "docs" / "guide.md"
BEGIN, END = "<!-- keys: made by scripts/make_guide_keys.py -->\n", "<!-- end of keys -->\n"


def tables() -> str:
    """Return a table for each page."""
    made = []
    for name, entries in KEYS.items():
        rows = "".join(f"| {key} | {what} |\n" for key, what in entries)
        made.append(f"**{TITLES[name]}**\n\n| Key | Does |\n|---|---|\n{rows}\n")
    return "".join(made)


def main() -> None:
    """Exchange what stands between the marks."""
    text = GUIDE.read_text("utf-8")
    before, _, rest = text.partition(BEGIN)
    GUIDE.write_text(f"{before}{BEGIN}\n{tables()}{END}{rest.partition(END)[2]}", "utf-8")


if __name__ == "__main__":
    main()
