"""What differs between two releases of an operator, as its users see it, and how large a step that is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from reticula.core.packages.definition import Definition, release_of

__all__ = ["Differences", "differences", "least_release"]

SEEN = ("type", "unit", "low", "high", "default", "section", "options", "holds", "on")


@dataclass(frozen=True)
class Differences:
    """Lines in words: what is gone, new, or changed. ``gone`` breaks graphs that use it."""

    gone: tuple[str, ...] = ()
    new: tuple[str, ...] = ()
    changed: tuple[str, ...] = ()

    @property
    def step(self) -> str:
        """``major`` if something is gone or has another type, ``minor`` if something is new, else ``patch``."""
        return "major" if self.gone else "minor" if self.new else "patch"

    def describe(self) -> dict[str, Any]:
        return {"gone": list(self.gone), "new": list(self.new), "changed": list(self.changed), "step": self.step}


def differences(old: Definition, new: Definition) -> Differences:
    """Return what differs in dials, inputs and outputs between two definitions."""
    gone: list[str] = []
    added: list[str] = []
    changed: list[str] = []
    before, after = old["graph"].get("dials", {}), new["graph"].get("dials", {})
    gone += [f"the dial '{name}'" for name in before if name not in after]
    added += [f"the dial '{name}'" for name in after if name not in before]
    for name in before:
        if name in after:
            _compare_dials(name, before[name], after[name], gone, changed)
    for side, what in (("inputs", "input"), ("outputs", "output")):
        were = {entry["name"]: entry for entry in old["graph"].get(side, [])}
        are = {entry["name"]: entry for entry in new["graph"].get(side, [])}
        gone += [f"the {what} '{name}'" for name in were if name not in are]
        for name in are:
            if name in were:
                if were[name].get("expects") != are[name].get("expects"):
                    changed.append(f"what the {what} '{name}' expects")
            elif side == "inputs" and not are[name].get("optional"):
                gone.append(f"nothing, but the {what} '{name}' is needed now")
            else:
                added.append(f"the {what} '{name}'")
        if [name for name in were if name in are] != [name for name in are if name in were]:
            changed.append(f"the order of the {side}")
    if old["graph"].get("contracts", []) != new["graph"].get("contracts", []):
        changed.append("what it promises")
    if not (gone or added or changed) and old["graph"] != new["graph"]:
        changed.append("only what is inside")
    return Differences(tuple(gone), tuple(added), tuple(changed))


def _compare_dials(name: str, old: dict[str, Any], new: dict[str, Any], gone: list[str], changed: list[str]) -> None:
    if old["type"] != new["type"]:
        gone.append(f"the dial '{name}' as a {old['type']}; it is a {new['type']} now")
        return
    before, after = (entry.get("default", entry["value"]) for entry in (old, new))
    if before != after:
        changed.append(f"the default of '{name}': {_short(before)} → {_short(after)}")
    for key in SEEN:
        if key not in ("type", "default") and old.get(key) != new.get(key):
            changed.append(f"{key} of '{name}': {_short(old.get(key))} → {_short(new.get(key))}")


def _short(value: Any) -> str:
    text = "none" if value is None else f"{value:g}" if isinstance(value, float) else str(value)
    return text if len(text) < 60 else text[:57] + "…"


def least_release(before: str, found: Differences) -> str:
    """Return the least release that may follow ``before`` with these differences, by semantic versioning."""
    major, minor, patch = release_of(before)
    if found.step == "major":
        return f"{major + 1}.0.0"
    return f"{major}.{minor + 1}.0" if found.step == "minor" else f"{major}.{minor}.{patch + 1}"
