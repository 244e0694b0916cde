"""Projects and their shapes."""

from __future__ import annotations

from typing import Any

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
    id: str
    title: str


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
