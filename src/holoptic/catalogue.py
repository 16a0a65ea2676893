"""The one catalogue of every text that a user reads.

Texts are written in English where they are used, as whole sentences with named places, and
looked up here; a language is a file of the standard's kind (gettext, `.mo`) in `locale`. It is
gettext and not Qt's own, as most sentences are made in the core, which knows no Qt, and in the
worker's process. Which language counts is chosen once, when a process starts (`regional`).
"""

from __future__ import annotations

import gettext
import re
import string
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any, NamedTuple

from holoptic.regional import decimal_mark, language, with_mark

DOMAIN = "holoptic"
FOLDER = Path(__file__).parent / "locale"
PSEUDO = "pseudo"
"""A language for tests: every letter accented, all texts longer by two fifths."""

_PLAIN = "AaBbCcDdEeFfGgHhIiJjKkLlMmNnOoPpQqRrSsTtUuVvWwXxYyZz"
_ACCENTED = "ÀàßƀÇçÐđÉéƑƒĜĝĤĥÎîĴĵĶķĹĺṀṁÑñÔôƤƥɊɋŔŕŠšŢţÛûṼṽŴŵẊẋÝýŽž"
_ACCENTS = str.maketrans(_PLAIN, _ACCENTED)
_KEPT = re.compile(r"\{[^{}]*\}|<[^<>]*>|\*\.\w+|\t.*", re.DOTALL)
"""What no translator touches: places, tags, endings of files, and keys behind a tab."""


def pseudo(text: str) -> str:
    """Return a text in the pseudo-language."""
    made, at = [], 0
    for kept in _KEPT.finditer(text):
        made += [text[at : kept.start()].translate(_ACCENTS), kept[0]]
        at = kept.end()
    made.append(text[at:].translate(_ACCENTS))
    body, tab, keys = "".join(made).partition("\t")
    longer = -(-2 * len(_KEPT.sub("", text)) // 5)
    end = len(body.rstrip(" .,:;…?!)"))
    return f"{body[:end]}{'·' * longer}{body[end:]}{tab}{keys}"


class _Pseudo(gettext.NullTranslations):
    """Gives every text in the pseudo-language."""

    def gettext(self, message: str) -> str:
        return pseudo(message)

    def ngettext(self, msgid1: str, msgid2: str, n: int) -> str:
        return pseudo(msgid1 if n == 1 else msgid2)


def _chosen() -> gettext.NullTranslations:
    wanted = language()
    if wanted == PSEUDO:
        return _Pseudo()
    if wanted == "en":
        return gettext.NullTranslations()
    return gettext.translation(DOMAIN, str(FOLDER), [wanted], fallback=True)


_language = _chosen()


class _Filler(string.Formatter):
    """Fills places in; decimals stand behind the mark that the reader is used to."""

    def format_field(self, value: Any, format_spec: str) -> Any:
        made = super().format_field(value, format_spec)
        return with_mark(made) if isinstance(value, float) else made


_fill = str.format if decimal_mark() == "." else _Filler().format


def filled(text: str, /, *values: object) -> str:
    """Return a text that was looked up before with its numbered places filled in."""
    return _fill(text, *values)


def mark(text: str) -> str:
    """Return a word that is data as it is, marked for the catalogue: `tr` is for who shows it."""
    return text


def tr(text: str, /, **places: object) -> str:
    """Return a text in the user's language, its named places filled in."""
    found = _language.gettext(text)
    return _fill(found, **places) if places else found


class Sentence(NamedTuple):
    """A text of the catalogue with what its named places hold, looked up only when it is read.

    So a move is data: `str` gives its words in the language and at the time of who reads it. A
    place may hold another sentence.
    """

    text: str
    places: tuple[tuple[str, object], ...] = ()

    def __str__(self) -> str:
        return tr(self.text, **dict(self.places))


Saying = Sentence | str
"""What is read as a text: a sentence, or words that are nobody's to translate."""


def later(text: str, /, **places: object) -> Sentence:
    """Return a text that is looked up when it is read.

    >>> str(later("Mark {name} {where}.", name="B", where=later("on the border")))
    'Mark B on the border.'
    """
    return Sentence(text, tuple(places.items()))


def words_in(saying: Saying) -> Iterator[str]:
    """Yield the words that fill the places of a saying, and of those within it.

    >>> list(words_in(later("Mark {name} {where}.", name="B", where=later("on {line}", line="a"))))
    ['B', 'a']
    """
    if isinstance(saying, Sentence):
        for _, value in saying.places:
            if isinstance(value, Sentence):
                yield from words_in(value)
            elif isinstance(value, str):
                yield value


def english(saying: Saying) -> str:
    """Return a saying as it was written, whatever language is shown: for who reads it by rules.

    >>> english(later("Mark {name} {where}.", name="B", where=later("on the border")))
    'Mark B on the border.'
    """
    if not isinstance(saying, Sentence):
        return saying
    places = {
        name: english(value) if isinstance(value, Sentence) else value
        for name, value in saying.places
    }
    return saying.text.format(**places) if places else saying.text


def sentences(*several: Saying) -> Saying:
    """Return whole sentences read one after the other; empty ones are left out.

    >>> str(sentences("Draw it.", "", "It is level."))
    'Draw it. It is level.'
    """
    first, *others = [each for each in several if each != ""] or [""]
    for each in others:
        first = later("{first} {second}", first=first, second=each)
    return first


def several(sayings: Sequence[Saying]) -> Saying:
    """Return sayings in a row, the last behind an and.

    >>> str(several(["A", "B", "C"]))
    'A, B and C'
    """
    *before, last = sayings
    if not before:
        return last
    first = before[0]
    for each in before[1:]:
        first = later("{first}, {second}", first=first, second=each)
    return later("{first} and {last}", first=first, last=last)


def ntr(one: str, many: str, count: int, /, **places: object) -> str:
    """Return a text that counts something, in the form for that number; `{count}` is the number.

    >>> ntr("{count} feature", "{count} features", 1), ntr("{count} feature", "{count} features", 3)
    ('1 feature', '3 features')
    """
    return _fill(_language.ngettext(one, many, count), count=count, **places)
