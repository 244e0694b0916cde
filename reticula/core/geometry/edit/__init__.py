"""Geometries changed as wholes: moved, joined, cut, welded, turned round, parts of them taken."""
