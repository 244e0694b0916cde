"""OBJ comes back as it was written."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.formats import read_bytes, write_bytes


def test_obj_round_trip(mixed: Geo) -> None:
    geo = ops.group(ops.group(mixed, name="big", where="area > 0.9"), name="first", where="index == 0")
    geo = geo.with_attribute("corner", "uv", np.random.default_rng(0).random((12, 2)))
    geo = geo.with_attribute("point", "color", np.column_stack([np.random.default_rng(1).random((9, 3)), np.ones(9)]))
    again = read_bytes("a.obj", write_bytes(geo, "a.obj"))
    assert again.digest == geo.digest


def test_materials_and_objects_keep_their_names() -> None:
    box = ops.box().with_attribute("face", "material", np.array(["clay", "clay", "", "sand of the reef", "", "clay"]))
    box = box.with_attribute("face", "object", np.array(["post"] * 3 + ["foot"] * 3))
    back = read_bytes("a.obj", write_bytes(box, "a.obj"))
    names = ["clay", "clay", "default", "sand of the reef", "default", "clay"]
    assert back.attribute("face", "material").tolist() == names
    assert back.attribute("face", "object").tolist() == ["post"] * 3 + ["foot"] * 3
