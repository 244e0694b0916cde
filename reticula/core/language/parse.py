"""Source text to a checked syntax tree: Python's expression grammar, cut down to a whitelist."""

from __future__ import annotations

import ast
from functools import lru_cache

from reticula.core.errors import FormulaError

__all__ = ["Place", "column_of", "members_read", "names_read", "parse"]

LONGEST = 10_000
DEEPEST = 60
MOST_NODES = 2_000

ALLOWED: tuple[type[ast.AST], ...] = (
    ast.Expression, ast.BinOp, ast.UnaryOp, ast.BoolOp, ast.Compare, ast.IfExp, ast.Call, ast.Attribute,
    ast.Name, ast.Constant, ast.Tuple, ast.List, ast.Subscript, ast.keyword,
    ast.Add, ast.Sub, ast.Mult, ast.Div, ast.FloorDiv, ast.Mod, ast.Pow, ast.USub, ast.UAdd, ast.Not,
    ast.And, ast.Or, ast.Eq, ast.NotEq, ast.Lt, ast.LtE, ast.Gt, ast.GtE, ast.Load,
)  # fmt: skip
PLAIN: dict[type[ast.AST], str] = {
    ast.Lambda: "a lambda", ast.ListComp: "a comprehension", ast.GeneratorExp: "a comprehension",
    ast.DictComp: "a comprehension", ast.SetComp: "a comprehension", ast.Dict: "a dictionary", ast.Set: "a set",
    ast.Await: "await", ast.Yield: "yield", ast.JoinedStr: "a formatted text", ast.NamedExpr: "':='",
    ast.Starred: "'*'", ast.BitAnd: "'&' (write 'and')", ast.BitOr: "'|' (write 'or')",
    ast.BitXor: "'^' (a power is written '**')", ast.Invert: "'~' (write 'not')", ast.MatMult: "'@'",
    ast.LShift: "'<<'", ast.RShift: "'>>'", ast.Is: "'is' (write '==')", ast.IsNot: "'is not' (write '!=')",
    ast.In: "'in'", ast.NotIn: "'not in'", ast.Slice: "a slice",
}  # fmt: skip


class Place(tuple[int, int, int]):
    """Line, column (both from 1) and length of a part of the source."""

    __slots__ = ()


@lru_cache(maxsize=2048)
def parse(source: str) -> ast.expr:
    """Return the syntax tree of a formula; raise FormulaError for anything outside of the language."""
    if not source.strip():
        raise FormulaError("the formula is empty")
    if len(source) > LONGEST:
        raise FormulaError(f"the formula has {len(source):,} characters; {LONGEST:,} is the most")
    try:
        tree = ast.parse(f"({source}\n)", mode="eval")
    except SyntaxError as error:
        raise _syntax_error(source, error) from None
    except (RecursionError, MemoryError, ValueError):
        raise FormulaError("the formula is nested too deeply or holds a character that cannot be read") from None
    _check(tree, source)
    return tree.body


def _check(tree: ast.Expression, source: str) -> None:
    stack: list[tuple[ast.AST, int, Place]] = [(tree, 0, Place((1, 1, 1)))]
    count = 0
    while stack:
        node, depth, place = stack.pop()
        count += 1
        if isinstance(node, ast.expr):
            place = column_of(node, source)
        line, column, length = place
        if depth > DEEPEST or count > MOST_NODES:
            raise FormulaError("the formula is too large; set an attribute half-way", line=line, column=column)
        if not isinstance(node, ALLOWED):
            what = PLAIN.get(type(node), f"'{type(node).__name__}'")
            raise FormulaError(f"a formula cannot hold {what}", line=line, column=column, length=length)
        if isinstance(node, ast.Constant) and not isinstance(node.value, (bool, int, float, str)):
            raise FormulaError(
                "only numbers, True, False and text can stand here", line=line, column=column, length=length
            )
        stack.extend((child, depth + 1, place) for child in ast.iter_child_nodes(node))


def column_of(node: ast.expr, source: str) -> Place:
    """Return where ``node`` stands in ``source`` as the user wrote it."""
    lines = source.split("\n")
    line = min(node.lineno, len(lines))
    prefix = 1 if node.lineno == 1 else 0
    text = lines[line - 1].encode()
    column = len(text[: max(node.col_offset - prefix, 0)].decode(errors="ignore")) + 1
    same_line = node.end_lineno == node.lineno and node.end_col_offset is not None
    length = max(node.end_col_offset - node.col_offset, 1) if same_line and node.end_col_offset else 1
    return Place((line, column, length))


def names_read(source: str) -> frozenset[str]:
    """Return every bare name in a formula, whether it exists or not; empty if the formula cannot be parsed."""
    try:
        return frozenset(node.id for node in ast.walk(parse(source)) if isinstance(node, ast.Name))
    except FormulaError:
        return frozenset()


def members_read(source: str) -> frozenset[tuple[str, str]]:
    """Return every ``a.b`` in a formula as a pair of names; empty if the formula cannot be parsed."""
    try:
        return frozenset(
            (node.value.id, node.attr)
            for node in ast.walk(parse(source))
            if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name)
        )
    except FormulaError:
        return frozenset()


def _syntax_error(source: str, error: SyntaxError) -> FormulaError:
    """Place a syntax error. It was found inside the brackets that let a formula run over several lines."""
    line, column = error.lineno or 1, error.offset or 1
    column -= 1 if line == 1 else 0
    if "never closed" in error.msg and (line, column) == (1, 0):
        try:
            ast.parse(source.strip(), mode="eval")
        except SyntaxError as bare:
            error, line, column = bare, bare.lineno or 1, bare.offset or 1
    lines = source.split("\n")
    if line > len(lines):
        line, column = len(lines), len(lines[-1]) + 1
    return FormulaError(_plain_syntax(error.msg), line=line, column=max(column, 1))


def _plain_syntax(message: str) -> str:
    if "unterminated string" in message:
        return "a text is opened with a quote but not closed"
    if "was never closed" in message or "unmatched" in message or "does not match" in message:
        return f"brackets do not match: {message}"
    if "=" in message and "==" in message:
        return "'=' sets a value, which a formula cannot do; to compare write '=='"
    if "EOF" in message or "invalid syntax" in message:
        return "something is missing or does not belong here"
    return message[:1].lower() + message[1:]
