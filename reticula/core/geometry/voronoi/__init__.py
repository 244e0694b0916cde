"""Voronoi cells in space, and solids cut into them."""
