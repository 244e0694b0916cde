"""Strokes of a brush: what holds their dabs, and what they reach."""
