"""The ways to other libraries are found without loading them before they are needed."""

import subprocess
import sys

SCRIPT = """
import sys
from reticula.core.geometry import Geo
for name in ("trimesh", "meshio", "vtkmodules", "reticula.core.exchange"):
    assert name not in sys.modules, name
geo = Geo.from_faces([[0, 0, 0], [1, 0, 0], [0, 1, 0]], [[0, 1, 2]])
assert Geo.from_trimesh(geo.to_trimesh()).topology.face_count == 1
assert "vtkmodules" not in sys.modules
"""


def test_only_what_is_asked_for_is_loaded() -> None:
    subprocess.run([sys.executable, "-c", SCRIPT], check=True)
