"""Packages, as evaluators work on them: what somebody else wrote is read there and nowhere else."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from typing import Any

from reticula.core.context import Resources
from reticula.core.packages import Package, definition_key, merge_package, prepare, read_package, review

__all__ = ["PACKAGE_JOBS", "publication"]


def publication(
    document: dict[str, Any], level: str, node: str, about: dict[str, Any], shapes: Resources
) -> dict[str, Any]:
    """Prepare the definition of a folded node, and tell how it differs from the release before."""
    stored = about.pop("stored", {})
    made = prepare(document, level, node, about, shapes=shapes, stored=stored)
    return {
        "definition": made.definition,
        "before": made.before,
        "differences": made.found.describe(),
        "breaks": list(made.breaks),
        "trials": [{"title": trial.title, "trouble": trial.trouble} for trial in made.trials],
    }


def _review(about: dict[str, Any]) -> dict[str, Any]:
    """Tell what a package would bring."""
    package = read_package(Path(about["path"]).read_bytes())
    return {
        "main": package.main,
        "operators": [entry.describe() for entry in review(package)],
        "signature": _signature(package),
    }


def _signature(package: Package) -> dict[str, str] | None:
    return asdict(package.signature) if package.signature else None


def _unpack(about: dict[str, Any]) -> dict[str, Any]:
    """Write the shapes and pictures that are taken from a package into a folder, and return the definitions.

    ``pictures`` has a path for each definition, or an empty text; ``shapes`` maps names to (file name, path).
    """
    package = read_package(Path(about["path"]).read_bytes())
    definitions, kept = merge_package(package, about["choices"])
    folder = Path(about["unpacked"])
    folder.mkdir(exist_ok=True)
    pictures: list[str] = []
    shapes: dict[str, tuple[str, str]] = {}
    for number, definition in enumerate(definitions):
        picture = _picture(package, definition)
        pictures.append(_written(folder / f"picture-{number}", picture) if picture else "")
        for name in definition.get("shapes", {}):
            file_name, data = package.shapes[name]
            shapes[name] = file_name, _written(folder / f"shape-{len(shapes)}", data)
    told = {"definitions": definitions, "kept": kept, "signature": _signature(package)}
    return {**told, "pictures": pictures, "shapes": shapes}


def _written(path: Path, data: bytes) -> str:
    path.write_bytes(data)
    return str(path)


def _picture(package: Package, definition: dict[str, Any]) -> bytes:
    """The picture of a definition, also where it was renamed on the way in."""
    own = package.pictures.get(definition_key(definition))
    if own is not None:
        return own
    base = re.sub(r"_\d+$", "", definition["name"])
    return package.pictures.get(f"{base}@{definition['release']}", b"")


PACKAGE_JOBS: dict[str, Callable[[dict[str, Any]], dict[str, Any]]] = {"review": _review, "unpack": _unpack}
