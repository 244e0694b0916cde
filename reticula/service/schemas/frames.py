"""Frames, and values with keys over them."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, Field

from reticula.core.graph.inspection.channels import MOST_SAMPLES
from reticula.core.graph.time.timeline import FARTHEST
from reticula.service.schemas.basics import Strict
from reticula.service.schemas.graphs import Basis

__all__ = [
    "ChannelState",
    "ChannelsRequest",
    "ChannelsState",
    "FollowedRequest",
    "FollowedState",
    "FrameState",
    "FrameText",
]


class ChannelsRequest(Basis):
    """Sample the values with keys of a level at ``count`` frames from ``first`` to ``last``."""

    first: float = Field(ge=-FARTHEST, le=FARTHEST)
    last: float = Field(ge=-FARTHEST, le=FARTHEST)
    count: int = Field(200, ge=2, le=MOST_SAMPLES)


class ChannelState(BaseModel):
    """One value with keys: of a dial (no ``node``), a parameter, or a script's ``control``.

    ``samples`` has a row per frame with a number per component; null where the values are no numbers, or the keys are
    wrong (``trouble`` says how).
    """

    node: str
    parameter: str
    control: str
    unit: str
    samples: list[list[float]] | None
    trouble: str


class ChannelsState(BaseModel):
    frames: list[float]
    channels: list[ChannelState]


class FollowedRequest(ChannelsRequest):
    """Sample a dial as it is to be, which follows a table, under its name."""

    name: str = Field(min_length=1, max_length=64)
    dial: dict[str, Any]


class FollowedState(BaseModel):
    """What a table gives a dial.

    ``first`` and ``last`` are times of its ``rows``, in the unit of the table, ``said`` is what is wrong with rows;
    ``samples`` has a row per frame with a number per component, null for texts and flags; ``trouble`` says why the
    dial cannot take one of them.
    """

    frames: list[float]
    rows: int
    first: float
    last: float
    said: list[str]
    samples: list[list[float]] | None
    trouble: str


class FrameText(Strict):
    """A frame as it was typed: a number or a formula such as ``12+5``; ``names`` are what it may read."""

    text: str = Field(min_length=1, max_length=200)
    names: dict[str, float] = Field(default_factory=dict, max_length=10)


class FrameState(BaseModel):
    frame: float
