"""Operators that put geometries together or choose among them."""
