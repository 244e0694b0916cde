"""Shapes in notebooks: a geometry shows itself, several beside each other, and a graph or a package with its dials.

Needs ``pip install "reticula[notebook]"``. The pictures are drawn by our own view, which comes along: nothing is
fetched from anywhere.
"""

from reticula.notebook.controls import Controls, controls
from reticula.notebook.view import View, show

__all__ = ["Controls", "View", "controls", "show"]
