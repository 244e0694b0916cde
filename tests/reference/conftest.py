"""The Stanford bunny, as the npm package `bunny` (1.0.1, MIT) carries it: 2,503 points, 4,968 triangles."""

from __future__ import annotations

import json
import re
from pathlib import Path

import numpy as np
import pytest

from reticula.core import Geo

PACKAGE = Path(__file__).resolve().parents[2] / "web" / "node_modules" / "bunny" / "index.js"


@pytest.fixture(scope="session")
def bunny() -> Geo:
    text = PACKAGE.read_text()
    arrays = {
        name: json.loads(body) for name, body in re.findall(r"exports\.(\w+)\s*=\s*(\[\[.*?\]\])", text, re.DOTALL)
    }
    return Geo.from_faces(np.array(arrays["positions"]), np.array(arrays["cells"]))
