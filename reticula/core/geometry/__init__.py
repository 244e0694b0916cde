"""Geometry: elements, their attributes and who touches whom."""

from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import KINDS, TYPES, Kind
from reticula.core.geometry.mesh.source_maps import SourceMap, Weights, carry, edge_sources, edges_along, kept
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.geometry.planar.triangulation import Triangles, triangles

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
