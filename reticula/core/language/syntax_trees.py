"""The one place where texts become Python's syntax trees."""

from __future__ import annotations

import ast
import threading
import warnings
from typing import Literal, overload

__all__ = ["syntax_tree"]

_one_at_a_time = threading.Lock()
"""CPython 3.11 counts for all threads together how deep the tree is that it builds, and ends with a SystemError when
two build one at once; warnings are switched off for all threads together, too.
"""


@overload
def syntax_tree(text: str, mode: Literal["eval"]) -> ast.Expression: ...


@overload
def syntax_tree(text: str, mode: Literal["exec"]) -> ast.Module: ...


def syntax_tree(text: str, mode: Literal["eval", "exec"]) -> ast.AST:
    """Return the syntax tree of an expression (``eval``) or of statements (``exec``).

    Raises SyntaxError, ValueError, RecursionError or MemoryError, as :func:`ast.parse` does.
    """
    with _one_at_a_time, warnings.catch_warnings():
        warnings.simplefilter("ignore")
        return ast.parse(text, mode=mode)
