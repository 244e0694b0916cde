"""Publishing, packages, and the depot."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from reticula.service.schemas.basics import Strict
from reticula.service.schemas.graphs import Basis

__all__ = [
    "DepotEntry",
    "DepotState",
    "DifferenceQuery",
    "DifferenceState",
    "ImportRequest",
    "ImportState",
    "PublicationRequest",
    "PublicationState",
    "ReviewEntry",
    "ReviewPath",
    "ReviewState",
    "TrialState",
]


class PublicationRequest(Basis):
    """Publish a folded card. With ``dry`` nothing is published: the answer says what would be."""

    node: str
    name: str = Field(max_length=48)
    release: str = Field(max_length=20)
    title: str = Field("", max_length=80)
    summary: str = Field("", max_length=200)
    help: str = Field("", max_length=20_000)
    changes: str = Field("", max_length=4000)
    tags: list[str] = Field(default_factory=list, max_length=20)
    reason: str = Field("", max_length=1000)
    picture: str = Field("", max_length=8_000_000, description="PNG, base64")
    dry: bool = False


class DifferenceState(BaseModel):
    gone: list[str]
    new: list[str]
    changed: list[str]
    step: Literal["major", "minor", "patch"]


class TrialState(BaseModel):
    title: str
    trouble: str


class PublicationState(BaseModel):
    operator: str
    published: bool
    before: str | None
    differences: DifferenceState
    breaks: list[str]
    trials: list[TrialState]


class DifferenceQuery(BaseModel):
    before: str
    after: str


class ReviewEntry(BaseModel):
    """An operator of a package: new, there already, or another one of the same name and release."""

    operator: str
    title: str
    summary: str
    state: Literal["new", "there already", "collides"]
    other_name: str
    dials: list[str]
    uses: list[str]
    shapes: list[str]


class SignatureState(BaseModel):
    """Who signed a package, by the name that they give themselves and the fingerprint of their key.

    ``state`` says whether that is who signed before: ``changed`` is a warning, and ``before`` says who it was.
    """

    state: Literal["own", "same", "known", "new", "unsigned", "changed"]
    publisher: str
    fingerprint: str
    before: str


class ReviewState(BaseModel):
    """What a package would bring, and whose it is. It is taken by naming ``review``."""

    review: str
    main: str
    operators: list[ReviewEntry]
    signature: SignatureState


class ReviewPath(BaseModel):
    review_id: str


class ImportRequest(Strict):
    """For each operator that collides: keep the one that is there, or bring the other one under another name."""

    choices: dict[str, Literal["keep", "beside"]] = Field(default_factory=dict)


class ImportState(BaseModel):
    brought: list[str]
    kept: list[str]


class DepotEntry(BaseModel):
    operator: str
    title: str
    summary: str
    size: int
    here: bool
    publisher: str
    fingerprint: str


class DepotState(BaseModel):
    """What the depot has. ``message`` says in words why it does not answer."""

    available: bool
    message: str
    packages: list[DepotEntry]
