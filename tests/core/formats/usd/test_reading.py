"""USD as others write it: units, axes, handedness, instancers, cubic curves, broken files."""

import numpy as np
import pytest

from reticula.core import ops
from reticula.core.diagnostics import Note, collecting
from reticula.core.errors import FormatError
from reticula.core.formats import FORMATS, read_bytes, write_bytes

TRIANGLE = (
    "point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]\nint[] faceVertexCounts = [3]\n"
    "int[] faceVertexIndices = [0, 1, 2]\n"
)


def read(body: str, head: str = 'metersPerUnit = 1\nupAxis = "Y"'):
    return FORMATS["usda"].read(f"#usda 1.0\n(\n{head}\n)\n{body}".encode())


def test_centimetres_and_z_up_become_metres_and_y_up() -> None:
    geo = read(f'def Mesh "a" {{\n{TRIANGLE}}}', 'metersPerUnit = 0.01\nupAxis = "Z"')
    assert geo.positions == pytest.approx(np.array([[0, 0, 0], [0.01, 0, 0], [0, 0, -0.01]]))


def test_places_follow_each_other_and_objects_are_named(notes: list[Note]) -> None:
    geo = read(
        'def Xform "all" {\ndouble3 xformOp:translate = (0, 0, 5)\n'
        'uniform token[] xformOpOrder = ["xformOp:translate"]\n'
        f'def Mesh "left" {{\n{TRIANGLE}}}\ndef Mesh "right" {{\n{TRIANGLE}float3 xformOp:scale = (2, 2, 2)\n'
        'uniform token[] xformOpOrder = ["xformOp:scale"]\n}\n}'
    )
    assert geo.attribute("face", "object").tolist() == ["left", "right"]
    assert geo.positions[1].tolist() == [1, 0, 5]
    assert geo.positions[4].tolist() == [2, 0, 5]


def test_left_handed_faces_are_turned_over() -> None:
    geo = read(f'def Mesh "a" {{\n{TRIANGLE}uniform token orientation = "leftHanded"\n}}')
    assert ops.group_by_direction(geo, name="up", direction=(0, 0, -1)).attribute("face", "up").all()


def test_subsets_are_groups_and_single_colours_lie_on_faces() -> None:
    geo = read(
        f'def Mesh "a" {{\n{TRIANGLE}color3f[] primvars:displayColor = [(1, 0, 0)] (interpolation = "constant")\n'
        'def GeomSubset "rim" {\nuniform token elementType = "face"\nint[] indices = [0]\n}\n}'
    )
    assert geo.attribute("face", "rim").tolist() == [True]
    assert geo.attribute("face", "color").tolist() == [[1, 0, 0, 1]]


def test_guides_and_what_is_invisible_are_left_out() -> None:
    geo = read(
        f'def Mesh "a" {{\n{TRIANGLE}}}\ndef Mesh "b" {{\n{TRIANGLE}token visibility = "invisible"\n}}\n'
        f'def Mesh "c" {{\n{TRIANGLE}uniform token purpose = "guide"\n}}'
    )
    assert geo.counts["faces"] == 1


def test_instancers_place_shapes(notes: list[Note]) -> None:
    geo = read(
        'def PointInstancer "many" {\nint[] protoIndices = [0, 0]\npoint3f[] positions = [(0, 0, 0), (5, 0, 0)]\n'
        f'rel prototypes = </many/leaf>\ndef Mesh "leaf" {{\n{TRIANGLE}}}\n}}'
    )
    assert geo.counts["instances"] == 2
    assert geo.attribute("instance", "transform")[1, :3, 3].tolist() == [5, 0, 0]


@pytest.mark.parametrize(
    ("basis", "middle"), [("bezier", (0.5, 0.75)), ("bspline", (0.5, 23 / 24)), ("catmullRom", (0.5, 1.125))]
)
def test_cubic_curves_go_through_the_right_places(basis: str, middle: tuple[float, float], notes: list[Note]) -> None:
    """In the middle of a piece the weights are 1/8 3/8 3/8 1/8; 1/48 23/48 23/48 1/48; -1/16 9/16 9/16 -1/16."""
    geo = read(
        'def BasisCurves "c" {\nuniform token type = "cubic"\n'
        f'uniform token basis = "{basis}"\nint[] curveVertexCounts = [4]\n'
        "point3f[] points = [(0, 0, 0), (0, 1, 0), (1, 1, 0), (1, 0, 0)]\n}"
    )
    assert geo.counts["curves"] == 1
    assert geo.positions[6, :2] == pytest.approx(middle)
    assert "became lines" in notes[-1].text


@pytest.mark.parametrize(
    ("body", "message"),
    [
        ('def Mesh "a" {\nint[] faceVertexCounts = [3]\nint[] faceVertexIndices = [0, 1, 2]\n}', "does not exist"),
        ('def Mesh "a" {\npoint3f[] points = [(0, 0, 0)]\nint[] faceVertexCounts = [3]\n}', "3 corners; 0 are listed"),
        ('def Mesh "a" (references = @other.usda@) {\n}', "put together from other files"),
        ('def Xform "a" {\n}', "no shape in this scene"),
        ('def Mesh "a" {', "cannot be read|no USD file"),
    ],
)
def test_what_is_broken_is_refused(body: str, message: str) -> None:
    with pytest.raises(FormatError, match=message):
        read(body)


@pytest.mark.parametrize("ending", ["usda", "usdc", "usdz"])
def test_a_damaged_file_is_read_or_refused_and_takes_nobody_with_it(ending: str) -> None:
    """usd-core aborts, hangs or reads beside its memory on some of these: hence the process of its own."""
    rng = np.random.default_rng(7)
    whole = write_bytes(ops.grid(cells=(2, 2)), f"a.{ending}")
    for _ in range(4):
        damaged = np.frombuffer(whole, np.uint8).copy()
        damaged[rng.integers(0, len(damaged), 3)] = rng.integers(0, 256, 3)
        with collecting():
            try:
                assert np.isfinite(read_bytes(f"a.{ending}", damaged.tobytes()).positions).all()
            except FormatError:
                pass
