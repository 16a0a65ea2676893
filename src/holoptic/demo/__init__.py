"""The demo jobs of the invented Skerry Lamp Works."""

from __future__ import annotations

from pathlib import Path

from holoptic.catalogue import mark, tr
from holoptic.errors import BadInput

_FOLDER = Path(__file__).parent
DEFAULT = "harbour-lamp"
DEMO_ID = "skerry-harbour-lamp"
"""The id of the job of that name, wherever its file lies."""
SCANNED_FIGURE = "f1"
"""The figure of it whose drawn sheet was scanned: the gallery block."""


TITLES = (mark("harbour lamp"), mark("lamp put together"), mark("round parts"))
"""What the demo jobs are called where they are offered: their names with blanks."""


def job_names() -> list[str]:
    """Return the names of the demo jobs."""
    return sorted(path.stem for path in _FOLDER.glob("*.holoptic"))


def job_path(name: str = DEFAULT) -> Path:
    """Return the file of a demo job. Raises BadInput for an unknown name."""
    if name not in job_names():
        raise BadInput(
            tr(
                "no demo job is called “{name}” (known: {job_names})",
                name=name,
                job_names=", ".join(job_names()),
            )
        )
    return _FOLDER / f"{name}.holoptic"


def drawing_paths() -> list[Path]:
    """Return the demo drawings, to be read: DXF files."""
    return sorted(_FOLDER.glob("*.dxf"))


def scan_path() -> Path:
    """Return the scan of a drawn sheet of the demo: with two slips, made by the stand-in."""
    return _FOLDER / "gallery-block-scan.jpg"


def views_photo_path() -> Path:
    """Return the photo of a sheet of views of the demo: the wedge foot with its
    sizes, on paper."""
    return _FOLDER / "wedge-foot-views.jpg"


def sketch_path() -> Path:
    """Return the sketch of views of the demo: a wick rest with its figures, by a free hand."""
    return _FOLDER / "wick-rest-sketch.jpg"


def playback_path() -> Path:
    """Return the readings that the caliper's stand-in plays."""
    return _FOLDER / "caliper.txt"
