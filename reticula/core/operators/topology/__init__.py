"""Operators that change who is joined to whom."""
