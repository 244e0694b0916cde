"""Values of USD as attributes: primvars by what they lie on, each in the type that fits."""

from __future__ import annotations

from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.formats.usd.library import module
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.language.reserved import readable_name

__all__ = ["KIND_OF", "array_of", "as_attribute", "name_for", "primvar_type", "with_primvars"]

KIND_OF: dict[str, Kind] = {
    "constant": "whole",
    "uniform": "face",
    "varying": "point",
    "vertex": "point",
    "faceVarying": "corner",
}
"""What the values of a mesh lie on, by their interpolation."""
FAMILIAR = {"st": "uv", "st0": "uv", "UVMap": "uv"}
PASSED = ("displayColor", "displayOpacity", "normals", "ref", "skel:jointIndices", "skel:jointWeights")
TYPES = {
    "number": "DoubleArray",
    "integer": "Int64Array",
    "flag": "BoolArray",
    "text": "StringArray",
    "vec2": "Double2Array",
    "vec3": "Double3Array",
    "vec4": "Double4Array",
    "mat3": "Matrix3dArray",
    "mat4": "Matrix4dArray",
}


def as_attribute(values: Any) -> Attribute | None:
    """Return an array of USD as an attribute; None for what we have no type for."""
    if values is None:
        return None
    array = np.array(values) if not isinstance(values, np.ndarray) else values
    if array.dtype.kind in "OUS":
        return Attribute.of(np.array([str(one) for one in array.reshape(-1).tolist()], np.str_), "text")
    if array.ndim == 0:
        array = array[None]
    if array.dtype.kind == "b":
        return Attribute.of(array, "flag") if array.ndim == 1 else None
    if array.dtype.kind in "iu" and array.ndim == 1:
        return Attribute.of(array.astype(np.int64), "integer")
    if array.dtype.kind not in "iuf" or array.shape[1:] not in ((), (2,), (3,), (4,), (3, 3), (4, 4)):
        return None
    made = array.astype(np.float64)
    return Attribute.of(made.transpose(0, 2, 1).copy() if made.ndim == 3 else made)


def with_primvars(geo: Geo, prim: Any, time: Any, kinds: dict[str, Kind]) -> Geo:
    """Return a shape with the primvars of its prim; ``kinds`` says what each interpolation lies on here."""
    for primvar in module("UsdGeom").PrimvarsAPI(prim).GetPrimvarsWithValues():
        plain = primvar.GetPrimvarName()
        kind = kinds.get(primvar.GetInterpolation())
        if plain in PASSED or kind is None:
            continue
        found = as_attribute(primvar.ComputeFlattened(time))
        name = readable_name(FAMILIAR.get(plain, plain.removeprefix("reticula:").replace(":", "_")))
        if found is not None and len(found) == geo.topology.count(kind) and name != "position":
            geo = geo.with_attribute(kind, name, found)
    return _colored(geo, prim, time, kinds)


def _colored(geo: Geo, prim: Any, time: Any, kinds: dict[str, Kind]) -> Geo:
    api = module("UsdGeom").PrimvarsAPI(prim)
    shown = api.GetPrimvar("displayColor")
    if not shown or not shown.HasValue():
        return geo
    kind = kinds.get(shown.GetInterpolation())
    colors = np.array(shown.ComputeFlattened(time), np.float64)
    if kind is None or colors.shape != (geo.topology.count(kind), 3):
        return geo
    if kind == "whole":
        kind = "face" if geo.topology.face_count else "point"
        colors = np.repeat(colors, geo.topology.count(kind), axis=0)
    alpha = np.ones(len(colors))
    veil = api.GetPrimvar("displayOpacity")
    if veil and veil.HasValue():
        given = np.array(veil.ComputeFlattened(time), np.float64)
        alpha = given if len(given) == len(alpha) else alpha * given[0] if len(given) == 1 else alpha
    return geo.with_attribute(kind, "color", np.concatenate([colors, alpha[:, None]], axis=1))


def array_of(found: Attribute) -> Any:
    """Return the values of an attribute as USD takes them."""
    vt = module("Vt")
    if found.type == "text":
        return vt.StringArray(found.values.tolist())
    rows = found.values.transpose(0, 2, 1) if found.values.ndim == 3 else found.values
    makers = {
        "number": vt.DoubleArray,
        "integer": vt.Int64Array,
        "flag": vt.BoolArray,
        "vec2": vt.Vec2dArray,
        "vec3": vt.Vec3dArray,
        "vec4": vt.Vec4dArray,
        "mat3": vt.Matrix3dArray,
        "mat4": vt.Matrix4dArray,
    }
    return makers[found.type].FromNumpy(np.ascontiguousarray(rows))


def primvar_type(found: Attribute) -> Any:
    """Return the type of a primvar that holds an attribute; None for those that USD has none for."""
    word = TYPES.get(found.type)
    return None if word is None else getattr(module("Sdf").ValueTypeNames, word)


def name_for(name: str) -> str:
    """Return a name as USD allows it."""
    if module("Sdf").Path.IsValidIdentifier(name):
        return name
    made: str = module("Tf").MakeValidIdentifier(name)
    return made


def flat(values: AnyArray, type: Any) -> AnyArray:
    """Return values in a type of NumPy, close in memory."""
    return np.ascontiguousarray(values, type)
