"""What the tests of this folder share."""

import numpy as np

from reticula.core import Geo
from reticula.core.geometry import Kind


def members(geo: Geo, name: str, kind: Kind = "face") -> list[int]:
    return np.flatnonzero(geo.group(kind, name)).tolist()
