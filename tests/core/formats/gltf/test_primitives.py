"""What the values of vertices are called here."""

import pytest

from reticula.core.formats.gltf.primitives import name_of


@pytest.mark.parametrize(
    ("semantic", "name"),
    [
        ("NORMAL", "normal"),
        ("TEXCOORD_0", "uv"),
        ("TEXCOORD_1", "uv_2"),
        ("COLOR_0", "color"),
        ("_HEAT", "heat"),
        ("_Heat", "Heat"),
        ("_CLASS", "class_"),
        ("JOINTS_0", None),
        ("TEXCOORD_x", None),
    ],
)
def test_names(semantic: str, name: str | None) -> None:
    assert name_of(semantic) == name
