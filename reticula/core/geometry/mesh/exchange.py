"""How geometries become objects of other libraries and come back: a geometry knows none of them."""

from __future__ import annotations

from collections.abc import Mapping
from importlib import import_module
from typing import Any, Self

__all__ = ["Exchange"]


def _way(library: str, name: str) -> Any:
    return getattr(import_module(f"reticula.core.exchange.{library}_meshes"), name)


def _arrays() -> Any:
    return import_module("reticula.core.exchange.numpy_arrays")


class Exchange:
    """The part of a geometry that leads to other libraries, each loaded when it is first asked for."""

    def _repr_mimebundle_(self, **options: Any) -> Any:
        """Return what a notebook shows: a picture, or nothing but ``repr`` where the view for it is not installed."""
        try:
            view = import_module("reticula.notebook").show(self)
        except ModuleNotFoundError:
            return None
        return view._repr_mimebundle_(**options)

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

    @classmethod
    def from_open3d(cls, mesh: Any) -> Self:
        """Make a geometry from a mesh, a line set or a point cloud of Open3D.

        Parameters
        ----------
        mesh : open3d.t.geometry or open3d.geometry
            A TriangleMesh, LineSet or PointCloud, of tensors or legacy. Positions are taken as metres with y up; values
            of vertices and triangles come along, colours as those of a screen.

        Returns
        -------
        Geo
            Triangles, lines as curves of two points, or points alone.

        Raises
        ------
        FormatError
            If Open3D is not installed.
        """
        made: Self = _way("open3d", "from_open3d")(mesh)
        return made

    def to_open3d(self) -> Any:
        """Return this geometry as a mesh of Open3D's tensors, where it stands in the world.

        Returns
        -------
        open3d.t.geometry.TriangleMesh, LineSet or PointCloud
            Faces cut into triangles, else curves as lines, else points; values and groups of points and faces as
            tensors by their names, colours also as ``colors`` for a screen. What has no place there is noted.

        Raises
        ------
        FormatError
            If Open3D is not installed.
        """
        return _way("open3d", "to_open3d")(self)

    @classmethod
    def from_arrays(cls, arrays: Mapping[str, Any]) -> Self:
        """Make a geometry from plain arrays by name, as :meth:`to_arrays` gives them.

        Parameters
        ----------
        arrays : mapping of str to ArrayLike
            ``point/position`` (P, 3) in m; ``face_start``, ``corner_point``, ``curve_start``, ``curve_point`` and
            ``curve_closed`` where there are faces and curves; further values as ``KIND/NAME``.

        Returns
        -------
        Geo
            The geometry.

        Raises
        ------
        GeometryError
            If positions are missing, or arrays do not fit each other.
        """
        made: Self = _arrays().from_arrays(arrays)
        return made

    def to_arrays(self) -> dict[str, Any]:
        """Return this geometry as plain arrays by name, as ``numpy.savez`` takes them.

        Returns
        -------
        dict of str to ndarray
            The wiring of faces and curves, and each attribute as ``KIND/NAME``; of lists the flat values, and where
            each begins as ``KIND/NAME|start``. Placed shapes follow as ``shape0/…``. Nothing is lost.
        """
        found: dict[str, Any] = _arrays().to_arrays(self)
        return found
