"""What is said about geometries: what they hold, and what became of attributes while they were written or put
together.
"""
