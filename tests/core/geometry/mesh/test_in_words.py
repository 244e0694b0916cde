"""What a geometry holds, in a line."""

from reticula.core import Geo, ops
from reticula.core.geometry.mesh.in_words import in_words


def told(geo: Geo) -> str:
    return in_words(geo.topology, geo.attributes)


def test_counts_and_attributes() -> None:
    assert told(Geo.empty()) == "empty"
    assert told(ops.grid(cells=(1, 1))) == "4 points, 1 face; corner: uv vec2"
    assert told(ops.line()).startswith("2 points, 1 curve")
