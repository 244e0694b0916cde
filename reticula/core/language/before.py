"""What an attribute was one frame ago, in scripts: ``here.before('position')``."""

from __future__ import annotations

import re

import numpy as np

from reticula.core.errors import FormulaError
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import PLURAL, Kind

__all__ = ["asks_for_before", "with_before", "without_before"]

ASKED = re.compile(r"\bhere\.before\((['\"])(\w+)\1\)")
"""Written without spaces, so that the name that stands in for it is as long: places in messages hold."""


def asks_for_before(source: str) -> bool:
    """Whether a script reads anything of the frame before."""
    return ASKED.search(source) is not None


def with_before(source: str, geo: Geo, kind: Kind, before: Geo | None) -> tuple[str, Geo, list[str]]:
    """Return a script in which names of attributes stand for what was one frame ago, a geometry that has these, and
    their names.

    Elements are found in ``before`` by their stable names; one that was not there, and all of them without a frame
    before, have the value of now. Raises FormulaError for an attribute that the elements do not have.
    """
    names: dict[str, str] = {}
    for match in ASKED.finditer(source):
        name = match[2]
        if not geo.has(kind, name):
            line = source.count("\n", 0, match.start()) + 1
            column = match.start() - source.rfind("\n", 0, match.start())
            there = ", ".join(geo.attributes[kind]) or "none"
            text = f"the {PLURAL[kind]} have no attribute '{name}' whose value before could be read; there are {there}"
            raise FormulaError(text, line=line, column=column, length=len(match[0]))
        names[name] = f"before__{name}__"
    if not names:
        return source, geo, []
    for name, stand_in in names.items():
        geo = geo.with_attribute(kind, stand_in, _as_before(geo, kind, name, before))
    return ASKED.sub(lambda match: f"here.{names[match[2]]}", source), geo, list(names.values())


def without_before(geo: Geo, kind: Kind, names: list[str]) -> Geo:
    """Return a geometry without the attributes that stood for what was before."""
    for name in names:
        if geo.has(kind, name):
            geo = geo.without_attribute(kind, name)
    return geo


def _as_before(geo: Geo, kind: Kind, name: str, before: Geo | None) -> object:
    now = geo.find(kind, name)
    if before is None or not before.has(kind, name) or before.find(kind, name).type != now.type:
        return now
    there, sought = before.identity(kind), geo.identity(kind)
    order = np.argsort(there, kind="stable")
    at = np.minimum(np.searchsorted(there[order], sought), max(len(there) - 1, 0))
    rows = order[at] if len(there) else np.zeros(len(sought), np.int64)
    found = there[rows] == sought if len(there) else np.zeros(len(sought), bool)
    both = type(now).concatenate([now, before.find(kind, name)])
    return both.take(np.where(found, len(sought) + rows, np.arange(len(sought))))
