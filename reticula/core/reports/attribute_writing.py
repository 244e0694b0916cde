"""What all operators that write attributes share: new values where they are wanted, old ones elsewhere, and a word
about it.
"""

from __future__ import annotations

from typing import Any, cast

import numpy as np

from reticula.core.arrays import AnyArray, Flags, as_rows
from reticula.core.diagnostics import note, warn
from reticula.core.errors import ParameterError
from reticula.core.geometry.mesh.attribute import Attribute
from reticula.core.geometry.mesh.attribute_types import well_known_default
from reticula.core.geometry.mesh.geo import Geo
from reticula.core.geometry.mesh.kinds import PLURAL, Kind
from reticula.core.words import with_article

__all__ = ["note_default", "range_of", "write_attribute"]


def write_attribute(
    geo: Geo,
    kind: str,
    name: str,
    values: AnyArray | Attribute,
    where: Flags | None = None,
    *,
    default: Any = None,
    others: str = "outside of 'where'",
) -> Geo:
    """Return the geometry with an attribute set on the elements in ``where (N,)``.

    ``others`` tells in words which do not. They keep what they had; where the attribute is new or has another type they
    get its default, and that is said.
    """
    on = cast(Kind, kind)
    made = values if isinstance(values, Attribute) else Attribute.of(np.array(values))
    if name == "position" and (on != "point" or made.type != "vec3"):
        raise ParameterError(
            "name", f"'position' is a vec3 of each point; this gives {with_article(made.type)} of each {kind}"
        )
    old = geo.find(on, name) if geo.has(on, name) else None
    if default is None and old is not None and old.type == made.type:
        default = old.default
    if default is None:
        default = well_known_default(name, made.type)
    made = Attribute(made.type, made.values, made.start, default)
    if where is None or where.all():
        return geo.with_attribute(on, name, made)
    count, left = len(where), int((~where).sum())
    if old is not None and old.type == made.type:
        note(f"Set {count - left:,} {PLURAL[kind]}; {left:,} keep the value they had.")
    else:
        if old is not None:
            types = f"'{name}' was {with_article(old.type)} and is {with_article(made.type)} now"
            warn(f"{types}; {left:,} {PLURAL[kind]} lost their old value.")
        else:
            rest = _plain(made.fill)
            note(f"'{name}' is new: {left:,} {PLURAL[kind]} {others} hold {rest}.")
        old = Attribute.filled(made.type, count, default, default=default)
    both = Attribute.concatenate([old, made])
    chosen = both.take(np.where(where, np.arange(count) + count, np.arange(count)))
    return geo.with_attribute(on, name, Attribute(chosen.type, chosen.values, chosen.start, default))


def note_default(geo: Geo, kind: str, name: str) -> None:
    """Warn if a new attribute holds its default everywhere: it says nothing yet."""
    made = geo.find(cast(Kind, kind), name)
    if len(made) > 1 and made.start is None and bool((made.values == np.asarray(made.fill)).all()):
        warn(f"'{name}' is new and holds its default {_plain(made.fill)} on all {len(made):,} {PLURAL[kind]}.")


def _plain(value: Any) -> str:
    plain = np.asarray(value).tolist()
    if isinstance(plain, bool):
        return "yes" if plain else "no"
    return f"{plain:g}" if isinstance(plain, (int, float)) else repr(plain)


def range_of(values: AnyArray, unit: str = "") -> str:
    """Return the range of numbers in words, e.g. ``0.2 to 3.1 m``; component by component for vectors."""
    if not len(values):
        return "nothing"
    rows = as_rows(values)
    spans = [f"{low:.4g} to {high:.4g}" for low, high in zip(rows.min(axis=0), rows.max(axis=0), strict=True)]
    return ", ".join(spans) + (f" {unit}" if unit else "")
