"""The vector back end: runs the intermediate form on whole arrays with NumPy, at once, without a compiler."""

from reticula.core.language.vector.expressions import ExpressionRunner
from reticula.core.language.vector.statements import ProgramRunner

__all__ = ["ExpressionRunner", "ProgramRunner"]
