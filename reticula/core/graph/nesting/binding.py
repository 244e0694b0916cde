"""Parameters that are bound to a dial, and formulas in which values stand in place of dials and other nodes'
parameters.
"""

from __future__ import annotations

import ast
from collections.abc import Mapping
from copy import deepcopy
from typing import Any

from reticula.core.language.parse import Parsed, parse, written_names
from reticula.core.language.syntax_trees import syntax_tree

__all__ = ["close_formula", "is_bound", "substitute_dials"]


def is_bound(value: Any) -> bool:
    """Whether a stored value is bound to a dial: ``{"dial": name}``."""
    return isinstance(value, Mapping) and set(value) == {"dial"} and isinstance(value["dial"], str)


def substitute_dials(parameters: Mapping[str, Any], dials: Mapping[str, Any]) -> dict[str, Any]:
    """Return parameters with the dials' values in place of what is bound to them; controls of scripts too."""
    made: dict[str, Any] = {}
    for name, value in parameters.items():
        if is_bound(value):
            made[name] = dials[value["dial"]]
        elif isinstance(value, Mapping) and any(is_bound(one) for one in value.values()):
            made[name] = {key: dials[one["dial"]] if is_bound(one) else one for key, one in value.items()}
        else:
            made[name] = value
    return made


class _ValueSubstitution(ast.NodeTransformer):
    def __init__(self, dials: Mapping[str, Any], ties: Mapping[str, Mapping[str, Any]], own: set[str]) -> None:
        self.dials, self.ties, self.own = dials, ties, own

    def visit_Name(self, node: ast.Name) -> ast.AST:
        if isinstance(node.ctx, ast.Store) or node.id in self.own or node.id not in self.dials:
            return node
        return _literal(self.dials[node.id]) or node

    def visit_Attribute(self, node: ast.Attribute) -> ast.AST:
        if isinstance(node.value, ast.Name) and node.attr in self.ties.get(node.value.id, {}):
            return _literal(self.ties[node.value.id][node.attr]) or node
        return self.generic_visit(node)


def _literal(value: Any) -> ast.expr | None:
    """Return a plain value as an expression; None if it has none."""
    if isinstance(value, (list, tuple)):
        return syntax_tree(f"vec{len(value)}({', '.join(map(repr, value))})", "eval").body
    if isinstance(value, (bool, int, float, str)):
        return syntax_tree(repr(value), "eval").body
    return None


def close_formula(source: str, dials: Mapping[str, Any], ties: Mapping[str, Mapping[str, Any]]) -> str:
    """Return a formula in which values stand in place of dials and other nodes' parameters.

    It means the same inside of a graph, where those do not exist. Raises FormulaError if it cannot be read.
    """
    parsed: Parsed = deepcopy(parse(source))
    own = written_names(parsed)
    closing = _ValueSubstitution(dials, ties, own)
    lines = [ast.unparse(closing.visit(line)) for line in parsed.statements]
    assert parsed.value is not None
    return "\n".join([*lines, ast.unparse(closing.visit(parsed.value))])
