"""Operators that bring shapes in from outside."""
