"""Changes of a graph that take more than setting a value. To add one: a class here, and who makes it in
:mod:`reticula.service.changes`, where the type checker says what is missing.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from reticula.contract.strict import Name, Strict, Whole

__all__ = [
    "Change",
    "Fold",
    "Link",
    "MakeDial",
    "RenameDial",
    "RenameNode",
    "RenamePort",
    "Separate",
    "SetFree",
    "Tie",
    "Unfold",
    "Update",
]


class Fold(Strict):
    """Make one card of some."""

    what: Literal["fold"]
    nodes: list[Name] = Field(max_length=10_000)
    title: Name = ""


class Unfold(Strict):
    """Put the cards of a folded one in its place."""

    what: Literal["unfold"]
    node: Name


class Link(Strict):
    """Make another card that runs the graph of a card; what is edited in one is edited in both."""

    what: Literal["link"]
    node: Name


class Separate(Strict):
    """Give a linked card a graph of its own."""

    what: Literal["separate"]
    node: Name


class RenameNode(Strict):
    """Give a card another title, and the name that goes with it."""

    what: Literal["rename node"]
    node: Name
    title: Name


class RenameDial(Strict):
    what: Literal["rename dial"]
    dial: Name
    name: Name


class RenamePort(Strict):
    """Rename an input or output of the graph inside a card."""

    what: Literal["rename port"]
    side: Literal["inputs", "outputs"]
    port: Name
    name: Name


class MakeDial(Strict):
    """Put a parameter onto the dials of its graph, or of one ``up`` levels further out."""

    what: Literal["make dial"]
    node: Name
    parameter: Name
    name: Name = ""
    up: Whole = Field(0, ge=0, le=100)


class SetFree(Strict):
    """Give a tied parameter a value of its own again."""

    what: Literal["set free"]
    node: Name
    parameter: Name


class Tie(Strict):
    """Have a parameter follow the parameter ``of`` of the card ``follows``."""

    what: Literal["tie"]
    node: Name
    parameter: Name
    follows: Name
    of: Name


class Update(Strict):
    """Take another release of a published operator, in its place or ``beside`` it."""

    what: Literal["update"]
    node: Name
    release: Name
    beside: bool = False


Change = Annotated[
    Fold | Unfold | Link | Separate | RenameNode | RenameDial | RenamePort | MakeDial | SetFree | Tie | Update,
    Field(discriminator="what"),
]
