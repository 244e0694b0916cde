"""The checker: from a syntax tree to a typed program, or an error with its place and a way out."""

from reticula.core.language.typecheck.environment import MAKERS, convert, may_change
from reticula.core.language.typecheck.lists import GATHER
from reticula.core.language.typecheck.program import check_program

__all__ = ["GATHER", "MAKERS", "check_program", "convert", "may_change"]
