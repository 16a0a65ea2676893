"""Write src/holoptic/locale/holoptic.pot, the catalogue of every text that a user reads.

A language is made from it: copy it to `locale/LANGUAGE/LC_MESSAGES/holoptic.po`, translate, compile
with `msgfmt`, and start Holoptic with HOLOPTIC_LANGUAGE=LANGUAGE.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parent.parent
CORE = ROOT / "src" / "holoptic"
TARGET = CORE / "locale" / "holoptic.pot"
_FORMS = {"tr": 1, "later": 1, "mark": 1, "ntr": 2}
_HEAD = """# Texts of Holoptic. Named places in braces stay as they are, in any order.
msgid ""
msgstr ""
"Content-Type: text/plain; charset=UTF-8\\n"
"Content-Transfer-Encoding: 8bit\\n"
"Plural-Forms: nplurals=2; plural=(n != 1);\\n"
"""


def calls(path: Path) -> Iterator[tuple[ast.Call, str]]:
    """Yield the calls that look a text up, with the name of what is called."""
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
            name = node.func.id
            if name in _FORMS:
                yield node, name


def texts(path: Path) -> Iterator[tuple[str, ...]]:
    """Yield the texts that a module marks, one that counts with its plural."""
    for call, name in calls(path):
        given = call.args[: _FORMS[name]]
        found = tuple(
            item.value for item in given
            if isinstance(item, ast.Constant) and isinstance(item.value, str)
        )  # fmt: skip
        if len(found) == _FORMS[name]:
            yield found


def catalogue() -> str:
    """Return the catalogue, sorted by text, with the modules in which each stands."""
    places: dict[tuple[str, ...], list[str]] = {}
    for path in sorted(CORE.rglob("*.py")):
        if path.name != "catalogue.py":
            for found in texts(path):
                module = str(path.relative_to(CORE))
                if module not in places.setdefault(found, []):
                    places[found].append(module)
    entries = [_HEAD, *(_entry(found, places[found]) for found in sorted(places))]
    return "\n".join(entries)


def _entry(found: tuple[str, ...], modules: list[str]) -> str:
    lines = [f"#: {module}" for module in modules] + [f"msgid {_quoted(found[0])}"]
    if len(found) == 1:
        return "\n".join([*lines, 'msgstr ""', ""])
    plural = [f"msgid_plural {_quoted(found[1])}", 'msgstr[0] ""', 'msgstr[1] ""', ""]
    return "\n".join([*lines, *plural])


def _quoted(text: str) -> str:
    shown = text.replace("\\", "\\\\").replace('"', '\\"').replace("\t", "\\t").replace("\n", "\\n")
    return f'"{shown}"'


if __name__ == "__main__":
    TARGET.write_text(catalogue(), encoding="utf-8")
