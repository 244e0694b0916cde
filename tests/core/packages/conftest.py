"""A package to take in, and a library that it collides with."""

import pytest

from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.packages import Package, read_package, write_package
from tests.core.graph.building import graph, node
from tests.core.packages.studio import lift_document, published, release


@pytest.fixture
def package() -> Package:
    """``outer`` with ``lift``, which it uses."""
    library, _ = published()
    inner = graph({"one": node("lift@1.0.0", "geo")}, inputs=("geo",), outputs={"geo": "one"})
    release(graph({"a": node("box"), "b": node("folded", "a", graph=inner)}), library, name="outer")
    return read_package(write_package("outer@1.0.0", library.definitions, {}, {}))


@pytest.fixture
def colliding() -> MemoryLibrary:
    """A library with another ``lift@1.0.0``."""
    library = MemoryLibrary()
    document = lift_document()
    document["nodes"]["b"]["graph"]["dials"]["height"]["help"] = "another one"
    release(document, library)
    return library
