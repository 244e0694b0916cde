"""Source text to a checked syntax tree: Python's grammar, cut down to a whitelist."""

from __future__ import annotations

import ast
import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from reticula.core.errors import FormulaError
from reticula.core.language.limits import DEEPEST, LONGEST, MOST_NODES
from reticula.core.language.syntax_trees import syntax_tree

__all__ = [
    "Parsed",
    "Place",
    "column_of",
    "members_read",
    "names_read",
    "parse",
    "parse_script",
    "replaced",
    "written_names",
]

ALLOWED: tuple[type[ast.AST], ...] = (
    ast.BinOp,
    ast.UnaryOp,
    ast.BoolOp,
    ast.Compare,
    ast.IfExp,
    ast.Call,
    ast.Attribute,
    ast.Name,
    ast.Constant,
    ast.Tuple,
    ast.List,
    ast.Subscript,
    ast.keyword,
    ast.ListComp,
    ast.comprehension,
    ast.Add,
    ast.Sub,
    ast.Mult,
    ast.Div,
    ast.FloorDiv,
    ast.Mod,
    ast.Pow,
    ast.USub,
    ast.UAdd,
    ast.Not,
    ast.And,
    ast.Or,
    ast.Eq,
    ast.NotEq,
    ast.Lt,
    ast.LtE,
    ast.Gt,
    ast.GtE,
    ast.In,
    ast.NotIn,
    ast.Load,
    ast.Store,
    ast.Assign,
    ast.AugAssign,
    ast.AnnAssign,
    ast.If,
    ast.For,
    ast.While,
    ast.Break,
    ast.Continue,
    ast.Pass,
    ast.FunctionDef,
    ast.arguments,
    ast.arg,
    ast.Return,
    ast.Expr,
)
PLAIN: dict[type[ast.AST], str] = {
    ast.Lambda: "a lambda",
    ast.GeneratorExp: "a generator (put it in [ ])",
    ast.DictComp: "a dictionary",
    ast.SetComp: "a set",
    ast.Dict: "a dictionary",
    ast.Set: "a set",
    ast.Await: "await",
    ast.Yield: "yield",
    ast.YieldFrom: "yield",
    ast.JoinedStr: "a formatted text",
    ast.NamedExpr: "':='",
    ast.Starred: "'*'",
    ast.BitAnd: "'&' (write 'and')",
    ast.BitOr: "'|' (write 'or')",
    ast.BitXor: "'^' (a power is written '**')",
    ast.Invert: "'~' (write 'not')",
    ast.MatMult: "'@' (write '*')",
    ast.LShift: "'<<'",
    ast.RShift: "'>>'",
    ast.Is: "'is' (write '==')",
    ast.IsNot: "'is not' (write '!=')",
    ast.Slice: "a slice",
    ast.Import: "import",
    ast.ImportFrom: "import",
    ast.ClassDef: "a class",
    ast.With: "with",
    ast.Try: "try",
    ast.Raise: "raise",
    ast.Assert: "assert",
    ast.Global: "global",
    ast.Nonlocal: "nonlocal",
    ast.Delete: "del",
    ast.AsyncFunctionDef: "async",
    ast.AsyncFor: "async",
    ast.AsyncWith: "async",
    ast.Match: "match (write if and elif)",
}


class Place(tuple[int, int, int]):
    """Line, column (both from 1) and length of a part of the source."""

    __slots__ = ()


@dataclass(frozen=True)
class Parsed:
    """Statements, and the value that a formula ends with."""

    statements: tuple[ast.stmt, ...]
    value: ast.expr | None


@lru_cache(maxsize=2048)
def parse(source: str) -> Parsed:
    """Return the syntax tree of a formula: one expression, or some lines that end with one.

    Raises FormulaError for anything outside of the language.
    """
    if not source.strip():
        raise FormulaError("the formula is empty")
    _check_length(source, "formula")
    try:
        tree: ast.AST = _read(f"({source}\n)", "eval")
    except SyntaxError as error:
        parsed = _lines(source)
        if parsed is None:
            raise _syntax_error(source, error) from None
        return parsed
    assert isinstance(tree, ast.Expression)
    for node in ast.walk(tree):
        if isinstance(node, (ast.expr, ast.keyword)):
            node.col_offset -= node.lineno == 1
            if node.end_lineno == 1 and node.end_col_offset is not None:
                node.end_col_offset -= 1
    _check(tree.body, source, "formula")
    return Parsed((), tree.body)


