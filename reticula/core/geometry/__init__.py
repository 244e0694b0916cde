"""Geometry: elements, their attributes and who touches whom."""

from reticula.core.geometry.attribute import Attribute
from reticula.core.geometry.carry import SourceMap, Weights, carry, edge_sources, edges_along, kept
from reticula.core.geometry.geo import Geo
from reticula.core.geometry.kinds import KINDS, TYPES, Kind
from reticula.core.geometry.topology import Topology
from reticula.core.geometry.triangles import Triangles, triangles

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
