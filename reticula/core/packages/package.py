"""Packages: one zip file with an operator and all that it needs, every part of it with its hash."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cache
from importlib import resources as package_files
from pathlib import Path, PurePosixPath
from typing import TYPE_CHECKING, Any

from reticula.core.context import using
from reticula.core.errors import FormatError, GraphError, ReticulaError
from reticula.core.formats import read_bytes
from reticula.core.formats.shared.zip_parts import read_part
from reticula.core.geometry import Geo
from reticula.core.graph.nesting.graph_operator import published_operator
from reticula.core.graph.structure.library import LayeredLibrary, references
from reticula.core.operators import Operator
from reticula.core.operators.shared.resources import Resources, resources
from reticula.core.packages.at_frame import called_at_frame
from reticula.core.packages.definition import (
    Definition,
    check_definition,
    content_name,
    definition_key,
    package_shapes,
    release_of,
)
from reticula.core.packages.signature import SIGNATURE, Signature, signature_text, verified

if TYPE_CHECKING:
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey

__all__ = ["Package", "load_package", "package_schema", "read_package", "sign_package", "write_package"]

MANIFEST = "package.json"
MOST_FILES = 1_000
MOST_BYTES = 512 * 1024**2
MOST_JSON = 16 * 1024**2
MOST_RATIO, FREE_BYTES = 200, 4 * 1024**2
"""How many times its size a package may unpack to, beyond what is harmless anyway."""
MOMENT = (1980, 1, 1, 0, 0, 0)
"""Equal packages are equal files: no time is kept in them."""


@cache
def package_schema() -> dict[str, Any]:
    """Return the JSON Schema of a package's list of contents, package.json."""
    text = package_files.files("reticula.core.packages").joinpath("package.schema.json").read_text("utf-8")
    loaded: dict[str, Any] = json.loads(text)
    return loaded


@dataclass(frozen=True)
class Package:
    """What a package holds: definitions and pictures by ``name@release``, mesh files by the shape's name.

    A library, too. ``signature``: who signed it; it was verified.
    """

    main: str
    definitions: dict[str, dict[str, Any]]
    shapes: dict[str, tuple[str, bytes]] = field(default_factory=dict)
    pictures: dict[str, bytes] = field(default_factory=dict)
    signature: Signature | None = None

    def definition(self, operator: str) -> Mapping[str, Any] | None:
        return self.definitions.get(operator)

    def releases(self, name: str) -> list[str]:
        found = [entry["release"] for entry in self.definitions.values() if entry["name"] == name]
        return sorted(found, key=release_of)

    def uses(self, operator: str) -> set[str]:
        """Return the published operators that one of the package needs, directly."""
        definition = self.definitions[operator]
        found = references(definition["graph"])
        for example in definition.get("examples", []):
            found |= references(example["graph"])
        return found - {operator}

    @property
    def operator(self) -> Operator:
        """The package's main operator, to be called like a function."""
        return self.operators[self.main]

    @property
    def operators(self) -> dict[str, Operator]:
        """All operators of the package, by ``name@release``; each brings along what it needs."""
        found = {}
        with using(library=LayeredLibrary(self)):
            for name, definition in self.definitions.items():
                found[name] = _with_surroundings(published_operator(definition), self)
        return found

    def __call__(self, *geometries: Geo, frame: float | None = None, **given: Any) -> Any:
        """Run the main operator; at a frame, if one is given: then it may hold keys and states that grow.

        Geometries come in the order of its inputs or by their names, dials by name.
        """
        if frame is None:
            return self.operator(*geometries, **given)
        return called_at_frame(self, PackagedShapes(self), frame, geometries, given)


class PackagedShapes:
    """The shapes of a package, and behind them those in use."""

    def __init__(self, package: Package, rest: Resources | None = None) -> None:
        self.package, self.rest = package, rest or resources()

    def key(self, name: str) -> str:
        return (
            hashlib.sha256(self.package.shapes[name][1]).hexdigest()
            if name in self.package.shapes
            else self.rest.key(name)
        )

    def load(self, name: str, *, error: float = 0.0) -> Geo:
        if name in self.package.shapes:
            file_name, data = self.package.shapes[name]
            return read_bytes(file_name, data, error=error)
        return self.rest.load(name, error=error)


def _with_surroundings(made: Operator, package: Package) -> Operator:
    def body(*geometries: Geo | None, **resolved: Any) -> Any:
        with using(library=LayeredLibrary(package), resources=PackagedShapes(package)):
            return made.body(*geometries, **resolved)

    return replace(made, body=body)


# ---- writing


