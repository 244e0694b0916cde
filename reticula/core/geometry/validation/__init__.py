"""What is wrong with a geometry, and where."""
