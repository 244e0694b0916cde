"""What generated code is written with, as far as questions need it: the compiled back end provides it."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import AbstractContextManager
from typing import Any, Protocol

from reticula.core.geometry.mesh.kinds import Kind
from reticula.core.language.scope import Scope
from reticula.core.language.types import Type

__all__ = ["CodeLines", "QuestionWriter", "Trees"]


class CodeLines(Protocol):
    """Lines of code, and blocks of them under a head."""

    def add(self, line: str) -> None: ...

    def block(self, head: str) -> AbstractContextManager[None]: ...


class Trees(Protocol):
    """What a kernel is handed: each method returns the name or the code of an argument."""

    def point_tree(self, owner: str) -> str: ...

    def surface_tree(self, owner: str, *, curves: bool = False) -> str: ...

    def moments(self, owner: str) -> str: ...

    def triangle_faces(self, owner: str) -> str: ...

    def attribute(self, kind: Kind, owner: str, name: str) -> str: ...

    def array(self, key: tuple[Any, ...], dtype: str, dimensions: int, fetch: Callable[[Any], Any]) -> str: ...


class QuestionWriter(Protocol):
    """Writes code: ``let`` puts a value into a new name, ``loaded`` reads a row of an array.

    Arrays that are used again for the next element are declared in ``kept_arrays``; functions, which may call
    themselves, have none.
    """

    in_function: bool
    kept_arrays: list[str]

    @property
    def out(self) -> CodeLines: ...

    @property
    def bind(self) -> Trees: ...

    @property
    def scope(self) -> Scope: ...

    def let(self, code: str) -> str: ...

    def fresh(self, stem: str) -> str: ...

    def store(self, names: list[str], values: list[str]) -> None: ...

    def loaded(self, array: str, index: str, width: int) -> list[str]: ...

    def stored(self, array: str, length: str, type: Type) -> Any: ...
