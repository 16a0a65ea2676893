"""Operations on the clipboard: plain JSON, so that they can go from one part to another."""

from __future__ import annotations

import json
from functools import cache

from pydantic import TypeAdapter, ValidationError

from holoptic.catalogue import tr
from holoptic.errors import BadInput
from holoptic.part import Operation
from holoptic.units import Unit

FORMAT = "holoptic-operation"
_LARGEST = 1_000_000


@cache
def _adapter() -> TypeAdapter[Operation]:
    return TypeAdapter(Operation)


def clip_text(operation: Operation, unit: Unit) -> str:
    """Return an operation as text."""
    content = _adapter().dump_python(operation, mode="json")
    return json.dumps({"format": FORMAT, "unit": unit.value, "operation": content}, indent=1)


def read_clip(text: str) -> tuple[Operation, Unit]:
    """Return the operation in a text, and the unit its sums are written in. Raises BadInput."""
    try:
        content = json.loads(text) if len(text) <= _LARGEST else None
        if not isinstance(content, dict) or content.get("format") != FORMAT:
            raise BadInput(tr("the clipboard holds no operation: copy one with Ctrl+C first"))
        operation = _adapter().validate_json(json.dumps(content["operation"]), strict=True)
        return operation, Unit(content["unit"])
    except (ValueError, KeyError, RecursionError, ValidationError) as error:
        if isinstance(error, BadInput):
            raise
        raise BadInput(
            tr("the clipboard holds no operation: copy one with Ctrl+C first")
        ) from error
