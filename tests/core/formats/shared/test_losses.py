"""What is said to be left out."""

import numpy as np

from reticula.core import Geo, ops
from reticula.core.formats.shared.losses import losses


def test_what_is_not_kept_is_named_by_kind_and_name() -> None:
    geo = ops.box().with_attribute("face", "heat", np.arange(6.0))
    assert losses(geo, {("corner", "uv")}) == ["face heat"]
    assert losses(geo, {("corner", "uv"), ("face", "heat")}, ("faces", "curves")) == ["faces"]
    assert losses(Geo.of([(0, 0, 0)]), set(), ("faces", "curves")) == []
