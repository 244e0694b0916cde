"""What the tests of this folder share."""

import numpy as np
from scipy.spatial import cKDTree

from reticula.core import Geo


def gaps(geo: Geo) -> np.ndarray:
    return cKDTree(geo.positions).query(geo.positions, k=2)[0][:, 1]
