"""New faces from old ones: the topology of extrusions, bevels, subdivision, simplification, sweeps; places scattered
on triangles.
"""
