"""Solids read from STEP files."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from OCP.APIHeaderSection import APIHeaderSection_MakeHeader
from OCP.BRepBuilderAPI import BRepBuilderAPI_Transform
from OCP.gp import gp_Trsf
from OCP.IFSelect import IFSelect_ReturnStatus
from OCP.Interface import Interface_Static
from OCP.STEPCAFControl import STEPCAFControl_Reader, STEPCAFControl_Writer
from OCP.STEPControl import STEPControl_StepModelType, STEPControl_Writer
from OCP.TCollection import TCollection_ExtendedString, TCollection_HAsciiString
from OCP.TDataStd import TDataStd_Name
from OCP.TDF import TDF_Label
from OCP.TopAbs import TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS_Shape
from OCP.XCAFDoc import XCAFDoc_ColorType, XCAFDoc_DocumentTool

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.foreign import require_step
from holoptic.progress import tell
from holoptic.quoting import name_of
from holoptic.solid.making.assemblies import Instance, instances_of, kernel_colour, new_document


@dataclass(frozen=True)
class StepFile:
    """The solids of a STEP file as they stand there, and what it says of each."""

    solids: list[TopoDS_Shape]
    instances: list[Instance]


def read_solids(path: str) -> list[TopoDS_Shape]:
    """Return the solids of a STEP file, in mm. Raises BadInput with one clear line."""
    return read_step(path).solids


def read_step(path: str) -> StepFile:
    """Return what a STEP file holds, in mm. Raises BadInput with one clear line."""
    name = name_of(path)
    require_step(Path(path))
    tell(tr("reading {name}", name=name))
    products = STEPCAFControl_Reader()
    products.SetNameMode(True)
    products.SetColorMode(True)
    Interface_Static.SetCVal_s("xstep.cascade.unit", "MM")
    if products.ReadFile(path) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise BadInput(tr("{name} is damaged: its STEP entities cannot be read", name=name))
    document, reader = new_document(), products.ChangeReader()
    tell(tr("making its solids"))
    products.Transfer(document)  # root by root the reader forgets those before
    if reader.NbShapes() == 0:
        raise BadInput(tr("{name} holds no shape", name=name))
    solids = _solids(reader.OneShape())
    if not solids:
        raise BadInput(
            tr("{name} holds no solid (surfaces or wires alone cannot be drawn)", name=name)
        )
    instances = instances_of(document)
    if len(instances) != len(solids):
        instances = []  # what it says of its products does not tell of its solids
    return StepFile(solids, instances)


def write_solid(shape: TopoDS_Shape, path: str, name: str) -> None:
    """Write a solid as a STEP file in mm. Raises BadInput where it cannot be written."""
    writer = STEPControl_Writer()
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    # the file's own header says which part it holds, and nothing of the machine
    Interface_Static.SetCVal_s("write.step.product.name", _plain(name))
    done = IFSelect_ReturnStatus.IFSelect_RetDone
    transferred = writer.Transfer(shape, STEPControl_StepModelType.STEPControl_AsIs)
    _sign(writer, name)
    if transferred != done or writer.Write(path) != done:
        raise BadInput(tr("{name} could not be written", name=Path(path).name))


@dataclass(frozen=True)
class Product:
    """A body of an assembly as it is to stand in a file: its name, solid and colour, `#rrggbb` or
    empty.
    """

    name: str
    solid: TopoDS_Shape
    colour: str = ""


def write_assembly(bodies: Sequence[Product], path: str, name: str) -> None:
    """Write bodies as products of one assembly in a STEP file, in mm.

    Raises BadInput where it cannot be written.
    """
    document = new_document()
    products = XCAFDoc_DocumentTool.ShapeTool_s(document.Main())
    colours = XCAFDoc_DocumentTool.ColorTool_s(document.Main())
    whole = products.NewShape()
    _call(whole, name)
    for body in bodies:
        label = products.AddShape(body.solid, False)
        _call(label, body.name)
        if body.colour:
            colours.SetColor(label, kernel_colour(body.colour), XCAFDoc_ColorType.XCAFDoc_ColorSurf)
        _call(products.AddComponent(whole, label, TopLoc_Location()), body.name)
    products.UpdateAssemblies()
    writer = STEPCAFControl_Writer()
    writer.SetColorMode(True)
    Interface_Static.SetCVal_s("write.step.unit", "MM")
    done = writer.Transfer(document, STEPControl_StepModelType.STEPControl_AsIs)
    _sign(writer.ChangeWriter(), name)
    if not done or writer.Write(path) != IFSelect_ReturnStatus.IFSelect_RetDone:
        raise BadInput(tr("{name} could not be written", name=Path(path).name))


def _call(label: TDF_Label, name: str) -> None:
    TDataStd_Name.Set_s(label, TCollection_ExtendedString(name, True))


def _sign(writer: STEPControl_Writer, name: str) -> None:
    header = APIHeaderSection_MakeHeader(writer.Model())
    header.SetName(TCollection_HAsciiString(_plain(name)))
    for fill in (header.SetAuthorValue, header.SetOrganizationValue):
        fill(1, TCollection_HAsciiString(""))
    header.SetOriginatingSystem(TCollection_HAsciiString("Holoptic"))
    header.SetDescriptionValue(1, TCollection_HAsciiString("exact solid of a part"))


def _plain(name: str) -> str:
    """Return a name in the letters that every STEP reader knows."""
    return name.encode("ascii", "replace").decode().replace("'", " ")


def _solids(shape: TopoDS_Shape) -> list[TopoDS_Shape]:
    explorer = TopExp_Explorer(shape, TopAbs_ShapeEnum.TopAbs_SOLID)
    solids = []
    while explorer.More():
        solids.append(_settled(explorer.Current()))
        explorer.Next()
    return solids


def _settled(solid: TopoDS_Shape) -> TopoDS_Shape:
    """Return the solid with its placement worked into its geometry."""
    if solid.Location().IsIdentity():
        return solid
    placement: gp_Trsf = solid.Location().Transformation()
    return BRepBuilderAPI_Transform(solid.Located(TopLoc_Location()), placement, True).Shape()
