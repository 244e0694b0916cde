"""Operators on instances."""
