"""Where lines meet a solid, asked of the kernel: where the compiled part cannot serve."""

from __future__ import annotations

import numpy as np
from OCP.gp import gp_Dir, gp_Lin, gp_Pnt
from OCP.IntCurvesFace import IntCurvesFace_ShapeIntersector
from OCP.TopoDS import TopoDS_Shape

from holoptic.curves.vectors import Vec3
from holoptic.tolerance import EXACT_MM

_FAR_MM = 1e6


def kernel_depths(shape: TopoDS_Shape, axis: Vec3, points: np.ndarray) -> np.ndarray:
    """Return from where to where (n × 2, mm along an axis of length 1) lines along it through
    points (n × 3) meet a shape; the first is above the second where they do not.
    """
    meets = IntCurvesFace_ShapeIntersector()
    meets.Load(shape, EXACT_MM)
    found = np.empty((len(points), 2))
    for number, point in enumerate(points.tolist()):
        meets.Perform(gp_Lin(gp_Pnt(*point), gp_Dir(*axis)), -_FAR_MM, _FAR_MM)
        begin = float(np.dot(axis, point))
        at = [begin + float(meets.WParameter(k + 1)) for k in range(meets.NbPnt())]
        found[number] = min(at, default=np.inf), max(at, default=-np.inf)
    return found
