"""Operators that are shared: published, put into packages, signed, and exchanged with the depot."""
