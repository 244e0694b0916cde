"""What can be asked of a geometry: its values, groups, counts and extent."""

from __future__ import annotations

from collections.abc import Mapping
from difflib import get_close_matches
from typing import cast

import numpy as np

from reticula.core.arrays import AnyArray, Flags, Floats
from reticula.core.errors import GeometryError
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.bounds import bounds_of
from reticula.core.geometry.mesh.kinds import KINDS, PLURAL, Kind
from reticula.core.geometry.mesh.topology import Topology
from reticula.core.words import with_article

__all__ = ["Attributes", "Contents"]

Attributes = Mapping[Kind, Mapping[str, Attribute]]


class Contents:
    """Topology plus attributes: the part of a geometry that is read. Nothing in it changes."""

    topology: Topology
    attributes: Attributes
    prototypes: tuple[Contents, ...]

    @property
    def positions(self) -> Floats:
        """Positions of the points in metres ``(P, 3)``, read-only."""
        return self.attributes["point"]["position"].values

    @property
    def counts(self) -> dict[str, int]:
        """Number of elements of each kind; asking counts the edges."""
        return {PLURAL[kind]: self.topology.count(kind) for kind in KINDS if kind != "whole"}

    def attribute(self, kind: Kind, name: str) -> AnyArray:
        """Return the values of an attribute.

        Parameters
        ----------
        kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}
            The elements that have it.
        name : str
            Its name.

        Returns
        -------
        ndarray (N, ...)
            A row per element, read-only; for list types a list of N arrays.

        Raises
        ------
        GeometryError
            If there is none of this name: which kinds have it, or the nearest names.

        Examples
        --------
        >>> from reticula.core import ops
        >>> tile = ops.set_attribute(ops.grid(cells=(1, 2)), kind="face", name="cover", value="0.5 + index")
        >>> tile.attribute("face", "cover")
        array([0.5, 1.5])
        """
        found = self.find(kind, name)
        if found.start is not None:
            return cast(AnyArray, np.split(found.values, found.start[1:-1]))
        return found.values

    def find(self, kind: Kind, name: str) -> Attribute:
        """Return the attribute itself: its type, values and default.

        Parameters
        ----------
        kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}
            The elements that have it.
        name : str
            Its name.

        Returns
        -------
        Attribute
            Type, values and default.

        Raises
        ------
        GeometryError
            If there is none of this name: which kinds have it, or the nearest names.
        """
        try:
            return self.attributes[kind][name]
        except KeyError:
            others = [other for other in KINDS if name in self.attributes[other]]
            if others:
                where = f"it is an attribute of each {' and of each '.join(others)}"
            else:
                close = get_close_matches(name, list(self.attributes[kind]), 2, 0.6)
                where = f"did you mean {' or '.join(close)}; " if close else ""
                where += f"the {kind} attributes are {', '.join(sorted(self.attributes[kind])) or 'none'}"
            raise GeometryError(f"there is no {kind} attribute '{name}'; {where}") from None

    def has(self, kind: Kind, name: str) -> bool:
        """Return whether elements have an attribute.

        Parameters
        ----------
        kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}
            The elements.
        name : str
            The attribute.

        Returns
        -------
        bool
            Whether there is one; built-in values such as ``normal`` are none.
        """
        return name in self.attributes[kind]

    def group(self, kind: Kind, name: str) -> Flags:
        """Return the members of a group.

        Parameters
        ----------
        kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}
            The elements.
        name : str
            The group.

        Returns
        -------
        ndarray of bool (N,)
            Whether each element is a member, read-only.

        Raises
        ------
        GeometryError
            If there is none of this name, or it is not a flag attribute.

        Examples
        --------
        >>> from reticula.core import ops
        >>> ops.group(ops.grid(cells=(1, 2)), name="far", where="position.z > 0").group("face", "far")
        array([ True, False])
        """
        found = self.find(kind, name)
        if found.type != "flag":
            raise GeometryError(f"the {kind} attribute '{name}' is {with_article(found.type)}, not a group")
        return found.values

    def groups(self, kind: Kind) -> list[str]:
        """Return the names of the groups of a kind.

        Parameters
        ----------
        kind : {'point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'}
            The elements.

        Returns
        -------
        list of str
            In the order in which they were made.
        """
        return [name for name, attribute in self.attributes[kind].items() if attribute.type == "flag"]

    @property
    def bounds(self) -> Floats:
        """Lowest and highest corner of the axis-aligned box around everything ``(2, 3)``; zeros if there is nothing."""
        if not self.topology.instance_count:
            return bounds_of(self.positions, (), np.zeros(0, np.int32), np.zeros((0, 4, 4)))
        boxes = [prototype.bounds for prototype in self.prototypes]
        which = self.attribute("instance", "shape")
        return bounds_of(self.positions, boxes, which, self.attribute("instance", "transform"))
