"""The element language. In this version: formulas, evaluated with NumPy."""

from reticula.core.language.formula import Values, evaluate, evaluate_once

__all__ = ["Values", "evaluate", "evaluate_once"]
