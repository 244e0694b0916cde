"""What a compiled kernel is handed: arrays and numbers of the geometries, each under a name in the generated code."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from reticula.core.arrays import AnyArray
from reticula.core.geometry.mesh.attribute_types import well_known_default
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language import ir
from reticula.core.language.compiled.code_writer import Parts, Unsupported
from reticula.core.language.questions import QUESTIONS
from reticula.core.language.questions.place_parts import PLACE_WIDTH
from reticula.core.language.questions.question import Question
from reticula.core.language.scope import Scope, adjacent
from reticula.core.language.types import NUMBER, TEXT, PlaceOf, Type, item_of, kernel_dtype, type_of_attribute, width_of
from reticula.core.language.vector.expressions import ExpressionRunner
from reticula.core.spatial.points import points_of
from reticula.core.spatial.sampling import segment_tree
from reticula.core.spatial.surface import surface_of
from reticula.core.spatial.tree import Tree
from reticula.core.spatial.true_size import true_size
from reticula.core.spatial.winding import moments_of

__all__ = ["Bindings", "Bound", "Texts", "as_indices"]

NODES = {"box": ("float64", 2), "first": ("int32", 1), "size": ("int32", 1)}


class Texts:
    """Texts as numbers, for one run."""

    def __init__(self) -> None:
        self.codes: dict[str, int] = {}

    def code(self, text: str) -> int:
        return self.codes.setdefault(text, len(self.codes))

    def encoded(self, values: AnyArray) -> AnyArray:
        known, inverse = np.unique(values, return_inverse=True)
        return np.array([self.code(text) for text in known.tolist()], np.int64)[inverse.reshape(-1)]

    def decoded(self, codes: AnyArray) -> AnyArray:
        known = np.array(list(self.codes), np.str_) if self.codes else np.zeros(1, np.str_)
        return known[codes]


@dataclass(frozen=True)
class Bound:
    """One argument of a kernel: its type as Numba writes it, and how it is fetched."""

    type: str
    fetch: Callable[[Texts], Any]


class Bindings:
    """Gathers the arguments of a kernel while it is written."""

    def __init__(self, scope: Scope) -> None:
        self.scope = scope
        self.arguments: dict[str, Bound] = {}
        self.known: dict[tuple[Any, ...], str] = {}
        self.owns: dict[str, tuple[str, str, Type]] = {}

    def argument(self, key: tuple[Any, ...], type: str, fetch: Callable[[Texts], Any]) -> str:
        """Return the name of an argument, the same for the same key."""
        if key not in self.known:
            self.known[key] = f"a{len(self.known)}"
            self.arguments[self.known[key]] = Bound(type, fetch)
        return self.known[key]

    def array(self, key: tuple[Any, ...], dtype: str, dimensions: int, fetch: Callable[[Texts], AnyArray]) -> str:
        """An array that is only read."""
        return self.argument(key, f"reads {dtype} {dimensions}", lambda texts: readable(fetch(texts)))

    # ---- places

    def lies_on(self, owner: str, question: Question) -> str:
        """Return what the places of a question to an input lie on: faces, curves or points."""
        return question.where(self.scope.of(owner).geo)

    def place_width(self, type: PlaceOf) -> int:
        """Return how many numbers a place is."""
        return PLACE_WIDTH[self.lies_on(type.owner, QUESTIONS[type.how])]

    # ---- values

    def text(self, value: str) -> str:
        return self.argument(("text", value), "int64", lambda texts: texts.code(value))

    def given(self, name: str, type: Type) -> Parts:
        return self.numbers(("given", name), type, lambda: self.scope.given(name))

    def numbers(self, key: tuple[Any, ...], type: Type, get: Callable[[], Any]) -> Parts:
        """A value as one argument per component."""
        if type is TEXT:
            return [self.argument(key, "int64", lambda texts: texts.code(str(get())))]
        number = {"int64": int, "bool": bool}.get(kernel_dtype(type), float)

        def component(k: int) -> Callable[[Texts], Any]:
            return lambda texts: number(np.asarray(get()).reshape(-1)[k])

        return [self.argument((*key, k), _scalar(type), component(k)) for k in range(width_of(type))]

    def identity(self, kind: Kind) -> str:
        return self.array(("identity", kind), "uint64", 1, lambda texts: self.scope.geo.identity(kind))

    def attribute(self, kind: Kind, owner: str, name: str) -> str:
        """All values of an attribute or built-in."""
        scope = self.scope.of(owner)
        type = scope.type_of(kind, name) or NUMBER
        count = scope.geo.topology.count(kind)

        def fetch(texts: Texts) -> AnyArray:
            values = scope.values(kind, name)
            if type is TEXT:
                values = texts.encoded(values)
            values = np.broadcast_to(values, (count, *values.shape[1:])).astype(kernel_dtype(type), copy=False)
            return values.reshape(count, width_of(type)) if width_of(type) > 1 else values

        return self.array(
            ("attribute", kind, owner, name),
            kernel_dtype(type),
            2 if width_of(type) > 1 else 1,
            fetch,
        )

    def lists(self, kind: Kind, owner: str, name: str) -> tuple[str, str]:
        found = self.scope.of(owner).geo.find(kind, name)
        assert found.start is not None
        item = item_of(type_of_attribute(found.type))
        start = found.start

        def values(texts: Texts) -> AnyArray:
            return texts.encoded(found.values) if item is TEXT else found.values

        return (
            self.array(("list start", kind, owner, name), "int32", 1, lambda texts: start.astype(np.int32)),
            self.array(("list", kind, owner, name), kernel_dtype(item), 1, values),
        )

    def own(self, name: str, type: Type) -> str:
        """The values of the element itself, which the kernel changes."""
        if name not in self.owns:
            values, written = f"o{len(self.owns)}", f"w{len(self.owns)}"
            self.owns[name] = (values, written, type)
        return self.owns[name][0]

    def own_written(self, name: str) -> str:
        return self.owns[name][1]

    def count(self, kind: Kind, owner: str) -> str:
        scope = self.scope.of(owner)
        return self.argument(("count", kind, owner), "int64", lambda texts: scope.geo.topology.count(kind))

    def around(self, kind: Any, owner: str, word: str) -> tuple[str, str]:
        geo = self.scope.of(owner).geo
        return (
            self.array(
                ("around start", kind, owner, word), "int32", 1, lambda texts: as_indices(adjacent(geo, kind, word)[0])
            ),
            self.array(
                ("around", kind, owner, word), "int32", 1, lambda texts: as_indices(adjacent(geo, kind, word)[1])
            ),
        )

    def profile(self, name: str) -> str:
        profile = self.scope.profiles[name]
        return self.array(("profile", name), "float64", 2, lambda texts: profile.table())

    def worked_out(self, expression: ir.Expression) -> str:
        """A value that needs all elements at once, worked out beforehand."""
        return self.array(
            ("worked out", expression),
            "float64",
            1,
            lambda texts: np.asarray(ExpressionRunner(self.scope).run(expression), np.float64),
        )

    def new_element(self, kind: Kind, name: str, type: Type) -> Parts:
        """Code for a value of an element that the program made; ``{0}`` is its number."""
        if (kind, name) == ("point", "position"):
            return [f"pt_pos[{{0}}, {k}]" for k in range(3)]
        start = well_known_default(name, str(type))
        zero = self.text("") if type is TEXT else {"int64": "0", "bool": "False"}.get(kernel_dtype(type), "0.0")
        if start is None:
            return [zero] * width_of(type)
        return [repr(float(part)) for part in np.asarray(start, np.float64).reshape(-1)]

    # ---- trees

    def columns(
        self, key: tuple[Any, ...], columns: dict[str, tuple[str, int]], get: Callable[[str], AnyArray]
    ) -> list[str]:
        """Several arrays of one thing, each under its name."""

        def column(name: str) -> Callable[[Texts], AnyArray]:
            return lambda texts: get(name)

        return [
            self.array((*key, name), dtype, dimensions, column(name)) for name, (dtype, dimensions) in columns.items()
        ]

    def standing(self, owner: str) -> Geo:
        """The geometry of an input whose trees are asked; one whose place scales it is left to the vector back end."""
        geo = self.scope.of(owner).geo
        if true_size(geo).linear is not None:
            raise Unsupported("the place of an input scales it")
        return geo

    def point_tree(self, owner: str) -> str:
        """The tree over an input's points, put together from its arrays."""
        geo = self.standing(owner)
        columns = {**NODES, "place": ("float64", 2), "order": ("int32", 1)}
        names = self.columns(("point tree", owner), columns, lambda part: getattr(points_of(geo).tree, part))
        return f"PointTree({', '.join(names)})"

    def surface_tree(self, owner: str, *, curves: bool = False) -> str:
        """The tree over an input's triangles, or the segments of its curves."""
        geo = self.standing(owner)
        columns = {**NODES, "corner": ("float64", 3), "order": ("int32", 1)}
        key = "curve tree" if curves else "surface tree"

        def tree() -> Tree:
            return segment_tree(geo) if curves else surface_of(geo).tree

        return f"Tree({', '.join(self.columns((key, owner), columns, lambda part: getattr(tree(), part)))})"

    def moments(self, owner: str) -> str:
        """The sums of the nodes of an input's tree, for winding numbers."""
        geo = self.scope.of(owner).geo
        columns = {"area": ("float64", 2), "first": ("float64", 2), "ball": ("float64", 2)}
        names = self.columns(("moments", owner), columns, lambda part: getattr(moments_of(geo)[1], part))
        return f"Moments({', '.join(names)})"

    # ---- places

    def corners(self, owner: str, on: str, kind: Kind) -> str | list[str]:
        """Templates of the numbers of the elements that a place lies between; one template if there is only one."""
        geo = self.scope.of(owner).geo
        if on == "points":
            return "{0}"
        if on == "curves":
            pairs = self.array(
                ("segments", owner), "int32", 2, lambda texts: as_indices(geo.topology.curve_segments[0])
            )
            return [f"{pairs}[{{0}}, {k}]" for k in range(2)]
        if kind == "face":
            return f"{self.triangle_faces(owner)}[{{0}}]"
        rows = self.array(
            ("triangle", kind, owner),
            "int32",
            2,
            lambda texts: as_indices(surface_of(geo).point if kind == "point" else surface_of(geo).corner),
        )
        return [f"{rows}[{{0}}, {k}]" for k in range(3)]

    def triangle_faces(self, owner: str) -> str:
        """The face that each triangle of a geometry is a part of."""
        geo = self.scope.of(owner).geo
        return self.array(("triangle face", owner), "int32", 1, lambda texts: as_indices(surface_of(geo).face))

    def face_corners(self, owner: str) -> list[str]:
        """The arrays of which ``nearest_corner`` takes the faces of a geometry."""
        geo = self.scope.of(owner).geo
        shape = geo.topology
        return [
            self.triangle_faces(owner),
            self.array(("face start", owner), "int32", 1, lambda texts: as_indices(shape.face_start)),
            self.array(("corner point", owner), "int32", 1, lambda texts: as_indices(shape.corner_point)),
            self.array(("position", owner), "float64", 2, lambda texts: geo.positions),
        ]

    def fallback(self, owner: str, kind: Kind, name: str, type: Type) -> Parts:
        """The value of an attribute where nothing was found."""
        found = self.scope.of(owner).geo.find(kind, name)
        return self.numbers(("fallback", owner, kind, name), type, lambda: found.fill)


def _scalar(type: Type) -> str:
    """What the compiler calls a component by itself."""
    return kernel_dtype(type).replace("bool", "boolean")


def as_indices(values: AnyArray) -> AnyArray:
    return values.astype(np.int32, copy=False)


def readable(values: AnyArray) -> AnyArray:
    """An array as a kernel takes it: contiguous, and marked as read-only."""
    made = np.ascontiguousarray(values)
    if made.flags.writeable:
        made = made.view()
        made.flags.writeable = False
    return made
