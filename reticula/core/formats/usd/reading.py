"""A USD scene as one geometry, at its first moment, in metres with y up."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray, Floats, ragged_index, starts_from_sizes
from reticula.core.diagnostics import note
from reticula.core.errors import FormatError, GeometryError
from reticula.core.formats.shared.needed import said
from reticula.core.formats.shared.places import check_places
from reticula.core.formats.usd.curves import sampled
from reticula.core.formats.usd.library import module, temporary
from reticula.core.formats.usd.values import KIND_OF, with_primvars
from reticula.core.geometry import Attribute, Geo, Kind, Topology
from reticula.core.geometry.edit.affine import apply_affine
from reticula.core.geometry.edit.concatenate import concatenate
from reticula.core.geometry.edit.flip import flipped
from reticula.core.geometry.edit.instances import with_instances
from reticula.core.geometry.edit.placement import PLACE
from reticula.core.rows import unit

__all__ = ["OURS", "read"]

OURS = "reticula"
"""The entry of ``customData`` that says how we meant something."""
MOST = 200_000
"""Prims of one scene."""
ON_CURVES: dict[str, Kind] = {"constant": "whole", "uniform": "curve", "varying": "point", "vertex": "point"}
ON_POINTS: dict[str, Kind] = {"constant": "whole", "varying": "point", "vertex": "point"}
Y_UP = np.array([[1.0, 0, 0, 0], [0, 0, 1, 0], [0, -1, 0, 0], [0, 0, 0, 1]])


def read(data: bytes, *, ending: str) -> Geo:
    """Read a USD file: meshes, curves, points and instancers, where they stand in the world.

    Raises FormatError for what is broken, and for scenes that are put together from other files.
    """
    usd, geom, sdf, tf = (module(name) for name in ("Usd", "UsdGeom", "Sdf", "Tf"))
    with temporary(ending, data) as path:
        try:
            layer = sdf.Layer.FindOrOpen(str(path))
            others = [] if layer is None else [one for one in layer.GetCompositionAssetDependencies() if one]
            if others and ending != "usdz":
                raise FormatError(f"the scene is put together from other files ({others[0][:80]}); flatten it first")
            stage = None if layer is None else usd.Stage.Open(layer)
            if stage is None:
                raise FormatError("this is no USD file, or it is cut short")
            world = Y_UP if geom.GetStageUpAxis(stage) == geom.Tokens.z else np.eye(4)
            size = float(geom.GetStageMetersPerUnit(stage))
            found = _shapes(stage, usd.TimeCode.EarliestTime())
        except (tf.ErrorException, UnicodeDecodeError) as problem:
            raise FormatError(f"this USD cannot be read: {said(problem)}") from None
    if not found:
        raise FormatError("there is no shape in this scene")
    matrix = world @ np.diag([size, size, size, 1.0])
    placed = [(name, _put(geo, matrix @ own, ours), ours) for name, geo, own, ours in found]
    if len(placed) == 1:
        return placed[0][1]
    try:
        return concatenate([_named(name, geo) for name, geo, _ in placed])
    except GeometryError as error:
        raise FormatError(f"the shapes of the scene do not go together: {error}") from None


def _named(name: str, geo: Geo) -> Geo:
    if not geo.topology.face_count or geo.has("face", "object"):
        return geo
    return geo.with_attribute("face", "object", np.full(geo.topology.face_count, name))


def _put(geo: Geo, matrix: Floats, ours: bool) -> Geo:
    """Move a shape to the world; one that we wrote with a place keeps its own space."""
    if np.array_equal(matrix, np.eye(4)):
        return geo
    if ours:
        return geo.with_attribute("whole", PLACE, matrix[None], "mat4")
    try:
        return apply_affine(geo, matrix)
    except np.linalg.LinAlgError:
        raise FormatError("a shape is squeezed flat by its place; scale it by more than 0") from None


def _shapes(stage: Any, time: Any) -> list[tuple[str, Geo, Floats, bool]]:
    """Return each shape of the scene with its name, its matrix, and whether it is one of ours with a place."""
    usd, geom = module("Usd"), module("UsdGeom")
    cache = geom.XformCache(time)
    found: list[tuple[str, Geo, Floats, bool]] = []
    passed: dict[str, int] = {}
    seen = 0
    walk = iter(usd.PrimRange.Stage(stage, usd.TraverseInstanceProxies()))
    for prim in walk:
        seen += 1
        if seen > MOST:
            raise FormatError(f"the scene has more than {MOST:,} prims")
        shown = geom.Imageable(prim)
        if shown and (
            shown.ComputeVisibility(time) == geom.Tokens.invisible
            or shown.ComputePurpose() in (geom.Tokens.proxy, geom.Tokens.guide)
        ):
            walk.PruneChildren()
            continue
        if prim.IsA(geom.PointInstancer):
            found_here: Geo | None = _instancer(stage, prim, time)
            walk.PruneChildren()
        else:
            found_here = shape_of(prim, time)
        if found_here is None:
            if prim.IsA(geom.Gprim):
                passed[prim.GetTypeName()] = passed.get(prim.GetTypeName(), 0) + 1
            continue
        matrix = np.array(cache.GetLocalToWorldTransform(prim), np.float64).T
        placed = prim.GetParent() and bool(prim.GetParent().GetCustomDataByKey(f"{OURS}:place"))
        found.append((prim.GetName(), found_here, matrix, bool(placed)))
    if passed:
        note(f"Left out: {', '.join(f'{count:,} {word}' for word, count in sorted(passed.items()))}.")
    return found


def shape_of(prim: Any, time: Any) -> Geo | None:
    """Return a mesh, curves or points in their own space; None for another prim."""
    geom = module("UsdGeom")
    if prim.IsA(geom.Mesh):
        return _mesh(geom.Mesh(prim), time)
    if prim.IsA(geom.BasisCurves):
        return _curves(geom.BasisCurves(prim), time)
    if prim.IsA(geom.Points):
        points = geom.Points(prim)
        geo = Geo.of(_places(prim, points.GetPointsAttr().Get(time)))
        return _widths(with_primvars(geo, prim, time, ON_POINTS), points, time, "point")
    return None


def _places(prim: Any, given: Any) -> Floats:
    places = _numbers(given, np.float64, f"points of '{prim.GetName()}'").reshape(-1, 3)
    check_places(places)
    return places


def _mesh(mesh: Any, time: Any) -> Geo:
    geom = module("UsdGeom")
    prim = mesh.GetPrim()
    places = _places(prim, mesh.GetPointsAttr().Get(time))
    sizes = _whole_numbers(mesh.GetFaceVertexCountsAttr(), time)
    corner = _whole_numbers(mesh.GetFaceVertexIndicesAttr(), time)
    if (sizes < 0).any() or sizes.sum() != len(corner):
        raise FormatError(f"the faces of '{prim.GetName()}' use {sizes.sum():,} corners; {len(corner):,} are listed")
    if len(corner) and (corner.min() < 0 or corner.max() >= len(places)):
        raise FormatError(f"a face of '{prim.GetName()}' uses a point that does not exist")
    if (sizes < 3).any():
        note(
            f"Left out {int((sizes < 3).sum()):,} faces with fewer than three points, and values on faces beside them."
        )
        corner = corner[np.repeat(sizes >= 3, sizes)]
        sizes = sizes[sizes >= 3]
    geo = Geo.of(places, Topology(len(places), starts_from_sizes(sizes), corner))
    geo = with_primvars(geo, prim, time, KIND_OF)
    normals = mesh.GetNormalsAttr().Get(time)
    kind = KIND_OF.get(mesh.GetNormalsInterpolation())
    if normals is not None and kind in ("point", "corner", "face") and len(normals) == geo.topology.count(kind):
        geo = geo.with_attribute(kind, "normal", unit(_numbers(normals, np.float64, "normals")))
    for subset in geom.Subset.GetAllGeomSubsets(mesh):
        if subset.GetElementTypeAttr().Get() not in (None, geom.Tokens.face):
            continue
        flags = np.zeros(geo.topology.face_count, bool)
        index = _whole_numbers(subset.GetIndicesAttr(), time)
        flags[index[(index >= 0) & (index < len(flags))]] = True
        geo = geo.with_attribute("face", subset.GetPrim().GetName(), flags)
    left = mesh.GetOrientationAttr().Get(time) == geom.Tokens.leftHanded
    return flipped(geo, with_normals=False) if left and geo.topology.face_count else geo


def _whole_numbers(attribute: Any, time: Any) -> AnyArray:
    """The list of whole numbers that an attribute holds, none if it has no value."""
    return _numbers(attribute.Get(time), np.int64, f"'{attribute.GetName()}'").reshape(-1)


def _numbers(values: Any, dtype: Any, what: str) -> AnyArray:
    """A list of numbers; of a damaged file it may be anything."""
    try:
        return np.array([] if values is None else values, dtype)
    except (TypeError, ValueError):
        raise FormatError(f"{what} of the file hold what is no number") from None


def _curves(curves: Any, time: Any) -> Geo:
    prim = curves.GetPrim()
    places = _places(prim, curves.GetPointsAttr().Get(time))
    sizes = _whole_numbers(curves.GetCurveVertexCountsAttr(), time)
    if (sizes < 0).any() or sizes.sum() > len(places):
        raise FormatError(f"the curves of '{prim.GetName()}' use {sizes.sum():,} points; there are {len(places):,}")
    closed = curves.GetWrapAttr().Get() == module("UsdGeom").Tokens.periodic
    if curves.GetTypeAttr().Get() == module("UsdGeom").Tokens.cubic:
        return sampled(places, sizes, str(curves.GetBasisAttr().Get()), closed, prim.GetName())
    kept = sizes >= 2
    start = starts_from_sizes(sizes)
    index = ragged_index(start, np.flatnonzero(kept))[0]
    flags = np.full(int(kept.sum()), closed) & (sizes[kept] > 2)
    geo = Geo.of(
        places,
        Topology(len(places), None, None, starts_from_sizes(sizes[kept]), index, flags),
    )
    return _widths(with_primvars(geo, prim, time, ON_CURVES), curves, time, "curve")


def _widths(geo: Geo, prim: Any, time: Any, kind: Kind) -> Geo:
    widths = prim.GetWidthsAttr().Get(time)
    on = {"constant": kind, "uniform": "curve", "varying": "point", "vertex": "point"}.get(
        prim.GetWidthsInterpolation()
    )
    if widths is None or on is None or geo.has(on, "width") or geo.has(on, "radius"):
        return geo
    values = _numbers(widths, np.float64, "widths")
    values = np.full(geo.topology.count(on), values[0]) if len(values) == 1 else values
    return geo.with_attribute(on, "width", values) if len(values) == geo.topology.count(on) else geo


def _instancer(stage: Any, prim: Any, time: Any) -> Geo:
    usd, geom = module("Usd"), module("UsdGeom")
    instancer = geom.PointInstancer(prim)
    prototypes = []
    cache = geom.XformCache(time)
    for target in instancer.GetPrototypesRel().GetForwardedTargets():
        root = stage.GetPrimAtPath(target)
        if not root:
            raise FormatError(f"the instancer '{prim.GetName()}' places something that does not exist")
        parts = []
        above = np.array(cache.GetLocalToWorldTransform(root), np.float64).T
        for one in usd.PrimRange(root):
            geo = shape_of(one, time)
            if geo is not None:
                own = np.array(cache.GetLocalToWorldTransform(one), np.float64).T
                parts.append(_put(geo, np.asarray(np.linalg.solve(above, own), np.float64), False))
        local = (
            np.array(geom.Xformable(root).GetLocalTransformation(time), np.float64).T
            if geom.Xformable(root)
            else np.eye(4)
        )
        prototypes.append(_put(concatenate(parts), local, False) if parts else Geo.empty())
    which = _whole_numbers(instancer.GetProtoIndicesAttr(), time)
    if len(which) and (which.min() < 0 or which.max() >= len(prototypes)):
        raise FormatError(f"the instancer '{prim.GetName()}' places shape {which.max()}; it names {len(prototypes)}")
    exclude = geom.PointInstancer.ExcludeProtoXform
    matrices = np.array(
        instancer.ComputeInstanceTransformsAtTime(time, time, exclude, geom.PointInstancer.IgnoreMask), np.float64
    ).reshape(-1, 4, 4)
    if len(matrices) != len(which):
        raise FormatError(f"the instancer '{prim.GetName()}' has {len(matrices):,} places for {len(which):,} copies")
    placing = {
        "shape": Attribute.of(which, "integer"),
        "transform": Attribute.of(matrices.transpose(0, 2, 1).copy(), "mat4"),
    }
    geo = with_instances(Geo.empty(), placing, prototypes)
    return with_primvars(
        geo, prim, time, {"constant": "whole", "vertex": "instance", "varying": "instance", "uniform": "instance"}
    )
