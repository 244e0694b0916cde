"""``reticula pack`` makes a package of a folded card; ``import`` and ``export`` carry packages into and out of a
running service.
"""

from __future__ import annotations

import hashlib
import json
import urllib.error
from contextlib import ExitStack
from pathlib import Path
from typing import Any
from urllib.parse import quote

import click

from reticula.cli.console import progress
from reticula.cli.options import PACKAGES, TOKEN, shapes_option
from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.geometry import Geo
from reticula.core.graph.structure.library import LayeredLibrary
from reticula.core.operators.shared.resources import DiskResources
from reticula.core.packages import definition_key, load_package, own_key, prepare, sign_package, write_package
from reticula.core.packages.definition import content_name
from reticula.core.packages.opened import read_document
from reticula.launch.client import Client

__all__ = ["export_command", "import_command", "pack_command"]

ADDRESS = "http://127.0.0.1:8765"


@click.command("pack")
@click.argument("graph", type=click.Path(dir_okay=False))
@click.argument("node")
@click.option("--name", help="Name of the operator (default: that of the card).")
@click.option("--release", default="1.0.0", show_default=True, help="Semantic version.")
@click.option("--summary", default="", help="What it does, in one line.")
@shapes_option("Mesh for a project shape.")
@PACKAGES
@click.option("--key", metavar="FILE", help="Sign it with the key in a PEM file, which is made if missing.")
@click.option("--publisher", default="", help="Whose signature it is, in your own words.")
@click.option("--out", required=True, metavar="FILE", help="Where to write the package.")
def pack_command(
    graph: str,
    node: str,
    name: str | None,
    release: str,
    summary: str,
    shapes: dict[str, str],
    packages: tuple[str, ...],
    key: str | None,
    publisher: str,
    out: str,
) -> None:
    """Make a package of a folded card of a graph; NODE is its name in the document."""
    path = Path(graph)
    document = read_document(path)
    named, files, stored = {}, {}, {}
    for shape, file in shapes.items():
        data = Path(file).read_bytes()
        digest = hashlib.sha256(data).hexdigest()
        full = content_name(shape, digest)
        named[shape] = named[full] = Geo.read(file)
        files[full] = Path(file).name, data
        stored[shape] = full, {"file_name": Path(file).name, "sha256": digest}
    about = {"name": name or node, "release": release, "summary": summary}
    with ExitStack() as stack:
        loaded = [load_package(file) for file in packages]
        for package in loaded:
            stack.enter_context(using(library=LayeredLibrary(package)))
        made = prepare(document, "", node, about, shapes=DiskResources(named, path.parent), stored=stored)
        if made.breaks:
            raise GraphError(f"this release breaks what {made.before} promised: {'; '.join(made.breaks)}")
        definitions = {held: entry for package in loaded for held, entry in package.definitions.items()}
        held_shapes = {held: entry for package in loaded for held, entry in package.shapes.items()}
        own = definition_key(made.definition)
        data = write_package(own, {**definitions, own: made.definition}, {**held_shapes, **files}, {})
    if key:
        data = sign_package(data, own_key(Path(key)), publisher)
    Path(out).write_bytes(data)
    print(f"{own}: {len(made.definition['graph'].get('dials', {}))} dials; wrote {out}")


@click.command("import")
@click.argument("package", type=click.Path(dir_okay=False, path_type=Path))
@click.option("--beside", is_flag=True, help="Bring what collides under another name.")
@click.option("--keep", is_flag=True, help="Keep what is there where something collides.")
@click.option("--to", "address", default=ADDRESS, show_default=True, help="Address of the service.")
@TOKEN
def import_command(package: Path, beside: bool, keep: bool, address: str, token: str) -> None:
    """Bring a package into a running service."""
    client = Client(address, token)
    with progress(package.name):
        review = _ask(client, "upload", "/api/packages/reviews", package.name, package.read_bytes())
        clashes = [entry["operator"] for entry in review["operators"] if entry["state"] == "collides"]
        if clashes and beside == keep:
            raise GraphError(f"there is another {', '.join(clashes)}; say --keep, or --beside to have both")
        choices = dict.fromkeys(clashes, "beside" if beside else "keep")
        made = _ask(client, "post", f"/api/packages/reviews/{review['review']}", {"choices": choices})
    kept = f"; kept {', '.join(made['kept'])}" if made["kept"] else ""
    print(f"brought {', '.join(made['brought']) or 'nothing new'}{kept}")


@click.command("export")
@click.argument("operator", metavar="NAME@RELEASE")
@click.option("--out", required=True, metavar="FILE", help="Where to write the package.")
@click.option("--from", "address", default=ADDRESS, show_default=True, help="Address of the service.")
@TOKEN
def export_command(operator: str, out: str, address: str, token: str) -> None:
    """Fetch a published operator from a running service."""
    with progress(operator):
        data = _ask(Client(address, token), "fetch", f"/api/library/{quote(operator)}/package")
    Path(out).write_bytes(data)
    print(f"wrote {out}")


def _ask(client: Client, method: str, path: str, *rest: Any) -> Any:
    try:
        return getattr(client, method)(path, *rest)
    except urllib.error.HTTPError as error:
        try:
            message = json.load(error)["message"]
        except (ValueError, KeyError):
            message = f"error {error.code}"
        raise GraphError(f"the service refused: {message}") from None
    except urllib.error.URLError as error:
        raise GraphError(f"no service answers at {client.address}: {error.reason}") from None
