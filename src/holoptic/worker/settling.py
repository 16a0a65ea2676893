"""What can be made of what a figure shows, how it stands, is cut open and looked at."""

from __future__ import annotations

from dataclasses import replace

from holoptic.errors import BadInput, PartError
from holoptic.job import Posed
from holoptic.keeping import about
from holoptic.part import Part, Whole
from holoptic.part.cutting import Cutter, Stock, cutter_of
from holoptic.pictorial import View, view_of
from holoptic.solid.shelf import cut_bodies, opened, seen, sound_part
from holoptic.worker.spreading import draw_whole_apart, sound_whole


def view_in(posed: Posed) -> View:
    """Return how a figure is looked at. Raises BadInput for a kind or corner that is not known."""
    return view_of(posed.figure.kind, posed.figure.corner)


def sound(posed: Posed) -> tuple[Posed, tuple[PartError, ...]]:
    """Return a figure with what can be made of its subject, drawn apart and cut open where that is
    asked, and what cannot be made.

    A cut that cannot be leaves it whole, and is refused with why.
    """
    if isinstance(posed.source, Whole):
        with about(posed.figure.subject):
            whole, troubles = sound_whole(posed.source)
            if posed.spread is not None:
                toward = view_in(posed).toward_viewer
                whole = draw_whole_apart(whole, posed.spread, toward).at(posed.share)
        return _cut(posed.with_source(whole)), troubles
    if not isinstance(posed.source, Part):
        return _cut(posed), ()
    with about(posed.figure.subject):
        source, troubles = sound_part(posed.source)
    return _cut(posed.with_source(source) if troubles else posed), troubles


def settled(posed: Posed) -> Posed:
    """Return a figure whose subject stands as it is drawn; an uncut part is taken as it is."""
    is_as_it_is = not isinstance(posed.source, Whole) and not posed.figure.cut
    return posed if is_as_it_is else sound(posed)[0]


def _cut(posed: Posed) -> Posed:
    """Return a figure cut open where that is asked; parts that go altogether are left out."""
    words = posed.figure.cut
    if not words or not posed.figure.is_pictorial:
        return replace(posed, opening=None, refused="") if posed.opening else posed
    try:
        with about(posed.figure.subject):
            cutter = cutter_in(posed, words, view_in(posed))
            source = posed.source
            if isinstance(source, Whole):
                left = zip(source.bodies, cut_bodies(source, cutter), strict=True)
                kept = tuple(body for body, found in left if found.is_left)
                source = replace(source, bodies=kept) if kept else source
            opened(source, cutter)
    except BadInput as error:
        return replace(posed, opening=None, refused=str(error))
    return replace(posed, source=source, opening=cutter, refused="")


def cutter_in(posed: Posed, words: str, view: View) -> Cutter:
    """Return the room that a cut takes away, seen in a view; what is drawn apart is cut as it
    stands together.

    Raises BadInput where the words say nothing that can be.
    """
    source = posed.source
    together = source.moved({}) if isinstance(source, Whole) else source
    facts = seen(together).facts
    return cutter_of(words, Stock(together, facts.low, facts.high, view.toward_viewer))
