"""A formula of several lines, written as one expression."""

from __future__ import annotations

import ast
from copy import deepcopy

from reticula.core.language.limits import LONGEST
from reticula.core.language.parse import parse

__all__ = ["in_one_line"]


def in_one_line(source: str) -> str | None:
    """Return the same formula as one expression: each name that a line gives stands for what it was given.

    None if it has lines that cannot be put into their places, or would grow too long. Raises FormulaError if it cannot
    be read.
    """
    parsed = parse(source)
    given: dict[str, ast.expr] = {}
    for statement in parsed.statements:
        match statement:
            case ast.Assign(targets=[ast.Name(id=name)], value=value):
                given[name] = _put_in(value, given)
            case ast.AugAssign(target=ast.Name(id=name), op=op, value=value):
                before = given.get(name, ast.Name(name, ast.Load()))
                given[name] = ast.BinOp(deepcopy(before), op, _put_in(value, given))
            case _:
                return None
        if len(ast.unparse(given[name])) > LONGEST:
            return None
    assert parsed.value is not None
    text = ast.unparse(_put_in(parsed.value, given))
    return text if len(text) <= LONGEST else None


class _Names(ast.NodeTransformer):
    """Puts expressions in place of names that are read; a list that is made has names of its own."""

    def __init__(self, given: dict[str, ast.expr]) -> None:
        self.given = given

    def visit_Name(self, node: ast.Name) -> ast.AST:
        return deepcopy(self.given[node.id]) if isinstance(node.ctx, ast.Load) and node.id in self.given else node

    def visit_ListComp(self, node: ast.ListComp) -> ast.AST:
        targets = [part for made in node.generators for part in ast.walk(made.target)]
        own = {part.id for part in targets if isinstance(part, ast.Name)}
        first = node.generators[0]
        first.iter = self.visit(first.iter)
        inner = _Names({name: value for name, value in self.given.items() if name not in own})
        node.elt = inner.visit(node.elt)
        for number, made in enumerate(node.generators):
            made.ifs = [inner.visit(one) for one in made.ifs]
            if number:
                made.iter = inner.visit(made.iter)
        return node


def _put_in(expression: ast.expr, given: dict[str, ast.expr]) -> ast.expr:
    made: ast.expr = _Names(given).visit(deepcopy(expression))
    return made
