"""What came of reading, in words: of all answers, and of each."""

from __future__ import annotations

from holoptic.catalogue import ntr, tr
from holoptic.part import Operation, Part
from holoptic.reading.result import Answer, Reading


def title(reading: Reading | None, number: int) -> str:
    """Return what an answer is called."""
    if reading is None or reading.verdict == "unique":
        return tr("The part")
    if reading.verdict == "unfinished":
        return tr("The part so far")
    return (
        tr("The nearest part")
        if reading.verdict == "contradictory"
        else tr("Answer {number}", number=number + 1)
    )


def amount(answer: Answer) -> str:
    """Say how much makes an answer."""
    if not isinstance(answer.part, Part):
        return tr("a solid by its faces")
    return ntr("{count} feature", "{count} features", len(answer.part.operations))


def features(answer: Answer, answers: tuple[Answer, ...]) -> str:
    """Say what an answer is made of; of several, what the others have not."""
    if not isinstance(answer.part, Part):
        return tr("no features that have a name make it")
    own = answer.part.operations
    shown = odd(answer, answers) if len(answers) > 1 else range(len(own))
    return ", ".join(own[k].name for k in sorted(shown)) or tr("a plain block")


def odd(answer: Answer, answers: tuple[Answer, ...]) -> frozenset[int]:
    """Return the numbers of the operations that some other answer has not."""
    others = [_operations(a) for a in answers if a is not answer]
    own = enumerate(_operations(answer))
    return frozenset(k for k, o in own if any(o not in other for other in others))


def _operations(answer: Answer) -> tuple[Operation, ...]:
    return answer.part.operations if isinstance(answer.part, Part) else ()


def _contradiction(reading: Reading) -> str:
    if not reading.suspects:
        return tr("No part was found that shows all these lines.")
    return tr("{suspects} cannot be true with the rest.", suspects=_places(len(reading.suspects)))


def _places(count: int) -> str:
    return tr("One place") if count == 1 else tr("{count} places", count=count)


def outcome_words(reading: Reading | None) -> str:
    """Say what came of reading."""
    if reading is None:
        return ""
    count = len(reading.answers)
    words = {
        "unique": tr("Read: one part, and all lines are accounted for."),
        "several": tr(
            "The views can mean {count} parts: {question}", count=count, question=reading.question
        ),
        "contradictory": _contradiction(reading)
        + (" " + tr("The nearest part is shown.") if count else ""),
        "unfinished": "",
    }[reading.verdict]
    notes = [f"{note[0].upper()}{note[1:]}." for note in reading.notes]
    return " ".join([words, *notes] if words else notes)
