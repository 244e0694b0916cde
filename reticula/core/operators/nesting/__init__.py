"""Operators that hold a graph of their own: folded, repeat, for each; and what leads into such a graph."""
