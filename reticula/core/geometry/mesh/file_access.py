"""How geometries get from and to files: a geometry knows no format."""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module
from typing import Any

__all__ = ["file_access"]


class FileAccess:
    """What :mod:`reticula.core.formats` provides, which is loaded when it is first asked for."""

    read: Callable[..., Any]
    write: Callable[..., None]

    def __getattr__(self, name: str) -> Any:
        if name.startswith("_"):
            raise AttributeError(name)
        import_module("reticula.core.formats")  # it puts its functions here
        return self.__dict__[name]


file_access = FileAccess()
