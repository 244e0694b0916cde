"""Every error the core raises on purpose: what is wrong, where, and what to do."""

from __future__ import annotations

from typing import Any

__all__ = [
    "FormatError",
    "FormulaError",
    "GeometryError",
    "GraphError",
    "LimitError",
    "ParameterError",
    "ReticulaError",
    "Stopped",
    "Unreachable",
]


class ReticulaError(Exception):
    """Base of all deliberate errors. The message is written for the person at the screen."""

    code = "error"

    def details(self) -> dict[str, Any]:
        """Return the error as plain data for the interface and the command line."""
        return {"code": self.code, "message": str(self)}


class GeometryError(ReticulaError):
    """A geometry is inconsistent, or an operation cannot be done on it."""

    code = "geometry"


class FormatError(ReticulaError):
    """A file is broken, truncated or of an unknown kind."""

    code = "format"

    def __init__(self, message: str, *, line: int | None = None, byte: int | None = None) -> None:
        place = f"line {line}: " if line is not None else f"byte {byte}: " if byte is not None else ""
        super().__init__(place + message)
        self.line = line
        self.byte = byte

    def details(self) -> dict[str, Any]:
        return {**super().details(), "line": self.line, "byte": self.byte}


class FormulaError(ReticulaError):
    """A formula cannot be read, typed or evaluated. Lines and columns count from 1."""

    code = "formula"

    def __init__(self, message: str, *, line: int = 1, column: int = 1, length: int = 1) -> None:
        super().__init__(f"line {line}, column {column}: {message}")
        self.plain = message
        self.line = line
        self.column = column
        self.length = length

    def details(self) -> dict[str, Any]:
        place = {"line": self.line, "column": self.column, "length": self.length, "plain": self.plain}
        return {**super().details(), **place}


class ParameterError(ReticulaError):
    """A parameter of an operator has a value that it cannot take."""

    code = "parameter"

    def __init__(self, parameter: str, message: str, *, cause: ReticulaError | None = None) -> None:
        super().__init__(f"{parameter}: {message}")
        self.parameter = parameter
        self.cause = cause

    def details(self) -> dict[str, Any]:
        inner = self.cause.details() if self.cause else {}
        return {**inner, **super().details(), "parameter": self.parameter}


class GraphError(ReticulaError):
    """A graph document is not valid; names the node and the parameter where it can."""

    code = "graph"

    def __init__(self, message: str, *, node: str | None = None, parameter: str | None = None) -> None:
        super().__init__(message)
        self.node = node
        self.parameter = parameter

    def details(self) -> dict[str, Any]:
        return {**super().details(), "node": self.node, "parameter": self.parameter}


class LimitError(ReticulaError):
    """Something would grow past a limit; the message names the limit and how to stay under it."""

    code = "limit"


class Stopped(ReticulaError):
    """The work was stopped by the user or superseded by a newer edit."""

    code = "stopped"


class Unreachable(ReticulaError):
    """Those who were to do some work cannot be reached, or do not have what it takes."""

    code = "cluster"
