"""Built solids, kept on a shelf: the last few are not built again for another look."""

from __future__ import annotations

import tempfile
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import cast

from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
from OCP.gp import gp_Trsf
from OCP.Standard import Standard_Failure
from OCP.TopoDS import TopoDS_Shape

from holoptic.catalogue import tr
from holoptic.curves.vectors import Vec3
from holoptic.errors import BadInput, PartError
from holoptic.keeping import about
from holoptic.part import Body, ImportedSolid, Part, PartSource, Source, Whole
from holoptic.part.cutting import Cutter
from holoptic.part.naming import spoken
from holoptic.part.provenance import operations_finder
from holoptic.part.walls import Panel
from holoptic.part.whole import UPRIGHT, Turning, turned_back
from holoptic.progress import tell
from holoptic.solid.anatomy.kernel_shapes import tidy, together
from holoptic.solid.anatomy.shapes import shape_in_walls
from holoptic.solid.anatomy.skin import skin_of
from holoptic.solid.caches import FILES, OPENED, SOLIDS, WHOLES
from holoptic.solid.making.changes import volumes_after
from holoptic.solid.making.cutting_open import (
    CutOpen,
    PlainFeature,
    cut_open,
    is_plain_part,
    plain_features,
)
from holoptic.solid.making.equal_solids import stands
from holoptic.solid.making.from_walls import solid_between
from holoptic.solid.making.outlined import IsFull
from holoptic.solid.making.stages import build, build_what_can_be
from holoptic.solid.making.step import Product, StepFile, read_step, write_assembly, write_solid
from holoptic.solid.pieces import FoundSolid, Look, Seen, Shape
from holoptic.solid.seeing.hidden import SeenSolid
from holoptic.solid.seeing.opened import SeenOpened
from holoptic.solid.seeing.walls import thinnest_walls
from holoptic.solid.seeing.whole import SeenWhole, set_off


def look(source: Source, directions: tuple[Vec3, ...], cutter: Cutter | None = None) -> Seen:
    """Return what is seen of a part along each direction, cut open where that is asked.

    Raises PartError or BadInput.
    """
    solid = seen(source) if cutter is None else opened(source, cutter)
    looks = []
    for number, direction in enumerate(directions):
        tell(tr("looking at it from each side"), number / len(directions))
        looks.append(solid.look(direction))
    return Seen(solid.facts, tuple(looks))


def looks_alone(whole: Whole, direction: Vec3) -> tuple[Look, ...]:
    """Return what is seen of each body where nothing else is. Raises PartError or BadInput."""
    return tuple(body_solid(body).look(direction) for body in whole.bodies)


def shape_of(source: Source) -> Shape:
    """Return the faces of a solid and how they meet, of a whole those of all its bodies.

    Raises PartError or BadInput.
    """
    if isinstance(source, Whole):
        shapes = [_in_walls(body_solid(body)).set_off(body.offset) for body in source.bodies]
        return shapes[0].with_others(shapes[1:])
    return _in_walls(_solid(source))


def _in_walls(solid: SeenSolid) -> Shape:
    return shape_in_walls(skin_of(solid.shape), solid.facts.low, solid.facts.high)


def sound_part(part: Part) -> tuple[Part, tuple[PartError, ...]]:
    """Return a part with every operation off that cannot be made, and why each cannot.

    Raises PartError where nothing is left.
    """
    troubles: list[PartError] = []
    while found := build_what_can_be(part).troubles:
        broken = {trouble.operation for trouble in found if trouble.operation is not None}
        if not broken:
            raise found[0]
        troubles += found
        operations = tuple(
            replace(operation, off=True) if index in broken else operation
            for index, operation in enumerate(part.operations)
        )
        part = replace(part, operations=operations)
    return part, tuple(troubles)


def inspect(part: Part) -> tuple[tuple[float, ...], list[tuple[int | None, float]]]:
    """Return the volume after each operation (mm³), and the thinnest wall (mm) at each one's faces.

    Raises PartError for a part that cannot be made.
    """
    solid = _solid(part)
    walls = thinnest_walls(solid.shape)
    operations = operations_finder(part)([place for place, _ in walls])
    thinnest: dict[int | None, float] = {}
    for (_, thickness), operation in zip(walls, operations, strict=True):
        thinnest[operation] = min(thickness, thinnest.get(operation, thickness))
    return volumes_after(part), list(thinnest.items())


