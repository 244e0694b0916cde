"""Questions to other geometries in generated code: what is called, and what is read of the place that it gives."""

from __future__ import annotations

from collections.abc import Callable

from reticula.core.geometry.measure.areas import point_normals
from reticula.core.language.compiled.bindings import Bindings, as_indices, mode_of
from reticula.core.language.compiled.code_writer import CodeWriter, Parts
from reticula.core.spatial.surface import surface_of
from reticula.core.spatial.winding import FAR

__all__ = ["write_field", "write_query"]


def write_query(code: CodeWriter, bind: Bindings, owner: str, how: str, arguments: list[Parts]) -> Parts:
    """Write a question; returns the components of the answer."""
    at = f"({', '.join(arguments[0])})"
    if how in ("inside", "winding"):
        number = code.let(f"winding_one({bind.surface_tree(owner)}, {bind.moments(owner)}, {at}, {FAR}, scratch.stack)")
        return [code.let(f"{number} > 0.5")] if how == "inside" else [number]
    reach = arguments[-1][0] if len(arguments) > (2 if how == "ray" else 1) else "np.inf"
    match mode_of(bind.scope, owner, how):
        case "points":
            call = f"nearest_one({bind.point_tree(owner)}, {at}, {reach}, scratch)"
            weights = 0
        case "curves":
            call = f"closest_one({bind.surface_tree(owner, curves=True)}, {at}, {reach}, scratch, place)"
            weights = 3
        case _ if how == "closest":
            call = f"closest_one({bind.surface_tree(owner)}, {at}, {reach}, scratch, place)"
            weights = 3
        case _:
            call = _ray(code, bind, owner, arguments, reach)
            weights = 3
    hit, far = code.fresh("h"), code.fresh("f")
    code.out.add(f"{hit}, {far} = {call}")
    hit = code.let(f"np.int64({hit})")
    parts = [hit, code.let(f"{far} if {hit} >= 0 else -1.0")]
    if weights:
        found = [code.let(f"place[{k}] if {hit} >= 0 else 0.0") for k in range(6)]
        if mode_of(bind.scope, owner, how) == "curves":
            found[1:3] = [code.let(f"{found[1]} + {found[2]}")]
        parts += found
    return parts


def _ray(code: CodeWriter, bind: Bindings, owner: str, arguments: list[Parts], reach: str) -> str:
    direction = arguments[1]
    long = code.let(f"np.sqrt({' + '.join(f'{d} * {d}' for d in direction)})")
    for k in range(3):
        code.out.add(f"origin[{k}] = {arguments[0][k]}")
        code.out.add(f"along[{k}] = {direction[k]} / {long} if {long} > 0.0 else 0.0")
    return f"hit_one({bind.surface_tree(owner)}, Ray(origin, along, 0.0, {reach}), scratch, inverse, place)"


def write_field(code: CodeWriter, bind: Bindings, owner: str, how: str, name: str, place: Parts) -> Parts:
    """Something that every place knows."""
    mode = mode_of(bind.scope, owner, how)
    match name:
        case "found":
            return [code.let(f"{place[0]} >= 0")]
        case "distance":
            return [place[1]]
        case "index":
            return [place[0]]
        case "position" if mode != "points":
            return place[-3:]
        case "face":
            if mode != "faces":
                return ["-1"]
            face = bind.array(
                ("triangle face", owner),
                "int32",
                1,
                lambda texts: as_indices(surface_of(bind.scope.of(owner).geo).face),
            )
            return _guarded(code, place[0], lambda: [code.let(f"np.int64({face}[{place[0]}])")], ["-1"])
    if mode == "curves":
        return ["0.0"] * 3
    geo = bind.scope.of(owner).geo
    if mode == "faces":
        rows = bind.array(("triangle normals", owner), "float64", 2, lambda texts: surface_of(geo).triangle_normals)
    elif name == "position":
        rows = bind.attribute("point", owner, "position")
    else:
        rows = bind.array(
            ("point normals", owner),
            "float64",
            2,
            lambda texts: geo.attribute("point", "normal") if geo.has("point", "normal") else point_normals(geo),
        )
    return _guarded(code, place[0], lambda: code.loaded(rows, place[0], 3), ["0.0"] * 3)


def _guarded(code: CodeWriter, hit: str, read: Callable[[], Parts], without: Parts) -> Parts:
    """Read something only where a place was found."""
    results = [code.fresh("r") for _ in without]
    with code.out.block(f"if {hit} >= 0:"):
        code.store(results, read())
    with code.out.block("else:"):
        code.store(results, without)
    return results
