"""Projects and their shapes."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from reticula.service.schemas.basics import Strict

__all__ = ["AssetList", "AssetPath", "AssetState", "NewProject", "ProjectList", "ProjectPath", "ProjectState"]


class ProjectPath(BaseModel):
    project_id: str


class AssetPath(BaseModel):
    asset_id: str


class NewProject(Strict):
    title: str = Field(min_length=1, max_length=200)


class ProjectState(BaseModel):
    """A project, and what one may do in it."""

    id: str
    title: str
    role: Literal["look", "edit", "manage"]


class ProjectList(BaseModel):
    projects: list[ProjectState]


class AssetState(BaseModel):
    id: str
    name: str
    file_name: str
    size: int
    summary: dict[str, Any]


class AssetList(BaseModel):
    assets: list[AssetState]
