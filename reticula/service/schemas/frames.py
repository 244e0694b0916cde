"""Frames, and values with keys over them."""

from __future__ import annotations

from pydantic import BaseModel, Field

from reticula.core.graph.inspection.channels import MOST_SAMPLES
from reticula.core.graph.time.timeline import FARTHEST
from reticula.service.schemas.basics import Strict
from reticula.service.schemas.graphs import Basis

__all__ = ["ChannelState", "ChannelsRequest", "ChannelsState", "FrameState", "FrameText"]


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


class FrameText(Strict):
    """A frame as it was typed: a number or a formula such as ``12+5``; ``names`` are what it may read."""

    text: str = Field(min_length=1, max_length=200)
    names: dict[str, float] = Field(default_factory=dict, max_length=10)


class FrameState(BaseModel):
    frame: float
