"""Every solid of our own, in every kind, from every corner, against rays: a table per solid.

Run: .venv/bin/python -m bench.oracle [NAME ...]   (about a quarter of an hour for all)
     .venv/bin/python -m bench.oracle --cut         (each cut in three ways, three minutes)
"""

from __future__ import annotations

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))

from bench.cuts import judge_all
from csg import Body
from holoptic.pictorial import NearCorner, draw, view_of
from holoptic.solid.anatomy.kernel_shapes import tidy
from holoptic.solid.seeing.hidden import SeenSolid
from judge import Verdict, judge
from own_solids import KINDS, SOLIDS

_KINDS = (*KINDS, "isometric-projection", "oblique:30:0.75", "oblique:60:0.6667", "plan-oblique")


def judged(body: Body) -> list[tuple[str, Verdict]]:
    """Return the verdict on each picture of a solid."""
    shape = tidy(body.kernel_shape())
    solid = SeenSolid(shape)
    verdicts = []
    for kind in _KINDS:
        for corner in NearCorner:
            view = view_of(kind, corner)
            verdict = judge(body, shape, draw(solid.look(view.toward_viewer), view))
            verdicts.append((f"{kind} {corner.value}", verdict))
    return verdicts


def main() -> None:
    """Print a row per solid, and below it each picture that the judge does not accept."""
    names = sys.argv[1:]
    if names == ["--cut"]:
        judge_all()
        return
    print("| solid | pictures | largest difference of visible length | not accepted |")
    print("|---|---|---|---|")
    for body in SOLIDS:
        if names and body.name not in names:
            continue
        verdicts = judged(body)
        worst = max(verdict.off_percent for _, verdict in verdicts)
        wrong = [(where, verdict) for where, verdict in verdicts if not verdict.holds]
        print(f"| {body.name} | {len(verdicts)} | {worst:.2f} % | {len(wrong)} |", flush=True)
        for where, verdict in wrong:
            print(f"    {where}: {verdict}", file=sys.stderr, flush=True)


if __name__ == "__main__":
    main()
