"""How a whole drawing lies on its sheet: a motion of all of it is no error of any stroke."""

from __future__ import annotations

import numpy as np

from holoptic.checking.causes import MEASURED_MM, Suspects
from holoptic.checking.traces import Offs
from holoptic.tolerance import SOLVED

SURE = 3.3
"""So many standard deviations of the hand's ordinary spread are allowed."""
_USUAL_MM = 0.4


class Placing:
    """Tells how far strokes lie off within their drawing, and how far they may."""

    def __init__(self, suspects: Suspects) -> None:
        self._traces = suspects.traced.traces
        self._counts = [len(one.meant) for one in self._traces]
        meant = np.concatenate([one.meant for one in self._traces])
        normals = np.concatenate([one.normals for one in self._traces])
        turned = 1j * (meant - meant.mean())
        self._ways = np.column_stack([
            normals.real, normals.imag, (turned * normals.conj()).real
        ])  # fmt: skip
        self._by_draw = np.concatenate([
            (places * one.normals.conj()).real * suspects.spreads[:, None]
            for one, places in zip(self._traces, suspects.by_draw, strict=True)
        ], axis=1)  # fmt: skip

    def within(self, offs: list[Offs | None]) -> tuple[list[Offs | None], list[float]]:
        """Return how far strokes lie off (across, at their places; None where not found) without
        the motion that they have in common, and the most that each may be off; mm.

        A motion that is larger than the hand's ordinary spread explains counts as an error.
        """
        known = self._known(offs)
        motion = self._motion(known)
        solve = np.linalg.pinv(self._ways)
        usual = np.sqrt(((solve @ self._by_draw.T) ** 2).sum(axis=1))
        is_usual = bool((np.abs(motion) <= SURE * np.maximum(usual, SOLVED)).all())
        if is_usual:
            known = known - self._ways @ motion
            scatter = self._by_draw - (self._by_draw @ solve.T) @ self._ways.T
        else:
            scatter = self._by_draw
        spread = np.hypot(np.sqrt((scatter**2).sum(axis=0)), MEASURED_MM)
        ends = np.cumsum(self._counts)[:-1]
        rest = [None if off is None else one
                for off, one in zip(offs, np.split(known, ends), strict=True)]  # fmt: skip
        return rest, [SURE * float(one.max()) for one in np.split(spread, ends)]

    def motion(self, offs: list[Offs | None]) -> Offs:
        """Return how far the whole drawing is moved across and up (mm), and turned (radians)."""
        return self._motion(self._known(offs))

    def _known(self, offs: list[Offs | None]) -> Offs:
        return np.concatenate([
            np.full(count, np.nan) if off is None else off
            for off, count in zip(offs, self._counts, strict=True)
        ])  # fmt: skip

    def _motion(self, known: Offs) -> Offs:
        """Return how the whole is moved across and up, and turned: least squares, of which what is
        far off weighs little.
        """
        is_told = ~np.isnan(known)
        rows, off = self._ways[is_told], known[is_told]
        motion: Offs = np.zeros(3)
        if len(off) < 6:
            return motion
        for _ in range(12):
            weights = 1.0 / (1.0 + ((off - rows @ motion) / _USUAL_MM) ** 2)
            scaled = rows * weights[:, None]
            motion = np.asarray(np.linalg.lstsq(scaled, off * weights, rcond=None)[0])
        return motion
