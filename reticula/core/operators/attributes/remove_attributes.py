"""Remove attributes: values and groups that are not needed any more."""

from __future__ import annotations

from fnmatch import fnmatchcase
from typing import cast

from reticula.core.diagnostics import note, warn
from reticula.core.geometry import Geo, Kind
from reticula.core.geometry.mesh.kinds import KINDS
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import Choice, Names

__all__ = ["remove_attributes"]


@operator(
    "remove_attributes",
    family="attributes",
    keywords=("delete", "drop", "clean", "strip", "group"),
    carries="Carries all but those named, which is said.",
    example="""
        tile = random_values(grid(cells=[10, 10]), name="one", kind="face")
        more = noise_values(tile, name="two")
        light = remove_attributes(more, names="one", kind="face")
        remap(light, value="two", name="color", through="gradient")
    """,
    related=("rename_attribute", "convert_attribute"),
    parameters=(
        Names(
            "names",
            "",
            "attributes and groups to remove, separated by spaces; * stands for any letters",
            of="geo",
            optional=True,
        ),
        Choice(
            "kind", "all", "what has them", options={"all": "every kind", **{kind: f"each {kind}" for kind in KINDS}}
        ),
        Choice("which", "named", "which of them go", options={"named": "those named", "others": "all but those named"}),
    ),
)
def remove_attributes(geo: Geo, *, names: str, kind: str, which: str) -> Geo:
    """Remove attributes and groups by name; points keep their position."""
    patterns = names.split()
    if not patterns:
        note("Nothing is named, so nothing is removed.")
        return geo
    gone = []
    for on in KINDS if kind == "all" else (cast(Kind, kind),):
        for name in list(geo.attributes[on]):
            fits = any(fnmatchcase(name, pattern) for pattern in patterns)
            if (on, name) != ("point", "position") and fits == (which == "named"):
                geo = geo.without_attribute(on, name)
                gone.append(f"{name} ({on})")
    if gone:
        note(f"Removed {', '.join(gone)}.")
    else:
        warn(f"Nothing is removed: no attribute fits '{names}'.")
    return geo
