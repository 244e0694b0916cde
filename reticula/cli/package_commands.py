"""``reticula pack`` makes a package of a folded card; ``import`` and ``export`` carry packages into and out of a
running service.
"""

from __future__ import annotations

import argparse
import hashlib
import json
import os
import urllib.error
from contextlib import ExitStack
from pathlib import Path
from typing import Any
from urllib.parse import quote

from reticula.cli.run_command import pair, read_document
from reticula.core.context import using
from reticula.core.errors import GraphError
from reticula.core.geometry import Geo
from reticula.core.graph.structure.library import LayeredLibrary
from reticula.core.operators.shared.resources import DiskResources
from reticula.core.packages import definition_key, load_package, own_key, prepare, sign_package, write_package
from reticula.core.packages.definition import content_name
from reticula.launch.client import Client

__all__ = ["add_package_commands", "package_text"]

ADDRESS = "http://127.0.0.1:8765"


def add_package_commands(commands: Any) -> None:
    """Declare the commands."""
    pack = commands.add_parser("pack", help="make a package of a folded card of a graph")
    pack.add_argument("graph", help="graph document (JSON)")
    pack.add_argument("node", help="the folded card, by its name in the document")
    pack.add_argument("--name", help="name of the operator (default: that of the card)")
    pack.add_argument("--release", default="1.0.0", help="semantic version (default: 1.0.0)")
    pack.add_argument("--summary", default="", help="what it does, in one line")
    pack.add_argument(
        "--in", dest="shapes", action="append", default=[], metavar="NAME=FILE", help="mesh for a project shape"
    )
    pack.add_argument(
        "--package",
        dest="packages",
        action="append",
        default=[],
        metavar="FILE",
        help="published operators that the graph uses, and earlier releases",
    )
    pack.add_argument("--key", metavar="FILE", help="sign it with the key in a PEM file, which is made if missing")
    pack.add_argument("--publisher", default="", help="whose signature it is, in your own words")
    pack.add_argument("--out", required=True, metavar="FILE", help="where to write the package")
    pack.set_defaults(function=_pack)
    bring = commands.add_parser("import", help="bring a package into a running service")
    bring.add_argument("package", help="package (zip)")
    bring.add_argument("--beside", action="store_true", help="bring what collides under another name")
    bring.add_argument("--keep", action="store_true", help="keep what is there where something collides")
    bring.add_argument("--to", default=ADDRESS, help=f"address of the service (default: {ADDRESS})")
    add_token_option(bring)
    bring.set_defaults(function=_import)
    out = commands.add_parser("export", help="fetch a published operator from a running service")
    out.add_argument("operator", help="NAME@RELEASE")
    out.add_argument("--out", required=True, metavar="FILE", help="where to write the package")
    out.add_argument("--from", dest="address", default=ADDRESS, help=f"address of the service (default: {ADDRESS})")
    add_token_option(out)
    out.set_defaults(function=_export)


def add_token_option(command: argparse.ArgumentParser) -> None:
    command.add_argument(
        "--token",
        default=os.environ.get("RETICULA_TOKEN", ""),
        help="API token, where people sign in (default: RETICULA_TOKEN in the environment)",
    )


def _pack(given: argparse.Namespace) -> int:
    path = Path(given.graph)
    document = read_document(path)
    named, files, stored = {}, {}, {}
    for name, file in (pair(text, "--in") for text in given.shapes):
        data = Path(file).read_bytes()
        digest = hashlib.sha256(data).hexdigest()
        full = content_name(name, digest)
        named[name] = named[full] = Geo.read(file)
        files[full] = Path(file).name, data
        stored[name] = full, {"file_name": Path(file).name, "sha256": digest}
    about = {"name": given.name or given.node, "release": given.release, "summary": given.summary}
    with ExitStack() as stack:
        packages = [load_package(file) for file in given.packages]
        for package in packages:
            stack.enter_context(using(library=LayeredLibrary(package)))
        made = prepare(document, "", given.node, about, shapes=DiskResources(named, path.parent), stored=stored)
        if made.breaks:
            raise GraphError(f"this release breaks what {made.before} promised: {'; '.join(made.breaks)}")
        definitions = {name: entry for package in packages for name, entry in package.definitions.items()}
        shapes = {name: entry for package in packages for name, entry in package.shapes.items()}
        key = definition_key(made.definition)
        data = write_package(key, {**definitions, key: made.definition}, {**shapes, **files}, {})
    if given.key:
        data = sign_package(data, own_key(Path(given.key)), given.publisher)
    Path(given.out).write_bytes(data)
    print(f"{key}: {len(made.definition['graph'].get('dials', {}))} dials; wrote {given.out}")
    return 0


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


def _import(given: argparse.Namespace) -> int:
    client, path = Client(given.to, given.token), Path(given.package)
    review = _ask(client, "upload", "/api/packages/reviews", path.name, path.read_bytes())
    clashes = [entry["operator"] for entry in review["operators"] if entry["state"] == "collides"]
    if clashes and given.beside == given.keep:
        raise GraphError(f"there is another {', '.join(clashes)}; say --keep, or --beside to have both")
    choices = dict.fromkeys(clashes, "beside" if given.beside else "keep")
    made = _ask(client, "post", f"/api/packages/reviews/{review['review']}", {"choices": choices})
    print(
        f"brought {', '.join(made['brought']) or 'nothing new'}"
        + (f"; kept {', '.join(made['kept'])}" if made["kept"] else "")
    )
    return 0


def _export(given: argparse.Namespace) -> int:
    client = Client(given.address, given.token)
    Path(given.out).write_bytes(_ask(client, "fetch", f"/api/library/{quote(given.operator)}/package"))
    print(f"wrote {given.out}")
    return 0


def package_text(file: str) -> str:
    """Return a plain text page about a package."""
    package = load_package(file)
    lines = [f"a package about {package.main}"]
    signed = package.signature
    lines.append(f"signed by {signed.publisher or 'somebody'} ({signed.fingerprint})" if signed else "not signed")
    for key, definition in package.definitions.items():
        lines += ["", f"{key}: {definition.get('summary') or definition.get('title', '')}"]
        lines += [
            f"  input  {entry['name']}: {entry.get('help', '')}" for entry in definition["graph"].get("inputs", [])
        ]
        lines += [
            f"  output {entry['name']}: {entry.get('help', '')}" for entry in definition["graph"].get("outputs", [])
        ]
        for name, dial in definition["graph"].get("dials", {}).items():
            lines.append(
                f"  {name} = {json.dumps(dial.get('default', dial['value']))} {dial.get('unit', '')}: "
                f"{dial.get('help', '')}"
            )
    return "\n".join(lines)