def write_package(
    main: str,
    definitions: Mapping[str, Definition],
    shapes: Mapping[str, tuple[str, bytes]],
    pictures: Mapping[str, bytes],
) -> bytes:
    """Return a package of ``main`` and of all that it needs among ``definitions``.

    Raises GraphError if something it needs is missing.
    """
    needed: list[str] = []
    open_ = [main]
    while open_:
        operator = open_.pop()
        if operator in needed:
            continue
        if operator not in definitions:
            raise GraphError(f"'{operator}' is needed, but it is not there")
        needed.append(operator)
        graphs = [
            definitions[operator]["graph"],
            *(example["graph"] for example in definitions[operator].get("examples", [])),
        ]
        open_ += sorted({name for graph in graphs for name in references(graph)} - set(needed))
    files: dict[str, bytes] = {}
    for operator in sorted(needed):
        stem = operator.replace("@", "-")
        files[f"operators/{stem}.json"] = _json(definitions[operator])
        if operator in pictures:
            files[f"pictures/{stem}.png"] = pictures[operator]
        for shape, told in definitions[operator].get("shapes", {}).items():
            if shape not in shapes:
                raise GraphError(f"the shape '{shape}' of '{operator}' is missing")
            files[_shape_path(shape, told["file_name"])] = shapes[shape][1]
    told_files = {
        path: {"sha256": hashlib.sha256(data).hexdigest(), "size": len(data)} for path, data in sorted(files.items())
    }
    manifest = {"format": "reticula package", "version": 1, "main": main, "files": told_files}
    return _zipped([(MANIFEST, _json(manifest)), *sorted(files.items())])


