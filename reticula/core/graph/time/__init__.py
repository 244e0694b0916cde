"""Time: frames of a graph, values with keys, and what a document is at one frame."""
