"""How geometries become objects of other libraries and come back: a geometry knows none of them."""

from __future__ import annotations

from importlib import import_module
from typing import Any, Self

__all__ = ["Exchange"]


def _way(library: str, name: str) -> Any:
    return getattr(import_module(f"reticula.core.exchange.{library}_meshes"), name)


class Exchange:
    """The part of a geometry that leads to other libraries, each loaded when it is first asked for."""

    @classmethod
    def from_trimesh(cls, mesh: Any) -> Self:
        """Make a geometry from a mesh of trimesh.

        Parameters
        ----------
        mesh : trimesh.Trimesh, trimesh.PointCloud or trimesh.Scene
            Its vertices are taken as metres with y up; values of vertices and faces, colours and uv come along.

        Returns
        -------
        Geo
            Triangles, or points alone.

        Raises
        ------
        GeometryError
            If a face uses a vertex that does not exist.
        """
        made: Self = _way("trimesh", "from_trimesh")(mesh)
        return made

    def to_trimesh(self) -> Any:
        """Return this geometry as a mesh of trimesh, where it stands in the world.

        Returns
        -------
        trimesh.Trimesh
            Faces cut into triangles, instances turned into mesh; values and groups of points and faces as
            ``vertex_attributes`` and ``face_attributes``. What has no place there is noted.

        Raises
        ------
        FormatError
            If trimesh is not installed.
        """
        return _way("trimesh", "to_trimesh")(self)

    @classmethod
    def from_meshio(cls, mesh: Any) -> Self:
        """Make a geometry from a mesh of meshio.

        Parameters
        ----------
        mesh : meshio.Mesh
            Triangles, quads and polygons become faces, lines curves; other cells are left out with a note.

        Returns
        -------
        Geo
            The geometry, with the data of points and cells.

        Raises
        ------
        GeometryError
            If a cell uses a point that does not exist.
        """
        made: Self = _way("meshio", "from_meshio")(mesh)
        return made

    def to_meshio(self) -> Any:
        """Return this geometry as a mesh of meshio, where it stands in the world.

        Returns
        -------
        meshio.Mesh
            A block of cells for each size of faces, and one of lines; values of points and faces as their data.

        Raises
        ------
        FormatError
            If meshio is not installed.
        """
        return _way("meshio", "to_meshio")(self)

    @classmethod
    def from_vtk(cls, surface: Any) -> Self:
        """Make a geometry from a surface of VTK or PyVista.

        Parameters
        ----------
        surface : vtkPolyData or pyvista.PolyData
            Its polygons become faces, its lines curves.

        Returns
        -------
        Geo
            The geometry, with the arrays of points and cells.

        Raises
        ------
        GeometryError
            If a cell uses a point that does not exist.
        """
        made: Self = _way("vtk", "from_vtk")(surface)
        return made

    def to_vtk(self) -> Any:
        """Return this geometry as a surface of VTK, where it stands in the world.

        Returns
        -------
        vtkPolyData
            Faces of any size, curves, loose points, and their values; ``pyvista.wrap`` takes it as it is.

        Raises
        ------
        FormatError
            If VTK is not installed.
        """
        return _way("vtk", "to_vtk")(self)
