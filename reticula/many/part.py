"""One part of what is made many times: what is to be evaluated, with which values, and what is wanted of it."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from reticula import __version__
from reticula.many.digests import digest_of_bytes
from reticula.workers.drawn import DRAWN

__all__ = ["Outcome", "Part"]

Outcome = dict[str, Any]
"""What became of a part: ``state`` is done or failed. Of one that is done, what
:func:`reticula.workers.making.made` tells, the ``content`` of its file, the ``place`` where that is taken from, its
``size``, the same of what it is ``drawn`` from, and what making it took; of one that failed, ``error``."""


@dataclass(frozen=True)
class Part:
    """Travels to a worker. Everything large is named by its content, see :class:`reticula.many.contents.Contents`.

    Attributes
    ----------
    graph : str
        The content that has ``document`` and ``library``, as JSON.
    node : str
        Whose result is wanted.
    values : dict
        Dials by name and parameters of nodes as ``NODE.PARAMETER``, plain.
    inputs : dict
        Which shape comes in at an input of the graph.
    shapes : dict
        Contents of mesh files by the shape's name.
    numbers : dict
        What is noted, by name: see :func:`reticula.workers.making.number_of`.
    file_name : str
        Says the format that is written; empty: no file.
    drawn : bool
        Whether what draws it small is written, too, see :func:`reticula.workers.drawn.drawn_file`.
    """

    graph: str
    node: str
    values: Mapping[str, Any] = field(default_factory=dict)
    inputs: Mapping[str, str] = field(default_factory=dict)
    shapes: Mapping[str, str] = field(default_factory=dict)
    numbers: Mapping[str, str] = field(default_factory=dict)
    file_name: str = ""
    frame: float | None = None
    drawn: bool = False

    @property
    def key(self) -> str:
        """Names the result: equal keys give equal bytes, whoever makes them."""
        ending = self.file_name.rpartition(".")[2].lower() + (DRAWN if self.drawn else "")
        said = [__version__, self.graph, self.node, dict(self.values), dict(self.inputs), dict(self.shapes)]
        return digest_of_bytes(json.dumps([*said, dict(self.numbers), ending, self.frame], sort_keys=True).encode())
