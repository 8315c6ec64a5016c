"""Writes the averaged weights as models/reader.onnx.gz, BatchNorm folded, with the alphabet beside them (seconds).

The weights are rounded to the precision of 16-bit floats, so that compression halves the file; OpenCV itself reads
32-bit floats only.

    python3 export.py
"""
import copy
import gzip
import json

import numpy as np
import onnx
import onnx.numpy_helper
import torch
from torch import nn
from torch.nn.utils.fusion import fuse_conv_bn_eval

import net
import settings


def folded(sequence):
    modules = []
    for m in sequence:
        if isinstance(m, nn.Sequential):
            modules.append(folded(m))
        elif isinstance(m, net.Temporal):
            m = copy.deepcopy(m)
            m.body = folded(m.body)
            modules.append(m)
        elif isinstance(m, nn.BatchNorm2d):
            modules[-1] = fuse_conv_bn_eval(modules[-1], m)
        elif not isinstance(m, nn.Dropout2d):
            modules.append(m)
    return nn.Sequential(*modules)


class Plain(nn.Module):
    """The network without what only training needs, up to the head's convolution."""

    def __init__(self, reader):
        super().__init__()
        self.layers = nn.Sequential(folded(reader.trunk), folded(reader.sequence), reader.head)

    def forward(self, x):
        return self.layers(x)


def compress(path):
    """Replaces an ONNX file by its compressed form, its weights rounded."""
    model = onnx.load(path)
    for tensor in model.graph.initializer:
        if tensor.data_type == onnx.TensorProto.FLOAT:
            rounded = onnx.numpy_helper.to_array(tensor).astype(np.float16).astype(np.float32)
            tensor.CopyFrom(onnx.numpy_helper.from_array(rounded, tensor.name))
    # No time stamp: the same weights make the same file.
    path.with_suffix(".onnx.gz").write_bytes(gzip.compress(model.SerializeToString(), 9, mtime=0))
    path.unlink()


def main():
    state = torch.load(settings.WORK / "reader.pt", map_location="cpu")
    assert state["alphabet"] == settings.ALPHABET
    reader = net.Reader()
    reader.load_state_dict(state["average"])
    plain = Plain(reader.eval()).eval()
    x = torch.rand(1, 1, settings.LINE_HEIGHT, 128)
    with torch.no_grad():
        direct = reader.head(reader.sequence(reader.trunk(x)))
        assert (plain(x) - direct).abs().max() < 1e-3
    folder = settings.ROOT / "models"
    torch.onnx.export(plain, x, str(folder / "reader.onnx"), opset_version=11, input_names=["line"],
                      output_names=["scores"], dynamic_axes={"line": {3: "width"}, "scores": {3: "steps"}})
    compress(folder / "reader.onnx")
    (folder / "reader.json").write_text(json.dumps({"alphabet": settings.ALPHABET, "lines_seen": state["seen"]},
                                                   ensure_ascii=False, indent=1) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
