"""A draft as plain words, to be kept between one day and the next."""

from __future__ import annotations

from typing import Any, get_args

from holoptic.catalogue import tr
from holoptic.errors import ExpressionError
from holoptic.job import Angle
from holoptic.part.outline_text import outline_text, read_outline
from holoptic.part.walk import Walk
from holoptic.reading.draft import PANES, Draft, Track
from holoptic.reading.lines import Status
from holoptic.units import Length, Unit


def draft_words(draft: Draft) -> dict[str, Any]:
    """Return a draft as plain values that JSON can hold."""
    return {
        "size": [size.text for size in draft.size],
        "angle": draft.angle,
        "unit": draft.unit.value,
        "symmetric": sorted(draft.symmetric),
        "tracks": [
            {
                "view": track.view,
                "status": track.status,
                "steps": list(track.walk.steps),
                "corners": outline_text(track.walk.points),
                "closed": track.walk.closed,
                "mirrored": sorted(track.mirrored),
            }
            for track in draft.tracks
        ],
    }


def draft_of(words: object) -> Draft | None:
    """Return a draft from plain values; None for what is none."""
    try:
        return _draft(words)
    except (ExpressionError, KeyError, TypeError, ValueError):
        return None


def _draft(words: Any) -> Draft:
    unit = Unit(words["unit"])
    length, depth, height = (Length.read(text, unit) for text in words["size"])
    if min(length.mm, depth.mm, height.mm) <= 0:
        raise ValueError(tr("a size is nothing"))
    empty = Draft(
        (length, depth, height), _one_of(get_args(Angle), words["angle"]), unit,
        symmetric=_axes(words["symmetric"]),
    )  # fmt: skip
    tracks = tuple(_track(item, empty) for item in words["tracks"])
    draft = Draft(empty.size, empty.angle, unit, tracks, empty.symmetric)
    for view in PANES:
        draft.lines(view)  # raises for an arc that misses its ends
    return draft


def _track(words: Any, draft: Draft) -> Track:
    status: Status = _one_of(get_args(Status), words["status"])
    walk = Walk()
    for step in words["steps"]:
        walk = walk.after(step, draft.unit, draft.names())
    if not words["steps"]:
        points = read_outline(words["corners"], draft.unit, draft.names())
        walk = Walk(points, closed=bool(words["closed"]))
    return Track(_one_of(PANES, words["view"]), status, walk, _axes(words["mirrored"]))


def _one_of(known: tuple[Any, ...], value: Any) -> Any:
    if value not in known:
        raise ValueError(tr("{value!r} is none of {known}", value=value, known=known))
    return value


def _axes(values: Any) -> frozenset[int]:
    axes = frozenset(values)
    if not axes <= {0, 1, 2}:
        raise ValueError(tr("a part has three axes"))
    return axes
