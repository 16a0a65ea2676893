"""Which suffix makes which file."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.exchange.atomic import write_atomically
from holoptic.exchange.pdf import pdf_bytes
from holoptic.exchange.png import png_bytes
from holoptic.exchange.svg import svg_text
from holoptic.sheet.drawing import Drawing

Maker = Callable[[], bytes]

DRAWING_SUFFIXES = (".svg", ".pdf", ".png", ".dxf")


def drawing_makers(drawing: Callable[[], Drawing]) -> dict[str, Maker]:
    """Return the makers of the files that show a drawing, by suffix."""
    return {
        ".svg": lambda: svg_text(drawing()).encode("utf-8"),
        ".pdf": lambda: pdf_bytes(drawing()),
        ".png": lambda: png_bytes(drawing()),
        ".dxf": lambda: _dxf_bytes(drawing()),
    }


def _dxf_bytes(drawing: Drawing) -> bytes:
    # loaded when it is asked for: it takes a tenth of a desk's start
    from holoptic.exchange.dxf import dxf_bytes  # noqa: PLC0415

    return dxf_bytes(drawing)


def require_suffix(path: Path, suffixes: tuple[str, ...]) -> None:
    """Raise BadInput unless the file's suffix is one that can be made."""
    if path.suffix.lower() not in suffixes:
        raise BadInput(
            tr(
                "{name}: the file must end in {suffixes}",
                name=path.name,
                suffixes=", ".join(suffixes),
            )
        )


def write_by_suffix(path: Path, makers: dict[str, Maker], *, replace: bool = True) -> None:
    """Write the file that the suffix of `path` asks for.

    Raises BadInput, without `replace` also where there is a file.
    """
    require_suffix(path, tuple(makers))
    write_atomically(path, makers[path.suffix.lower()](), replace=replace)
