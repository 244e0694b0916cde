"""Plain Python as the judge of values on the way: every part of a program tells what it was worth, and where it
stands.
"""

from __future__ import annotations

import ast
from collections import defaultdict
from typing import Any

from reticula.core import Geo
from tests.core.language.programs.plain import FUNCTIONS, Element, Vec, World

__all__ = ["watched"]

Place = tuple[int, int, int]


def watched(geo: Geo, source: str, point: int) -> dict[Place, list[Any]]:
    """Return every value that each part of a script had on one point, in order, by line, column and length."""
    seen: dict[Place, list[Any]] = defaultdict(list)

    def see(line: int, column: int, length: int, value: Any) -> Any:
        if not isinstance(value, (Element, range)) and not (isinstance(value, list) and _elements(value)):
            seen[line, column, length].append(list(value) if isinstance(value, list) else value)
        return value

    world = World(geo)
    world.here = point
    tree = ast.fix_missing_locations(_Watching().visit(ast.parse(source)))
    names = {name: world.read(name, point) for name in geo.attributes["point"]}
    here = {"here": Element(world, "point", point), "index": point, "Vec": Vec, "_see": see}
    exec(compile(tree, "script", "exec"), {**FUNCTIONS, **names, **here})
    return seen


def _elements(values: list[Any]) -> bool:
    return any(isinstance(value, Element) for value in values)


class _Watching(ast.NodeTransformer):
    """Puts every expression that is read into a call that tells its value."""

    def visit(self, node: ast.AST) -> Any:
        if isinstance(node, ast.Constant):
            return node
        if isinstance(node, ast.Call):
            node.args = [self.visit(one) for one in node.args]
            if isinstance(node.func, ast.Attribute):
                return node  # `append`: it has no value
            return self._told(node, node)
        made = super().generic_visit(node)
        if not isinstance(node, ast.expr) or not isinstance(getattr(node, "ctx", ast.Load()), ast.Load):
            return made
        if isinstance(node, ast.Tuple):
            made = ast.Call(ast.Name("Vec", ast.Load()), [made], [])
        return self._told(node, made)

    @staticmethod
    def _told(node: ast.expr, made: Any) -> ast.Call:
        assert node.end_col_offset is not None
        place = (node.lineno, node.col_offset + 1, node.end_col_offset - node.col_offset)
        return ast.Call(ast.Name("_see", ast.Load()), [*(ast.Constant(part) for part in place), made], [])