def sign_package(data: bytes, key: Ed25519PrivateKey, publisher: str) -> bytes:
    """Return a package with a signature in place of any that it had; raise FormatError if it is no whole package."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            parts = [(name, archive.read(name)) for name in archive.namelist() if name != SIGNATURE]
    except (zipfile.BadZipFile, NotImplementedError, OSError, RuntimeError, ValueError) as error:
        raise FormatError(f"this is not a whole package: {error}") from None
    if not parts or parts[0][0] != MANIFEST:
        raise FormatError(f"there is no {MANIFEST} in it, so this is not a package")
    return _zipped([parts[0], (SIGNATURE, signature_text(parts[0][1], key, publisher)), *parts[1:]])


def _zipped(parts: list[tuple[str, bytes]]) -> bytes:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, data in parts:
            entry = zipfile.ZipInfo(path, MOMENT)
            entry.compress_type = zipfile.ZIP_DEFLATED
            entry.external_attr = 0o644 << 16
            archive.writestr(entry, data)
    return made.getvalue()


def _json(data: Any) -> bytes:
    return json.dumps(data, indent=1, ensure_ascii=False, sort_keys=False).encode()


def _shape_path(shape: str, file_name: str) -> str:
    return f"shapes/{shape.rpartition('#')[2]}-{file_name}"


# ---- reading


def load_package(path: str | Path) -> Package:
    """Read a package file, and check it and all that is in it.

    Parameters
    ----------
    path : str or Path
        The file.

    Returns
    -------
    Package
        The published operator that it holds, to be called like one of ``ops``.

    Raises
    ------
    FormatError, GraphError
        If something in it is wrong or missing.

    Examples
    --------
    >>> from reticula.core import ops
    >>> tile = load_package("demo/packages/settlement_tile-1.0.0.zip")
    >>> survey = ops.set_attribute(ops.grid(), name="cover", value="position.x + 0.5")
    >>> survey = ops.set_attribute(survey, name="color", value="vec4(cover, 0.5, 0.5, 1)")
    >>> tile(survey).counts["curves"]
    0
    """
    return read_package(Path(path).read_bytes())


def _first_error(manifest: Any) -> Any:
    """Return what jsonschema finds first in a list of contents, or None."""
    import jsonschema

    return jsonschema.exceptions.best_match(jsonschema.Draft202012Validator(package_schema()).iter_errors(manifest))


def read_package(data: bytes) -> Package:
    """Read a package from bytes; raise FormatError if it is malformed, was changed, or holds what it does not list."""
    try:
        return _read(data)
    except ReticulaError:
        raise
    except (
        zipfile.BadZipFile,
        zipfile.LargeZipFile,
        NotImplementedError,
        EOFError,
        OSError,
        RuntimeError,
        ValueError,
        KeyError,
        RecursionError,
    ) as error:
        raise FormatError(f"this is not a whole package: {error or type(error).__name__}") from None
    except Exception as error:
        if type(error).__module__ == "zlib":
            raise FormatError(f"this is not a whole package: {error}") from None
        raise


def _read(data: bytes) -> Package:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        names = archive.namelist()
        if len(names) > MOST_FILES or len(set(names)) < len(names):
            raise FormatError(f"a package holds up to {MOST_FILES:,} files, each once")
        if sum(entry.file_size for entry in archive.infolist()) > MOST_BYTES:
            raise FormatError(f"the package is larger than {MOST_BYTES // 1024**2} MB when unpacked")
        if sum(entry.file_size for entry in archive.infolist()) > MOST_RATIO * len(data) + FREE_BYTES:
            raise FormatError(f"the package unpacks to more than {MOST_RATIO} times its size; nothing real does")
        if MANIFEST not in names:
            raise FormatError(f"there is no {MANIFEST} in it, so this is not a package")
        listed = read_part(archive, MANIFEST, MOST_JSON)
        signature = verified(listed, read_part(archive, SIGNATURE, MOST_JSON)) if SIGNATURE in names else None
        manifest = _parsed(listed, MANIFEST)
        error = _first_error(manifest)
        if error is not None:
            raise FormatError(f"{MANIFEST} is not valid: {error.message[:300]}")
        extra = sorted(set(names) - {MANIFEST, SIGNATURE} - set(manifest["files"]))
        if extra:
            raise FormatError(f"'{extra[0]}' is in the package, but {MANIFEST} does not list it")
        files = {}
        for path, told in manifest["files"].items():
            if path not in names:
                raise FormatError(f"{MANIFEST} lists '{path}', which is missing")
            if PurePosixPath(path).is_absolute() or ".." in PurePosixPath(path).parts:
                raise FormatError(f"'{path}' leads out of the package")
            files[path] = read_part(archive, path, told["size"])
            if hashlib.sha256(files[path]).hexdigest() != told["sha256"] or len(files[path]) != told["size"]:
                raise FormatError(f"'{path}' is not as it was when the package was made: its hash differs")
    return replace(_checked(manifest["main"], files), signature=signature)


def _parsed(data: bytes, path: str) -> Any:
    try:
        return json.loads(data.decode("utf-8"))
    except (ValueError, RecursionError) as error:
        raise FormatError(f"'{path}' is not JSON: {error}") from None


def _checked(main: str, files: dict[str, bytes]) -> Package:
    found: dict[str, dict[str, Any]] = {}
    for path, data in files.items():
        if path.startswith("operators/"):
            definition = _parsed(data, path)
            if not isinstance(definition, dict) or "name" not in definition or "release" not in definition:
                raise FormatError(f"'{path}' is not the definition of an operator")
            if path != f"operators/{str(definition_key(definition)).replace('@', '-')}.json":
                raise FormatError(f"'{path}' holds '{definition_key(definition)}'")
            found[definition_key(definition)] = definition
    if main not in found:
        raise FormatError(f"the package's operator '{main}' is not in it")
    shapes: dict[str, tuple[str, bytes]] = {}
    made = Package(main, {}, shapes, {})
    with using(library=LayeredLibrary(made)):
        for operator in _in_order(found):
            definition = found[operator]
            check_definition(definition)
            made.definitions[operator] = definition
            for shape, told in definition.get("shapes", {}).items():
                path = _shape_path(shape, told["file_name"])
                if path not in files:
                    raise FormatError(f"the shape '{shape}' of '{operator}' is missing")
                digest = hashlib.sha256(files[path]).hexdigest()
                if digest != told["sha256"] or content_name(shape, digest) != shape:
                    raise FormatError(f"the shape '{shape}' of '{operator}' is another one than the operator says")
                read_bytes(told["file_name"], files[path])
                shapes[shape] = told["file_name"], files[path]
            unknown = package_shapes(definition["graph"]) - set(definition.get("shapes", {}))
            if unknown:
                raise FormatError(f"'{operator}' uses the shape '{min(unknown)}', which does not come with it")
    for path, data in files.items():
        if path.startswith("pictures/"):
            if not data.startswith(b"\x89PNG\r\n\x1a\n"):
                raise FormatError(f"'{path}' is not a PNG picture")
            made.pictures[
                path.removeprefix("pictures/").removesuffix(".png").rpartition("-")[0]
                + "@"
                + path.removesuffix(".png").rpartition("-")[2]
            ] = data
    return made


def _in_order(definitions: Mapping[str, Any]) -> list[str]:
    """Return the definitions so that each comes after those it uses; raise FormatError for a circle or a missing
    one.
    """
    order: list[str] = []
    state: dict[str, int] = {}
    for start in definitions:
        stack = [(start, False)]
        while stack:
            operator, ready = stack.pop()
            if ready:
                state[operator] = 2
                order.append(operator)
                continue
            if state.get(operator) == 2:
                continue
            if state.get(operator) == 1:
                raise FormatError(f"'{operator}' uses itself")
            if operator not in definitions:
                raise FormatError(f"'{operator}' is needed, but it is not in the package")
            graph = definitions[operator].get("graph")
            if not isinstance(graph, dict) or not isinstance(graph.get("nodes"), dict):
                raise FormatError(f"'{operator}' holds no graph")
            state[operator] = 1
            stack.append((operator, True))
            stack += [(name, False) for name in sorted(_references(graph)) if state.get(name) != 2]
    return order


def _references(graph: dict[str, Any]) -> set[str]:
    try:
        return references(graph)
    except (TypeError, KeyError, AttributeError):
        raise FormatError("the graph of an operator is not valid") from None
