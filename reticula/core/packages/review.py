"""What importing a package would do, before anything is changed."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from itertools import count
from typing import Any, Literal

from reticula.core.graph.structure.library import library
from reticula.core.packages.definition import definition_digest
from reticula.core.packages.package import Package

__all__ = ["Review", "other_names", "review"]

LONGEST_NAME = 44
"""Letters of a name that leave room for a number."""

State = Literal["new", "there already", "collides"]


@dataclass(frozen=True)
class Review:
    """One operator of a package: new, the same as one that is there, or another one under the same name and release."""

    operator: str
    title: str
    summary: str
    state: State
    other_name: str
    dials: list[str]
    uses: list[str]
    shapes: list[str]

    def describe(self) -> dict[str, Any]:
        return dict(self.__dict__)


def other_names(name: str) -> Iterator[str]:
    """Yield names for an operator that has to be told apart from another one of its name."""
    return (f"{name[:LONGEST_NAME]}_{number}" for number in count(2))


def review(package: Package, taken: Iterable[str] = ()) -> list[Review]:
    """Return what a package brings, held against the library in use.

    ``other_name`` is one under which a colliding operator could be kept beside the one that is there; ``taken`` are
    names of operators that it must not have.
    """
    names = {operator.partition("@")[0] for operator in package.definitions} | set(taken)
    found = []
    for operator, definition in package.definitions.items():
        there = library().definition(operator)
        state: State = "new"
        if there is not None:
            state = "there already" if definition_digest(there) == definition_digest(definition) else "collides"
        other = next(
            name for name in other_names(definition["name"]) if name not in names and not library().releases(name)
        )
        dials = [f"{name} ({dial['type']})" for name, dial in definition["graph"].get("dials", {}).items()]
        found.append(
            Review(
                operator,
                definition.get("title") or definition["name"],
                definition.get("summary", ""),
                state,
                other if state == "collides" else "",
                dials,
                sorted(package.uses(operator)),
                sorted(definition.get("shapes", {})),
            )
        )
    return found
