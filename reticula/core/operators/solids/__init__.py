"""Operators on solids: cut, broken, joined, closed."""
