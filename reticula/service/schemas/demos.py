"""Demos that ship with the product."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, Field

__all__ = ["DemoList", "DemoPath", "DemoShape", "DemoState", "DemoSummary", "ExampleState"]


class DemoPath(BaseModel):
    name: str = Field(pattern=r"^[a-z0-9_]{1,60}$", description="name of a demo, an operator, or a shape that they use")


class DemoSummary(BaseModel):
    """A demo as it is offered."""

    name: str
    title: str
    about: str
    cards: int = Field(description="how many cards it has")
    picture: bool = Field(description="whether there is a picture of it")
    sheet: bool = Field(description="whether a proof sheet of it comes along")


class DemoList(BaseModel):
    demos: list[DemoSummary]


class DemoShape(BaseModel):
    """A shape that a demo needs: its name in a project, and its file's."""

    name: str
    file_name: str


class DemoState(DemoSummary):
    """A demo with its graph, and the shapes that it needs in its project."""

    document: dict[str, Any]
    shapes: list[DemoShape]


class ExampleState(BaseModel):
    """The example of an operator: the lines that it is written as, its graph, and the shapes that it needs."""

    text: str
    document: dict[str, Any]
    shapes: list[DemoShape]
