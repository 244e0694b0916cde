"""What the tests of this folder share."""

from reticula.core import Geo, ops


def zigzag(count: int = 7) -> Geo:
    line = ops.line(begin=(0, 0, 0), end=(count - 1, 0, 0), segments=count - 1)
    return ops.set_attribute(line, name="position", value="position + vec3(0, index % 2, 0)")