def save_step(source: Source, path: str) -> None:
    """Write a part's solid as a STEP file, of a whole its bodies by their names, with the
    colours that a file gave them.

    Raises PartError or BadInput.
    """
    if isinstance(source, Whole):
        products = [
            Product(body.name, set_off(body_solid(body).shape, body.offset), body.colour)
            for body in source.bodies
        ]
        write_assembly(products, path, source.name)
        return
    write_solid(seen(source).shape, path, source.name)


def list_solids(path: str) -> tuple[ImportedSolid, ...]:
    """Return the solids that a STEP file holds, all of them together first. Raises BadInput."""
    stem = Path(path).stem
    count = len(_read(path).solids)
    if count == 1:
        return (ImportedSolid(stem, path, 0),)
    single = (ImportedSolid(f"{stem} {index + 1}", path, index) for index in range(count))
    return ImportedSolid(stem, path, None), *single


def list_assembly(path: str) -> tuple[FoundSolid, ...]:
    """Return how the solids of a STEP file stand together, equal ones as one. Raises BadInput."""
    file = _read(path)
    return stands(file.solids, file.instances)


def seen(source: Source) -> SeenSolid | SeenWhole:
    """Return a solid ready to be looked at, or several together. Raises PartError or BadInput."""
    if not isinstance(source, Whole):
        return _solid(source)
    bodies = source.bodies
    key = tuple((*_body_key(body), body.offset) for body in bodies)
    return WHOLES.get(key) or WHOLES.keep(
        key, SeenWhole([body_solid(body) for body in bodies], [body.offset for body in bodies])
    )


def opened(source: Source, cutter: Cutter) -> SeenOpened:
    """Return a solid cut open, or several; each is cut where it belongs, and then stands where it
    is drawn apart.

    Raises BadInput where nothing is cut or nothing left; PartError.
    """
    uncut = seen(source)
    bodies = source.bodies if isinstance(source, Whole) else ()
    stand = tuple((*_body_key(body), body.offset, body.moved) for body in bodies)
    key = stand or _key(cast(PartSource, source)), cutter
    return OPENED.get(key) or OPENED.keep(key, _open(source, uncut, cutter))


def _open(source: Source, uncut: SeenSolid | SeenWhole, cutter: Cutter) -> SeenOpened:
    if not isinstance(source, Whole):
        assert isinstance(uncut, SeenSolid)
        found = cut_open(uncut.shape, cutter, plain=_plain(source, cutter))
        _require_cut([found])
        return SeenOpened(SeenSolid(found.shape, uncut.operations_at), found.faces, uncut.facts)
    made = cut_bodies(source, cutter)
    _require_cut(made)
    solids = [
        SeenSolid(one.shape, body_solid(body).operations_at)
        if one.is_cut else body_solid(body)
        for one, body in zip(made, source.bodies, strict=True)
    ]  # fmt: skip
    offsets = [body.offset for body in source.bodies]
    faces = [
        face.set_off(offset, body)
        for body, (one, offset) in enumerate(zip(made, offsets, strict=True))
        for face in one.faces
    ]
    return SeenOpened(SeenWhole(solids, offsets), faces, uncut.facts)


def cut_bodies(whole: Whole, cutter: Cutter) -> list[CutOpen]:
    """Return what is left of each body of a whole, about its own origin."""
    found = []
    for body in whole.bodies:
        x, y, z = body.at
        solid = body_solid(body)
        names = {spoken(body.name), spoken(body.source.name)}
        is_left_out = cutter.only and not names & {spoken(name) for name in cutter.only}
        plain = _plain(body.source, cutter) if body.turning == UPRIGHT else []
        made = cut_open(solid.shape, cutter.set_off((-x, -y, -z)), plain=plain)
        if is_left_out or any(is_plain_part(n, cutter.plain, made, solid.shape) for n in names):
            made = CutOpen(solid.shape, (), is_cut=False)
        found.append(made)
    return found


def _plain(source: PartSource, cutter: Cutter) -> list[PlainFeature]:
    return plain_features(source, cutter.plain) if isinstance(source, Part) else []


