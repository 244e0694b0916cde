"""The page about the HTTP API, made from its OpenAPI description."""

from __future__ import annotations

from typing import Any

__all__ = ["http_page"]

METHODS = ("get", "post", "put", "patch", "delete")


def http_page(openapi: dict[str, Any]) -> str:
    """Return what can be asked over HTTP: every path with what it takes and gives, and every schema."""
    lines = [
        "# Over HTTP",
        "",
        "Made from the service's OpenAPI description (`docs/openapi.json`), which the service also tells at",
        "`/openapi/openapi.json`. Bodies are JSON. Errors have one form, `ErrorState`: what, where and what to do.",
        "",
    ]
    by_tag: dict[str, list[tuple[str, str, dict[str, Any]]]] = {}
    for path, entry in openapi["paths"].items():
        for method in METHODS:
            if method in entry:
                by_tag.setdefault((entry[method].get("tags") or ["more"])[0], []).append((path, method, entry[method]))
    for tag, found in sorted(by_tag.items()):
        lines += [f"## {tag}", ""]
        for path, method, told in found:
            lines += _operation(path, method, told)
    lines += ["## Schemas", ""]
    for name, schema in sorted(openapi["components"]["schemas"].items()):
        lines += _schema(name, schema)
    return "\n".join(lines).rstrip() + "\n"


def _operation(path: str, method: str, told: dict[str, Any]) -> list[str]:
    lines = [f"### {method.upper()} {path}", "", *_paragraph(told.get("summary")), *_paragraph(told.get("description"))]
    for one in told.get("parameters", []):
        lines.append(f"- `{one['name']}` ({one['in']}): {_type(one.get('schema', {}))}")
    for form, body in told.get("requestBody", {}).get("content", {}).items():
        lines.append(f"- body, `{form}`: {_type(body.get('schema', {}))}")
    for status, answer in told.get("responses", {}).items():
        types = {_type(body.get("schema", {})) for body in answer.get("content", {}).values()}
        lines.append(f"- {status}: {', '.join(sorted(types)) or answer.get('description', '')}")
    return [*lines, ""]


def _schema(name: str, schema: dict[str, Any]) -> list[str]:
    lines = [f"### {name}", "", *_paragraph(schema.get("description"))]
    if "enum" in schema:
        lines += [f"One of {', '.join(f'`{value}`' for value in schema['enum'])}.", ""]
    needed = schema.get("required", [])
    rows = [
        f"| `{field}` | {_type(told)} | {'yes' if field in needed else ''} | {_line(told.get('description', ''))} |"
        for field, told in schema.get("properties", {}).items()
    ]
    return [*lines, *(["| field | type | needed | |", "|---|---|---|---|", *rows, ""] if rows else [])]


def _type(schema: dict[str, Any]) -> str:
    if "$ref" in schema:
        name = schema["$ref"].rpartition("/")[2]
        return f"[{name}](#{name.lower()})"
    for key in ("anyOf", "oneOf", "allOf"):
        if key in schema:
            return " or ".join(dict.fromkeys(_type(one) for one in schema[key]))
    if "enum" in schema or "const" in schema:
        return ", ".join(f"`{value}`" for value in schema.get("enum", [schema.get("const")]))
    if schema.get("type") == "array":
        return f"list of {_type(schema.get('items', {}))}"
    return str(schema.get("type", "any"))


def _paragraph(text: str | None) -> list[str]:
    return [text.strip(), ""] if text else []


def _line(text: str) -> str:
    return " ".join(text.split()).replace("|", "\\|")
