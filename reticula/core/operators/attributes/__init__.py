"""Values on elements: set, made, measured, moved, carried over."""
