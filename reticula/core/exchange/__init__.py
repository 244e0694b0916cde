"""Geometries as the objects of other Python libraries, both ways: trimesh, meshio, and VTK with PyVista.

Each library is imported when it is first asked for. Values and groups go along as far as the other side has a place for
them; what it has none for is noted.
"""
