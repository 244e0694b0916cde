"""Reticula: node graphs and formulas that edit mesh topology and attributes."""

__version__ = "0.1.0"