def _require_cut(found: Sequence[CutOpen]) -> None:
    """Raise BadInput with why a cut shows nothing, where it does not."""
    if not any(one.is_cut for one in found):
        raise BadInput(tr("the plane misses it: nothing is cut"))
    if not any(one.is_left for one in found):
        raise BadInput(tr("the plane leaves nothing"))
    if not any(one.faces for one in found):
        raise BadInput(tr("the plane only grazes a face: nothing is cut open"))


def _solid(source: PartSource) -> SeenSolid:
    """Build a solid, or take it from the last few."""
    key = _key(source)
    return SOLIDS.get(key) or SOLIDS.keep(key, _build(source))


def _body_key(body: Body) -> tuple[object, ...]:
    return _key(body.source), body.turning


def body_solid(body: Body) -> SeenSolid:
    """Return the solid of a body as it is turned, about its own origin.

    Raises PartError or BadInput.
    """
    if body.turning == UPRIGHT:
        with about(body.part):
            return _solid(body.source)
    key = _body_key(body)
    with about(body.part):
        return SOLIDS.get(key) or SOLIDS.keep(key, _turned(_solid(body.source), body.turning))


def _turned(solid: SeenSolid, turning: Turning) -> SeenSolid:
    way = gp_Trsf()
    way.SetValues(*(value for row in turning for value in (*row, 0.0)))
    shape = BRepBuilderAPI_Transform(solid.shape, way, True).Shape()

    def operations_at(points: list[Vec3]) -> list[int | None]:
        return solid.operations_at([turned_back(turning, point) for point in points])

    return SeenSolid(shape, operations_at)


def _read(path: str) -> StepFile:
    """Return what a file holds as it lies there now. Raises BadInput."""
    try:
        key = path, Path(path).stat().st_mtime_ns
    except OSError:
        return read_step(path)  # which says what is wrong
    with about(""):  # whichever part they become
        return FILES.get(key) or FILES.keep(key, read_step(path))


def _read_text(source: ImportedSolid) -> StepFile:
    """Return what the text of a solid holds, which stands in no file. Raises BadInput."""
    with tempfile.TemporaryDirectory(prefix="holoptic-") as folder:
        path = Path(folder) / "solid.step"
        path.write_text(source.step, encoding="ascii", errors="replace")
        return read_step(str(path))


def bound(name: str, size: Vec3, panels: Sequence[Panel], is_full: IsFull) -> ImportedSolid:
    """Return the solid between walls within a crate, in a text of its own (`solid_between`).

    Raises BadInput.
    """
    with tempfile.TemporaryDirectory(prefix="holoptic-") as folder:
        path = Path(folder) / "solid.step"
        write_solid(solid_between(size, panels, is_full), str(path), name)
        text = path.read_text(encoding="ascii")
    return ImportedSolid(name, "", 0, step=text)


def _key(source: PartSource) -> object:
    if isinstance(source, Part):
        return source
    if source.step:
        return source.step, source.index
    try:
        return source.path, source.index, Path(source.path).stat().st_mtime_ns
    except OSError:
        return source


def _build(source: PartSource) -> SeenSolid:
    if isinstance(source, Part):
        return SeenSolid(build(source), operations_finder(source))
    shapes = (_read_text(source) if source.step else _read(source.path)).solids
    if source.index is None:
        return SeenSolid(_tidied(shapes))
    if source.index >= len(shapes):
        raise BadInput(
            tr(
                "{name} no longer holds solid {index}",
                name=Path(source.path).name,
                index=source.index + 1,
            )
        )
    return SeenSolid(_tidied([shapes[source.index]]))


def _tidied(shapes: list[TopoDS_Shape]) -> TopoDS_Shape:
    """Return bodies as one shape without joints; most from files have none and stay as they are.

    Raises BadInput where the kernel cannot join their faces.
    """
    try:
        return _without_joints(shapes)
    except Standard_Failure as error:
        raise BadInput(tr("its faces cannot be joined")) from error


def _without_joints(shapes: list[TopoDS_Shape]) -> TopoDS_Shape:
    shape = shapes[0] if len(shapes) == 1 else together(shapes)
    if not skin_of(shape).has_joints():
        return shape
    tidied = [tidy(one) for one in shapes]
    return tidied[0] if len(tidied) == 1 else together(tidied)
