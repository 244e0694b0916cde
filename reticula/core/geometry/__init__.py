"""Geometry: elements, their attributes and who touches whom."""

from reticula.core.geometry.measure.triangles import Triangles, triangles
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.attribute_types import TYPES
from reticula.core.geometry.mesh.carry import carry
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import KINDS, Kind
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights, edge_sources, edges_along, kept
from reticula.core.geometry.mesh.topology import Topology

__all__ = [
    "KINDS",
    "TYPES",
    "Attribute",
    "Geo",
    "Kind",
    "SourceMap",
    "Topology",
    "Triangles",
    "Weights",
    "carry",
    "edge_sources",
    "edges_along",
    "kept",
    "triangles",
]
