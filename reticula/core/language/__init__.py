"""The element language: formulas and scripts, on whole arrays at once or compiled."""

from reticula.core.language.formula import Values, evaluate, evaluate_once
from reticula.core.language.script import run_script

__all__ = ["Values", "evaluate", "evaluate_once", "run_script"]
