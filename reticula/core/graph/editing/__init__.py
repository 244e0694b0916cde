"""Changes of a graph that take more than setting a value: fold, unfold, link, rename, make a dial, tie.

Each takes a document and returns a new one; nothing of the result of the graph changes unless it says so.
"""

from reticula.core.graph.editing.dials import make_dial, unbind_parameter
from reticula.core.graph.editing.folding import fold
from reticula.core.graph.editing.levels import level_of
from reticula.core.graph.editing.linking import link_copy, separate
from reticula.core.graph.editing.parameter_links import followers, link_parameter
from reticula.core.graph.editing.renaming import rename_dial, rename_node, rename_port
from reticula.core.graph.editing.unfolding import unfold

__all__ = [
    "fold",
    "followers",
    "level_of",
    "link_copy",
    "link_parameter",
    "make_dial",
    "rename_dial",
    "rename_node",
    "rename_port",
    "separate",
    "unbind_parameter",
    "unfold",
]
