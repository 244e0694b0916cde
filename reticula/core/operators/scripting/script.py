"""Script: own code that runs on every element, or once."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from reticula.core.context import current
from reticula.core.diagnostics import note
from reticula.core.errors import FormulaError, ParameterError
from reticula.core.geometry import Geo
from reticula.core.language.before import asks_for_before
from reticula.core.language.script import Script
from reticula.core.operators.declaration.operator import Input, Once, operator
from reticula.core.operators.declaration.parameters import Choice, Space
from reticula.core.operators.scripting.controls import Code, Controls, Source, declared_or_none
from reticula.core.operators.shared.other_frames import at_other_frames

__all__ = ["script"]

START = """lift: number(0, 1) = 0.1
here.position = position + normal * lift * noise(position * 3)
"""


def declared_inputs(values: Mapping[str, Any]) -> Sequence[Input]:
    """The inputs that a script's text declares."""
    known = declared_or_none(values.get("source", ""))
    return [
        Input(entry.name, entry.help or "declared in the script", optional=True)
        for entry in (known.inputs if known else ())
    ]


def _frames(once: Once, moment: Mapping[str, float]) -> Sequence[float]:
    return [moment["frame"] - 1.0] if asks_for_before(once("source").text) else []


@operator(
    "script",
    family="own code",
    inputs=(Input("geo", "geometry to run on; none is needed for a script that runs once", optional=True),),
    more_inputs=declared_inputs,
    keywords=("code", "program", "language", "expression", "loop", "make points", "write", "formula"),
    brings={"open borders": None, "loose points": None},
    carries="Carries all. New points copy the point they are made like, or the point that made them; the "
    "text writes the rest.",
    example=r"""
        tile = grid(cells=[50, 50])
        script(
            tile,
            each="point",
            source="waves: number(1, 40) = 18\n"
            "height = 0.06 * sin(waves * length(position))\n"
            "here.position = position + vec3(0, height, 0)\n"
            "here.height = height",
        )
    """,
    related=("formula_value", "set_attribute", "for_each"),
    parameters=(
        Choice(
            "each",
            "point",
            "what the text runs on",
            options={
                "point": "every point",
                "edge": "every edge",
                "corner": "every corner",
                "face": "every face",
                "curve": "every curve",
                "piece": "the first point of every connected part",
                "once": "once, for the whole",
            },
        ),
        Code("source", START, "the text of the script"),
        Controls("controls", {}, "values of the controls that the text declares"),
        Space.choice(),
    ),
    frames=_frames,
    may_look=lambda stored: asks_for_before(str(stored.get("source", ""))),
)
def script(
    geo: Geo | None, *others: Geo | None, each: str, source: Source, controls: dict[str, Any], space: str
) -> Geo:
    """Run a text on every element of a kind, or once: it reads, writes, makes and removes.

    The language is described in language.md. Controls and inputs are declared in the text:
    ``reach: number(0, 2) = 0.4`` and ``reef: geometry``. ``here.before('position')`` is what an attribute was one frame
    ago.
    """
    known = declared_or_none(source.text)
    inputs = {entry.name: found for entry, found in zip(known.inputs if known else (), others, strict=False)}
    try:
        made = Script(
            source.text,
            Geo.empty() if geo is None else geo,
            each,
            inputs=inputs,
            controls=controls,
            dials=source.dials,
            ties=source.ties,
            before=_one_frame_ago(geo),
        )
        names = {control.name for control in made.declared.controls}
        for name, value in controls.items():
            if name not in names:
                note(f"The text declares no control '{name}' any more; its value {value} is put by.")
        return made.run(stop=current().should_stop)
    except FormulaError as error:
        raise ParameterError("source", f"line {error.line}: {error.plain}", cause=error) from None


def _one_frame_ago(geo: Geo | None) -> Geo | None:
    """Return what came in one frame ago, if the text asked for it."""
    call = current().call
    if geo is None or call is None or not call.frames:
        return None
    return at_other_frames(geo, list(call.frames)).get(next(iter(call.frames)))
