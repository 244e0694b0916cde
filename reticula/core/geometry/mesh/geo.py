"""Geo: an immutable geometry of points, faces and curves with attributes on every element kind."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from functools import cached_property, wraps
from pathlib import Path
from types import MappingProxyType
from typing import Any, TypeVar, cast

import numpy as np

from reticula.core.arrays import AnyArray, UInts, starts_from_sizes
from reticula.core.errors import GeometryError
from reticula.core.geometry.mesh import identity as identities
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.contents import Attributes, Contents
from reticula.core.geometry.mesh.digest import digest_of
from reticula.core.geometry.mesh.exchange import Exchange
from reticula.core.geometry.mesh.file_access import file_access
from reticula.core.geometry.mesh.in_words import in_words
from reticula.core.geometry.mesh.kinds import KINDS, PLURAL, Kind
from reticula.core.geometry.mesh.lineage import Lineage, Names, names_of
from reticula.core.geometry.mesh.maker import maker
from reticula.core.geometry.mesh.source_maps import SourceMap
from reticula.core.geometry.mesh.topology import LARGEST, Topology

__all__ = ["Geo", "once_per_geo"]

NAMED: tuple[Kind, ...] = ("point", "face", "curve", "instance")
"""Kinds whose elements have names of their own."""
Result = TypeVar("Result")


class Geo(Contents, Exchange):
    """Topology plus attributes. Nothing in it ever changes; every edit returns a new Geo that shares what it can.

    Units are metres, y is up, faces wind counter-clockwise seen from outside. ``position`` is the one attribute
    that every Geo has. A group is an attribute of type ``flag``. ``identity`` names points, faces and curves stably
    (see ``reticula.core.geometry.mesh.identity``); ``sources`` says, per kind, from which element of the operator's
    input each element came. Instances are placed copies of ``prototypes``: the instance attributes ``shape`` (which
    one) and ``transform`` (mat4, from its space to this one) say where, until they are flattened.
    """

    prototypes: tuple[Geo, ...]

    def __init__(
        self,
        topology: Topology,
        attributes: Attributes,
        *,
        identity: Mapping[Kind, Names] | None = None,
        sources: Mapping[Kind, SourceMap] | None = None,
        prototypes: Sequence[Geo] = (),
        made_by: int | None = None,
    ) -> None:
        self.topology = topology
        self.prototypes = tuple(prototypes)
        self.attributes: Attributes = MappingProxyType(
            {kind: MappingProxyType(dict(attributes.get(kind, {}))) for kind in KINDS}
        )
        self.sources: Mapping[Kind, SourceMap] = MappingProxyType(dict(sources or {}))
        self._identity = dict(identity or {})
        self._maker = maker() if made_by is None else made_by
        self._once: dict[str, Any] = {}
        if "position" not in self.attributes["point"]:
            raise GeometryError("a geometry needs the point attribute 'position'")
        for kind, named in self.attributes.items():
            for name, attribute in named.items():
                if len(attribute) != topology.count(kind):
                    raise GeometryError(
                        f"the {kind} attribute '{name}' has {len(attribute)} values for "
                        f"{topology.count(kind)} {PLURAL[kind]}"
                    )

    # ---- making

    @classmethod
    def of(cls, positions: Any, topology: Topology | None = None, **point_attributes: Any) -> Geo:
        """Make a geometry from positions and a topology.

        Parameters
        ----------
        positions : ArrayLike (P, 3), m
            Places of the points.
        topology : Topology, optional
            Faces and curves between them; loose points without one.
        **point_attributes : ArrayLike (P, ...)
            Further values of the points, by name.

        Returns
        -------
        Geo
            The geometry.

        Raises
        ------
        GeometryError
            If the values of an attribute are not one for each point.

        Examples
        --------
        >>> Geo.of([(0, 0, 0), (1, 0, 0)], cover=[0.2, 0.9])
        <Geo 2 points; point: cover number>
        """
        position = Attribute.of(np.asarray(positions, np.float64).reshape(-1, 3), "vec3")
        named = {"position": position} | {name: Attribute.of(v) for name, v in point_attributes.items()}
        return cls(topology or Topology(len(position)), {"point": named})

    @classmethod
    def from_faces(cls, positions: Any, faces: AnyArray | Iterable[Sequence[int]]) -> Geo:
        """Make a mesh from positions and faces.

        Parameters
        ----------
        positions : ArrayLike (P, 3), m
            Places of the points.
        faces : ndarray (F, n) or sequence of sequences of int
            The points of each face, counter-clockwise seen from outside; faces may have any sizes.

        Returns
        -------
        Geo
            The mesh.

        Raises
        ------
        GeometryError
            If a face has fewer than three points, or one that does not exist.

        Examples
        --------
        >>> Geo.from_faces([(0, 0, 0), (1, 0, 0), (1, 0, 1), (0, 0, 1)], [(0, 3, 2, 1)]).counts["edges"]
        4
        """
        points = np.asarray(positions, np.float64).reshape(-1, 3)
        if isinstance(faces, np.ndarray) and faces.ndim == 2:
            few = np.int32 if faces.size <= LARGEST else np.int64
            start: AnyArray = np.arange(len(faces) + 1, dtype=few) * faces.shape[1]
            corners: AnyArray = faces.reshape(-1)
        else:
            rows = [list(face) for face in faces]
            start = starts_from_sizes(np.array([len(row) for row in rows], np.int64))
            corners = np.array([point for row in rows for point in row], np.int64)
        return cls.of(points, Topology(len(points), start, corners))

    @classmethod
    def empty(cls) -> Geo:
        """Return a geometry without any element.

        Returns
        -------
        Geo
            It has no points, and all kinds of elements count none.
        """
        return cls.of(np.zeros((0, 3)))

    @classmethod
    def read(cls, path: str | Path, *, error: float = 0.0) -> Geo:
        """Read a file; its ending says the format.

        Parameters
        ----------
        path : str or Path
            The file; see ``docs/formats.md`` for the endings that are known.
        error : float, m
            How far lines may be from the bows of a drawing; 0 leaves that to the format.

        Returns
        -------
        Geo
            What is in it; what was left out is told as notes.

        Raises
        ------
        FormatError
            If the format is not known or the file is damaged: what is wrong and in which line.
        """
        return file_access.read(path, error=error)

    def write(self, path: str | Path, **options: Any) -> None:
        """Write a file; its ending says the format.

        Parameters
        ----------
        path : str or Path
            The file; see ``docs/formats.md`` for the endings that are known.
        **options
            What the format can be told, e.g. ``encoding="text"``.

        Raises
        ------
        FormatError
            If the format is not known or cannot hold the geometry.
        """
        file_access.write(self, path, **options)

    # ---- names

    def identity(self, kind: Kind) -> UInts:
        """Return the stable name of each element.

        Parameters
        ----------
        kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}
            The elements.

        Returns
        -------
        ndarray of uint64 (N,)
            Different for each element; edits keep the names of what they keep.
        """
        return names_of(self.lineage(kind))

    def lineage(self, kind: Kind) -> Names:
        """Return the stable names of elements, or where they come from if nobody asked for them yet.

        Parameters
        ----------
        kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}
            The elements.

        Returns
        -------
        ndarray of uint64 (N,) or Lineage
            What :meth:`identity` works out; to be handed on to other geometries.
        """
        if kind not in self._identity:
            self._identity[kind] = self._make_identity(kind)
        return self._identity[kind]

    def _make_identity(self, kind: Kind) -> Names:
        if kind == "edge":
            points = self.identity("point")
            return identities.hash_pairs(points[self.topology.edges[:, 0]], points[self.topology.edges[:, 1]])
        if kind == "corner":
            faces = self.identity("face")[self.topology.corner_face]
            number = np.arange(self.topology.corner_count) - self.topology.face_start[self.topology.corner_face]
            return identities.hash_pairs(faces, identities.fresh_names(int(number.max(initial=0)) + 1, 7)[number])
        return Lineage(self._maker + KINDS.index(kind), count=self.topology.count(kind))

    @property
    def own_identity(self) -> dict[Kind, Names]:
        """Names of the kinds that have names of their own; those of edges and corners follow from them."""
        return {kind: self.lineage(kind) for kind in NAMED}

    @cached_property
    def digest(self) -> str:
        """Return a hash of all that the geometry holds; equal digests mean equal bytes."""
        return digest_of(self.topology, self.attributes, [prototype.digest for prototype in self.prototypes])

    # ---- new geometries from this one

    def with_attribute(
        self, kind: Kind, name: str, values: Any, type: str | None = None, *, default: Any = None
    ) -> Geo:
        """Return this geometry with an attribute added or replaced.

        Parameters
        ----------
        kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}
            The elements that get it.
        name : str
            Its name.
        values : ArrayLike (N, ...) or Attribute
            A row per element.
        type : str, optional
            ``number``, ``integer``, ``flag``, ``vec2`` to ``vec4``, ``mat3``, ``mat4`` or ``text``; else it is told
            from the values.
        default : optional
            What elements get that later steps make from nothing.

        Returns
        -------
        Geo
            A new geometry; everything else is shared with this one.

        Raises
        ------
        GeometryError
            If there are not as many rows as elements.

        Examples
        --------
        >>> from reticula.core import ops
        >>> ops.grid(cells=(1, 1)).with_attribute("point", "cover", [0.0, 0.1, 0.2, 0.3])
        <Geo 4 points, 1 face; point: cover number; corner: uv vec2>
        """
        made = values if isinstance(values, Attribute) else Attribute.of(values, type, default=default)
        named = {**self.attributes[kind], name: made}
        return self._with({**self.attributes, kind: named})

    def without_attribute(self, kind: Kind, name: str) -> Geo:
        """Return this geometry without one attribute.

        Parameters
        ----------
        kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}
            The elements that have it.
        name : str
            The attribute.

        Returns
        -------
        Geo
            A new geometry; everything else is shared with this one.

        Raises
        ------
        GeometryError
            If there is none of this name.
        """
        self.find(kind, name)
        named = {key: value for key, value in self.attributes[kind].items() if key != name}
        return self._with({**self.attributes, kind: named})

    def with_positions(self, positions: AnyArray) -> Geo:
        """Return this geometry with its points moved.

        Parameters
        ----------
        positions : ArrayLike (P, 3)
            Where they go, m.

        Returns
        -------
        Geo
            A new geometry; its topology and everything else is shared with this one.

        Raises
        ------
        GeometryError
            If there are not as many rows as points.
        """
        return self.with_attribute("point", "position", np.asarray(positions, np.float64), "vec3")

    def _with(self, attributes: Attributes) -> Geo:
        return Geo(self.topology, attributes, identity=self._identity, prototypes=self.prototypes, made_by=self._maker)

    def __getstate__(self) -> dict[str, Any]:
        return {
            "topology": self.topology,
            "attributes": {kind: dict(named) for kind, named in self.attributes.items()},
            "identity": {kind: names_of(names) for kind, names in self._identity.items()},
            "maker": self._maker,
            "prototypes": self.prototypes,
        }

    def __setstate__(self, state: dict[str, Any]) -> None:
        Geo.__init__(
            self,
            state["topology"],
            state["attributes"],
            identity=state["identity"],
            prototypes=state["prototypes"],
            made_by=state["maker"],
        )

    def __repr__(self) -> str:
        """Counts, and the attributes of each kind with their types; groups are flags."""
        return f"<Geo {in_words(self.topology, self.attributes)}>"


def once_per_geo(function: Callable[[Geo], Result]) -> Callable[[Geo], Result]:
    """Keep the result of ``function(geo)`` with the geometry: it cannot change, so it is computed once."""

    @wraps(function)
    def remembered(geo: Geo) -> Result:
        key = f"{function.__module__}.{function.__qualname__}"
        if key not in geo._once:
            geo._once[key] = function(geo)
        return cast(Result, geo._once[key])

    return remembered
