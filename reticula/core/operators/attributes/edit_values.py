"""Edit values: values of single elements, set by hand."""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, cast

import numpy as np

from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry import Attribute, Geo, Kind
from reticula.core.geometry.mesh.kinds import PLURAL
from reticula.core.operators.declaration.operator import operator
from reticula.core.operators.declaration.parameters import AttributeName, KindChoice, Parameter
from reticula.core.operators.shared.picked import IDENTITY, MOST_PICKED
from reticula.core.words import with_article

__all__ = ["edit_values"]

KINDS: tuple[Kind, ...] = ("point", "edge", "corner", "face", "curve")


@dataclass(frozen=True)
class Edits(Parameter):
    """Values by element: the element's stable name as hexadecimal text, and a number, flag, text or 2 to 4 numbers."""

    widget: ClassVar[str] = "edits"
    python: ClassVar[str] = "Mapping[str, Any]"

    def check_plain(self, value: Any) -> dict[str, Any]:
        if not isinstance(value, Mapping) or len(value) > MOST_PICKED:
            self.fail(f"takes up to {MOST_PICKED:,} values by element")
        made: dict[str, Any] = {}
        for name, one in value.items():
            if not isinstance(name, str) or not IDENTITY.match(name):
                self.fail(f"{name!r} is not the name of an element (up to 16 hexadecimal digits)")
            plain = list(one) if isinstance(one, (list, tuple)) else one
            if not _is_value(plain):
                self.fail(f"takes a number, yes or no, a text or 2 to 4 numbers for an element, not {one!r}")
            made[name.lower().lstrip("0") or "0"] = plain
        return made

    def check(self, value: Any) -> Any:
        return self.check_plain(value)


def _is_value(value: Any) -> bool:
    if isinstance(value, list):
        return 2 <= len(value) <= 4 and all(_is_value(part) and not isinstance(part, (str, list)) for part in value)
    return isinstance(value, (bool, str)) or (isinstance(value, (int, float)) and math.isfinite(value))


@operator(
    "edit_values",
    family="attributes",
    keywords=("hand", "manual", "ledger", "cell", "touch up", "single"),
    carries="Carries all; changes the attribute at the edited elements.",
    example="""
        tile = grid(cells=[6, 6])
        set_heights = set_attribute(tile, name="height", kind="face", value=0.05)
        by_hand = edit_values(
            set_heights, kind="face", name="height", edits={"f583bdbcac9b894d": 0.3, "af180d691b61c0e3": 0.2}
        )
        extrude(by_hand, together=False, distance="height")
    """,
    related=("paint", "set_attribute", "group_picked"),
    parameters=(
        KindChoice.of(KINDS, "point", "what has the attribute"),
        AttributeName("name", "", "attribute whose values are edited; 'position' moves points", optional=True),
        Edits("edits", {}, "values by element, set in the ledger"),
    ),
)
def edit_values(geo: Geo, *, kind: str, name: str, edits: dict[str, Any]) -> Geo:
    """Set values of single elements by hand: double-click a cell of the ledger.

    Elements are kept by their stable names, so the values stay with them when others are added or removed before this.
    """
    on = cast(Kind, kind)
    if not edits:
        note("No value is edited yet; double-click a cell of the ledger.")
        return geo
    if not name:
        raise ParameterError("name", f"choose an attribute of the {PLURAL[on]}")
    found = geo.find(on, name)
    if found.info.cast is None:
        raise ParameterError("name", f"'{name}' is {with_article(found.type)}, which cannot be edited by hand")
    names = geo.identity(on)
    order = np.argsort(names)
    wanted = np.array([int(one, 16) for one in edits], np.uint64)
    at = (
        order[np.minimum(np.searchsorted(names[order], wanted), max(len(names) - 1, 0))]
        if len(names)
        else np.zeros(0, int)
    )
    there = names[at] == wanted if len(names) else np.zeros(len(wanted), bool)
    values = found.values.copy()
    info, texts = found.info, found.info.dtype is np.str_
    if texts:
        values = values.astype(object)
    for row, value, known in zip(at.tolist() if len(at) else [0] * len(wanted), edits.values(), there, strict=True):
        if known:
            if not texts and (isinstance(value, str) or np.shape(value) != info.shape):
                raise ParameterError(
                    "edits", f"{json.dumps(value)} does not fit '{name}', which is {with_article(found.type)}"
                )
            values[row] = value
    lost = int((~there).sum())
    if lost:
        warn(
            f"{lost:,} of {len(wanted):,} edited {PLURAL[on]} are not there any more; their values "
            "are kept in the card."
        )
    note(f"Edited '{name}' at {int(there.sum()):,} of {len(names):,} {PLURAL[on]}.")
    made = Attribute.of(values.astype(str) if texts else values, found.type, default=found.default)
    return geo.with_attribute(on, name, made)
