"""What a geometry holds, in a line."""

from reticula.core import Geo, ops
from reticula.core.geometry.mesh.in_words import in_words


def test_counts_and_attributes() -> None:
    assert in_words(Geo.empty()) == "empty"
    assert in_words(ops.grid(cells=(1, 1))) == "4 points, 1 face; corner: uv vec2"
    assert in_words(ops.line()).startswith("2 points, 1 curve")
