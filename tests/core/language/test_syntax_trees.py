"""Texts become syntax trees, in any number of threads at once."""

import ast
import warnings
from concurrent.futures import ThreadPoolExecutor

import pytest

from reticula.core.language.syntax_trees import syntax_tree

DEEP = "(" * 60 + "x" + ")" * 60 + " + f(1, (2, 3), [y for y in z if y > 0])" * 40


def test_an_expression_and_statements() -> None:
    assert isinstance(syntax_tree("a + 1", "eval").body, ast.BinOp)
    assert len(syntax_tree("a = 1\nb = 2", "exec").body) == 2
    with pytest.raises(SyntaxError):
        syntax_tree("a +", "eval")


def test_odd_texts_warn_nobody() -> None:
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        syntax_tree("1 is 1", "eval")
        syntax_tree("'\\d'", "eval")


def test_many_threads_at_once() -> None:
    with ThreadPoolExecutor(8) as pool:
        made = list(pool.map(lambda _: ast.dump(syntax_tree(DEEP, "eval")), range(200)))
    assert len(set(made)) == 1
