"""Files are reached without loading formats before they are needed."""

import subprocess
import sys
from pathlib import Path

import pytest

from reticula.core.geometry.mesh.file_access import FileAccess

SCRIPT = """
import sys
from reticula.core.geometry import Geo
assert "reticula.core.formats" not in sys.modules
Geo.from_faces([[0, 0, 0], [1, 0, 0], [0, 1, 0]], [[0, 1, 2]]).write(sys.argv[1])
assert Geo.read(sys.argv[1]).topology.face_count == 1
"""


def test_the_first_file_loads_the_formats(tmp_path: Path) -> None:
    subprocess.run([sys.executable, "-c", SCRIPT, str(tmp_path / "a.ply")], check=True)


def test_other_names_mean_nothing() -> None:
    with pytest.raises(AttributeError):
        _ = FileAccess()._other
