"""A geometry as a USD scene, in metres with y up; or a geometry for each frame, as samples over time."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.diagnostics import note
from reticula.core.formats.shared.placing import parts_of, without_shear
from reticula.core.formats.usd.library import module, temporary
from reticula.core.formats.usd.reading import OURS
from reticula.core.formats.usd.values import array_of, flat, name_for, primvar_type
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.edit.instances import flatten, without_instances
from reticula.core.geometry.edit.placement import has_place, place_of, without_place

__all__ = ["write", "write_frames"]

CORNERS: dict[str, str] = {"point": "vertex", "corner": "faceVarying", "face": "uniform", "whole": "constant"}


def write(geo: Geo, *, ending: str) -> bytes:
    """Return a USD file. What USD has no place for is noted: values of edges, and lists."""
    return _packed(ending, [(None, geo)], 24.0)


def write_frames(frames: Iterable[tuple[float, Geo]], per_second: float, *, ending: str) -> bytes:
    """Return a USD file whose shape changes over time, its topology too: a sample at each frame."""
    return _packed(ending, list(frames), per_second)


def _packed(ending: str, frames: list[tuple[float | None, Geo]], per_second: float) -> bytes:
    usd, geom = module("Usd"), module("UsdGeom")
    inner = "usdc" if ending in ("usdz", "usd") else ending
    with temporary(inner) as path:
        stage = usd.Stage.CreateNew(str(path))
        geom.SetStageMetersPerUnit(stage, 1.0)
        geom.SetStageUpAxis(stage, geom.Tokens.y)
        root = geom.Xform.Define(stage, "/shape")
        stage.SetDefaultPrim(root.GetPrim())
        times = [time for time, _ in frames if time is not None]
        if times:
            stage.SetStartTimeCode(times[0])
            stage.SetEndTimeCode(times[-1])
            stage.SetTimeCodesPerSecond(per_second)
            stage.SetFramesPerSecond(per_second)
        parts = _Parts(stage, root)
        for time, geo in frames:
            parts.add(geo, usd.TimeCode.Default() if time is None else usd.TimeCode(time))
        parts.say()
        stage.GetRootLayer().Save()
        if ending != "usdz":
            return path.read_bytes()
        packed = path.with_suffix(".usdz")
        module("UsdUtils").CreateNewUsdzPackage(module("Sdf").AssetPath(str(path)), str(packed))
        return packed.read_bytes()


class _Parts:
    """The prims of a scene that one geometry after another is written into."""

    def __init__(self, stage: Any, root: Any) -> None:
        self.stage, self.root = stage, root
        self.lost: set[str] = set()
        self.places = 0
        self.written: dict[str, Any] = {}
        self.subsets: dict[str, Any] = {}
        self.times: list[Any] = []

    def add(self, geo: Geo, time: Any) -> None:
        geo = without_shear(geo, "USD")
        self._place(geo, time)
        geo = without_place(geo)
        own = without_instances(geo)
        shape = own.topology
        now: set[str] = set()
        if shape.face_count:
            now.add(self._mesh(own, time))
        for closed in (False, True):
            chosen = np.flatnonzero(shape.curve_closed == closed)
            if len(chosen):
                now.add(self._curves(own, chosen, closed, time))
        loose = np.flatnonzero(~shape.used_points)
        if len(loose):
            now.add(self._points(own, loose, time))
        if geo.topology.instance_count:
            now.add(self._instances(geo, time))
        self.lost |= {f"edge {name}" for name in geo.attributes["edge"]}
        self._hide_others(now, time)

    def say(self) -> None:
        """Note what was left out."""
        if self.lost:
            note(f"USD cannot hold {', '.join(sorted(self.lost))}.")

    def _place(self, geo: Geo, time: Any) -> None:
        if not has_place(geo) and not self.places:
            return
        if not self.places:
            self.operation = self.root.AddTransformOp(opSuffix="place")
            self.root.GetPrim().SetCustomDataByKey(f"{OURS}:place", True)
        self.places += 1
        self.operation.Set(module("Gf").Matrix4d(place_of(geo).T.tolist()), time)

    def _hide_others(self, now: set[str], time: Any) -> None:
        """What a frame does not have is invisible in it."""
        if time.IsDefault():
            return
        geom = module("UsdGeom")
        for path, prim in self.written.items():
            visible = geom.Imageable(prim).CreateVisibilityAttr()
            if not visible.GetNumTimeSamples():
                for earlier in self.times:
                    visible.Set(geom.Tokens.invisible, earlier)
            visible.Set(geom.Tokens.inherited if path in now else geom.Tokens.invisible, time)
        self.times.append(time)

    def _define(self, schema: Any, name: str) -> tuple[Any, str]:
        path = f"/shape/{name}"
        made = schema.Define(self.stage, path)
        self.written.setdefault(path, made.GetPrim())
        return made, path

    def _mesh(self, geo: Geo, time: Any) -> str:
        geom, vt = module("UsdGeom"), module("Vt")
        mesh, path = self._define(geom.Mesh, "mesh")
        shape = geo.topology
        mesh.CreateSubdivisionSchemeAttr(geom.Tokens.none)
        used = np.zeros(shape.point_count, bool)
        used[shape.corner_point] = True
        points = np.flatnonzero(used)
        number = (np.cumsum(used) - 1).astype(np.int32)
        self._set_points(mesh, geo.positions[points], time)
        mesh.CreateFaceVertexCountsAttr().Set(vt.IntArray.FromNumpy(flat(np.diff(shape.face_start), np.int32)), time)
        mesh.CreateFaceVertexIndicesAttr().Set(vt.IntArray.FromNumpy(flat(number[shape.corner_point], np.int32)), time)
        for name, members in self.subsets.items():
            if not geo.has("face", name) and not time.IsDefault():
                members.Set(vt.IntArray(), time)
        rows: dict[Kind, AnyArray | None] = {"point": points, "corner": None, "face": None, "whole": None}
        for kind, index in rows.items():
            for name, found in geo.attributes[kind].items():
                if name == "position":
                    continue
                if kind == "face" and found.type == "flag":
                    self._subset(mesh, name, found.values, time)
                    continue
                taken = found if index is None else found.take(index)
                if name == "normal" and found.type == "vec3" and kind != "whole":
                    mesh.CreateNormalsAttr().Set(vt.Vec3fArray.FromNumpy(flat(taken.values, np.float32)), time)
                    mesh.SetNormalsInterpolation(CORNERS[kind])
                    continue
                self._primvar(mesh.GetPrim(), kind, CORNERS[kind], name, taken, time)
        return path

    def _set_points(self, prim: Any, places: AnyArray, time: Any) -> None:
        vt = module("Vt")
        prim.CreatePointsAttr().Set(vt.Vec3fArray.FromNumpy(flat(places, np.float32)), time)
        if len(places):
            box = np.stack([places.min(axis=0), places.max(axis=0)])
            prim.CreateExtentAttr().Set(vt.Vec3fArray.FromNumpy(flat(box, np.float32)), time)

    def _subset(self, mesh: Any, name: str, flags: AnyArray, time: Any) -> None:
        geom, vt = module("UsdGeom"), module("Vt")
        subset = geom.Subset.Define(self.stage, mesh.GetPath().AppendChild(name_for(name)))
        subset.CreateElementTypeAttr(geom.Tokens.face)
        subset.CreateFamilyNameAttr("groups")
        members = subset.CreateIndicesAttr()
        if name not in self.subsets:
            for earlier in self.times:
                members.Set(vt.IntArray(), earlier)
        self.subsets[name] = members
        members.Set(vt.IntArray.FromNumpy(flat(np.flatnonzero(flags), np.int32)), time)

    def _primvar(self, prim: Any, kind: str, interpolation: str, name: str, found: Any, time: Any) -> None:
        type = primvar_type(found)
        if type is None:
            self.lost.add(f"{kind} {name}")
            return
        api = module("UsdGeom").PrimvarsAPI(prim)
        if name == "color" and found.type in ("vec3", "vec4") and kind != "whole":
            self._colors(api, interpolation, found.values, time)
            return
        names = module("Sdf").ValueTypeNames
        if name == "uv" and found.type == "vec2":
            values = module("Vt").Vec2fArray.FromNumpy(flat(found.values, np.float32))
            api.CreatePrimvar("st", names.TexCoord2fArray, interpolation).Set(values, time)
            return
        api.CreatePrimvar(name_for(name), type, interpolation).Set(array_of(found), time)

    def _colors(self, api: Any, interpolation: str, colors: AnyArray, time: Any) -> None:
        names, vt = module("Sdf").ValueTypeNames, module("Vt")
        shown = vt.Vec3fArray.FromNumpy(flat(colors[:, :3], np.float32))
        api.CreatePrimvar("displayColor", names.Color3fArray, interpolation).Set(shown, time)
        if colors.shape[1] == 4:
            veil = vt.FloatArray.FromNumpy(flat(colors[:, 3], np.float32))
            api.CreatePrimvar("displayOpacity", names.FloatArray, interpolation).Set(veil, time)

    def _curves(self, geo: Geo, chosen: AnyArray, closed: bool, time: Any) -> str:
        geom, vt = module("UsdGeom"), module("Vt")
        curves, path = self._define(geom.BasisCurves, "closed_curves" if closed else "curves")
        shape = geo.topology
        curves.CreateTypeAttr(geom.Tokens.linear)
        curves.CreateWrapAttr(geom.Tokens.periodic if closed else geom.Tokens.nonperiodic)
        sizes = np.diff(shape.curve_start)[chosen]
        index = np.concatenate([shape.curve_point[shape.curve_start[i] : shape.curve_start[i + 1]] for i in chosen])
        self._set_points(curves, geo.positions[index], time)
        curves.CreateCurveVertexCountsAttr().Set(vt.IntArray.FromNumpy(flat(sizes, np.int32)), time)
        rows_of: dict[Kind, tuple[str, AnyArray]] = {"point": ("vertex", index), "curve": ("uniform", chosen)}
        for kind, (word, rows) in rows_of.items():
            for name, found in geo.attributes[kind].items():
                if name == "position":
                    continue
                if kind == "curve" and name in ("width", "radius") and found.type == "number":
                    wide = found.values[rows] * (2.0 if name == "radius" else 1.0)
                    curves.CreateWidthsAttr().Set(vt.FloatArray.FromNumpy(flat(wide, np.float32)), time)
                    curves.SetWidthsInterpolation(geom.Tokens.uniform)
                self._primvar(curves.GetPrim(), kind, word, name, found.take(rows), time)
        return path

    def _points(self, geo: Geo, loose: AnyArray, time: Any) -> str:
        points, path = self._define(module("UsdGeom").Points, "points")
        self._set_points(points, geo.positions[loose], time)
        for name, found in geo.attributes["point"].items():
            if name != "position":
                self._primvar(points.GetPrim(), "point", "vertex", name, found.take(loose), time)
        return path

    def _instances(self, geo: Geo, time: Any) -> str:
        geom, vt = module("UsdGeom"), module("Vt")
        placer, path = self._define(geom.PointInstancer, "instances")
        inner = _Parts(self.stage, self.root)
        targets = []
        for number, prototype in enumerate(geo.prototypes):
            root = geom.Xform.Define(self.stage, f"{path}/shape_{number}")
            targets.append(root.GetPath())
            inner.written = {}
            _Under(inner, f"{path}/shape_{number}").add(without_place(flatten(prototype)), time)
        self.lost |= inner.lost
        placer.CreatePrototypesRel().SetTargets(targets)
        move, turn, scale = parts_of(geo.attribute("instance", "transform"))
        placer.CreateProtoIndicesAttr().Set(
            vt.IntArray.FromNumpy(flat(geo.attribute("instance", "shape"), np.int32)), time
        )
        placer.CreatePositionsAttr().Set(vt.Vec3fArray.FromNumpy(flat(move, np.float32)), time)
        quaternions = flat(turn, np.float32)
        placer.CreateOrientationsfAttr().Set(vt.QuatfArray.FromNumpy(quaternions), time)
        placer.CreateScalesAttr().Set(vt.Vec3fArray.FromNumpy(flat(scale, np.float32)), time)
        extent = placer.ComputeExtentAtTime(time, time)
        if extent is not None:
            placer.CreateExtentAttr().Set(extent, time)
        for name, found in geo.attributes["instance"].items():
            if name not in ("shape", "transform"):
                self._primvar(placer.GetPrim(), "instance", "vertex", name, found, time)
        return path


class _Under(_Parts):
    """Prims of a shape that is placed by an instancer, below its own path."""

    def __init__(self, above: _Parts, path: str) -> None:
        super().__init__(above.stage, above.root)
        self.path = path
        self.lost = above.lost

    def _define(self, schema: Any, name: str) -> tuple[Any, str]:
        path = f"{self.path}/{name}"
        made = schema.Define(self.stage, path)
        self.written.setdefault(path, made.GetPrim())
        return made, path
