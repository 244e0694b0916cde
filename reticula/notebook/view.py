"""A widget that shows shapes beside each other, coloured by one of their values."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, cast

import anywidget
import traitlets

from reticula.bundle import NOTEBOOK
from reticula.contract.queries import AttributeQuery
from reticula.core.errors import ReticulaError
from reticula.core.geometry import Geo, Kind
from reticula.core.reports.summary import element_counts
from reticula.workers.attribute_look import attribute_look
from reticula.workers.buffers import MemoryBuffers
from reticula.workers.render_data import mesh

__all__ = ["View", "show"]

KINDS: tuple[Kind, ...] = ("point", "corner", "face", "edge")
"""What can be coloured."""
FIRST = ("color", "value")
"""Attributes that are shown at once, if there are any."""
MOST_BYTES = 400_000_000


class View(anywidget.AnyWidget):
    """Pictures of geometries. ``color`` is ``{"kind", "name", "part"}`` or None; it may be set from Python, too."""

    _esm = NOTEBOOK
    shapes: Any = traitlets.List().tag(sync=True)
    arrays = traitlets.Dict().tag(sync=True)
    looks: Any = traitlets.List().tag(sync=True)
    color = traitlets.Dict(allow_none=True, default_value=None).tag(sync=True)
    height = traitlets.Int(360).tag(sync=True)
    dials: Any = traitlets.List().tag(sync=True)
    values = traitlets.Dict().tag(sync=True)
    trouble = traitlets.Unicode("").tag(sync=True)

    def __init__(self, geometries: Sequence[Geo], titles: Sequence[str] = (), **given: Any) -> None:
        super().__init__(**given)
        self._geometries: list[Geo] = []
        self._titles = list(titles)
        self.set_geometries(geometries)

    def set_geometries(self, geometries: Sequence[Geo]) -> None:
        """Show other geometries in the same place."""
        self._geometries = list(geometries)
        if self.color is None and not self.shapes:
            self.set_trait("color", _first_color(self._geometries))
        self._tell_page()

    @traitlets.observe("color")
    def _recolor(self, change: Any) -> None:
        if self.shapes:
            self._tell_page()

    def _tell_page(self) -> None:
        """Tell what is drawn now, all of it together."""
        buffers = MemoryBuffers()
        shapes = [
            {
                "title": title,
                "counts": ", ".join(f"{count:,} {kind}" for kind, count in element_counts(geo).items() if count),
                "mesh": mesh(geo, buffers),
                "attributes": _attributes(geo),
            }
            for geo, title in zip(self._geometries, [*self._titles, *[""] * len(self._geometries)], strict=False)
        ]
        looks = [self._look(geo, buffers) for geo in self._geometries]
        if sum(map(len, buffers.kept.values())) > MOST_BYTES:
            raise ReticulaError("these shapes are too large for a notebook; simplify them, or show a part")
        with self.hold_sync():
            self.arrays, self.shapes, self.looks = buffers.kept, shapes, looks

    def _look(self, geo: Geo, buffers: MemoryBuffers) -> Any:
        wish = self.color
        if not wish:
            return None
        query = AttributeQuery.model_validate({"as": "color", "what": "attribute", **_only(wish, "kind", "name")})
        try:
            return attribute_look(geo, query, buffers)
        except ReticulaError:  # another one of the shapes has it
            return None


def _only(given: dict[str, Any], *names: str) -> dict[str, Any]:
    return {name: given[name] for name in names if name in given}


def _attributes(geo: Geo) -> list[dict[str, Any]]:
    """Return what a geometry can be coloured by, with the parts of vectors."""
    found = []
    for kind in KINDS:
        for name, attribute in geo.attributes[kind].items():
            parts = list(attribute.info.parts) if attribute.info.shown == "vector" else []
            whole = [""] if name == "color" else ["length"] if parts else []
            if attribute.info.shown != "matrix":
                found.append({"kind": kind, "name": name, "type": attribute.type, "parts": [*whole, *parts]})
    return found


def _first_color(geometries: Sequence[Geo]) -> dict[str, str] | None:
    for name in FIRST:
        for kind in KINDS:
            if any(geo.has(kind, name) for geo in geometries):
                return {"kind": kind, "name": name, "part": ""}
    return None


def show(*geometries: Geo, color: str = "", titles: Sequence[str] = (), height: int = 360) -> View:
    """Show geometries beside each other in a notebook, all in the colours of one value.

    Parameters
    ----------
    *geometries : Geo
        What is shown.
    color : str
        An attribute of points, corners, faces or edges, with ``.x`` and so on for a part of a vector; nothing shows
        ``color``, else ``value``, else clay.
    titles : sequence of str
        A title for each geometry.
    height : int
        Height of the pictures, px.

    Returns
    -------
    View
        The widget; ``view.color`` and ``view.set_geometries`` change it later.

    Raises
    ------
    ReticulaError
        If no geometry has such an attribute, or they are too large.
    """
    if not geometries or not all(isinstance(geo, Geo) for geo in geometries):
        raise ReticulaError("show takes geometries, e.g. show(before, after)")
    chosen = _named_color(geometries, color) if color else None
    return View(geometries, titles, height=height, **({"color": chosen} if chosen else {}))


def _named_color(geometries: Sequence[Geo], color: str) -> dict[str, str]:
    name, _, part = color.partition(".")
    for kind in KINDS:
        for geo in geometries:
            if geo.has(kind, name):
                vector = geo.find(kind, name).info.shown == "vector" and name != "color"
                return {"kind": kind, "name": name, "part": part or ("length" if vector else "")}
    there = sorted({cast(str, one["name"]) for geo in geometries for one in _attributes(geo)})
    raise ReticulaError(f"no geometry here has '{name}'; they have {', '.join(there)}")