@lru_cache(maxsize=256)
def parse_script(source: str) -> Parsed:
    """Return the syntax tree of a script; raise FormulaError for anything outside of the language."""
    _check_length(source, "script")
    try:
        tree = _read(source, "exec")
    except SyntaxError as error:
        line, column = error.lineno or 1, max(error.offset or 1, 1)
        lines = source.split("\n")
        if line > len(lines):
            line, column = len(lines), len(lines[-1]) + 1
        raise FormulaError(_said(error.msg, lines, line, column, script=True), line=line, column=column) from None
    assert isinstance(tree, ast.Module)
    for statement in tree.body:
        _check(statement, source, "script")
    return Parsed(tuple(tree.body), None)


def _read(text: str, mode: Literal["eval", "exec"]) -> ast.AST:
    """Parse; what Python's parser cannot take at all becomes a FormulaError."""
    try:
        return syntax_tree(text, mode)
    except (RecursionError, MemoryError):
        raise FormulaError("the text is nested too deeply") from None
    except ValueError:
        raise FormulaError("the text holds a character or number that cannot be read") from None


def _check_length(source: str, what: str) -> None:
    if len(source) > LONGEST:
        raise FormulaError(f"the {what} has {len(source):,} characters; {LONGEST:,} is the most")


def _lines(source: str) -> Parsed | None:
    """Read a formula of several lines, the last of which is its value; None if it is not one."""
    try:
        tree = _read(source.strip("\n"), "exec")
    except SyntaxError:
        return None
    assert isinstance(tree, ast.Module)
    if len(tree.body) < 2 or not isinstance(tree.body[-1], ast.Expr):
        return None
    for statement in tree.body:
        _check(statement, source, "formula")
    return Parsed(tuple(tree.body[:-1]), tree.body[-1].value)


def _check(tree: ast.AST, source: str, what: str) -> None:
    stack: list[tuple[ast.AST, int, Place]] = [(tree, 0, Place((1, 1, 1)))]
    count = 0
    while stack:
        node, depth, place = stack.pop()
        count += 1
        if isinstance(node, (ast.expr, ast.stmt, ast.arg)):
            place = column_of(node, source)
        line, column, length = place
        if depth > DEEPEST or count > MOST_NODES:
            advice = "set an attribute half-way" if what == "formula" else "split it into two scripts"
            raise FormulaError(f"the {what} is too large; {advice}", line=line, column=column)
        if not isinstance(node, ALLOWED):
            named = PLAIN.get(type(node), f"'{type(node).__name__}'")
            raise FormulaError(f"a {what} cannot hold {named}", line=line, column=column, length=length)
        if isinstance(node, ast.Constant) and not isinstance(node.value, (bool, int, float, str)):
            raise FormulaError(
                "only numbers, True, False and text can stand here", line=line, column=column, length=length
            )
        name = _named(node)
        if name is not None and name.startswith("_"):
            raise FormulaError(
                f"the name '{name}' begins with '_'; begin it with a letter", line=line, column=column, length=length
            )
        stack.extend((child, depth + 1, place) for child in ast.iter_child_nodes(node))


def _named(node: ast.AST) -> str | None:
    match node:
        case ast.Name(id=name) | ast.Attribute(attr=name) | ast.arg(arg=name) | ast.FunctionDef(name=name):
            return name
        case ast.keyword(arg=name):
            return name
    return None


def column_of(node: ast.expr | ast.stmt | ast.arg | ast.keyword, source: str) -> Place:
    """Return where ``node`` stands in ``source`` as the user wrote it."""
    lines = source.split("\n")
    line = min(node.lineno, len(lines))
    text = lines[line - 1].encode()
    column = len(text[: max(node.col_offset, 0)].decode(errors="ignore")) + 1
    same_line = node.end_lineno == node.lineno and node.end_col_offset is not None
    length = max(node.end_col_offset - node.col_offset, 1) if same_line and node.end_col_offset else 1
    return Place((line, column, length))


@lru_cache(maxsize=4096)
def names_read(source: str) -> frozenset[str]:
    """Return every bare name in a formula, whether it exists or not; empty if the formula cannot be parsed."""
    return frozenset(node.id for node in _all_nodes(source) if isinstance(node, ast.Name))


@lru_cache(maxsize=4096)
def members_read(source: str) -> frozenset[tuple[str, str]]:
    """Return every ``a.b`` in a formula as a pair of names; empty if the formula cannot be parsed."""
    return frozenset(
        (node.value.id, node.attr)
        for node in _all_nodes(source)
        if isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name)
    )


def written_names(parsed: Parsed) -> set[str]:
    """Return the names that a text gives values to itself."""
    nodes = [node for line in parsed.statements for node in ast.walk(line)]
    stored = {node.id for node in nodes if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)}
    return stored | {node.arg for node in nodes if isinstance(node, ast.arg)}


