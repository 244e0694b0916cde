"""Graphs run: plans, the cache, links between parameters, one level after the other."""
