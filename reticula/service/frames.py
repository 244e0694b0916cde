"""Time: frames as they are typed, values with keys or of tables over them, and pictures of frames joined to films."""

from __future__ import annotations

import secrets

import numpy as np
from flask import Response, request
from flask_openapi3 import APIBlueprint, Tag

from reticula.core.context import using
from reticula.core.errors import FormatError, ParameterError
from reticula.core.graph.inspection.channels import Channel, channels_of
from reticula.core.graph.structure.library import MemoryLibrary
from reticula.core.graph.time.timeline import checked_frame
from reticula.core.language import evaluate_once
from reticula.service.answers import Answer
from reticula.service.context import context
from reticula.service.loading import load
from reticula.service.schemas import (
    ChannelsRequest,
    ChannelsState,
    ErrorState,
    FollowedRequest,
    FollowedState,
    FrameState,
    FrameText,
    GraphPath,
)
from reticula.service.serving.parking import Result, result_later
from reticula.store import graphs
from reticula.workers.films import FILMS
from reticula.workers.tasks import Job

__all__ = ["blueprint"]

blueprint = APIBlueprint("frames", __name__, url_prefix="/api", abp_tags=[Tag(name="frames")])


@blueprint.post("/frame", responses={200: FrameState, 422: ErrorState})
def read_frame(body: FrameText) -> Answer:
    """Work out a frame that was typed, e.g. ``12+5`` or ``last - 10``."""
    return {"frame": checked_frame(float(evaluate_once(body.text, "number", body.names)))}


@blueprint.post("/graphs/<graph_id>/channels", responses={200: ChannelsState, 422: ErrorState})
def sample_channels(path: GraphPath, body: ChannelsRequest) -> Answer:
    """Sample the values with keys of a graph, for drawing them as curves."""
    loaded = load(path.graph_id, body)
    frames = np.linspace(body.first, body.last, body.count)
    with using(library=MemoryLibrary(loaded.around.library)):
        channels = [_sampled(channel, frames) for channel in channels_of(loaded.level)]
    return {"frames": frames.tolist(), "channels": channels}


@blueprint.post("/graphs/<graph_id>/followed", responses={200: FollowedState, 422: ErrorState})
def sample_followed(path: GraphPath, body: FollowedRequest) -> Answer:
    """Say what a dial would get from a table that it follows: over frames, and what is wrong with the table's rows."""
    loaded = load(path.graph_id, body)
    frames = np.linspace(body.first, body.last, body.count)
    about = {"name": body.name, "dial": body.dial, "frames": frames}
    job = loaded.job("follow", None, None, about=about)
    return result_later(job, lambda result: {**result(), "frames": frames.tolist()}, affinity=loaded.project_id)


@blueprint.post("/graphs/<graph_id>/films", responses={413: ErrorState, 422: ErrorState})
def join_pictures(path: GraphPath) -> Answer:
    """Join pictures that the page drew to a film, and answer with it.

    Multipart fields: ``pictures`` (a ZIP of PNG files, joined in the order of their names), ``format`` and ``rate``
    (pictures per second).
    """
    here = context()
    with here.database.session() as session:
        project = graphs.get(session, path.graph_id).project_id
    given, ending = request.files.get("pictures"), request.form.get("format", "mp4")
    if given is None:
        raise FormatError("there are no pictures in this upload")
    if ending not in FILMS:
        raise FormatError(f"there is no film called '{ending}'; there are {', '.join(FILMS)}")
    rate = _rate(request.form.get("rate", "24"))
    stem = here.pool.buffers.folder / f"film-{secrets.token_hex(8)}"
    source, target = stem.with_suffix(".zip"), stem.with_suffix(f".{ending}")
    given.save(source)

    def hand_out(result: Result) -> Response:
        try:
            result()
            data = target.read_bytes()
        finally:
            source.unlink(missing_ok=True)
            target.unlink(missing_ok=True)
        response = Response(data, mimetype="application/octet-stream")
        response.headers.set("Content-Disposition", "attachment", filename=f"film.{ending}")
        return response

    about = {"pictures": str(source), "target": str(target), "rate": rate}
    return result_later(Job("film", about=about), hand_out, affinity=project)


def _rate(text: str) -> float:
    try:
        rate = float(text)
    except ValueError:
        rate = 0.0
    if not 0.01 <= rate <= 1000:
        raise FormatError(f"a film has from 0.01 to 1,000 pictures per second, not '{text}'")
    return rate


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
