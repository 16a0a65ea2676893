"""Free faces as nets of places with normals, fine enough for what is seen of them."""

from __future__ import annotations

import math

import numpy as np
from OCP.BRepGProp import BRepGProp_Face
from OCP.gp import gp_Pnt, gp_Vec
from OCP.TopoDS import TopoDS_Face

from holoptic.tolerance import SAMPLE_CHORD_MM, SHARE, SOLVED

_PROBES = 25
"""Along each parameter, to learn how much a face bends."""
_FEWEST, _MOST = 5, 241
_STEP_TURN = 0.06
"""Radians from place to place at most."""


def net_over(face: TopoDS_Face, bounds: tuple[float, ...]) -> np.ndarray:
    """Return places of a face and its outward normals there, evenly over its surface's bounds.

    `bounds` are u0, u1, v0, v1. The net (u × v × 6, mm) is off the surface by about the chord of a
    sampled curve at most.
    """
    probe = _net(face, bounds, _PROBES, _PROBES)
    return _net(face, bounds, _count(probe), _count(probe.transpose(1, 0, 2)))


def _count(net: np.ndarray) -> int:
    """Return how many places along the first parameter keep the chords near the surface."""
    long = np.linalg.norm(np.diff(net[:, :, :3], axis=0), axis=2).sum(axis=0)
    cosines = (net[1:, :, 3:] * net[:-1, :, 3:]).sum(axis=2)
    turn = np.arccos(np.clip(cosines, -1, 1)).sum(axis=0)
    by_chord = np.sqrt(long * turn / (8 * SAMPLE_CHORD_MM)).max()
    needed = math.ceil(max(float(by_chord), float(turn.max()) / _STEP_TURN)) + 1
    return min(max(needed, _FEWEST), _MOST)


def _net(face: TopoDS_Face, bounds: tuple[float, ...], us: int, vs: int) -> np.ndarray:
    surface, point, normal = BRepGProp_Face(face), gp_Pnt(), gp_Vec()
    u0, u1, v0, v1 = bounds
    found = np.empty((us, vs, 6))
    for i, u in enumerate(np.linspace(u0, u1, us).tolist()):
        for j, v in enumerate(np.linspace(v0, v1, vs).tolist()):
            surface.Normal(u, v, point, normal)
            at = point.X(), point.Y(), point.Z()
            beside_u, beside_v = SHARE * _into(u, u0, u1), SHARE * _into(v, v0, v1)
            for aside in ((0.0, beside_v), (beside_u, 0.0), (beside_u, beside_v)):
                if normal.Magnitude() >= SOLVED:
                    break  # else a pole: the normal next to it, on the same line where it has one
                surface.Normal(u + aside[0], v + aside[1], point, normal)
            found[i, j] = *at, normal.X(), normal.Y(), normal.Z()
    found[:, :, 3:] /= np.maximum(np.linalg.norm(found[:, :, 3:], axis=2, keepdims=True), SOLVED)
    return found


def _into(at: float, low: float, high: float) -> float:
    """Return a step from a parameter toward the middle of its bounds."""
    return high - low if at < (low + high) / 2 else low - high
