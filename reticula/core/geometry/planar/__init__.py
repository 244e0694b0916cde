"""Flat regions: boundary loops, triangulation, arrangements of segments, convex hulls. Arrays in, arrays out."""
