"""What a geometry is: elements, attributes, topology, stable names, and source maps that carry values to a new
topology.
"""
