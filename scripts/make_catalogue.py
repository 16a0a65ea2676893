"""Write src/holoptic/locale/holoptic.pot, the catalogue of every text that a user reads, and bring
each language (`locale/LANGUAGE/LC_MESSAGES/holoptic.po`) up to it.

Texts that are new come into a language empty, for its translator; what is said no more goes out.
A language begins as an empty folder `locale/LANGUAGE/LC_MESSAGES`; `holoptic.languages` names those
that can be chosen.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path

import polib

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


def languages() -> list[Path]:
    """Return the folders of the languages there are."""
    return sorted(TARGET.parent.glob("*/LC_MESSAGES"))


def brought_up(folder: Path, texts_now: str) -> polib.POFile:
    """Return a language with exactly the texts of the catalogue, what it knew already filled in."""
    now = polib.pofile(texts_now)
    path = folder / "holoptic.po"
    known = {entry.msgid: entry for entry in polib.pofile(str(path))} if path.exists() else {}
    for entry in now:
        before = known.get(entry.msgid)
        if before is None or entry.msgid_plural != before.msgid_plural:
            continue
        entry.msgstr = before.msgstr
        entry.msgstr_plural = dict(before.msgstr_plural)
        entry.tcomment = before.tcomment
    if path.exists():
        now.metadata = polib.pofile(str(path)).metadata
    now.header = f"Holoptic, {folder.parent.name}"
    return now


def main() -> None:
    """Write the catalogue, its languages, and these once more as programs read them."""
    texts_now = catalogue()
    TARGET.write_text(texts_now, encoding="utf-8")
    for folder in languages():
        made = brought_up(folder, texts_now)
        made.save(str(folder / "holoptic.po"))
        made.save_as_mofile(str(folder / "holoptic.mo"))
        left = len(made.untranslated_entries())
        print(f"{folder.parent.name}: {len(made)} texts, {left} to be translated")


if __name__ == "__main__":
    main()
