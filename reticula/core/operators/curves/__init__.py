"""Operators on curves."""
