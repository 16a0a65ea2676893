"""Every solid of our own against rays, each in another kind and from another corner.

`bench.oracle` casts rays at all of them in all kinds, from all corners.
"""

import pytest

from holoptic.pictorial import draw, view_of
from holoptic.solid.anatomy.kernel_shapes import tidy
from holoptic.solid.seeing.hidden import SeenSolid
from judge import judge
from own_solids import CORNERS, KINDS, SOLIDS


def test_a_change_of_kind_alone_asks_the_kernel_nothing():
    solid = SeenSolid(tidy(SOLIDS[0].kernel_shape()))
    looks = [
        solid.look(view_of(kind).toward_viewer) for kind in ("isometric", "isometric-projection")
    ]
    assert looks[0] is looks[1]


@pytest.mark.parametrize("number", range(len(SOLIDS)), ids=[body.name for body in SOLIDS])
def test_what_is_drawn_is_what_rays_see(number):
    body = SOLIDS[number]
    shape = tidy(body.kernel_shape())
    solid = SeenSolid(shape)
    kind = KINDS[number % len(KINDS)]  # all of both in `bench.oracle`
    view = view_of(kind, CORNERS[number % len(CORNERS)])
    verdict = judge(body, shape, draw(solid.look(view.toward_viewer), view))
    assert verdict.judged > 50
    assert verdict.holds, f"{kind} {view.corner}: {verdict}"
