"""Time: frames as they are typed, and values with keys over them."""

from __future__ import annotations

import numpy as np
from flask_openapi3 import APIBlueprint, Tag

from reticula.core.context import using
from reticula.core.errors import ParameterError
from reticula.core.graph.editing.levels import inner_level
from reticula.core.graph.inspection.channels import Channel, channels_of
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.graph.time.timeline import checked_frame
from reticula.core.language import evaluate_once
from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.schemas import ChannelsRequest, ChannelsState, ErrorState, FrameState, FrameText, GraphPath
from reticula.store import graphs

__all__ = ["blueprint"]

blueprint = APIBlueprint("frames", __name__, url_prefix="/api", abp_tags=[Tag(name="frames")])


@blueprint.post("/frame", responses={200: FrameState, 422: ErrorState})
def read_frame(body: FrameText) -> Answer:
    """Work out a frame that was typed, e.g. ``12+5`` or ``last - 10``."""
    return {"frame": checked_frame(float(evaluate_once(body.text, "number", body.names)))}


@blueprint.post("/graphs/<graph_id>/channels", responses={200: ChannelsState, 422: ErrorState})
def sample_channels(path: GraphPath, body: ChannelsRequest) -> Answer:
    """Sample the values with keys of a graph, for drawing them as curves."""
    here = context()
    with here.database.session() as session:
        graph = graphs.get(session, path.graph_id)
        document = graphs.drafted(session, graph, body.draft, body.revision)
        around = here.surroundings(session, graph.project_id, document)
    frames = np.linspace(body.first, body.last, body.count)
    with using(library=MemoryLibrary(around.library)):
        level = inner_level(document, body.level, around.library)
        channels = [_sampled(channel, frames) for channel in channels_of(level)]
    return {"frames": frames.tolist(), "channels": channels}


def _sampled(channel: Channel, frames: np.ndarray) -> dict[str, object]:
    trouble = ""
    try:
        samples = channel.sampled(frames)
    except ParameterError as error:
        samples, trouble = None, str(error)
    return {
        "node": channel.node,
        "parameter": channel.parameter,
        "control": channel.control,
        "unit": channel.unit,
        "samples": None if samples is None else samples.tolist(),
        "trouble": trouble,
    }
