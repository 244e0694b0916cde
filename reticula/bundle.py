"""Where the page, its documentation and the demo lie: in a checkout, or inside an installed wheel."""

from __future__ import annotations

from pathlib import Path

__all__ = ["DEMO", "DOCS", "NOTEBOOK", "PAGE", "VAR", "demo_shapes"]

_HERE = Path(__file__).resolve().parent
_CHECKOUT = _HERE.parent
_INSTALLED = (_HERE / "bundled").is_dir()

PAGE = _HERE / "bundled" / "page" if _INSTALLED else _CHECKOUT / "web" / "dist"
"""The built interface."""
NOTEBOOK = PAGE / "notebook" / "view.js"
"""The built view for notebooks."""
DOCS = _HERE / "bundled" / "docs" if _INSTALLED else _CHECKOUT / "site"
"""The built documentation."""
DEMO = _HERE / "bundled" / "demo" if _INSTALLED else _CHECKOUT / "demo"
VAR = Path.home() / ".local" / "share" / "reticula" if _INSTALLED else _CHECKOUT / "var"
"""Where data are kept, unless RETICULA_VAR says otherwise."""


def demo_shapes() -> dict[str, Path]:
    """Return the shapes, pictures and tables that demos and examples use: files by the names they have in a project."""
    return {path.stem: path for path in sorted(DEMO.glob("*")) if path.suffix in (".ply", ".csv", ".png")}
