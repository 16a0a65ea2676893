"""Make the network that reads figures from the one that a package for general use distributes.

Run, in an environment of its own with onnx and onnxsim:
    python scripts/make_recogniser.py NETWORK.onnx
where NETWORK is `ch_PP-OCRv4_rec_infer.onnx` of rapidocr-onnxruntime 1.4.4. It is given one size of
picture, for OpenCV knows no others in it, only the letters that may stand on drawings, and weights
in half precision, which are made whole again as it is loaded.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np
import onnx  # type: ignore[import-not-found]
import onnxsim  # type: ignore[import-not-found]
from onnx import TensorProto, helper, numpy_helper  # type: ignore[import-not-found]

_HIGH, _WIDE = 48, 160
_LETTERS = [chr(code) for code in range(33, 127)] + list("°±×Φ")
_SMALL = 64
_PLACE = Path(__file__).resolve().parents[1] / "src/holoptic/assets/recogniser"


def main() -> None:
    """Write the network and its letters."""
    whole = onnx.load(sys.argv[1])
    told = next(one.value for one in whole.metadata_props if one.key == "character")
    letters = ["", *told.split("\n"), " "]
    name = whole.graph.input[0].name
    network, _ = onnxsim.simplify(whole, overwrite_input_shapes={name: [1, 3, _HIGH, _WIDE]})
    kept = [0, *(letters.index(one) for one in _LETTERS), len(letters) - 1]
    graph = network.graph
    _constants_as_values(graph)
    _keep_letters(graph, kept, len(letters))
    _halve(graph)
    onnx.checker.check_model(network)
    onnx.save(network, _PLACE / "figures.onnx")
    (_PLACE / "characters.txt").write_text("\n".join(_LETTERS), "utf-8")


def _constants_as_values(graph: onnx.GraphProto) -> None:
    for node in [node for node in graph.node if node.op_type == "Constant"]:
        value = next((one.t for one in node.attribute if one.name == "value"), None)
        if value is not None:
            tensor = TensorProto.FromString(value.SerializeToString())
            tensor.name = node.output[0]
            graph.initializer.append(tensor)
            graph.node.remove(node)


def _keep_letters(graph: onnx.GraphProto, kept: list[int], count: int) -> None:
    """Leave of the last layer, and of the shapes after it, what tells the letters kept."""
    for tensor in graph.initializer:
        values = numpy_helper.to_array(tensor)
        if values.shape and values.shape[-1] == count:
            fewer = np.ascontiguousarray(values[..., kept])
        elif values.size < _SMALL and count in values.ravel():
            fewer = np.where(values == count, len(kept), values).astype(values.dtype)
        else:
            continue
        tensor.CopyFrom(numpy_helper.from_array(fewer, tensor.name))
    for output in graph.output:
        output.type.tensor_type.shape.dim[-1].dim_value = len(kept)
    del graph.value_info[:]


def _halve(graph: onnx.GraphProto) -> None:
    casts, values = [], []
    for tensor in graph.initializer:
        whole = numpy_helper.to_array(tensor)
        if whole.dtype == np.float32 and whole.size > _SMALL:
            half = f"{tensor.name}_half"
            values.append(numpy_helper.from_array(whole.astype(np.float16), half))
            casts.append(helper.make_node("Cast", [half], [tensor.name], to=TensorProto.FLOAT))
        else:
            values.append(TensorProto.FromString(tensor.SerializeToString()))
    nodes = [onnx.NodeProto.FromString(node.SerializeToString()) for node in graph.node]
    del graph.initializer[:]
    graph.initializer.extend(values)
    del graph.node[:]
    graph.node.extend([*casts, *nodes])


if __name__ == "__main__":
    main()
