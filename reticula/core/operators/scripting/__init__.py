"""Operators whose work is written by the artist."""