def replaced(
    source: str, names: Mapping[str, str], members: Mapping[tuple[str, str], str], *, script: bool = False
) -> str:
    """Return a formula or script with texts in place of names and of ``a.b`` that it reads; all else stays to the
    letter.

    A name that the text gives a value to itself is left alone. A text that cannot be parsed is returned as it is.
    """
    try:
        parsed = parse_script(source) if script else parse(source)
    except FormulaError:
        return source
    own = written_names(parsed)
    trees = [*parsed.statements, *([parsed.value] if parsed.value else [])]
    text = source if script or not parsed.statements else source.strip("\n")
    starts = [0]
    encoded = text.encode()
    for line in encoded.split(b"\n"):
        starts.append(starts[-1] + len(line) + 1)
    places: list[tuple[int, int, str]] = []
    for node in (node for tree in trees for node in ast.walk(tree)):
        new: str | None = None
        if isinstance(node, ast.Name) and node.id not in own and isinstance(node.ctx, ast.Load):
            new = names.get(node.id)
        elif isinstance(node, ast.Attribute) and isinstance(node.value, ast.Name) and node.value.id not in own:
            new = members.get((node.value.id, node.attr))
        if new is not None and isinstance(node, ast.expr) and node.end_lineno and node.end_col_offset is not None:
            begin, end = starts[node.lineno - 1] + node.col_offset, starts[node.end_lineno - 1] + node.end_col_offset
            places.append((begin, end, new))
    for begin, end, new in sorted(places, reverse=True):
        encoded = encoded[:begin] + new.encode() + encoded[end:]
    return encoded.decode()


def _all_nodes(source: str) -> list[ast.AST]:
    try:
        parsed = parse(source)
    except FormulaError:
        try:
            parsed = parse_script(source)
        except FormulaError:
            return []
    trees = [*parsed.statements, *([parsed.value] if parsed.value else [])]
    return [node for tree in trees for node in ast.walk(tree)]


_FOREIGN = {
    "?": "there is no '?'; to choose between two values write 'a if condition else b'",
    "&&": "there is no '&&'; write 'and'",
    "||": "there is no '||'; write 'or'",
    "!": "there is no '!'; write 'not'",
}
"""Signs of other languages, and what to write instead."""


def _syntax_error(source: str, error: SyntaxError) -> FormulaError:
    """Place a syntax error. It was found inside the brackets that let a formula run over several lines."""
    line, column = error.lineno or 1, error.offset or 1
    column -= 1 if line == 1 else 0
    if "never closed" in error.msg and (line, column) == (1, 0):
        try:
            syntax_tree(source.strip(), "eval")
        except SyntaxError as bare:
            error, line, column = bare, bare.lineno or 1, bare.offset or 1
    lines = source.split("\n")
    if line > len(lines):
        line, column = len(lines), len(lines[-1]) + 1
    return FormulaError(_said(error.msg, lines, line, column), line=line, column=max(column, 1))


def _said(message: str, lines: list[str], line: int, column: int, *, script: bool = False) -> str:
    """What a syntax error at a line and column says in the words of the language."""
    written = lines[line - 1] if line <= len(lines) else ""
    return _foreign(written, column) or _plain_syntax(message, written[max(column - 1, 0) :], script=script)


def _foreign(written: str, column: int) -> str | None:
    """What to write instead of a sign of other languages that stands at a column, from 1."""
    # A doubled sign is found at its second half.
    spots = (written[max(column - 1, 0) :], written[max(column - 2, 0) :] if column > 1 else "")
    for sign, said in _FOREIGN.items():
        if any(rest.startswith(sign) for rest in spots[: len(sign)]) and not spots[0].startswith("!="):
            return said
    return None


def _plain_syntax(message: str, rest: str, *, script: bool) -> str:
    """What a syntax error says; ``rest`` is what is written from its place on."""
    if "unterminated string" in message:
        return "a text is opened with a quote but not closed"
    if "was never closed" in message or "unmatched" in message or "does not match" in message:
        return f"brackets do not match: {message}"
    if "=" in message and "==" in message and not script:
        return "'=' sets a value, which a formula cannot do; to compare write '=='"
    if "expected ':'" in message:
        return "a ':' is missing at the end of this line"
    if "indent" in message:
        return f"{message}: the lines of a block are moved to the right by four spaces"
    if "EOF" in message or "invalid syntax" in message:
        found = re.match(r"\w+|\S", rest.strip())
        return (
            f"'{found[0]}' does not belong here, or something is missing before it"
            if found
            else "something is missing at the end"
        )
    return message[:1].lower() + message[1:]
